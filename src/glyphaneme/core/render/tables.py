"""Writes a pile of layers as the table that the compositing kernel reads."""

from __future__ import annotations

import math
from functools import partial
from typing import TYPE_CHECKING, NamedTuple, TypedDict

import numpy as np

from glyphaneme.core._kernels.washing import (
    COLOR,
    GROUP_BEGIN,
    GROUP_END,
    LINEAR,
    PHOTO,
    ROUND,
    TONING,
)
from glyphaneme.core.blend import BLEND_CODES, BlendMode
from glyphaneme.core.checks import require_pixels
from glyphaneme.core.document.gradients import progress_along
from glyphaneme.core.document.model import (
    ColorLayer,
    FlatLayer,
    GradientLayer,
    GroupLayer,
    Layer,
    LayerBase,
    MendingLayer,
    PhotoLayer,
    PlacedLayer,
    ToningLayer,
    WordsLayer,
)
from glyphaneme.core.errors import PixelsMissingError
from glyphaneme.core.place import Pyramid, Rect
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.render.masks import Masking, masking_of
from glyphaneme.core.render.mended_places import Laid, mended_places_of
from glyphaneme.core.render.reading import NOTHING_PLACED, Placed, Reading
from glyphaneme.core.render.rows import (
    Fields,
    Row,
    Table,
    pixels_fields,
    rgba,
    table_of,
)
from glyphaneme.core.render.texels import texels_of
from glyphaneme.core.render.visibility import (
    NOTHING,
    Ground,
    seen_from,
    source_map,
    touches,
)
from glyphaneme.core.render.warped import (
    flattened,
    is_plain,
    reach_in,
    staying,
    warped_into,
)
from glyphaneme.core.tone import split
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Mapping, Sequence

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.document.gradients import Stop
    from glyphaneme.core.effect import EffectBase
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.reading import Before
    from glyphaneme.core.tone import Tone

WHOLE = 1e-6
"""How near to whole pixels a map must lie to be copied: far below one level."""
STRAIGHT = 1e-12
"""How little it may turn or scale besides."""
HOMOGENEOUS = (0, 0, 1)


def build_table(
    layers: tuple[Layer, ...],
    reading: Reading,
    *,
    placed: Mapping[str, Placed] = NOTHING_PLACED,
    on: Ground = NOTHING,
    to_pile: MatrixF64 | None = None,
) -> Table:
    """Write all visible layers of a pile as a table.

    Parameters
    ----------
    layers : tuple of Layer
        From back to front, placed on the canvas.
    reading : Reading
        What they are written from besides.
    placed : mapping of layer id to Placed
        Layers, none of them in a group, whose pixels are at hand for this view.
    on : Ground
        What they lie on, which is composed already.
    to_pile : (3, 3) float64, optional
        Maps the view's pixels to what they lie in; where that is not the canvas.

    Returns
    -------
    Table
        A group is a row that begins it, its members, and a row that ends it.

    Raises
    ------
    PixelsMissingError
        `assets` lacks the picture of a visible layer.
    PixelsShapeError
        A level of a pyramid is not C-contiguous RGBA.
    """
    found: list[Row] = []
    lying = reading.view.to_canvas if to_pile is None else to_pile
    for place, layer in enumerate(layers):
        ready = placed.get(layer.id)
        pile = _Pile(lying, on=on.with_layers(layers[:place]))
        if ready is None:
            found += _rows((layer,), reading, pile)
        elif layer.visible and layer.opacity:
            found += _over_effects(layer, partial(_placed_rows, ready), reading, pile)
    return table_of(found, averaged=reading.averaged)


class _Pile(NamedTuple):
    """In what layers lie: mapped to it from the view, so many groups deep."""

    to_pile: MatrixF64
    depth: int = 0
    on: Ground = NOTHING
    """What they lie on in it."""


def _rows(layers: tuple[Layer, ...], reading: Reading, pile: _Pile) -> Iterator[Row]:
    for place, layer in enumerate(layers):
        if layer.visible and layer.opacity:
            lying = pile._replace(on=pile.on.with_layers(layers[:place]))
            yield from _over_effects(layer, _own_rows, reading, lying)


