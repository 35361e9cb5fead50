"""Curves: points through which tones are led."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, ClassVar, Literal

from pydantic import AfterValidator, Field

from glyphaneme.core.errors import TonePointsError
from glyphaneme.core.tone.base import Part, PixelTone
from glyphaneme.core.tone.ops import ALL, CHANNELS, Op, curve
from glyphaneme.core.tone.splines import monotone

MOST_POINTS = 16
LEAST_GAP = 1 / 255

Point = tuple[Part, Part]


def _in_order(points: tuple[Point, ...]) -> tuple[Point, ...]:
    gaps = [b[0] - a[0] for a, b in pairwise(points)]
    if min(gaps) < LEAST_GAP * 0.999:
        raise TonePointsError
    return points


Points = Annotated[
    tuple[Point, ...],
    Field(min_length=2, max_length=MOST_POINTS),
    AfterValidator(_in_order),
]
STRAIGHT: tuple[Point, ...] = ((0.0, 0.0), (1.0, 1.0))


class CurvesTone(PixelTone):
    """A monotone cubic (Fritsch and Carlson 1980) through points, on encoded values.

    Encoded, since that is what the histogram beneath it shows. Points are (before,
    after), 0..1, by growing first number, at least a level apart; flat beyond the first
    and the last. `all` comes after those of red, green and blue.

    Examples
    --------
    >>> CurvesTone(all=((0, 0), (0.5, 0.7), (1, 1))).words
    ('along a curve',)
    """

    at_rest: ClassVar[str] = "a straight curve"
    kind: Literal["curves"] = "curves"
    all: Points = STRAIGHT
    red: Points = STRAIGHT
    green: Points = STRAIGHT
    blue: Points = STRAIGHT

    @property
    def is_neutral(self) -> bool:
        return {self.all, self.red, self.green, self.blue} == {STRAIGHT}

    @property
    def words(self) -> tuple[str, ...]:
        if self.is_neutral:
            return ()
        each = {self.red, self.green, self.blue} != {STRAIGHT}
        return ("along curves of its colours" if each else "along a curve",)

    def ops(self) -> tuple[Op, ...]:
        """Return the curve of each component, then that of all."""
        single = (self.red, self.green, self.blue)
        pairs = (*zip(single, CHANNELS, strict=True), (self.all, ALL))
        return tuple(
            curve(monotone(points), planes)
            for points, planes in pairs
            if points != STRAIGHT
        )
