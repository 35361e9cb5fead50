"""Names, order and groups of the blend modes of the W3C recommendation."""

from __future__ import annotations

from enum import StrEnum
from typing import NamedTuple


class BlendMode(StrEnum):
    """A blend mode, by its name in W3C Compositing and Blending Level 1, section 10.

    Examples
    --------
    >>> BlendMode("soft-light").title
    'Soft light'
    """

    NORMAL = "normal"
    MULTIPLY = "multiply"
    SCREEN = "screen"
    OVERLAY = "overlay"
    DARKEN = "darken"
    LIGHTEN = "lighten"
    COLOR_DODGE = "color-dodge"
    COLOR_BURN = "color-burn"
    HARD_LIGHT = "hard-light"
    SOFT_LIGHT = "soft-light"
    DIFFERENCE = "difference"
    EXCLUSION = "exclusion"
    HUE = "hue"
    SATURATION = "saturation"
    COLOR = "color"
    LUMINOSITY = "luminosity"

    @property
    def title(self) -> str:  # type: ignore[override]  # str.title is never wanted here
        """The mode's name as people read it."""
        return self.value.replace("-", " ").capitalize()


class ModeGroup(NamedTuple):
    """Modes that do a similar thing to a picture, and the words for that thing."""

    title: str
    modes: tuple[BlendMode, ...]


BLEND_CODES: dict[BlendMode, int] = {mode: code for code, mode in enumerate(BlendMode)}
"""The number by which the kernels know a mode: its place in `BlendMode`."""

MODE_GROUPS: tuple[ModeGroup, ...] = (
    ModeGroup("As it is", (BlendMode.NORMAL,)),
    ModeGroup("Darker", (BlendMode.MULTIPLY, BlendMode.DARKEN, BlendMode.COLOR_BURN)),
    ModeGroup("Lighter", (BlendMode.SCREEN, BlendMode.LIGHTEN, BlendMode.COLOR_DODGE)),
    ModeGroup(
        "More contrast",
        (BlendMode.OVERLAY, BlendMode.SOFT_LIGHT, BlendMode.HARD_LIGHT),
    ),
    ModeGroup(
        "Colour or light only",
        (
            BlendMode.COLOR,
            BlendMode.HUE,
            BlendMode.SATURATION,
            BlendMode.LUMINOSITY,
        ),
    ),
    ModeGroup("Turned round", (BlendMode.DIFFERENCE, BlendMode.EXCLUSION)),
)
"""The order in which people try modes: by what they do, gentlest first."""
