"""Parts that are outlines drawn by hand: corners, and free lines of many of them."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core._kernels import masking
from glyphaneme.core.mask.parts import JOINS, PartBase
from glyphaneme.core.mask.planes import plane_of
from glyphaneme.core.mask.shapes import Softness
from glyphaneme.core.mask.steps import Step, soft_edge
from glyphaneme.core.place.limits import Position

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.mask.parts import Seeing

    Points = NDArray[np.float64]

MAX_CORNERS = 1000
MOST_REACHED = 64.0
"""Distances are reckoned so many pixels far: softer edges in larger pixels."""
SPARE = 2

Corner = tuple[Position, Position]


class OutlinePart(PartBase):
    """What lies inside a closed line from corner to corner, by the even-odd rule.

    Its edge is `softness` pixels wide. The line is worked out for each view: it is
    sharp at any size.
    """

    kind: Literal["outline"] = "outline"
    points: Annotated[tuple[Corner, ...], Field(min_length=3, max_length=MAX_CORNERS)]
    softness: Softness = 0.0

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Reckon how far each pixel of the view lies from the outline."""
        half = self.softness / 2 / seeing.pixel if seeing.pixel else 0.0
        # One pixel of the field is so many of the view's.
        grain = max(half / MOST_REACHED, 1.0)
        margin = math.ceil(half / grain) + SPARE
        slope, *rest = soft_edge(self.softness, seeing.pixel)
        values = _enclosed(
            _seen(self.points, seeing, grain, margin),
            half / grain,
            (slope * grain * seeing.pixel, *rest),
            [math.ceil(side / grain) + 2 * margin for side in seeing.size],
        )
        plane = plane_of(values)
        to_plane = np.array([[1 / grain, 0, margin], [0, 1 / grain, margin]])
        return (
            Step(
                kind=masking.PLANE,
                to_step=to_plane,
                join=JOINS[self.join],
                inverted=self.inverted,
                plane=plane,
                in_view=True,
            ),
        )

    @property
    def words(self) -> str:
        return "a soft outline" if self.softness else "an outline"


def _seen(
    points: tuple[Corner, ...], seeing: Seeing, grain: float, margin: int
) -> Points:
    """Return where corners lie in a field round the view."""
    to_view = np.linalg.pinv(np.vstack([seeing.to_mask[:2], (0, 0, 1)]))
    placed = np.column_stack([np.array(points), np.ones(len(points))]) @ to_view.T
    return np.asarray(placed[:, :2] / grain + margin, np.float64)


def _enclosed(
    corners: Points, reach: float, edge: tuple[float, ...], size: list[int]
) -> NDArray[np.uint16]:
    """Return how much of each pixel of a field a closed line encloses."""
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core._kernels.tiling import outline_into

    way = np.roll(corners, -1, axis=0) - corners
    squared = (way**2).sum(axis=1)
    share = np.divide(1.0, squared, out=np.zeros_like(squared), where=squared > 0)
    out = np.empty(size, np.uint16)
    outline_into(
        np.column_stack([corners, way, share]),
        reach,
        np.array(edge),
        np.empty(size, np.float32),
        np.empty(size, np.int32),
        np.empty(size, np.uint8),
        out,
    )
    return out
