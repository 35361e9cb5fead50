"""Rendering a layered file to a picture, without a server or a database."""

from __future__ import annotations

from typing import TYPE_CHECKING, BinaryIO

from glyphaneme.codecs import FileFormat, FileSpec, Shape, write_bands
from glyphaneme.core.document.apart import piece
from glyphaneme.core.render import View, render_bands
from glyphaneme.core.values import with_fields
from glyphaneme.services.errors import ExportSizeError, NotThereError
from glyphaneme.services.layered_reading import assets_of_layered, read_layered

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite

LONGEST_SIDE = 65_535
WHITE = "#ffffff"
FORMAT_ENDINGS = {
    ".png": FileFormat.PNG,
    ".jpg": FileFormat.JPEG,
    ".jpeg": FileFormat.JPEG,
    ".webp": FileFormat.WEBP,
    ".tif": FileFormat.TIFF,
    ".tiff": FileFormat.TIFF,
}


def render_layered(
    source: BinaryIO,
    target: BinaryIO,
    chosen: FileFormat,
    *,
    width: int | None = None,
    scale: float = 1.0,
    layer_name: str | None = None,
) -> tuple[int, int]:
    """Render an OpenRaster file; returns width and height in pixels.

    `width` counts before `scale`. With `layer_name` that layer is rendered alone, at
    full strength. See-through places of a format without alpha become white.

    Raises
    ------
    PictureRefusedError
        The file cannot be opened.
    NoSuchWorkError
        The layer has no pixels of its own.
    NotThereError
        No layer is called that.
    ExportSizeError
        The picture would be too large.
    """
    unpacked = read_layered(source)
    assets = assets_of_layered(unpacked)
    composite = unpacked.composite
    if layer_name is not None:
        composite = _piece(composite, layer_name)
    canvas = composite.canvas
    if canvas.background is None and not chosen.keeps_alpha:
        canvas = with_fields(canvas, background=WHITE)
        composite = with_fields(composite, canvas=canvas)
    size = width or max(1, round(canvas.width * scale))
    scale = size / canvas.width
    _require_size(size, round(canvas.height * scale), chosen)
    shape = Shape(
        size,
        max(1, round(canvas.height * scale)),
        opaque=canvas.background is not None,
    )

    view = View(0, 0, shape.width, shape.height, scale)
    spec = FileSpec(chosen, quality=92, ppi=canvas.ppi * scale)
    pile = unpacked.composite.layers
    bands = render_bands(composite, assets, view, pile=pile)
    write_bands(bands, shape, target, spec)
    return shape.width, shape.height


def _require_size(width: int, height: int, chosen: FileFormat) -> None:
    longest = min(chosen.longest_side, LONGEST_SIDE)
    if max(width, height) > longest:
        raise ExportSizeError(width, height, f"at most {longest} on a side")


def _piece(composite: Composite, name: str) -> Composite:
    """Return a composite of one layer; one in a group stays where the group puts it.

    Raises
    ------
    NoSuchWorkError
        The layer has no pixels of its own.
    NotThereError
        No layer is called that.
    """
    for layer in composite.all_layers():
        if layer.name == name:
            return piece(composite, layer.id)
    what = f"layer called {name}"
    raise NotThereError(what)
