"""Clarity: contrast between a place and its wider surroundings."""

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
    middling,
)
from glyphaneme.core.tone.base import Share, by_degree

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

Radius = Annotated[float, Field(ge=5, le=300, allow_inf_nan=False)]


class ClarityTone(AreaTone):
    """Unsharp masking at a large radius, most in the middle tones.

    With luma l of 0..1 and m its Gaussian mean, amount times 4 l (1 - l) (l - m) is
    added to all components: neither end is clipped. On encoded values, as
    `SharpenTone`. At amount 0 it is neutral.

    Examples
    --------
    >>> ClarityTone(amount=0.5).words
    ('clearer',)
    """

    at_rest: ClassVar[str] = "as clear as it is"
    kind: Literal["clarity"] = "clarity"
    amount: Share = 0.3
    radius: Radius = 40.0

    @property
    def is_neutral(self) -> bool:
        return self.amount == 0

    @property
    def words(self) -> tuple[str, ...]:
        return by_degree(self.amount, "hazier", "clearer")

    @property
    def reach(self) -> float:
        """Three standard deviations."""
        return TAIL * self.radius

    def made(self, pixels: PixelsU8, seen: Seen) -> PixelsU8:
        """Return pixels with more contrast to what lies round them."""
        light = luma(pixels)
        change = light - light_round(pixels, light, self.radius * seen.scale)
        return lightened(pixels, np.float32(self.amount) * middling(light) * change)
