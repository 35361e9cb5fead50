"""Match: one picture's tones changed until they resemble another's."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core.color.spaces import decoded, encoded
from glyphaneme.core.tone.base import PixelTone
from glyphaneme.core.tone.coloring import ColoringTone
from glyphaneme.core.tone.curves import CurvesTone
from glyphaneme.core.tone.ops import ALL, Op, affine, chroma_matrix, light_matrix

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray

LONGEST_NAME = 120
MIDDLE = 0.5
POINTS = 10
"""Of each curve that a match becomes when it is taken apart, at most."""

MOST_STOPS = 3.0
MOST_CAST = 1.0
MOST_DOUBLINGS = 1.5

Stops = Annotated[float, Field(ge=-MOST_STOPS, le=MOST_STOPS, allow_inf_nan=False)]
Doublings = Annotated[
    float, Field(ge=-MOST_DOUBLINGS, le=MOST_DOUBLINGS, allow_inf_nan=False)
]
Cast = Annotated[float, Field(ge=-MOST_CAST, le=MOST_CAST, allow_inf_nan=False)]
MatchedTo = Annotated[
    str, Field(min_length=1, max_length=LONGEST_NAME, pattern=r"^[^\x00]+$")
]


class MatchTone(PixelTone):
    """Colour, contrast, cast and light, each by so many doublings.

    First chroma in Oklab is multiplied by 2^`color`, with the gamut kept; then encoded
    values are spread about one half by 2^`contrast`; then linear light is multiplied by
    2^(`light` + `warmth` - `tint` / 3) in red, 2^(`light` + 2 `tint` / 3) in green and
    2^(`light` - `warmth` - `tint` / 3) in blue: a change of illumination, as von Kries
    has it. They are the inverses of what sets photos apart that were taken under
    different lights by different cameras, in the opposite order. All are 0 when
    neutral.

    Examples
    --------
    >>> MatchTone(to="Stage", light=-0.5).words
    ('matched to Stage',)
    """

    at_rest: ClassVar[str] = "not matched to anything yet"
    kind: Literal["match"] = "match"
    to: MatchedTo = "what lies behind"
    light: Stops = 0.0
    warmth: Cast = 0.0
    tint: Cast = 0.0
    contrast: Doublings = 0.0
    color: Doublings = 0.0

    @property
    def is_neutral(self) -> bool:
        return not (
            self.light or self.warmth or self.tint or self.contrast or self.color
        )

    @property
    def words(self) -> tuple[str, ...]:
        return () if self.is_neutral else (f"matched to {self.to}",)

    def ops(self) -> tuple[Op, ...]:
        """Return colour, contrast, and light with its cast."""
        return tuple(self._ops())

    def _ops(self) -> Iterator[Op]:
        if self.color:
            yield chroma_matrix(2**self.color, 0)
        if self.contrast:
            yield affine(self._spread, MIDDLE * (1 - self._spread), ALL)
        if self.light or self.warmth or self.tint:
            yield light_matrix(np.diag(self.gains))

    @property
    def _spread(self) -> float:
        return float(2**self.contrast)

    @property
    def gains(self) -> NDArray[np.float64]:
        """By how much linear red, green and blue are multiplied, (3,) float64."""
        warm, tint = self.warmth, self.tint / 3
        doublings = np.array([warm - tint, 2 * tint, -warm - tint]) + self.light
        return np.asarray(2.0**doublings)

    def parts(self) -> tuple[ColoringTone, CurvesTone]:
        """Return the same as a change of colour, and a curve for each component.

        Returns
        -------
        ColoringTone, CurvesTone
            Beyond twice the chroma it is held there; curves are led through points.
        """
        saturation = min(2**self.color - 1, 1.0)
        red, green, blue = (self._curve(gain) for gain in self.gains.tolist())
        return (
            ColoringTone(saturation=saturation),
            CurvesTone(red=red, green=green, blue=blue),
        )

    def _curve(self, gain: float) -> tuple[tuple[float, float], ...]:
        """Return points of what becomes of one component."""
        spread = self._spread
        # Where it begins and ends to be held, besides even steps.
        white = float(encoded(np.array(min(1 / gain, 1.0))))
        kinks = [MIDDLE + (one - MIDDLE) / spread for one in (0.0, white)]
        steps = np.linspace(0, 1, POINTS - 2)
        before = np.unique(np.round([*steps, *kinks], 4))
        before = before[(before >= 0) & (before <= 1)]
        before = before[np.r_[True, np.diff(before) > 2 / 255]]
        spreaded = np.clip(MIDDLE + (before - MIDDLE) * spread, 0, 1)
        after = np.clip(encoded(decoded(spreaded) * gain), 0, 1)
        return tuple(zip(before.tolist(), np.round(after, 4).tolist(), strict=True))
