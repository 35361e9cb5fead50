"""Says in plain sentences what each layer does, part by part."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, NamedTuple

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.color import color_name
from glyphaneme.core.document.model import (
    ChangingLayer,
    ColorLayer,
    GradientLayer,
    GroupLayer,
    MendedLayer,
    MendingLayer,
    PhotoLayer,
    PlacedLayer,
    TonedLayer,
    ToningLayer,
    WordsLayer,
)
from glyphaneme.core.place import corners_on_canvas
from glyphaneme.core.place.crop import FrameShape
from glyphaneme.core.wording.effects import effects_words
from glyphaneme.core.wording.lettering import lettering_words
from glyphaneme.core.wording.masks import (
    cut_words,
    direction_of,
    direction_words,
    fading_words,
    part_words,
)
from glyphaneme.core.wording.tones import tone_words, toning_words
from glyphaneme.core.wording.words import MODE_WORDS, percent

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.document.gradients import Gradient, Stop
    from glyphaneme.core.document.model import Canvas, Composite, Layer
    from glyphaneme.core.place import Placement
    from glyphaneme.core.wording.masks import Names

Touch = Literal[
    "name",
    "wash",
    "place",
    "crop",
    "corners",
    "bend",
    "cut",
    "fade",
    "blend",
    "tone",
    "shadow",
    "shown",
    "lock",
    "sheet",
    "lettering",
    "kind",
    "words",
]
"""What a part opens when it is touched. Two are only read: "kind" says what a layer is,
"words" stand between the others."""

COVER_SLACK = 0.5
"""How many canvas pixels a layer may fall short of an edge and still cover it."""

CM_PER_INCH = 2.54
NEARLY = 1e-6


class Part(NamedTuple):
    """Some words of a sentence and what they open when touched."""

    text: str
    touch: Touch


class Sentence(NamedTuple):
    """What one layer does, in order of reading."""

    layer_id: str
    parts: tuple[Part, ...]
    recipe: tuple[str, ...] = ()
    """What each part of its mask is."""
    fades: tuple[str, ...] = ()
    """Where each of its fades runs."""
    tones: tuple[str, ...] = ()
    """What each of its tones does."""
    mends: tuple[str, ...] = ()
    """What each of its mended places was."""
    effects: tuple[str, ...] = ()
    """What each of its effects is."""

    @property
    def text(self) -> str:
        """The whole sentence, as a screen reader hears it."""
        return "".join(part.text for part in self.parts)


def describe(composite: Composite) -> tuple[Sentence, ...]:
    """Describe every layer of a composite.

    Parameters
    ----------
    composite : Composite
        What to describe.

    Returns
    -------
    tuple of Sentence
        One a layer, from back to front; members of a group right before it.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> from glyphaneme.core.document.model import Canvas, Composite, PhotoLayer
    >>> moths = PhotoLayer(
    ...     id="m", name="Moths", picture="p", width=300, height=200,
    ...     placement=Placement(x=150, y=100, scale_x=1, scale_y=1, turn=12),
    ...     blend="multiply",
    ... )
    >>> poster = Composite(canvas=Canvas(width=900, height=900), layers=(moths,))
    >>> describe(poster)[0].text
    'Moths, in the upper left, turned 12°, multiplied.'
    """
    canvas = composite.canvas
    names = {layer.id: layer.name for layer in composite.all_layers()}
    on = _On(canvas.width, canvas.height, CM_PER_INCH * 10 / canvas.ppi)
    return tuple(_described(composite.layers, on, names))


def describe_canvas(canvas: Canvas) -> tuple[Part, ...]:
    """Describe the sheet that everything lies on.

    Parameters
    ----------
    canvas : Canvas
        The sheet.

    Returns
    -------
    tuple of Part
        The words of one sentence.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas
    >>> "".join(part.text for part in describe_canvas(Canvas(width=2400, height=1200)))
    'The sheet, white, 2400 × 1200 px, printing 25.4 × 12.7 cm at 240 ppi.'
    """
    background = canvas.background
    color = "clear" if background is None else color_name(background)
    width_cm, height_cm = (
        f"{side / canvas.ppi * CM_PER_INCH:.3g}"
        for side in (canvas.width, canvas.height)
    )
    size = f"{canvas.width} × {canvas.height} px"
    printed = f"printing {width_cm} × {height_cm} cm at {canvas.ppi:.4g} ppi"
    return (
        Part("The sheet", "name"),
        Part(", ", "words"),
        Part(color, "sheet"),
        Part(", ", "words"),
        Part(size, "sheet"),
        Part(", ", "words"),
        Part(printed, "sheet"),
        Part(".", "words"),
    )


class _On(NamedTuple):
    """What a pile lies on: its size in pixels, and how large one is in print."""

    width: float
    height: float
    pixel_mm: float


def _described(layers: tuple[Layer, ...], on: _On, names: Names) -> Iterator[Sentence]:
    """Describe a pile that lies on a sheet."""
    for layer in layers:
        if isinstance(layer, GroupLayer):
            pixel_mm = on.pixel_mm * layer.placement.scale_x
            inner = _On(layer.width, layer.height, pixel_mm)
            yield from _described(layer.layers, inner, names)
        parts = layer.mask.parts if layer.mask else ()
        tones = layer.tones if isinstance(layer, TonedLayer) else ()
        mends = layer.mends if isinstance(layer, MendedLayer) else ()
        yield Sentence(
            layer.id,
            _parts(layer, on, names),
            recipe=tuple(part_words(part, names) for part in parts),
            fades=tuple(direction_of(layer, fade) for fade in layer.fades),
            tones=tuple(tone_words(tone) for tone in tones),
            mends=tuple(mend.words for mend in mends),
            effects=tuple(effect.words for effect in layer.effects),
        )


def _parts(layer: Layer, on: _On, names: Names) -> tuple[Part, ...]:
    name = f"‘{layer.name}’" if isinstance(layer, WordsLayer) else layer.name
    parts = [Part(name, "name")]
    for text, touch in _phrases(layer, on, names):
        parts += [Part(", ", "words"), Part(text, touch)]
    if layer.opacity < 1:
        parts += [Part(" at ", "words"), Part(percent(layer.opacity), "blend")]
    if layer.locked:
        parts += [Part(", ", "words"), Part("locked", "lock")]
    return (*parts, Part(".", "words"))


def _phrases(layer: Layer, on: _On, names: Names) -> Iterator[tuple[str, Touch]]:
    if not layer.visible:
        yield "hidden", "shown"
    yield from _being(layer, on)
    if isinstance(layer, PlacedLayer):
        yield from _placing(layer, on.width, on.height)
    if layer.mask:
        yield cut_words(layer.mask, names), "cut"
    if isinstance(layer, MendedLayer) and (mended := _mended(layer)):
        yield mended, "cut"
    if layer.fades:
        yield fading_words(layer), "fade"
    said = toning_words(layer.tones) if isinstance(layer, TonedLayer) else ""
    if said or isinstance(layer, ToningLayer):
        yield said or "as it is", "tone"
    if shadows := effects_words(layer.effects):
        yield shadows, "shadow"
    if not (isinstance(layer, ChangingLayer) and layer.blend is BlendMode.NORMAL):
        yield MODE_WORDS[layer.blend], "blend"


def _mended(layer: MendedLayer) -> str:
    """Say in how many places it is mended; nothing where a photo is in none."""
    count = sum(mend.works for mend in layer.mends)
    if not count:
        return "as it is" if isinstance(layer, MendingLayer) else ""
    return f"mended in {count} places" if count > 1 else "mended in one place"


def _being(layer: Layer, on: _On) -> Iterator[tuple[str, Touch]]:
    """Say what a layer is that is no photo."""
    match layer:
        case ColorLayer():
            yield f"{color_name(layer.color)} over everything", "wash"
        case GradientLayer():
            yield from _running(layer.gradient)
        case GroupLayer():
            count = len(layer.layers)
            yield f"{count} layers as one" if count > 1 else "one layer alone", "kind"
        case ToningLayer() | MendingLayer():
            yield "everything beneath", "kind"
        case WordsLayer():
            pixel_mm = on.pixel_mm * layer.placement.scale_y
            for text in lettering_words(layer.words, layer.measure, pixel_mm):
                yield text, "lettering"
            if layer.stand_in is not None:
                font = layer.words.setting.fonts[0].name
                yield f"shown as it was where {font} is missing", "lettering"
        case PhotoLayer():
            pass


def _placing(
    layer: PlacedLayer, width: float, height: float
) -> Iterator[tuple[str, Touch]]:
    yield _where(layer, width, height), "place"
    placement = layer.placement
    if placement.flipped and placement.upended:
        yield "mirrored and upside down", "place"
    elif placement.flipped:
        yield "mirrored", "place"
    elif placement.upended:
        yield "upside down", "place"
    yield from _shaping(placement)
    if placement.turn:
        yield f"turned {placement.turn:.4g}°".replace("-", "\u2212"), "place"


def _shaping(placement: Placement) -> Iterator[tuple[str, Touch]]:
    crop = placement.crop
    if crop is not None:
        if crop.shape is FrameShape.ELLIPSE:
            is_even = abs(crop.width / crop.height - 1) < NEARLY
            yield f"only in {'a circle' if is_even else 'an ellipse'}", "crop"
        else:
            yield "only part of it", "crop"
            if crop.corner:
                yield "with round corners", "crop"
    if placement.corners is not None:
        yield "set into four corners", "corners"
    if placement.bend is not None:
        yield "bent", "bend"


def _running(gradient: Gradient) -> Iterator[tuple[str, Touch]]:
    start, end = _stop_word(gradient.start), _stop_word(gradient.end)
    yield f"from {start} to {end}", "wash"
    if gradient.shape == "round":
        yield "outwards", "wash"
    else:
        yield f"running {direction_words(gradient.angle)}", "wash"


def _stop_word(stop: Stop) -> str:
    if stop.opacity == 0:
        return "clear"
    word = color_name(stop.color)
    return word if stop.opacity == 1 else f"{word} at {percent(stop.opacity)}"


def _where(layer: PlacedLayer, width: float, height: float) -> str:
    corners = corners_on_canvas(layer.placement, width=layer.width, height=layer.height)
    left, top = corners.min(axis=0)
    right, bottom = corners.max(axis=0)
    upright = layer.placement.turn % 90 == 0
    if right <= 0 or bottom <= 0 or left >= width or top >= height:
        return "outside the picture"
    covers = (
        left <= COVER_SLACK
        and top <= COVER_SLACK
        and right >= width - COVER_SLACK
        and bottom >= height - COVER_SLACK
    )
    if covers and upright and not layer.placement.is_warped:
        return "filling the picture"
    down = _third(layer.placement.y, height, ("upper", "", "lower"))
    across = _third(layer.placement.x, width, ("left", "", "right"))
    if down and across:
        return f"in the {down} {across}"
    if down:
        return "at the top" if down == "upper" else "at the bottom"
    return f"at the {across}" if across else "in the middle"


def _third(position: float, extent: float, words: tuple[str, str, str]) -> str:
    if position < extent * 0.36:
        return words[0]
    return words[2] if position > extent * 0.64 else words[1]
