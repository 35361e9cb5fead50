"""The table of all kinds of tones: a new one is a module of its own and a name here."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, NamedTuple, TypeAlias

from pydantic import Field

from glyphaneme.core.tone.areas import AreaTone
from glyphaneme.core.tone.base import PixelTone
from glyphaneme.core.tone.blur import BlurTone
from glyphaneme.core.tone.clarity import ClarityTone
from glyphaneme.core.tone.coloring import ColoringTone
from glyphaneme.core.tone.curves import CurvesTone
from glyphaneme.core.tone.grain import GrainTone
from glyphaneme.core.tone.invert import InvertTone
from glyphaneme.core.tone.lens import LensTone
from glyphaneme.core.tone.levels import LevelsTone
from glyphaneme.core.tone.light import LightTone
from glyphaneme.core.tone.match import MatchTone
from glyphaneme.core.tone.monochrome import MonochromeTone
from glyphaneme.core.tone.one_hue import OneHueTone
from glyphaneme.core.tone.painterly import PainterlyTone
from glyphaneme.core.tone.sharpen import SharpenTone
from glyphaneme.core.tone.warmth import WarmthTone
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.tone.ops import Op

MAX_TONES = 24
SAME_SIZE = 1e-6
"""Sizes that differ by less are the same."""

Tone: TypeAlias = Annotated[
    LightTone
    | LevelsTone
    | CurvesTone
    | WarmthTone
    | ColoringTone
    | OneHueTone
    | MonochromeTone
    | InvertTone
    | SharpenTone
    | BlurTone
    | LensTone
    | ClarityTone
    | PainterlyTone
    | GrainTone
    | MatchTone,
    Field(discriminator="kind"),
]

Tones = Annotated[tuple[Tone, ...], Field(max_length=MAX_TONES)]
"""What a layer is toned by, in this order."""


def working(tones: tuple[Tone, ...]) -> tuple[Tone, ...]:
    """Return the tones that change something.

    Parameters
    ----------
    tones : tuple of Tone
        In their order.

    Returns
    -------
    tuple of Tone
        Without those that are switched off or neutral.
    """
    return tuple(one for one in tones if one.works and not one.is_neutral)


class Split(NamedTuple):
    """Working tones: those up to the last that looks at neighbours, and the rest."""

    first: tuple[Tone, ...]
    rest: tuple[Tone, ...]


def split(tones: tuple[Tone, ...]) -> Split:
    """Part tones where the last one that looks at neighbours ends.

    Parameters
    ----------
    tones : tuple of Tone
        In their order.

    Returns
    -------
    Split
        `first` is made as pixels before the rest is worked out beside them.
    """
    found = working(tones)
    places = [at for at, one in enumerate(found) if isinstance(one, AreaTone)]
    until = places[-1] + 1 if places else 0
    return Split(found[:until], found[until:])


def spread_of(tones: tuple[Tone, ...]) -> float:
    """Return how far away a pixel may count for another, all tones together.

    Parameters
    ----------
    tones : tuple of Tone
        In their order.

    Returns
    -------
    float
        In the tones' own pixels.
    """
    return sum(one.reach for one in working(tones) if isinstance(one, AreaTone))


def scaled(tones: tuple[Tone, ...], factor: float) -> tuple[Tone, ...]:
    """Return tones as they look the same where pixels are of another size.

    Parameters
    ----------
    tones : tuple of Tone
        In their order.
    factor : float, > 0
        How many of the new pixels lie on one of the old, along a side.

    Returns
    -------
    tuple of Tone
        With other lengths, within their limits; the same where nothing changes.

    Examples
    --------
    >>> scaled((BlurTone(radius=8),), 0.5)[0].radius
    4.0
    """
    if math.isclose(factor, 1, rel_tol=SAME_SIZE):
        return tones
    return tuple(_with_length(one, factor) for one in tones)


def _with_length(tone: Tone, factor: float) -> Tone:
    if not isinstance(tone, AreaTone):
        return tone
    limits = type(tone).model_fields[tone.length].metadata
    least = max(getattr(one, "ge", -math.inf) for one in limits)
    most = min(getattr(one, "le", math.inf) for one in limits)
    held = min(max(getattr(tone, tone.length) * factor, least), most)
    return with_fields(tone, **{tone.length: held})


def ops_of(tones: tuple[Tone, ...]) -> tuple[Op, ...]:
    """Return all operations of tones that look at no neighbours, in their order.

    Parameters
    ----------
    tones : tuple of Tone
        In their order.

    Returns
    -------
    tuple of Op
        None where nothing is changed.
    """
    found = working(tones)
    return tuple(op for one in found if isinstance(one, PixelTone) for op in _ops(one))


@lru_cache(maxsize=256)
def _ops(tone: PixelTone) -> tuple[Op, ...]:
    """Return a tone's operations; while one moves, all others stay what they are."""
    return tone.ops()
