"""Composites to layered OpenRaster files."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterator, Mapping, Sequence
from io import BytesIO
from types import MappingProxyType
from typing import TYPE_CHECKING, BinaryIO, NamedTuple

import numpy as np

from glyphaneme.codecs import FileFormat, FileSpec, Shape, write_picture
from glyphaneme.codecs.openraster import (
    OWN_PICTURES,
    LayeredPicture,
    LayerEntry,
    OpenRasterWriter,
    StackEntry,
)
from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import (
    Canvas,
    ColorLayer,
    Composite,
    GroupLayer,
    Layer,
    MendingLayer,
    ToningLayer,
    WordsLayer,
    store_composite,
)
from glyphaneme.core.document.changing import with_layer_fields
from glyphaneme.core.document.grouping import lifted
from glyphaneme.core.document.model import MAX_SIDE
from glyphaneme.core.render import (
    Ground,
    View,
    all_needed,
    flattened,
    reach_of,
    render,
    render_alone,
    render_bands,
)
from glyphaneme.core.values import with_fields
from glyphaneme.services.layered_ops import OPS, PLAIN_OP

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.mask.strokes import NamedStroke
    from glyphaneme.core.render import Assets

THUMBNAIL_SIDE = 256
LARGEST_STAND_IN = 24_000_000
"""Pixels of what stands in for words elsewhere."""
BAND_ROWS = 256
SHEET_NAME = "The sheet"

PictureFile = Callable[[str], Iterator[bytes]]
"""Yields the original file of a picture id, piece by piece."""


Bake = Callable[[Layer, Ground], LayerEntry]


class Sources(NamedTuple):
    """Where what travels along in a file comes from."""

    original: PictureFile
    strokes: Sequence[NamedStroke] = ()
    matte: PictureFile = lambda _name: iter(())
    fonts: Mapping[str, bytes] = MappingProxyType({})
    """Those that may travel along, by their names."""


def write_layered(
    composite: Composite,
    assets: Assets,
    file: BinaryIO,
    *,
    sources: Sources,
    report: Callable[[float], None],
) -> None:
    """Write a composite as an OpenRaster file.

    What the format cannot say, such as turns and gradients, is in the layers' pixels;
    the composite itself and the original pictures travel along.
    """
    canvas = composite.canvas
    steps = 2 + sum(1 for _ in composite.all_layers())
    with OpenRasterWriter(file) as writer:
        done = iter(range(1, steps + 1))

        def bake(layer: Layer, on: Ground) -> LayerEntry:
            entry = _baked(writer, layer, assets, composite, on)
            report(next(done) / steps)
            return entry

        entries = tuple(_entries(composite.layers, bake, canvas))
        if canvas.background is not None:
            entries = (_sheet(writer, canvas), *entries)
        writer.add_stack(
            LayeredPicture(canvas.width, canvas.height, canvas.ppi, entries)
        )
        _add_merged(writer, composite, assets)
        report(next(done) / steps)
        names = {}
        for picture in sorted(composite.pictures()):
            names[picture] = picture
            writer.add_file(OWN_PICTURES + picture, sources.original(picture))
        for layer in _staying_behind(composite, sources):
            name = stand_in_of(layer)
            names[name] = name
            shown = iter((_as_picture(layer, assets),))
            writer.add_file(OWN_PICTURES + name, shown)
            composite = with_layer_fields(composite, layer.id, stand_in=name)
        for font, data in sources.fonts.items():
            writer.add_file(OWN_PICTURES + font, iter((data,)))
        mattes = sorted({part.matte for part in all_needed(composite).mattes})
        for matte in mattes:
            writer.add_file(OWN_PICTURES + matte, sources.matte(matte))
        writer.add_document(
            {
                "composite": store_composite(composite),
                "pictures": names,
                "strokes": [one.model_dump(mode="json") for one in sources.strokes],
                "mattes": mattes,
                "fonts": sorted(sources.fonts),
            }
        )


def stand_in_of(layer: WordsLayer) -> str:
    """Return how the picture is called that stands in for words."""
    return str(uuid.uuid5(uuid.NAMESPACE_OID, layer.id))


def _staying_behind(composite: Composite, sources: Sources) -> list[WordsLayer]:
    """Return words whose font does not travel along, small enough to be pictures."""
    return [
        layer
        for layer in composite.all_layers()
        if isinstance(layer, WordsLayer)
        and layer.words.setting.fonts[0].id not in sources.fonts
        and layer.stand_in is None
        and layer.width * layer.height <= LARGEST_STAND_IN
        and max(layer.width, layer.height) <= MAX_SIDE
    ]


def _as_picture(layer: WordsLayer, assets: Assets) -> bytes:
    """Return words as they are set, flat and bare, as a PNG file."""
    bare = with_fields(flattened(layer), tones=(), mask=None, fades=())
    canvas = Canvas(width=layer.width, height=layer.height, background=None)
    view = View(0, 0, layer.width, layer.height, 1)
    pixels = render(Composite(canvas=canvas, layers=(bare,)), assets, view)
    file = BytesIO()
    write_picture(pixels, file, FileSpec(FileFormat.PNG, quality=100, ppi=72))
    return file.getvalue()


def _entries(
    layers: tuple[Layer, ...], bake: Bake, canvas: Canvas | None
) -> Iterator[LayerEntry | StackEntry]:
    """Yield what a pile becomes, which lies on the canvas or in a group."""
    for place, layer in enumerate(layers):
        if not isinstance(layer, GroupLayer) or _changes_as_one(layer):
            yield bake(layer, Ground(layers[:place], canvas))
            continue
        members = tuple(lifted(member, layer) for member in layer.layers)
        yield StackEntry(
            name=layer.name,
            opacity=layer.opacity,
            visible=layer.visible,
            composite_op=OPS[layer.blend],
            isolated=True,
            entries=tuple(_entries(members, bake, None)),
        )


def _changes_as_one(group: GroupLayer) -> bool:
    """Tell whether something is done to a group that no stack can say.

    What is mended in it is measured in its own pixels.
    """
    mends = any(isinstance(one, MendingLayer) for one in group.layers)
    return bool(mends or group.mask or group.fades or group.tones or group.effects)


def _baked(
    writer: OpenRasterWriter,
    layer: Layer,
    assets: Assets,
    composite: Composite,
    on: Ground,
) -> LayerEntry:
    """Write a layer as it lies on the canvas, as far as that shows it.

    Of one that tones what it lies on, that is written toned.
    """
    canvas, pile = composite.canvas, composite.layers
    whole = View(x=0, y=0, width=canvas.width, height=canvas.height, scale=1)
    left, top, right, bottom = reach_of(layer, whole)
    if layer.effects:
        # Shadows fall beyond what throws them.
        left, top, right, bottom = 0, 0, canvas.width, canvas.height
    if left >= right or top >= bottom:
        left, top, right, bottom = 0, 0, 1, 1
    plain = {"blend": BlendMode.NORMAL, "opacity": 1.0, "visible": True}
    alone = Composite(
        canvas=with_fields(canvas, background=None),
        layers=(with_fields(layer, **plain),),
    )
    shape = Shape(right - left, bottom - top, opaque=False)
    part = View(left, top, shape.width, shape.height, 1)
    bands = render_bands(alone, assets, part, pile=pile)
    if isinstance(layer, ToningLayer):
        bands = _toned_bands(alone, on, assets, part, pile)
    elif isinstance(layer, MendingLayer):
        bands = _mended_bands(alone, on, assets, part, pile)
    source = writer.add_layer(bands, shape)
    return LayerEntry(
        name=layer.name,
        source=source,
        x=left,
        y=top,
        opacity=layer.opacity,
        visible=layer.visible,
        composite_op=OPS[layer.blend],
    )


def _toned_bands(
    alone: Composite,
    on: Ground,
    assets: Assets,
    part: View,
    pile: tuple[Layer, ...],
) -> Iterator[PixelsU8]:
    """Render what lies beneath a layer as that tones it, as far as that shows."""
    (layer,) = alone.layers
    whole = with_fields(layer, mask=None, fades=())
    toned = Composite(canvas=on.canvas or alone.canvas, layers=(*on.layers, whole))
    shown = ColorLayer(
        id=layer.id,
        name=layer.name,
        color="#ffffff",
        mask=layer.mask,
        fades=layer.fades,
    )
    veil = with_fields(alone, layers=(shown,))
    both = zip(
        render_bands(toned, assets, part, pile=pile),
        render_bands(veil, assets, part, pile=pile),
        strict=True,
    )
    for band, share in both:
        alpha = band[..., 3].astype(np.uint16) * share[..., 3] + 127
        band[..., 3] = alpha // 255
        yield band


def _mended_bands(
    alone: Composite,
    on: Ground,
    assets: Assets,
    part: View,
    pile: tuple[Layer, ...],
) -> Iterator[PixelsU8]:
    """Render what a layer lays over places of what it lies on."""
    (layer,) = alone.layers
    for top in range(0, part.height, BAND_ROWS):
        yield render_alone(layer, on, assets, part.band(top, BAND_ROWS), pile)


def _sheet(writer: OpenRasterWriter, canvas: Canvas) -> LayerEntry:
    shape = Shape(canvas.width, canvas.height, opaque=True)
    whole = View(0, 0, shape.width, shape.height, 1)
    bands = render_bands(Composite(canvas=canvas), {}, whole)
    source = writer.add_layer(bands, shape)
    return LayerEntry(SHEET_NAME, source, 0, 0, 1.0, True, PLAIN_OP)  # noqa: FBT003


def _add_merged(writer: OpenRasterWriter, composite: Composite, assets: Assets) -> None:
    canvas = composite.canvas
    shape = Shape(canvas.width, canvas.height, opaque=canvas.background is not None)
    writer.add_picture(
        "mergedimage.png",
        render_bands(composite, assets, View(0, 0, shape.width, shape.height, 1)),
        shape,
        ppi=canvas.ppi,
    )
    scale = min(1.0, THUMBNAIL_SIDE / max(canvas.width, canvas.height))
    small = View(
        x=0,
        y=0,
        width=max(1, round(canvas.width * scale)),
        height=max(1, round(canvas.height * scale)),
        scale=scale,
    )
    writer.add_picture(
        "Thumbnails/thumbnail.png",
        (render(composite, assets, small),),
        Shape(small.width, small.height, opaque=False),
        ppi=canvas.ppi,
    )
