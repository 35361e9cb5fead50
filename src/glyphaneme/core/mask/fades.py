"""Fades: fully shown at one place, not at all at another, and softly between."""

from __future__ import annotations

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from glyphaneme.core._kernels import masking
from glyphaneme.core.mask.steps import EARLY, EVEN, GENTLE, LATE, NOWHERE, Step
from glyphaneme.core.place.span import Span, axes_of

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

MAX_FADES = 12

LEAST_ASPECT = 0.01
GREATEST_ASPECT = 100.0
Aspect = Annotated[
    float, Field(ge=LEAST_ASPECT, le=GREATEST_ASPECT, allow_inf_nan=False)
]
FullShare = Annotated[float, Field(ge=0, le=0.99, allow_inf_nan=False)]
Roundness = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class FadeShape(StrEnum):
    """Which way a fade runs."""

    LINE = "line"
    """From one end of its span to the other."""
    BOTH = "both"
    """From its middle line to two sides."""
    ROUND = "round"
    """From its middle outwards, to an ellipse."""
    SIDES = "sides"
    """From its middle outwards, to the four sides of a rectangle."""


class FadeCurve(StrEnum):
    """How a fade goes between full and gone."""

    EVEN = "even"
    GENTLE = "gentle"
    EARLY = "early"
    LATE = "late"


CURVES = {
    FadeCurve.EVEN: EVEN,
    FadeCurve.GENTLE: GENTLE,
    FadeCurve.EARLY: EARLY,
    FadeCurve.LATE: LATE,
}


class Fade(Span):
    """One fade; its span ends where nothing shows any more.

    A straight one is full at its start and gone at its end. All others begin at their
    middle, stay full for the share `full` of their length, and are gone at its end;
    across the span they reach `aspect` times as far. `inward` exchanges full and gone.
    `roundness` is that of a rectangle's corners. With t from 1 at full to 0 at gone,
    the curves are t (even), t² (3 - 2 t) (gentle), t² (early) and t (2 - t) (late).

    `linked` ones lie on the layer's own pixels and move with it; others stay where they
    are in what the layer lies in.

    Examples
    --------
    >>> Fade(x=50, y=0, length=100).shape
    <FadeShape.LINE: 'line'>
    """

    shape: FadeShape = FadeShape.LINE
    aspect: Aspect = 1.0
    full: FullShare = 0.0
    roundness: Roundness = 0.0
    curve: FadeCurve = FadeCurve.GENTLE
    inward: bool = False
    linked: bool = True

    @property
    def step(self) -> Step:
        """How the compositor reckons it."""
        kind, numbers = _kind_of(self)
        curve = CURVES[self.curve]
        slope, offset, *sizes = numbers
        return Step(
            kind=kind,
            to_step=_units_of(self),
            numbers=(slope, offset, *curve, *sizes),
            inverted=self.inward,
        )


def _kind_of(fade: Fade) -> tuple[int, tuple[float, ...]]:
    """Return the kernel's kind, slope, offset and sizes."""
    falling = 1 / (1 - fade.full)
    if fade.shape is FadeShape.LINE:
        return masking.LINE, (-1, 1)
    if fade.shape is FadeShape.BOTH:
        return masking.BOTH, (-falling, falling)
    if fade.shape is FadeShape.ROUND:
        return masking.ROUND, (-falling, falling)
    across, down = fade.length, fade.length * fade.aspect
    least = min(across, down)
    band = max((1 - fade.full) * least, NOWHERE)
    return masking.RECTANGLE, (-1 / band, 0, across, down, fade.roundness * least)


def _units_of(fade: Fade) -> MatrixF64:
    axes = axes_of(fade)
    if fade.shape is FadeShape.LINE:
        axes[0, 2] += 0.5
    elif fade.shape is FadeShape.ROUND:
        axes[1] /= fade.aspect
    elif fade.shape is FadeShape.SIDES:
        axes *= fade.length
    return axes