def _placed_rows(
    ready: Placed, layer: Layer, _reading: Reading, pile: _Pile
) -> Iterator[Row]:
    fields = _placed_fields(layer, ready)
    tones: tuple[Tone, ...] = ()
    if isinstance(layer, PlacedLayer) and not ready.toned:
        tones = split(layer.tones).rest
    yield Row(fields, depth=pile.depth, alive=ready.pixels, tones=tones)


def _own_rows(layer: Layer, reading: Reading, pile: _Pile) -> Iterator[Row]:
    if isinstance(layer, WordsLayer):
        layer = _as_at_hand(layer, reading.assets)
    match layer:
        case PhotoLayer() | WordsLayer() if layer.placement.is_warped:
            yield from _warped_rows(layer, reading, pile)
        case PhotoLayer():
            yield from _photo_rows(layer, reading, pile)
        case WordsLayer():
            yield from _words_rows(layer, reading, pile)
        case ColorLayer():
            yield Row(_color_fields(layer), _mask(layer, reading, pile), pile.depth)
        case GradientLayer():
            fields = _gradient_fields(layer, pile.to_pile)
            yield Row(fields, _mask(layer, reading, pile), pile.depth)
        case GroupLayer():
            yield from _group_rows(layer, reading, pile)
        case ToningLayer():
            yield _toning_row(layer, reading, pile)
        case MendingLayer():
            yield from _mending_rows(layer, reading, pile)


def _over_effects(
    layer: Layer,
    rows: Callable[[Layer, Reading, _Pile], Iterator[Row]],
    reading: Reading,
    pile: _Pile,
) -> Iterator[Row]:
    """Lay a layer's rows over what its shape lays beneath it, plainly.

    A layer that is plain but see-through is so as one with its effects: no shadow
    shows through it.
    """
    working = [effect for effect in layer.effects if effect.works and effect.strength]
    is_one = bool(working) and layer.opacity < 1 and layer.blend is BlendMode.NORMAL
    if not is_one:
        yield from _effect_rows(layer, working, reading, pile)
        yield from rows(layer, reading, pile)
        return
    inner = pile._replace(depth=pile.depth + 1)
    solid = layer.model_copy(update={"opacity": 1.0})
    yield Row(Fields(GROUP_BEGIN), depth=inner.depth)
    yield from _effect_rows(solid, working, reading, inner)
    yield from rows(solid, reading, inner)
    yield Row(Fields(GROUP_END, **_joining(layer)), depth=inner.depth)


def _effect_rows(
    layer: Layer, effects: Sequence[EffectBase], reading: Reading, pile: _Pile
) -> Iterator[Row]:
    for effect in effects:
        step = reading.passes.effect_step(layer, effect, pile.to_pile)
        if step is None:
            continue
        colors = 2 * rgba(effect.color).tolist()
        strength = effect.strength * layer.opacity
        fields = Fields(COLOR, opaque=True, colors=colors, opacity=strength)
        yield Row(fields, Masking(1.0, (step,)), pile.depth)


def _mask(layer: Layer, reading: Reading, pile: _Pile) -> Masking:
    """Return the mask of a layer that lies everywhere."""
    return masking_of(layer, pile.to_pile, pile.to_pile, reading.passes)


def _photo_rows(layer: PhotoLayer, reading: Reading, pile: _Pile) -> Iterator[Row]:
    to_layer = seen_from(layer, pile.to_pile, reading.view)
    if to_layer is None:
        return
    pyramid = _pyramid_of(layer, reading.assets)
    fields, level = _photo_fields(layer, pyramid, to_layer, reading.passes)
    mask = masking_of(layer, to_layer, pile.to_pile, reading.passes)
    yield Row(fields, mask, pile.depth, level, split(layer.tones).rest)


def _as_at_hand(layer: WordsLayer, assets: Assets) -> WordsLayer | PhotoLayer:
    """Return what stands in for words, where their chosen font is not at hand."""
    if layer.stand_in is None or layer.words.setting.fonts[0].id in assets:
        return layer
    shared = {name: getattr(layer, name) for name in LayerBase.model_fields}
    return PhotoLayer(
        **shared,
        picture=layer.stand_in,
        width=layer.width,
        height=layer.height,
        placement=layer.placement,
        tones=layer.tones,
    )


