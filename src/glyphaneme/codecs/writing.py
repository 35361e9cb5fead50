"""Writes finished pictures with their print size and colour profile."""

from __future__ import annotations

from enum import StrEnum
from functools import cache
from typing import TYPE_CHECKING, BinaryIO, NamedTuple

from PIL import Image, ImageCms

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8


class FileFormat(StrEnum):
    """The formats that a picture can be saved in."""

    PNG = "png"
    JPEG = "jpeg"

    @property
    def media_type(self) -> str:
        """The format's media type."""
        return f"image/{self.value}"

    @property
    def ending(self) -> str:
        """The usual ending of a file's name."""
        return "jpg" if self is FileFormat.JPEG else self.value


class FileSpec(NamedTuple):
    """How a file shall be written; quality counts for JPEG alone."""

    format: FileFormat
    quality: int
    ppi: float


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
    image = Image.fromarray(pixels)
    if spec.format is FileFormat.JPEG or pixels[..., 3].min() == 255:
        image = image.convert("RGB")
    shared = {"dpi": (spec.ppi, spec.ppi), "icc_profile": _srgb_profile()}
    if spec.format is FileFormat.JPEG:
        # Colour at full detail where quality matters, as edges between layers do.
        subsampling = 0 if spec.quality >= 90 else 2
        image.save(
            file, "JPEG", quality=spec.quality, subsampling=subsampling, **shared
        )
    else:
        image.save(file, "PNG", compress_level=4, **shared)


@cache
def _srgb_profile() -> bytes:
    return ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
