"""Composites to layered OpenRaster files, and back."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import TYPE_CHECKING, Annotated, Any, BinaryIO, NamedTuple

import numpy as np
from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from glyphaneme.codecs import (
    PictureRefusedError,
    RefusalCode,
    Shape,
    decode_matte,
    identify_picture,
    read_picture,
)
from glyphaneme.codecs.openraster import (
    OWN_PICTURES,
    LayeredPicture,
    LayerEntry,
    OpenRasterReader,
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
    PhotoLayer,
    ToningLayer,
    open_composite,
    store_composite,
)
from glyphaneme.core.document.grouping import box_round, grouped, lifted
from glyphaneme.core.document.model import MAX_SIDE
from glyphaneme.core.document.naming import LONGEST_NAME
from glyphaneme.core.document.tree import require_sound
from glyphaneme.core.errors import CoreError
from glyphaneme.core.mask import Raster
from glyphaneme.core.mask.paintings import Painting, painted_all
from glyphaneme.core.mask.strokes import NamedStroke, require_strokes_named
from glyphaneme.core.place import Placement, build_pyramid
from glyphaneme.core.render import (
    Ground,
    View,
    all_needed,
    laid_patches,
    mended_copy,
    own_pyramid,
    reach_of,
    render,
    render_alone,
    render_bands,
)
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    import io

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.render import Assets

THUMBNAIL_SIDE = 256
BAND_ROWS = 256
PLAIN_OP = "svg:src-over"
OPS: dict[BlendMode, str] = {
    mode: PLAIN_OP if mode is BlendMode.NORMAL else f"svg:{mode.value}"
    for mode in BlendMode
}
MODES = {op: mode for mode, op in OPS.items()}
SHEET_NAME = "The sheet"
MASKS_PICTURE = "Mask"
"""How a picture is called that only masks are made of."""
USUAL_PPI = (1, 4800)

PictureFile = Callable[[str], Iterator[bytes]]
"""Yields the original file of a picture id, piece by piece."""


class OwnDocument(BaseModel):
    """What travels along in a file of ours, so that it comes back complete."""

    model_config = ConfigDict(extra="ignore")

    composite: Annotated[Composite, BeforeValidator(open_composite)]
    pictures: dict[str, str] = Field(max_length=1000)
    """Picture ids, and the names of their originals in the archive."""
    strokes: tuple[NamedStroke, ...] = ()
    """All that painted parts name, each after the one before it."""
    mattes: tuple[str, ...] = Field(default=(), max_length=1000)
    """The names of mattes; they lie beside the pictures."""


class Unpacked(NamedTuple):
    """A composite whose pictures are still files in memory."""

    composite: Composite
    pictures: dict[str, tuple[str, io.BytesIO]]
    """Picture id to a name for people, and the file."""
    strokes: tuple[NamedStroke, ...] = ()
    mattes: Mapping[str, bytes] = {}
    """Their files, by name."""


Bake = Callable[[Layer, Ground], LayerEntry]


class Sources(NamedTuple):
    """Where what travels along in a file comes from."""

    original: PictureFile
    strokes: Sequence[NamedStroke] = ()
    matte: PictureFile = lambda _name: iter(())


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
        mattes = sorted({part.matte for part in all_needed(composite).mattes})
        for matte in mattes:
            writer.add_file(OWN_PICTURES + matte, sources.matte(matte))
        writer.add_document(
            {
                "composite": store_composite(composite),
                "pictures": names,
                "strokes": [one.model_dump(mode="json") for one in sources.strokes],
                "mattes": mattes,
            }
        )


def read_layered(file: BinaryIO) -> Unpacked:
    """Read an OpenRaster file: a file of ours as it was, any other layer by layer.

    Raises
    ------
    PictureRefusedError
        It is no OpenRaster file, damaged, hostile or too large.
    """
    reader = OpenRasterReader(file)
    document = reader.own_document()
    if document is not None:
        try:
            own = OwnDocument.model_validate(document)
            require_sound(own.composite.layers)
            require_strokes_named(own.strokes)
        except (ValidationError, CoreError):
            own = None
        if own is not None and _is_complete(own):
            return _own(reader, own)
    return _foreign(reader)


def assets_of_layered(unpacked: Unpacked) -> Assets:
    """Return all that rendering an unpacked file reads."""
    needed = all_needed(unpacked.composite)
    pyramids = {
        picture: build_pyramid(read_picture(data))
        for picture, (_, data) in unpacked.pictures.items()
    }
    rasters = {
        part.raster: part.raster_of(pyramids[part.picture]) for part in needed.rasters
    }
    paintings = {}
    by_id = {stroke.id: stroke for stroke in unpacked.strokes}
    for last in needed.paintings:
        chain = []
        named: str | None = last
        while named is not None:
            chain.append(by_id[named].stroke)
            named = by_id[named].previous
        paintings[last] = painted_all(Painting(), chain[::-1])
    mattes = {
        part.raster: Raster(decode_matte(unpacked.mattes[part.matte]), part.share)
        for part in needed.mattes
    }
    mended = {
        one.name: mended_copy(one, pyramids[one.picture]) for one in needed.mended
    }
    assets: Assets = {**pyramids, **mended, **rasters, **mattes, **paintings}
    own = {one.name: own_pyramid(one, assets) for one in needed.own_colors}
    assets = {**assets, **own}
    return {**assets, **laid_patches(needed.mended_places, assets)}


def _is_complete(own: OwnDocument) -> bool:
    """Tell whether all that the composite names is there."""
    needed = all_needed(own.composite)
    strokes = {stroke.id for stroke in own.strokes}
    mattes = {part.matte for part in needed.mattes}
    return (
        needed.pictures <= {*own.pictures}
        and needed.paintings <= strokes
        and mattes <= {*own.mattes}
    )


def _own(reader: OpenRasterReader, own: OwnDocument) -> Unpacked:
    names: dict[str, str] = {}
    for layer in own.composite.all_layers():
        if isinstance(layer, PhotoLayer):
            names.setdefault(layer.picture, layer.name)
    for picture in own.composite.pictures():
        names.setdefault(picture, MASKS_PICTURE)
    pictures = {
        picture: (name, reader.own_picture(own.pictures[picture]))
        for picture, name in names.items()
    }
    mattes = {
        part.matte: reader.own_picture(part.matte).getvalue()
        for part in all_needed(own.composite).mattes
    }
    return Unpacked(own.composite, pictures, own.strokes, mattes)


def _foreign(reader: OpenRasterReader) -> Unpacked:
    said = reader.picture
    least, most = USUAL_PPI
    try:
        canvas = Canvas(
            width=said.width,
            height=said.height,
            ppi=min(max(said.ppi, least), most),
            background=None,
        )
    except ValidationError as cause:
        raise PictureRefusedError(
            RefusalCode.TOO_MANY_PIXELS,
            f"The layered file is {said.width} × {said.height} pixels large; "
            f"1 to {MAX_SIDE} on a side can be opened. Nothing of it was kept.",
        ) from cause
    pictures: dict[str, tuple[str, io.BytesIO]] = {}
    try:
        layers = tuple(_layers(reader, said.entries, canvas, pictures))
        require_sound(layers)
    except (ValidationError, CoreError) as cause:
        raise PictureRefusedError(
            RefusalCode.DAMAGED,
            "The layered file holds layers that no picture can have: too many of "
            "them, or some that lie too far out. Nothing of it was kept.",
        ) from cause
    return Unpacked(Composite(canvas=canvas, layers=layers), pictures)


def _layers(
    reader: OpenRasterReader,
    entries: tuple[LayerEntry | StackEntry, ...],
    canvas: Canvas,
    pictures: dict[str, tuple[str, io.BytesIO]],
) -> Iterator[Layer]:
    """Make layers of a foreign file's entries, from back to front."""
    for entry in entries:
        if isinstance(entry, LayerEntry):
            yield _photo(reader, entry, pictures)
            continue
        inside = tuple(_layers(reader, entry.entries, canvas, pictures))
        plain = entry.opacity == 1 and entry.composite_op == PLAIN_OP
        if plain and entry.visible and not entry.isolated:
            yield from inside
        elif inside:
            name = _name(entry.name, "Group")
            box = box_round(inside, canvas)
            group = grouped(inside, group_id=str(uuid.uuid4()), name=name, box=box)
            yield with_fields(group, **_joining(entry))


