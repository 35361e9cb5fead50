"""Parts that are shapes: ellipses, and rectangles with round corners."""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core._kernels import masking
from glyphaneme.core.mask.parts import JOINS, PartBase, Seeing
from glyphaneme.core.mask.steps import Step, soft_edge
from glyphaneme.core.place.limits import Degrees, Position
from glyphaneme.core.place.span import Length

SOFTEST = 5000.0
Softness = Annotated[float, Field(ge=0, le=SOFTEST, allow_inf_nan=False)]
NEARLY = 1e-6


class ShapeBase(PartBase):
    """A shape: its middle, size and turn, and how many pixels wide its edge is."""

    x: Position
    y: Position
    width: Length
    height: Length
    turn: Degrees = 0.0
    softness: Softness = 0.0

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Reckon how far each pixel lies from the outline."""
        angle = math.radians(self.turn)
        cosine, sine = math.cos(angle), math.sin(angle)
        turned = np.array([[cosine, sine], [-sine, cosine]])
        return (
            Step(
                kind=self._kind,
                to_step=np.column_stack([turned, -turned @ (self.x, self.y)]),
                numbers=(
                    *soft_edge(self.softness, seeing.pixel),
                    self.width / 2,
                    self.height / 2,
                    self._radius,
                ),
                join=JOINS[self.join],
                inverted=self.inverted,
            ),
        )

    @property
    def words(self) -> str:
        name = self._name(even=abs(self.width / self.height - 1) < NEARLY)
        if self.softness:
            return f"a soft {name}"
        return f"{'an' if name[0] in 'aeiou' else 'a'} {name}"

    @property
    def _kind(self) -> int:
        raise NotImplementedError

    @property
    def _radius(self) -> float:
        return 0.0

    def _name(self, *, even: bool) -> str:
        raise NotImplementedError


class EllipsePart(ShapeBase):
    """An ellipse, or a circle.

    The distance from its outline is taken to the first order, (k - 1) k / |∇k²| with k
    the position's length in radii: exact for circles, and at the outline of all.
    """

    kind: Literal["ellipse"] = "ellipse"

    @property
    def _kind(self) -> int:
        return masking.ELLIPSE

    def _name(self, *, even: bool) -> str:
        return "circle" if even else "ellipse"


class RectanglePart(ShapeBase):
    """A rectangle; `corner` is its corners' radius, at most half its shorter side."""

    kind: Literal["rectangle"] = "rectangle"
    corner: Annotated[float, Field(ge=0, le=1e5, allow_inf_nan=False)] = 0.0

    @property
    def _kind(self) -> int:
        return masking.RECTANGLE

    @property
    def _radius(self) -> float:
        return min(self.corner, self.width / 2, self.height / 2)

    def _name(self, *, even: bool) -> str:
        name = "square" if even else "rectangle"
        return f"rounded {name}" if self.corner else name