def _words_rows(layer: WordsLayer, reading: Reading, pile: _Pile) -> Iterator[Row]:
    """Write words: one colour, or several as one layer."""
    to_layer = seen_from(layer, pile.to_pile, reading.view)
    if to_layer is None:
        return
    mask = masking_of(layer, to_layer, pile.to_pile, reading.passes)
    to_words = np.vstack([to_layer, HOMOGENEOUS])
    first, rest = split(layer.tones)
    if first:
        bare = with_fields(flattened(layer), tones=(), mask=None, fades=())
        pixels = reading.passes.toned_pile(
            (bare,), first, to_words, averaged=reading.averaged
        )
        fields = _placed_fields(layer, Placed(pixels, 0, 0, opaque=False))
        yield Row(fields, mask, pile.depth, pixels, rest)
        return
    # Here, not above: most pictures have no words, and reading fonts takes a while.
    from glyphaneme.core.render.lettering import lettering_of

    view = reading.view
    found = lettering_of(layer, reading.assets, to_words, (view.height, view.width))
    joining = _joining(layer)
    if len(found) == 1:
        (one,) = found
        fields = one.fields._replace(
            mode=joining["mode"], opacity=one.fields.opacity * layer.opacity
        )
        whole = mask._replace(steps=(*mask.steps, *one.steps))
        yield Row(fields, whole, pile.depth, one.alive, rest)
    elif found:
        inner = pile.depth + 1
        yield Row(Fields(GROUP_BEGIN), depth=inner)
        for one in found:
            yield Row(one.fields, Masking(1.0, one.steps), inner, one.alive)
        yield Row(Fields(GROUP_END, **joining), mask, inner, tones=rest)


def _group_rows(group: GroupLayer, reading: Reading, pile: _Pile) -> Iterator[Row]:
    """Write a group, as pixels made before where its tones need neighbours."""
    to_sheet = source_map(group) @ pile.to_pile
    mask = masking_of(group, to_sheet, pile.to_pile, reading.passes)
    inner = _Pile(np.vstack([to_sheet, HOMOGENEOUS]), pile.depth + 1)
    first, rest = split(group.tones)
    if first:
        pixels = reading.passes.toned_pile(
            group.layers, first, inner.to_pile, averaged=reading.averaged
        )
        fields = _placed_fields(group, Placed(pixels, 0, 0, opaque=False))
        yield Row(fields, mask, pile.depth, pixels, rest)
        return
    yield Row(Fields(GROUP_BEGIN), depth=inner.depth)
    yield from _rows(group.layers, reading, inner)
    yield Row(Fields(GROUP_END, **_joining(group)), mask, inner.depth, tones=rest)


def _toning_row(layer: ToningLayer, reading: Reading, pile: _Pile) -> Row:
    """Write a layer that tones; where that needs neighbours, what it makes of them."""
    mask = _mask(layer, reading, pile)
    first, rest = split(layer.tones)
    if not first:
        fields = Fields(TONING, **_joining(layer))
        return Row(fields, mask, pile.depth, tones=rest)
    pixels = reading.passes.toned_pile(
        pile.on.layers,
        first,
        pile.to_pile,
        canvas=pile.on.canvas,
        averaged=reading.averaged,
    )
    fields = _placed_fields(layer, Placed(pixels, 0, 0, opaque=False))
    return Row(fields._replace(kind=TONING), mask, pile.depth, pixels, rest)


def _mending_rows(layer: MendingLayer, reading: Reading, pile: _Pile) -> Iterator[Row]:
    """Write patches as one layer; those that are not at hand are not laid."""
    mask = _mask(layer, reading, pile)
    inner = pile.depth + 1
    rows = []
    for place in mended_places_of(layer, pile.on, reading.passes.pile):
        found = reading.assets.get(place.name)
        for left, top, pyramid in found.tiles if isinstance(found, Laid) else ():
            to_tile = pile.to_pile[:2].copy()
            to_tile[:, 2] -= (left, top)
            whole = Rect(0, 0, pyramid.width, pyramid.height)
            if touches(to_tile, whole, reading.view):
                level = pyramid.level_for(_largest_scale(to_tile))
                fields = _level_fields(pyramid, level, to_tile)._replace(opacity=1.0)
                rows.append(Row(fields, depth=inner, alive=pyramid.levels[level]))
    if not rows:
        return
    yield Row(Fields(GROUP_BEGIN), depth=inner)
    yield from rows
    yield Row(Fields(GROUP_END, **_joining(layer)), mask, inner)