def _photo(
    reader: OpenRasterReader,
    entry: LayerEntry,
    pictures: dict[str, tuple[str, io.BytesIO]],
) -> PhotoLayer:
    file = reader.open_layer(entry)
    facts = identify_picture(file)
    # The same picture in two layers is one picture.
    picture = str(uuid.UUID(hashlib.sha256(file.getvalue()).hexdigest()[:32]))
    name = _name(entry.name, "Layer")
    pictures.setdefault(picture, (name, file))
    layer = PhotoLayer(
        id=str(uuid.uuid4()),
        name=name,
        picture=picture,
        width=facts.width,
        height=facts.height,
        placement=Placement(
            x=entry.x + facts.width / 2,
            y=entry.y + facts.height / 2,
            scale_x=1,
            scale_y=1,
        ),
    )
    return with_fields(layer, **_joining(entry))


def _joining(entry: LayerEntry | StackEntry) -> dict[str, Any]:
    """Return how an entry joins; what we do not know counts as plain, as it should."""
    return {
        "blend": MODES.get(entry.composite_op, BlendMode.NORMAL),
        "opacity": entry.opacity,
        "visible": entry.visible,
    }


def _name(name: str, otherwise: str) -> str:
    return name.strip()[:LONGEST_NAME] or otherwise


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
