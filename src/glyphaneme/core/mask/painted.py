"""Parts that are painted by hand, stroke by stroke."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from glyphaneme.core._kernels import masking
from glyphaneme.core.errors import PaintingMissingError, StrokeMissingError
from glyphaneme.core.mask.paintings import Painting
from glyphaneme.core.mask.parts import Join, PartBase, Reads
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.mask.strokes import MAX_STROKES, StrokeId

if TYPE_CHECKING:
    from glyphaneme.core.mask.parts import Seeing


AS_IT_IS = Step(masking.SETTLE, np.zeros((2, 3)), numbers=(0.0, 1.0))
"""It changes nothing: a mask of which nothing shows must have a step all the same."""


class PaintedPart(PartBase):
    """What strokes hide and show, over what the parts before it leave.

    It names its last stroke, and that the one before it; before the first there is
    none. It keeps to what is there; as a recipe's first part that adds, nothing is
    there, and only what strokes show shows. Inside out, what was hidden is shown.
    """

    kind: Literal["painted"] = "painted"
    join: Join = Join.KEEP
    last: StrokeId | None = None
    strokes: Annotated[int, Field(ge=0, le=MAX_STROKES)] = 0

    @model_validator(mode="after")
    def _counts_its_strokes(self) -> PaintedPart:
        if (self.last is None) != (self.strokes == 0):
            raise StrokeMissingError
        return self

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Take away what is covered, and add what of that is shown.

        Raises
        ------
        PaintingMissingError
            The strokes' pixels were not handed over.
        """
        if self.last is None:
            return (AS_IT_IS,)
        painting = seeing.assets.get(self.last)
        if not isinstance(painting, Painting):
            raise PaintingMissingError(self.last)
        place, level = painting.level_for(seeing.pixel)
        share = 0.5**place
        left, top, _, _ = level.reach
        to_plane = np.array([[share, 0, -left], [0, share, -top]])

        def step(join: int, *, shown: bool) -> Step:
            plane = level.shown if shown else level.cover
            return Step(masking.PLANE, to_plane, join=join, plane=plane)

        steps = [step(masking.TAKE, shown=False)]
        if self.inverted:
            steps.append(step(masking.PLUS, shown=False))
        if level.shows:
            join = masking.MINUS if self.inverted else masking.PLUS
            steps.append(step(join, shown=True))
        return tuple(steps)

    @property
    def reads(self) -> Reads:
        """What its strokes leave."""
        return Reads(paintings=() if self.last is None else (self.last,))

    @property
    def words(self) -> str:
        if not self.strokes:
            return "painted, no stroke yet"
        return f"painted, {self.strokes} stroke{'s' if self.strokes > 1 else ''}"
