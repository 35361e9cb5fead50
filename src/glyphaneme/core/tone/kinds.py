"""The table of all kinds of tones: a new one is a module of its own and a name here."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, TypeAlias

from pydantic import Field

from glyphaneme.core.tone.coloring import ColoringTone
from glyphaneme.core.tone.curves import CurvesTone
from glyphaneme.core.tone.invert import InvertTone
from glyphaneme.core.tone.levels import LevelsTone
from glyphaneme.core.tone.light import LightTone
from glyphaneme.core.tone.monochrome import MonochromeTone
from glyphaneme.core.tone.one_hue import OneHueTone
from glyphaneme.core.tone.warmth import WarmthTone

if TYPE_CHECKING:
    from glyphaneme.core.tone.ops import Op

MAX_TONES = 24

Tone: TypeAlias = Annotated[
    LightTone
    | LevelsTone
    | CurvesTone
    | WarmthTone
    | ColoringTone
    | OneHueTone
    | MonochromeTone
    | InvertTone,
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


def ops_of(tones: tuple[Tone, ...]) -> tuple[Op, ...]:
    """Return all operations of tones, in their order.

    Parameters
    ----------
    tones : tuple of Tone
        In their order.

    Returns
    -------
    tuple of Op
        None where nothing is changed.
    """
    return tuple(op for tone in working(tones) for op in tone.ops())
