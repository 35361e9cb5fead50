"""Writes a pile of layers as the table that the compositing kernel reads."""

from __future__ import annotations

import math
from functools import partial
from typing import TYPE_CHECKING, NamedTuple, TypedDict

import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core._kernels.composing import LAYER
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
    GradientLayer,
    GroupLayer,
    Layer,
    MendingLayer,
    PhotoLayer,
    PlacedLayer,
    ToningLayer,
)
from glyphaneme.core.errors import PixelsMissingError
from glyphaneme.core.mend import Area
from glyphaneme.core.place import Pyramid
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.render.lying import NOTHING, Ground, seen_from, source_map, touches
from glyphaneme.core.render.masks import UNMASKED, Masking, masking_of, step_fields
from glyphaneme.core.render.patching import Laid, patches_of
from glyphaneme.core.render.texels import texels_of
from glyphaneme.core.render.warped import is_plain, reach_in, staying, warped_into
from glyphaneme.core.tone import Op, Program, ops_of, planned, program, split, tabled

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Mapping, Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.document.gradients import Stop
    from glyphaneme.core.effect import EffectBase
    from glyphaneme.core.mask.planes import Plane
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.passes import Passes
    from glyphaneme.core.render.views import View
    from glyphaneme.core.tone import Tone

WIDEST_LINEAR = 1.3
"""Up to so many texels a pixel, two of them are as good as the average of all."""
ANY_WIDTH = 1e9
WHOLE = 1e-6
"""How near to whole pixels a map must lie to be copied: far below one level."""
STRAIGHT = 1e-12
"""How little it may turn or scale besides."""
HOMOGENEOUS = (0, 0, 1)
NO_STEPS = np.empty(0, masking.STEP)


class Table(NamedTuple):
    """What the kernel reads; `alive` keeps the arrays that it points into."""

    rows: NDArray[np.void]
    steps: NDArray[np.void]
    tones: Program
    groups: int
    alive: tuple[object, ...]


class Placed(NamedTuple):
    """A layer's own pixels as they lie in a view, so far from its left and top."""

    pixels: PixelsU8
    left: int
    top: int
    opaque: bool
    toned: bool = True
    """Whether those of its tones that look at single pixels are in them."""


NOTHING_PLACED: Mapping[str, Placed] = {}


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


def table_of(found: Sequence[Row], *, averaged: bool = True) -> Table:
    """Write rows as a table.

    Parameters
    ----------
    found : sequence of Row
        From back to front.
    averaged : bool
        As `Reading` says.

    Returns
    -------
    Table
        With the steps of their masks and the operations of their tones.
    """
    steps = _StepTable()
    tones = _ToneTable()
    fields = [steps.given(tones.given(row), row.masking) for row in found]
    rows = np.array(fields, LAYER)
    rows["widest"] = WIDEST_LINEAR if averaged else ANY_WIDTH
    return Table(
        rows=rows,
        steps=steps.rows,
        tones=tones.program,
        groups=max((row.depth for row in found), default=0),
        alive=(*(row.alive for row in found), *steps.alive),
    )


