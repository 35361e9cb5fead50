"""Sharpen: what stands out from its close surroundings stands out more."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core.tone.areas import (
    TAIL,
    AreaTone,
    Seen,
    light_round,
    lightened,
    luma,
)

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

Amount = Annotated[float, Field(ge=0, le=3, allow_inf_nan=False)]
Radius = Annotated[float, Field(ge=0.3, le=20, allow_inf_nan=False)]
Threshold = Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)]


class SharpenTone(AreaTone):
    """Unsharp masking: luma and amount times its difference to a Gaussian of it.

    Differences up to `threshold` levels are left alone, and larger ones count less by
    as much, so that grain stays as it is. All components change alike, so that no edge
    gets a coloured rim. On encoded values, where equal differences look alike. At
    amount 0 it is neutral.

    Examples
    --------
    >>> SharpenTone().words
    ('sharpened',)
    """

    at_rest: ClassVar[str] = "as sharp as it is"
    kind: Literal["sharpen"] = "sharpen"
    amount: Amount = 0.8
    radius: Radius = 1.5
    threshold: Threshold = 2.0

    @property
    def is_neutral(self) -> bool:
        return self.amount == 0

    @property
    def words(self) -> tuple[str, ...]:
        return () if self.is_neutral else ("sharpened",)

    @property
    def reach(self) -> float:
        """Three standard deviations."""
        return TAIL * self.radius

    def made(self, pixels: PixelsU8, seen: Seen) -> PixelsU8:
        light = luma(pixels)
        change = light - light_round(pixels, light, self.radius * seen.scale)
        if self.threshold:
            change -= np.clip(change, -self.threshold, self.threshold)
        return lightened(pixels, np.float32(self.amount) * change)
