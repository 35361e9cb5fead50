"""A mask: a recipe of parts, and what is done with the whole of them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, TypeAlias

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core._kernels import masking
from glyphaneme.core.mask.even import EvenPart
from glyphaneme.core.mask.kept import KeptPart
from glyphaneme.core.mask.layer_part import LayerPart
from glyphaneme.core.mask.matte import MattePart
from glyphaneme.core.mask.outline import OutlinePart
from glyphaneme.core.mask.painted import PaintedPart
from glyphaneme.core.mask.parts import Join, Seeing
from glyphaneme.core.mask.shapes import EllipsePart, RectanglePart
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.place.transform import (
    IDENTITY,
    Transform,
    followed_by,
    inverted,
    matrix_of,
    transform_of,
)
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

MAX_PARTS = 64
MOST_SOFTENED = 300.0
MOST_GROWN = 60.0

MaskPart: TypeAlias = Annotated[
    EllipsePart
    | RectanglePart
    | OutlinePart
    | EvenPart
    | PaintedPart
    | LayerPart
    | KeptPart
    | MattePart,
    Field(discriminator="kind"),
]
"""The table of all kinds of parts: a new one is a module of its own and a name here."""

Softened = Annotated[float, Field(ge=0, le=MOST_SOFTENED, allow_inf_nan=False)]
Grown = Annotated[float, Field(ge=-MOST_GROWN, le=MOST_GROWN, allow_inf_nan=False)]
Smoothed = Annotated[float, Field(ge=0, le=MOST_GROWN, allow_inf_nan=False)]
Strength = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Mask(BaseModel):
    """What of a layer shows: parts, one joined to the other in their order.

    Where the first working part adds, nothing shows before it; otherwise all does. Then
    the whole is grown, its outline smoothed, and it is softened by a Gaussian, all in
    the mask's own pixels; it is turned inside out where `inverted`; and at `strength`
    s, with m shown, 1 - s (1 - m) is left. As far as the edge is `cleaned`, a photo
    has its subject's own colours there.

    `to_mask` maps positions to the mask's own, from the layer's own pixels where it is
    `linked`; otherwise, and for what lies everywhere, from what the layer lies in.

    Examples
    --------
    >>> Mask().parts
    ()
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    parts: Annotated[tuple[MaskPart, ...], Field(max_length=MAX_PARTS)] = ()
    inverted: bool = False
    strength: Strength = 1.0
    softened: Softened = 0.0
    grown: Grown = 0.0
    smoothed: Smoothed = 0.0
    cleaned: Strength = 0.0
    linked: bool = True
    to_mask: Transform = IDENTITY

    def carried(self, move: MatrixF64) -> Mask:
        """Return the mask as it lies after all that it is measured in has moved.

        Parameters
        ----------
        move : (2, 3) float64
            Columns map x, y and 1 to where that point lies now.

        Returns
        -------
        Mask
            With another `to_mask`.

        Examples
        --------
        >>> Mask().carried(np.array([[1.0, 0, 5], [0, 1, 0]])).to_mask[2]
        -5.0
        """
        to_mask = followed_by(inverted(move), matrix_of(self.to_mask))
        return with_fields(self, to_mask=transform_of(to_mask))

    @property
    def working(self) -> tuple[MaskPart, ...]:
        """The parts that are not switched off."""
        return tuple(part for part in self.parts if part.works)

    @property
    def needs_neighbours(self) -> bool:
        """Whether a pixel of it follows from those round it."""
        settled = self.softened or self.grown or self.smoothed
        return bool(settled) and bool(self.working)

    @property
    def start(self) -> float:
        """How much shows before the first part: 0 or 1."""
        working = self.working
        return 0.0 if working and working[0].join is Join.ADD else 1.0

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Return how the compositor works the mask out.

        Parameters
        ----------
        seeing : Seeing
            At what size it is seen, and what it may read.

        Returns
        -------
        tuple of Step
            One after the other, from `start` on.

        Examples
        --------
        >>> Mask(inverted=True).steps(Seeing(1.0))[0].numbers
        (1.0, -1.0)
        """
        parts = [step for part in self.working for step in part.steps(seeing)]
        return (*parts, *self.last_steps)

    @property
    def last_steps(self) -> tuple[Step, ...]:
        """What is done with the whole at last: inside out, and by how much."""
        if not self.inverted and self.strength == 1:
            return ()
        return (_settled(inverted=self.inverted, strength=self.strength),)


def _settled(*, inverted: bool, strength: float) -> Step:
    """Return the step 1 - s (1 - m), or 1 - s m for a mask turned inside out."""
    kept = -strength if inverted else strength
    added = 1.0 if inverted else 1.0 - strength
    nowhere: MatrixF64 = np.zeros((2, 3))
    return Step(kind=masking.SETTLE, to_step=nowhere, numbers=(added, kept))
