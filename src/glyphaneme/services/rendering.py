"""Rendering a layered file to a picture, without a server or a database."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, BinaryIO

from glyphaneme.core.document.apart import piece
from glyphaneme.core.finish import FileFormat
from glyphaneme.services.errors import NotThereError
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import Making, require_size
from glyphaneme.services.layered_reading import assets_of_layered, read_layered
from glyphaneme.services.paging import write_pages
from glyphaneme.services.profiles import COATED

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence
    from pathlib import Path

    from glyphaneme.core.document import Composite
    from glyphaneme.core.finish import FileSettings

FORMAT_ENDINGS = {
    ".png": FileFormat.PNG,
    ".jpg": FileFormat.JPEG,
    ".jpeg": FileFormat.JPEG,
    ".webp": FileFormat.WEBP,
    ".avif": FileFormat.AVIF,
    ".tif": FileFormat.TIFF,
    ".tiff": FileFormat.TIFF,
    ".gif": FileFormat.GIF,
    ".pdf": FileFormat.PDF,
}


class Silent:
    """Nobody hears how far the work is."""

    def report(self, share: float, /) -> None:
        """Hear it."""


def render_layered(
    source: BinaryIO,
    target: BinaryIO,
    settings: FileSettings,
    *,
    layer_name: str | None = None,
    profile: tuple[bytes, str] | None = None,
) -> tuple[int, int]:
    """Render an OpenRaster file; returns width and height in pixels.

    With `layer_name` that layer is rendered alone, at full strength. A printer's
    profile comes with its name.

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
    composite = unpacked.composite
    if layer_name is not None:
        composite = _piece(composite, layer_name)
    making = Making(
        composite,
        unpacked.composite.layers,
        assets_of_layered(unpacked),
        settings,
        **_printed_with(profile),
    )
    require_size(making.plan, settings)
    found = write_file(making, target, Silent())
    return found["width"], found["height"]


def render_pages(
    files: Sequence[Path],
    target: BinaryIO,
    settings: FileSettings,
    *,
    profile: tuple[bytes, str] | None = None,
) -> int:
    """Render OpenRaster files as pages of one PDF; returns how many there are.

    Raises
    ------
    PictureRefusedError
        One of the files cannot be opened.
    ExportSizeError
        A page would be too large.
    """

    def makings() -> Iterator[Making]:
        for file in files:
            with file.open("rb") as source:
                unpacked = read_layered(source)
            making = Making(
                unpacked.composite,
                unpacked.composite.layers,
                assets_of_layered(unpacked),
                settings,
                **_printed_with(profile),
            )
            require_size(making.plan, settings)
            yield making

    return int(write_pages(makings(), len(files), target, Silent())["pages"])


def _printed_with(profile: tuple[bytes, str] | None) -> dict[str, Any]:
    data, name = profile or (None, COATED)
    return {"profile": data, "printer": name}


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
