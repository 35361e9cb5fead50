"""Says what masks and fades do to a layer."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING

from glyphaneme.core.document.model import PlacedLayer
from glyphaneme.core.mask import Fade, FadeShape, Join, KeptPart, LayerPart, PaintedPart
from glyphaneme.core.place import source_to_canvas
from glyphaneme.core.wording.words import JOIN_WORDS, percent

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.mask import Mask, MaskPart

Names = Mapping[str, str]
NO_NAMES: Names = {}
GONE = "a layer that is gone"

DIRECTIONS = (
    "to the right",
    "to the lower right",
    "downwards",
    "to the lower left",
    "to the left",
    "to the upper left",
    "upwards",
    "to the upper right",
)
"""Where something runs, clockwise by eighths of a turn."""

SIDEWAYS = (
    "to the left and right",
    "along a falling line",
    "to the top and bottom",
    "along a rising line",
)
"""To which two sides something runs, clockwise by eighths of a turn."""


def direction_words(degrees: float) -> str:
    """Say where an angle points.

    Parameters
    ----------
    degrees : float
        Clockwise from the right.

    Returns
    -------
    str
        The nearest of eight directions.

    Examples
    --------
    >>> direction_words(-90)
    'upwards'
    """
    return DIRECTIONS[round(degrees / 45) % 8]


def part_words(part: MaskPart, names: Names = NO_NAMES) -> str:
    """Say what a part is, and whose shape it is.

    Parameters
    ----------
    part : MaskPart
        Of any kind.
    names : mapping of layer id to str
        How layers are called.

    Returns
    -------
    str
        Such as "the shape of Moths".

    Examples
    --------
    >>> from glyphaneme.core.mask import LayerPart
    >>> part_words(LayerPart(id="p", layer_id="m"), {"m": "Moths"})
    'the shape of Moths'
    """
    if not isinstance(part, LayerPart):
        return part.words
    return f"the {part.quality} of {names.get(part.layer_id, GONE)}"


def cut_words(mask: Mask, names: Names = NO_NAMES) -> str:
    """Say what a mask leaves of a layer.

    Parameters
    ----------
    mask : Mask
        With at least one part.
    names : mapping of layer id to str
        How layers are called.

    Returns
    -------
    str
        Such as "cut to a soft circle".

    Examples
    --------
    >>> from glyphaneme.core.mask import EllipsePart, Mask
    >>> moon = EllipsePart(id="m", x=5, y=5, width=4, height=4, softness=2)
    >>> cut_words(Mask(parts=(moon,)))
    'cut to a soft circle'
    """
    working = mask.working
    if not working:
        return "its cut switched off"
    first, *rest = working
    said = _begun(first, names)
    if len(rest) == 1:
        said += _joined(rest[0], names)
    elif rest:
        said += f" and {len(rest)} more"
    if mask.inverted:
        said += ", inside out"
    if mask.strength < 1:
        said += f" by {percent(mask.strength)}"
    return said


def _begun(part: MaskPart, names: Names) -> str:
    if isinstance(part, PaintedPart):
        if part.join is not Join.ADD or part.inverted:
            return "cut by brush"
        return "only where painted" if part.strokes else "nothing painted yet"
    words = _turned(part, names)
    if isinstance(part, LayerPart | KeptPart) and part.join is Join.KEEP:
        return f"held in {words}"
    if part.join is Join.ADD:
        return f"cut to {words}"
    return f"shown {JOIN_WORDS[part.join]} {words}"


def _joined(part: MaskPart, names: Names) -> str:
    if isinstance(part, PaintedPart):
        return " and by brush"
    words = _turned(part, names)
    comma = "" if part.join is Join.ADD else ","
    return f"{comma} {JOIN_WORDS[part.join]} {words}"


def _turned(part: MaskPart, names: Names) -> str:
    words = part_words(part, names)
    return f"all but {words}" if part.inverted else words


def fading_words(layer: Layer) -> str:
    """Say where a layer's fades run.

    Parameters
    ----------
    layer : Layer
        With at least one fade.

    Returns
    -------
    str
        Such as "fading out to the left".

    Examples
    --------
    >>> from glyphaneme.core.document.model import ColorLayer
    >>> to_the_left = Fade(x=50, y=0, length=100, angle=180)
    >>> dusk = ColorLayer(id="d", name="Dusk", color="#203040", fades=(to_the_left,))
    >>> fading_words(dusk)
    'fading out to the left'
    """
    ways = list(dict.fromkeys(direction_of(layer, fade) for fade in layer.fades))
    last = ways.pop()
    return f"fading out {', '.join(ways)} and {last}" if ways else f"fading out {last}"


def direction_of(layer: Layer, fade: Fade) -> str:
    """Say where one fade of a layer runs, as it is seen.

    Parameters
    ----------
    layer : Layer
        Whose fade it is.
    fade : Fade
        One of them.

    Returns
    -------
    str
        Words that follow "out", such as "to the left".

    Examples
    --------
    >>> from glyphaneme.core.document.model import ColorLayer
    >>> dusk = ColorLayer(id="d", name="Dusk", color="#203040")
    >>> direction_of(dusk, Fade(shape="sides", x=50, y=50, length=100))
    'on all sides'
    """
    if fade.shape is FadeShape.ROUND:
        return "inwards" if fade.inward else "outwards"
    if fade.shape is FadeShape.SIDES:
        return "towards its middle" if fade.inward else "on all sides"
    degrees = _angle_seen(layer, fade)
    if fade.shape is FadeShape.LINE:
        return direction_words(degrees + 180 if fade.inward else degrees)
    if fade.inward:
        return "towards its middle line"
    return SIDEWAYS[round(degrees / 45) % 4]


def _angle_seen(layer: Layer, fade: Fade) -> float:
    """Return in which direction a fade runs in what its layer lies in."""
    angle = math.radians(fade.angle)
    across, down = math.cos(angle), math.sin(angle)
    if fade.linked and isinstance(layer, PlacedLayer):
        size = {"width": layer.width, "height": layer.height}
        linear = source_to_canvas(layer.placement, **size)[:, :2]
        across, down = (linear @ (across, down)).tolist()
    return math.degrees(math.atan2(down, across))
