"""Rendering a layered file to a picture, without a server or a database."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, Any, BinaryIO, Final

from glyphaneme.codecs import write_spooled
from glyphaneme.codecs.comparing import Shown, comparison_page
from glyphaneme.core.document.apart import piece
from glyphaneme.core.finish import FileFormat
from glyphaneme.core.finish.sizes import WidthSize
from glyphaneme.core.values import with_fields
from glyphaneme.services.errors import FinishedFileError, NotThereError
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import Making, rendered, require_size
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


SIDES: Final = ("Before", "After")


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
    require_size(making.dimensions, settings)
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
            require_size(making.dimensions, settings)
            yield making

    return int(write_pages(makings(), len(files), target, Silent())["pages"])


def render_comparison(
    files: Sequence[Path], target: BinaryIO, settings: FileSettings
) -> None:
    """Render two OpenRaster files as a page with a bar between them.

    Raises
    ------
    PictureRefusedError
        One of the files cannot be opened.
    FinishedFileError
        They are not two, or not of one shape.
    """
    if len(files) != len(SIDES):
        message = "two files are compared: what was before, and what is after"
        raise FinishedFileError(message)
    shown: list[Shown] = []
    sizes: list[tuple[int, int]] = []
    for file, caption in zip(files, SIDES, strict=True):
        with file.open("rb") as source:
            unpacked = read_layered(source)
        wanted = with_fields(settings, format=FileFormat.JPEG, bits=8)
        if sizes:
            wanted = with_fields(wanted, size=WidthSize(width=sizes[0][0]))
        making = Making(
            unpacked.composite,
            unpacked.composite.layers,
            assets_of_layered(unpacked),
            wanted,
        )
        data = io.BytesIO()
        with rendered(making, Silent()) as (spool, spec):
            write_spooled(spool, data, spec)
        sizes.append((spool.shape.width, spool.shape.height))
        shown.append(Shown(data.getvalue(), "image/jpeg", caption))
    if abs(sizes[0][1] - sizes[1][1]) > 1:
        message = "the two pictures have other proportions, and cannot be compared"
        raise FinishedFileError(message)
    page = comparison_page(shown[0], shown[1], sizes[0], files[1].stem)
    target.write(page.encode())


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
