"""Light: lighter and darker, as a whole and by parts."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core.tone.base import PixelTone, Share, by_degree, with_degree
from glyphaneme.core.tone.ops import ALL, Op, curve, light_matrix
from glyphaneme.core.tone.splines import Spline, monotone

Stops = Annotated[float, Field(ge=-5, le=5, allow_inf_nan=False)]

ENDS_MOVE = 0.25
"""How far whites and blacks move the ends, of the whole range."""
LIFTING, SINKING = 1.5, 0.9
"""Of the lobe v (1 - v)^3: below 4 and 1 the curve stays monotone."""
STEEPEST = 2.4
KNOTS = (0.0, 0.03, 0.1, 0.22, 0.4, 0.6, 0.78, 0.92, 1.0)


class LightTone(PixelTone):
    """Exposure in linear light, then one curve on encoded values.

    Exposure e, in stops, multiplies linear light by 2^e, as a longer exposure does.
    The rest is one monotone curve (Fritsch and Carlson) through nine knots of, in this
    order: blacks and whites, which move the ends by up to a quarter of the range;
    shadows and highlights, which add a lobe c v (1 - v)^3 at a quarter from either end;
    brightness b, the power 2^-b; contrast c above 0, mixed with tanh(2.4 (2v - 1)),
    scaled to keep the ends, below 0 towards the middle grey. All but exposure are
    -1..1, and 0 does nothing. They work on encoded values since these are nearly even
    to the eye.

    Examples
    --------
    >>> LightTone(exposure=-1, contrast=0.5).words
    ('much darker', 'with more contrast')
    """

    at_rest: ClassVar[str] = "light as it is"
    kind: Literal["light"] = "light"
    exposure: Stops = 0.0
    brightness: Share = 0.0
    contrast: Share = 0.0
    whites: Share = 0.0
    blacks: Share = 0.0
    shadows: Share = 0.0
    highlights: Share = 0.0

    @property
    def is_neutral(self) -> bool:
        return self.exposure == 0 and not self._bends

    @property
    def words(self) -> tuple[str, ...]:
        both = self.exposure, self.brightness
        one = both[0] or both[1]
        agree = both[0] * both[1] >= 0
        return (
            *by_degree(one if agree else both[0], "darker", "lighter"),
            *(() if agree else by_degree(both[1], "dimmer", "brighter")),
            *with_degree(self.contrast, "less contrast", "more contrast"),
            *with_degree(self.blacks, "deeper blacks", "faded blacks"),
            *with_degree(self.shadows, "darker shadows", "lighter shadows"),
            *with_degree(self.highlights, "darker highlights", "lighter highlights"),
            *with_degree(self.whites, "greyer whites", "brighter whites"),
        )

    @property
    def spline(self) -> Spline:
        """The curve that follows exposure."""
        dark, light = max(-self.blacks, 0.0), max(self.whites, 0.0)
        first, last = dark * ENDS_MOVE, 1 - light * ENDS_MOVE
        return monotone(
            [(first + (last - first) * knot, self._bent(knot)) for knot in KNOTS]
        )

    def ops(self) -> tuple[Op, ...]:
        gain = (light_matrix(np.eye(3) * 2.0**self.exposure),) if self.exposure else ()
        return (*gain, *((curve(self.spline, ALL),) if self._bends else ()))

    @property
    def _bends(self) -> bool:
        parts = (self.whites, self.blacks, self.shadows, self.highlights)
        return any((self.brightness, self.contrast, *parts))

    def _bent(self, v: float) -> float:
        """Return what becomes of a place between the ends, 0..1."""
        lift = self.shadows * (LIFTING if self.shadows > 0 else SINKING)
        sink = self.highlights * (SINKING if self.highlights > 0 else LIFTING)
        v = v + lift * v * (1 - v) ** 3 + sink * (1 - v) * v**3
        v = v ** (2.0**-self.brightness)
        if self.contrast > 0:
            steep = np.tanh(STEEPEST * (2 * v - 1)) / np.tanh(STEEPEST)
            v += self.contrast * (0.5 + 0.5 * steep - v)
        else:
            v = 0.5 + (v - 0.5) * (1 + 0.8 * self.contrast)
        low = max(self.blacks, 0.0) * ENDS_MOVE
        high = 1 + min(self.whites, 0.0) * ENDS_MOVE
        return float(low + (high - low) * v)