def rgba(color: str, opacity: float = 1.0) -> NDArray[np.float32]:
    """Read a colour.

    Parameters
    ----------
    color : str
        Such as "#ff8000", sRGB.
    opacity : float, 0..1
        Its alpha.

    Returns
    -------
    (4,) float32, 0..1
        Straight R, G, B, A.

    Examples
    --------
    >>> rgba("#ff0000").tolist()
    [1.0, 0.0, 0.0, 1.0]
    """
    channels = [int(color[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    return np.array([*channels, opacity], np.float32)


class Fields(NamedTuple):
    """The fields of one row, in the order in which `LAYER` explains them."""

    kind: int
    address: int = 0
    rows: int = 0
    columns: int = 0
    mode: int = 0
    opaque: bool = False
    copied: bool = False
    first_step: int = 0
    steps: int = 0
    first_tone: int = 0
    tones: int = 0
    opacity: float = 0
    start: float = 1
    widest: float = 0
    colors: Sequence[float] = (0,) * 8
    to_source: Sequence[float] = (0,) * 6
    width: float = 0
    height: float = 0


class Row(NamedTuple):
    """A row, its mask, how many groups it lies in, and the array it points into."""

    fields: Fields
    masking: Masking = UNMASKED
    depth: int = 0
    alive: PixelsU8 | None = None
    tones: tuple[Tone, ...] = ()


class Reading(NamedTuple):
    """What rows are written from, besides the layers themselves."""

    assets: Assets
    """All that `assets_needed` names."""
    view: View
    """Which part of the canvas is shown, at what size."""
    passes: Passes
    """What masks and tones read that is rendered before."""
    averaged: bool = True
    """Whether pictures that lie between two levels are averaged over each pixel's area,
    or two texels each way must do."""


class _Pile(NamedTuple):
    """In what layers lie: mapped to it from the view, so many groups deep."""

    to_pile: MatrixF64
    depth: int = 0
    on: Ground = NOTHING
    """What they lie on in it."""


def white_table(mask: Masking) -> Table:
    """Write white over everything, masked.

    Parameters
    ----------
    mask : Masking
        What of it shows.

    Returns
    -------
    Table
        Of one row: its alpha is what the mask leaves.
    """
    steps = _StepTable()
    white = Fields(COLOR, opaque=True, colors=(1.0,) * 8, opacity=1.0)
    rows = np.array([steps.given(white, mask)], LAYER)
    return Table(
        rows=rows,
        steps=steps.rows,
        tones=program(()),
        groups=0,
        alive=tuple(steps.alive),
    )


class _StepTable:
    """Collects the steps of all masks, each layer's one after the other."""

    def __init__(self) -> None:
        self._rows: list[tuple[object, ...]] = []
        self.alive: list[Plane] = []

    @property
    def rows(self) -> NDArray[np.void]:
        """The table that the kernel reads."""
        return np.array(self._rows, masking.STEP) if self._rows else NO_STEPS

    def given(self, fields: Fields, mask: Masking) -> Fields:
        """Add a mask's steps, and return its layer's row with their place."""
        if not mask.steps:
            return fields
        first = len(self._rows)
        for step in mask.steps:
            self._rows.append(step_fields(step))
            if step.plane is not None:
                self.alive.append(step.plane)
        return fields._replace(
            first_step=first, steps=len(mask.steps), start=mask.start
        )


class _ToneTable:
    """Collects the operations of all tones, each layer's one after the other."""

    def __init__(self) -> None:
        self._ops: list[Op] = []

    @property
    def program(self) -> Program:
        """What the kernel reads."""
        return program(self._ops)

    def given(self, row: Row) -> Fields:
        """Add a layer's tones, and return its row with their place."""
        ops = planned(ops_of(row.tones))
        if row.fields.copied:
            ops = tabled(ops)
        first = len(self._ops)
        self._ops += ops
        return row.fields._replace(first_tone=first, tones=len(ops))


def pixels_table(pixels: PixelsU8, tones: tuple[Tone, ...]) -> Table:
    """Write pixels as they are, toned.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, C-contiguous.
    tones : tuple of Tone
        None of them looks at neighbours.

    Returns
    -------
    Table
        Of one row.
    """
    rows, columns = pixels.shape[:2]
    fields = Fields(
        PHOTO,
        address=pixels.ctypes.data,
        rows=rows,
        columns=columns,
        width=columns,
        height=rows,
        copied=True,
        opacity=1.0,
        to_source=(1, 0, 0, 0, 1, 0),
    )
    return table_of([Row(fields, alive=pixels, tones=tones)])


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
    match layer:
        case PhotoLayer() if layer.placement.is_warped:
            yield from _warped_rows(layer, reading, pile)
        case PhotoLayer():
            yield from _photo_rows(layer, reading, pile)
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
    for patched in patches_of(layer, pile.on, reading.passes.pile):
        found = reading.assets.get(patched.name)
        for left, top, pyramid in found.tiles if isinstance(found, Laid) else ():
            to_tile = pile.to_pile[:2].copy()
            to_tile[:, 2] -= (left, top)
            whole = Area(0, 0, pyramid.width, pyramid.height)
            if touches(to_tile, whole, reading.view):
                level = pyramid.level_for(_largest_scale(to_tile))
                fields = _level_fields(pyramid, level, to_tile)._replace(opacity=1.0)
                rows.append(Row(fields, depth=inner, alive=pyramid.levels[level]))
    if not rows:
        return
    yield Row(Fields(GROUP_BEGIN), depth=inner)
    yield from rows
    yield Row(Fields(GROUP_END, **_joining(layer)), mask, inner)


def _warped_rows(layer: PhotoLayer, reading: Reading, pile: _Pile) -> Iterator[Row]:
    """Write the row of a photo whose pixels lie in the view before it is composed."""
    warp = warp_of(layer.placement, width=layer.width, height=layer.height)
    reach = reach_in(warp, pile.to_pile, reading.view)
    if reach is None:
        return
    pyramid, scale = (
        (_pyramid_of(layer, reading.assets), 1.0)
        if is_plain(layer)
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
    rows, columns = placed.pixels.shape[:2]
    return Fields(
        PHOTO,
        address=placed.pixels.ctypes.data,
        rows=rows,
        columns=columns,
        width=columns,
        height=rows,
        opaque=placed.opaque,
        copied=True,
        to_source=(1, 0, -placed.left, 0, 1, -placed.top),
        **_joining(layer),
    )


def _photo_fields(
    layer: PhotoLayer, pyramid: Pyramid, to_layer: MatrixF64, passes: Passes
) -> tuple[Fields, PixelsU8]:
    at = pyramid.level_for(_largest_scale(to_layer))
    require_pixels(pyramid.levels[at])
    level, at = passes.toned_level(pyramid, at, split(layer.tones).first)
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