def _warped_rows(layer: FlatLayer, reading: Reading, pile: _Pile) -> Iterator[Row]:
    """Write the row of a layer whose pixels lie in the view before it is composed."""
    warp = warp_of(layer.placement, width=layer.width, height=layer.height)
    reach = reach_in(warp, pile.to_pile, reading.view)
    if reach is None:
        return
    pyramid, scale = (
        (_pyramid_of(layer, reading.assets), 1.0)
        if isinstance(layer, PhotoLayer) and is_plain(layer)
        else reading.passes.sheet(layer, warp, pile.to_pile)
    )
    pixels = warped_into(
        pyramid, warp, pile.to_pile, reach, scale=scale, averaged=reading.averaged
    )
    placed = Placed(pixels, reach.left, reach.top, opaque=False)
    mask = _mask(staying(layer), reading, pile)
    fields = _placed_fields(layer, placed)
    yield Row(fields, mask, pile.depth, pixels, split(layer.tones).rest)


def _pyramid_of(layer: PhotoLayer, assets: Assets) -> Pyramid:
    found = assets.get(texels_of(layer))
    if not isinstance(found, Pyramid):
        raise PixelsMissingError(layer.picture)
    return found


class Joining(TypedDict):
    """How a layer joins what lies beneath it."""

    mode: int
    opacity: float


def _joining(layer: Layer) -> Joining:
    return {"mode": BLEND_CODES[layer.blend], "opacity": layer.opacity}


def _placed_fields(layer: Layer, placed: Placed) -> Fields:
    fields = pixels_fields(placed.pixels, placed.left, placed.top)
    return fields._replace(opaque=placed.opaque, **_joining(layer))


def _photo_fields(
    layer: PhotoLayer, pyramid: Pyramid, to_layer: MatrixF64, passes: Before
) -> tuple[Fields, PixelsU8]:
    scale, first = _largest_scale(to_layer), split(layer.tones).first
    at = pyramid.level_for(scale)
    require_pixels(pyramid.levels[at])
    if pyramid.finer is not None and scale > 1 and not first:
        level, at = pyramid.finer, -pyramid.finer_power
    else:
        level, at = passes.toned_level(pyramid, at, first)
    fields = _level_fields(pyramid, at, to_layer, level)
    return fields._replace(**_joining(layer)), level


def _level_fields(
    pyramid: Pyramid, at: int, to_source: MatrixF64, level: PixelsU8 | None = None
) -> Fields:
    """Write one of a picture's sizes, or what stands for that."""
    pixels = pyramid.levels[at] if level is None else level
    shrink = 0.5**at
    to_level = to_source * shrink
    rows, columns = pixels.shape[:2]
    return Fields(
        PHOTO,
        address=pixels.ctypes.data,
        rows=rows,
        columns=columns,
        width=pyramid.width * shrink,
        height=pyramid.height * shrink,
        opaque=pyramid.opaque,
        copied=at == 0 and _moves_by_whole_pixels(to_level),
        to_source=to_level.ravel().tolist(),
    )


def _color_fields(layer: ColorLayer) -> Fields:
    colors = rgba(layer.color).tolist()
    return Fields(COLOR, opaque=True, colors=2 * colors, **_joining(layer))


def _gradient_fields(layer: GradientLayer, to_pile: MatrixF64) -> Fields:
    gradient = layer.gradient
    ends: tuple[Stop, Stop] = (gradient.start, gradient.end)
    start, end = (rgba(stop.color, stop.opacity).tolist() for stop in ends)
    return Fields(
        ROUND if gradient.shape == "round" else LINEAR,
        opaque=all(stop.opacity == 1 for stop in ends),
        colors=start + end,
        to_source=(progress_along(gradient) @ to_pile).ravel().tolist(),
        **_joining(layer),
    )


def _largest_scale(to_source: MatrixF64) -> float:
    """Return shown pixels per texel, the larger of the picture's two axes."""
    across_u, down_u, _, across_v, down_v, _ = to_source.ravel().tolist()
    longer = max(math.hypot(across_v, down_v), math.hypot(across_u, down_u))
    return longer / abs(across_u * down_v - down_u * across_v)


def _moves_by_whole_pixels(matrix: MatrixF64) -> bool:
    moved = np.eye(2, 3)
    moved[:, 2] = np.round(matrix[:, 2])
    return bool(np.all(np.abs(matrix - moved) < (STRAIGHT, STRAIGHT, WHOLE)))
