"""Warmth: as if the light had been of another colour."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from glyphaneme.core.tone.base import PixelTone, by_degree
from glyphaneme.core.tone.ops import Op, light_matrix
from glyphaneme.core.tone.spaces import D65, adapted, white_at

Mired = Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)]
Thousandths = Annotated[float, Field(ge=-30, le=30, allow_inf_nan=False)]

MIRED = 1e6
DAYLIGHT = MIRED / 6504
"""Of D65: what is warmer than that is yellower."""
MOST_MIRED, MOST_TINT = 90.0, 30.0


class WarmthTone(PixelTone):
    """White adapted to that of a warmer or cooler, greener or redder light.

    `warmth` moves the white along the daylight locus, in mired (a million by kelvin)
    from D65, evenly to the eye; `tint` across it, in thousandths of CIE 1960 u, v,
    above 0 towards magenta. Von Kries in Bradford's responses, at the same luminance of
    white, in linear light, since it stands for another light. Both are 0 when neutral.

    Examples
    --------
    >>> WarmthTone(warmth=40).words
    ('warmer',)
    """

    at_rest: ClassVar[str] = "warmth as it is"
    kind: Literal["warmth"] = "warmth"
    warmth: Mired = 0.0
    tint: Thousandths = 0.0

    @property
    def is_neutral(self) -> bool:
        return self.warmth == self.tint == 0

    @property
    def words(self) -> tuple[str, ...]:
        return (
            *by_degree(self.warmth / MOST_MIRED, "cooler", "warmer"),
            *by_degree(self.tint / MOST_TINT, "greener", "more magenta"),
        )

    def ops(self) -> tuple[Op, ...]:
        base_x, base_y = white_at(MIRED / DAYLIGHT, 0)
        x, y = white_at(MIRED / (DAYLIGHT + self.warmth), -self.tint / 1000)
        # The locus passes D65 by a hair; what is moved is the difference.
        return (light_matrix(adapted((D65[0] + x - base_x, D65[1] + y - base_y))),)
