"""Opening layered files as projects."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, BinaryIO

from glyphaneme.codecs import PictureRefusedError, RefusalCode
from glyphaneme.core.document import (
    Composite,
    GroupLayer,
    Layer,
    PhotoLayer,
    WordsLayer,
)
from glyphaneme.core.mask import RasterPart
from glyphaneme.core.render import all_needed
from glyphaneme.core.values import with_fields
from glyphaneme.services.cutting import keep_brought
from glyphaneme.services.fonts import keep_font
from glyphaneme.services.layered_reading import read_layered
from glyphaneme.services.painting import keep_named
from glyphaneme.services.pictures import BroughtIn, bring_in, name_from_file
from glyphaneme.services.projects import begin_project

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glyphaneme.core.mask import Mask
    from glyphaneme.services.layered_reading import Unpacked
    from glyphaneme.services.studio import Visit


def open_layered(visit: Visit, file: BinaryIO, *, file_name: str) -> uuid.UUID:
    """Make a project of an OpenRaster file, and pictures of what lies in it.

    Raises
    ------
    PictureRefusedError
        It cannot be opened; nothing of it was kept.
    NamelessFileError
        Nothing of the file's name can be read.
    """
    name = name_from_file(file_name)
    unpacked = read_layered(file)
    shown = {
        layer.picture
        for layer in unpacked.composite.all_layers()
        if isinstance(layer, PhotoLayer)
    }
    brought = {
        picture: bring_in(
            visit, data, file_name=f"{called}.png", on_shelf=picture in shown
        )
        for picture, (called, data) in unpacked.pictures.items()
    }
    keep_named(visit, unpacked.strokes)
    _keep_mattes(visit, unpacked)
    for name, data in unpacked.fonts.items():
        keep_font(visit, name, data)
    project_id = uuid.uuid4()
    composite = unpacked.composite
    layers = tuple(_with_pictures(layer, brought) for layer in composite.layers)
    begin_project(
        visit,
        project_id=project_id,
        name=name,
        composite=Composite(canvas=composite.canvas, layers=layers),
    )
    return project_id


def _keep_mattes(visit: Visit, unpacked: Unpacked) -> None:
    """Keep the mattes of a file.

    Raises
    ------
    PictureRefusedError
        One is damaged, or not the one that it is called.
    """
    for part in all_needed(unpacked.composite).mattes:
        data = unpacked.mattes[part.matte]
        if keep_brought(visit.session, data, part.level) != part.matte:
            raise PictureRefusedError(
                RefusalCode.DAMAGED,
                "A matte in the file is not the one that its layer names. Nothing of "
                "the file was kept; save it anew and bring that in.",
            )


def _with_pictures(layer: Layer, brought: Mapping[str, BroughtIn]) -> Layer:
    """Return the layer with the ids that its pictures have on our shelf.

    Raises
    ------
    PictureRefusedError
        A picture is not as large as its layer says.
    """
    layer = with_fields(layer, mask=_mask_with_pictures(layer.mask, brought))
    if isinstance(layer, GroupLayer):
        members = tuple(_with_pictures(one, brought) for one in layer.layers)
        return with_fields(layer, layers=members)
    if isinstance(layer, WordsLayer) and layer.stand_in is not None:
        return with_fields(layer, stand_in=str(brought[layer.stand_in].id))
    if not isinstance(layer, PhotoLayer):
        return layer
    picture = brought[layer.picture]
    if (picture.width, picture.height) != (layer.width, layer.height):
        raise PictureRefusedError(
            RefusalCode.DAMAGED,
            f"The picture of {layer.name} is not as large as its layer says. Nothing "
            "of the file was kept; save it anew and bring that in.",
        )
    return with_fields(layer, picture=str(picture.id))


def _mask_with_pictures(
    mask: Mask | None, brought: Mapping[str, BroughtIn]
) -> Mask | None:
    if mask is None:
        return None
    parts = tuple(
        with_fields(part, picture=str(brought[part.picture].id))
        if isinstance(part, RasterPart)
        else part
        for part in mask.parts
    )
    return with_fields(mask, parts=parts)
