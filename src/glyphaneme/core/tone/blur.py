"""Blur: evenly, by a Gaussian."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

from pydantic import Field

from glyphaneme.core.tone.areas import (
    LEAST_SIGMA,
    TAIL,
    AreaTone,
    Seen,
    blurred,
    straight,
    weighted,
)

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

Radius = Annotated[float, Field(ge=0, le=300, allow_inf_nan=False)]


class BlurTone(AreaTone):
    """A Gaussian of so many pixels' standard deviation, on encoded values.

    Encoded, as people know it from any picture that is scaled down. Alpha is blurred
    along, and colours count by it. At 0 it is neutral.

    Examples
    --------
    >>> BlurTone(radius=8).words
    ('blurred',)
    """

    at_rest: ClassVar[str] = "not blurred"
    kind: Literal["blur"] = "blur"
    radius: Radius = 8.0

    @property
    def is_neutral(self) -> bool:
        return self.radius == 0

    @property
    def words(self) -> tuple[str, ...]:
        return () if self.is_neutral else ("blurred",)

    @property
    def reach(self) -> float:
        """Three standard deviations."""
        return TAIL * self.radius

    @property
    def halvings(self) -> float:
        """As often as the standard deviation stays wide enough."""
        return math.log2(max(self.radius / LEAST_SIGMA, 1e-3))

    def made(self, pixels: PixelsU8, seen: Seen) -> PixelsU8:
        return straight(blurred(weighted(pixels), self.radius * seen.scale))
