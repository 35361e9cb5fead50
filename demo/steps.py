"""The steps that demo projects are made of."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

Spot = tuple[float, float]
"""A position, as shares of the canvas."""


@dataclass(frozen=True)
class Crop:
    """The part of a photo that shows: its middle, width and ratio (width by height)."""

    x: float = 0.5
    y: float = 0.5
    width: float = 1.0
    ratio: float = 1.0
    shape: str = "rectangle"
    corner: float = 0.0
    """Radius, as a share of its width."""


@dataclass(frozen=True)
class Laid:
    """A photo on the canvas: middle and width as shares of the canvas."""

    photo: str
    name: str
    x: float = 0.5
    y: float = 0.5
    width: float = 1.0
    turn: float = 0.0
    flipped: bool = False
    mode: str = "normal"
    opacity: float = 1.0
    crop: Crop | None = None
    onto: tuple[Spot, Spot, Spot, Spot] | None = None
    """Where its corners lie, from the top left clockwise, instead of all of that."""


@dataclass(frozen=True)
class Planned:
    """A picture that a plan makes of photos: their files by slots, and words."""

    name: str
    plan: str
    photos: dict[str, tuple[str, ...]]
    words: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class LinedUp:
    """A photo that is there already is lined up with another by map coordinates."""

    name: str
    onto: str


@dataclass(frozen=True)
class Washed:
    """A gradient over everything, from a colour to clear; `x`, `y` as shares."""

    name: str
    color: str
    angle: float
    mode: str
    opacity: float
    y: float = 0.5
    length: float = 1.0


@dataclass(frozen=True)
class Together:
    """Layers that are laid over the rest as one."""

    name: str
    members: tuple[str, ...]
    mode: str


@dataclass(frozen=True)
class Colored:
    """One colour over everything."""

    name: str
    color: str
    mode: str = "normal"
    opacity: float = 1.0


@dataclass(frozen=True)
class Changed:
    """Any edit of a layer that is there already, or of several."""

    name: str
    kind: str
    values: dict[str, Any]
    several: tuple[str, ...] = ()


@dataclass(frozen=True)
class CutOut:
    """A photo that is there already loses its backdrop, found by itself."""

    name: str
    photo: str


@dataclass(frozen=True)
class Named:
    """The moment that is reached gets a name."""

    name: str


@dataclass(frozen=True)
class Mended:
    """Places of a photo that is there already are mended."""

    name: str
    dust: str
    """The file that says where its specks and scratches lie, in the photo's pixels."""
    size: float


@dataclass(frozen=True)
class Painted:
    """A colour is painted on a photo, by strokes of a brush of some size."""

    name: str
    onto: str
    color: str
    strokes: tuple[tuple[float, tuple[Spot, ...]], ...]


@dataclass(frozen=True)
class Matched:
    """A layer is matched to another one, by one of the ways that are offered."""

    name: str
    to: str
    way: str
    then: tuple[dict[str, Any], ...] = ()
    """Tones that come after it."""
    strength: float = 1.0


@dataclass(frozen=True)
class Said:
    """Words, in a font by its name; spots and sizes as shares of the canvas."""

    name: str
    """What they say."""
    font: str
    size: float
    """Of the em, as a share of the width."""
    x: float = 0.5
    y: float = 0.5
    """Of the first baseline."""
    setting: dict[str, Any] = field(default_factory=dict)
    words: dict[str, Any] = field(default_factory=dict)
    """Ink, contour and panel."""
    mode: str = "normal"
    onto: tuple[Spot, Spot, Spot, Spot] | None = None
    """Where the corners of their frame lie, from the top left clockwise."""


Step = (
    Laid
    | LinedUp
    | Washed
    | Together
    | Colored
    | Changed
    | CutOut
    | Named
    | Mended
    | Painted
    | Matched
    | Said
)


@dataclass(frozen=True)
class DemoProject:
    """A picture of the Lanternmoth Marionettes."""

    name: str
    width_cm: float
    height_cm: float
    ppi: float
    background: str
    layers: tuple[Step, ...]
    about: dict[str, str] | None = None
    """What files made of it say: title, author, alt …"""
