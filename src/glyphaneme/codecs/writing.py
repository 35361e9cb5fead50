"""Writes finished pictures, band by band, with print size and colour profile."""

from __future__ import annotations

import tempfile
import zlib
from enum import StrEnum
from functools import cache
from typing import TYPE_CHECKING, Any, BinaryIO, NamedTuple

import numpy as np
from PIL import Image, ImageCms
from tifffile import TiffWriter

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from glyphaneme.core.arrays import PixelsU8

STRIP_ROWS = 64
COPIED_PIXELS = 25_000_000
"""Up to here an opaque PNG is copied to three channels; above, memory counts more."""

FULL_COLOR_QUALITY = 90
EXIF_X_RESOLUTION, EXIF_Y_RESOLUTION, EXIF_RESOLUTION_UNIT = 282, 283, 296
EXIF_INCH = 2


class FileFormat(StrEnum):
    """The formats that a picture can be saved in."""

    PNG = "png"
    JPEG = "jpeg"
    WEBP = "webp"
    TIFF = "tiff"

    @property
    def media_type(self) -> str:
        """The format's media type."""
        return f"image/{self.value}"

    @property
    def ending(self) -> str:
        """The usual ending of a file's name."""
        return {"jpeg": "jpg", "tiff": "tif"}.get(self.value, self.value)

    @property
    def longest_side(self) -> int:
        """How many pixels a side of a picture may have in this format."""
        return {"webp": 16_383, "jpeg": 65_535}.get(self.value, 2**31 - 1)

    @property
    def is_exact(self) -> bool:
        """Whether every pixel is kept as it is."""
        return self in {FileFormat.PNG, FileFormat.TIFF}

    @property
    def keeps_alpha(self) -> bool:
        """Whether see-through places stay see-through."""
        return self is not FileFormat.JPEG


class FileSpec(NamedTuple):
    """How a file shall be written; quality counts for JPEG and WebP alone."""

    format: FileFormat
    quality: int
    ppi: float


class Shape(NamedTuple):
    """Size of a whole picture, and whether nothing of it is see-through."""

    width: int
    height: int
    opaque: bool


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
        Format, quality 1..100, and pixels per inch.
    """
    height, width = pixels.shape[:2]
    shape = Shape(width, height, opaque=bool(pixels[..., 3].min() == 255))
    write_bands((pixels,), shape, file, spec)


def write_bands(
    bands: Iterable[PixelsU8], shape: Shape, file: BinaryIO, spec: FileSpec
) -> None:
    """Write a picture whose rows come band by band.

    A TIFF is written as they come; for the other formats they wait in a file on
    disk, from which the encoder takes them, so that no whole picture is in memory.
    WebP is the exception: its encoder needs all pixels at once.

    Parameters
    ----------
    bands : iterable of (rows, W, 4) uint8
        Straight RGBA, sRGB-encoded, from top to bottom.
    shape : Shape
        Of all bands together.
    file : binary file
        Where to write.
    spec : FileSpec
        Format, quality 1..100, and pixels per inch.
    """
    if spec.format is FileFormat.TIFF:
        _write_tiff(bands, shape, file, spec)
        return
    with tempfile.TemporaryFile() as scratch:
        for band in bands:
            scratch.write(np.ascontiguousarray(band).data)
        scratch.flush()
        size = (shape.height, shape.width, 4)
        waiting = np.memmap(scratch, np.uint8, mode="r", shape=size)
        _write_image(_mapped(waiting, shape, spec), file, spec)


def _mapped(pixels: PixelsU8, shape: Shape, spec: FileSpec) -> Image.Image:
    """Make an image of pixels without copying them, where Pillow can."""
    size = (shape.width, shape.height)
    if spec.format is FileFormat.JPEG:
        return Image.frombuffer("RGBX", size, pixels, "raw", "RGBX", 0, 1)
    image = Image.frombuffer("RGBA", size, pixels, "raw", "RGBA", 0, 1)
    if shape.opaque and shape.width * shape.height <= COPIED_PIXELS:
        return image.convert("RGB")
    return image


def _write_image(image: Image.Image, file: BinaryIO, spec: FileSpec) -> None:
    options: dict[str, Any] = {"icc_profile": _srgb_profile()}
    match spec.format:
        case FileFormat.JPEG:
            # Colour at full detail where quality matters, as edges of layers do.
            fine = spec.quality >= FULL_COLOR_QUALITY
            options |= {"quality": spec.quality, "subsampling": 0 if fine else 2}
            options["dpi"] = (spec.ppi, spec.ppi)
        case FileFormat.WEBP:
            options |= {"quality": spec.quality, "exif": _resolution_exif(spec.ppi)}
        case _:
            options |= {"compress_level": 4, "dpi": (spec.ppi, spec.ppi)}
    image.save(file, spec.format.value, **options)


def _write_tiff(
    bands: Iterable[PixelsU8], shape: Shape, file: BinaryIO, spec: FileSpec
) -> None:
    channels = 3 if shape.opaque else 4
    with TiffWriter(file) as writer:
        writer.write(
            _strips(bands, channels),
            shape=(shape.height, shape.width, channels),
            dtype=np.uint8,
            photometric="rgb",
            extrasamples=() if shape.opaque else ("unassalpha",),
            rowsperstrip=STRIP_ROWS,
            compression="zlib",
            predictor=True,
            resolution=(spec.ppi, spec.ppi),
            resolutionunit="INCH",
            iccprofile=_srgb_profile(),
            metadata=None,
        )


def _strips(bands: Iterable[PixelsU8], channels: int) -> Iterator[bytes]:
    """Cut bands of any height into compressed strips of the same one."""
    left: PixelsU8 | None = None
    for band in bands:
        rows = band[..., :channels]
        rows = rows if left is None else np.concatenate([left, rows])
        whole = len(rows) // STRIP_ROWS * STRIP_ROWS
        for top in range(0, whole, STRIP_ROWS):
            yield _deflated(rows[top : top + STRIP_ROWS])
        left = rows[whole:]
    if left is not None and len(left):
        yield _deflated(left)


def _deflated(strip: PixelsU8) -> bytes:
    """Compress by TIFF 6.0's horizontal differencing, section 14, and deflate."""
    differences = strip.copy()
    differences[:, 1:] -= strip[:, :-1]
    return zlib.compress(differences.tobytes(), 6)


def _resolution_exif(ppi: float) -> bytes:
    exif = Image.Exif()
    exif[EXIF_X_RESOLUTION] = exif[EXIF_Y_RESOLUTION] = ppi
    exif[EXIF_RESOLUTION_UNIT] = EXIF_INCH
    return exif.tobytes()


@cache
def _srgb_profile() -> bytes:
    return ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
