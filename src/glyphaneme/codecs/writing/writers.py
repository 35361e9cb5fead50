"""The table of all formats but PDF, whose pages `codecs.pdf` writes."""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any, BinaryIO, Final

from glyphaneme.codecs.writing.spec import Shape
from glyphaneme.codecs.writing.spooling import spooled
from glyphaneme.core.finish.formats import FileFormat

if TYPE_CHECKING:
    from collections.abc import Iterable

    from numpy.typing import NDArray

    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool
    from glyphaneme.core.arrays import PixelsU8

WRITERS: Final = {
    FileFormat.PNG: "png",
    FileFormat.JPEG: "jpeg",
    FileFormat.WEBP: "webp",
    FileFormat.AVIF: "avif",
    FileFormat.TIFF: "tiff",
    FileFormat.GIF: "gif",
}
"""Which module has the format's `write`; it is loaded when it is first needed.

A new format is a module, and a line here."""


def write_picture(pixels: PixelsU8, file: BinaryIO, spec: FileSpec) -> None:
    """Write pixels as a file that says it is sRGB and how large it prints.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, sRGB-encoded. A JPEG keeps the colours alone: lay the picture
        over a solid colour first.
    file : binary file
        Where to write.
    spec : FileSpec
        Format, quality, and pixels per inch.
    """
    height, width = pixels.shape[:2]
    shape = Shape(width, height, opaque=bool(pixels[..., 3].min() == 255))
    write_bands((pixels,), shape, file, spec)


def write_bands(
    bands: Iterable[NDArray[Any]], shape: Shape, file: BinaryIO, spec: FileSpec
) -> None:
    """Write a picture whose rows come band by band.

    They wait in a file on disk, from which the encoder takes them, so that no whole
    picture is in memory. WebP, AVIF and deep PNG are the exceptions: their encoders
    need all pixels at once.

    Parameters
    ----------
    bands : iterable of (rows, W, channels) uint8 or uint16
        The shape's inks and straight alpha, from top to bottom.
    shape : Shape
        Of all bands together.
    file : binary file
        Where to write.
    spec : FileSpec
        Format and settings.
    """
    with spooled(bands, shape) as spool:
        write_spooled(spool, file, spec)


def write_spooled(spool: Spool, file: BinaryIO, spec: FileSpec) -> None:
    """Write a picture that waits on disk; may be done again with other settings."""
    module = import_module(f"glyphaneme.codecs.writing.{WRITERS[spec.format]}")
    module.write(spool, file, spec)
