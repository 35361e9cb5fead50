"""Layered OpenRaster files to composites."""

from __future__ import annotations

import hashlib
import uuid
from typing import TYPE_CHECKING, Annotated, Any, BinaryIO, NamedTuple

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from glyphaneme.codecs import (
    PictureRefusedError,
    RefusalCode,
    decode_matte,
    identify_picture,
    read_picture,
)
from glyphaneme.codecs.openraster import (
    LayerEntry,
    OpenRasterReader,
    StackEntry,
)
from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import (
    Canvas,
    Composite,
    Layer,
    PhotoLayer,
    open_composite,
)
from glyphaneme.core.document.grouping import box_round, grouped
from glyphaneme.core.document.model import MAX_SIDE
from glyphaneme.core.document.naming import LONGEST_NAME
from glyphaneme.core.document.tree import require_sound
from glyphaneme.core.errors import CoreError
from glyphaneme.core.mask import Raster
from glyphaneme.core.mask.paintings import Painting, painted_all
from glyphaneme.core.mask.strokes import NamedStroke, require_strokes_named
from glyphaneme.core.place import Placement, build_pyramid
from glyphaneme.core.render import (
    all_needed,
    laid_patches,
    mended_copy,
    own_pyramid,
)
from glyphaneme.core.values import with_fields
from glyphaneme.core.words import FontId
from glyphaneme.core.words.faces import Face
from glyphaneme.services.layered_ops import MODES, PLAIN_OP

if TYPE_CHECKING:
    import io
    from collections.abc import Iterable, Iterator, Mapping

    from glyphaneme.core.render import Assets

MASKS_PICTURE = "Mask"
"""How a picture is called that only masks are made of."""
USUAL_PPI = (1, 4800)


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
    fonts: tuple[FontId, ...] = Field(default=(), max_length=200)
    """Those that may travel along; they lie there too."""


class Unpacked(NamedTuple):
    """A composite whose pictures are still files in memory."""

    composite: Composite
    pictures: dict[str, tuple[str, io.BytesIO]]
    """Picture id to a name for people, and the file."""
    strokes: tuple[NamedStroke, ...] = ()
    mattes: Mapping[str, bytes] = {}
    """Their files, by name."""
    fonts: Mapping[str, bytes] = {}
    """The same for fonts."""


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


def painted_by(
    strokes: Iterable[NamedStroke], wanted: Iterable[str]
) -> dict[str, Painting]:
    """Return what strokes leave, by the ids of the last ones."""
    by_id = {stroke.id: stroke for stroke in strokes}
    found = {}
    for last in wanted:
        chain = []
        named: str | None = last
        while named is not None:
            chain.append(by_id[named].stroke)
            named = by_id[named].previous
        found[last] = painted_all(Painting(), chain[::-1])
    return found


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
    paintings = painted_by(unpacked.strokes, needed.paintings)
    mattes = {
        part.raster: Raster(decode_matte(unpacked.mattes[part.matte]), part.share)
        for part in needed.mattes
    }
    mended = {
        one.name: mended_copy(one, pyramids[one.picture]) for one in needed.mended
    }
    assets: Assets = {**pyramids, **mended, **rasters, **mattes, **paintings}
    own = {one.name: own_pyramid(one, assets) for one in needed.own_colors}
    fonts = {name: Face(data) for name, data in unpacked.fonts.items()}
    assets = {**assets, **own, **fonts}
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
    fonts = {name: reader.own_picture(name).getvalue() for name in own.fonts}
    return Unpacked(own.composite, pictures, own.strokes, mattes, fonts)


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
