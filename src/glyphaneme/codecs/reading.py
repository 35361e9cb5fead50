"""Reads JPEG and PNG files into straight sRGB pixels, upright."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, BinaryIO, NamedTuple

import numpy as np
from PIL import Image, ImageCms

from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

MAX_PIXELS = 150_000_000
MAX_SIDE = 30_000
READ_FORMATS = ("JPEG", "PNG")
ORIENTATION_TAG = 0x0112
UPRIGHT = 1
TURNS = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}
"""What makes a picture upright, by the orientation that EXIF names."""
SIDEWAYS = {5, 6, 7, 8}

# Sizes are checked by `identify_picture`, with our own limit and our own words.
Image.MAX_IMAGE_PIXELS = None


class PictureFacts(NamedTuple):
    """What a file's header tells: its format, and its size as it is seen upright."""

    format: str
    width: int
    height: int


def identify_picture(file: BinaryIO) -> PictureFacts:
    """Read a file's header.

    Parameters
    ----------
    file : binary file
        Seekable; read from its start.

    Returns
    -------
    PictureFacts
        Width and height after the turn that the file asks for.

    Raises
    ------
    PictureRefusedError
        The file is empty, of another format, or holds too many pixels.
    """
    with _opened(file) as image:
        width, height = image.size
        if _orientation(image) in SIDEWAYS:
            width, height = height, width
        # MPO: a JPEG with more pictures behind it, as phones write.
        chosen = "JPEG" if image.format == "MPO" else str(image.format)
        return PictureFacts(chosen, width, height)


def read_picture(file: BinaryIO) -> PixelsU8:
    """Read a picture: turned upright, colours converted to sRGB, alpha kept.

    Parameters
    ----------
    file : binary file
        Seekable; read from its start.

    Returns
    -------
    (H, W, 4) uint8
        Straight RGBA, sRGB-encoded, C-contiguous.

    Raises
    ------
    PictureRefusedError
        As for `identify_picture`, or the file is damaged or cut short.
    """
    with _opened(file) as image:
        try:
            image.load()
            turn = TURNS.get(_orientation(image))
            return _srgb_pixels(image if turn is None else image.transpose(turn))
        # Decoders report damage by whatever they stumble over.
        except Exception as cause:
            raise PictureRefusedError(
                RefusalCode.DAMAGED,
                "The file is damaged or was cut short, so it cannot be shown whole. "
                "Copy it again from where it came from.",
            ) from cause


def _opened(file: BinaryIO) -> Image.Image:
    file.seek(0, io.SEEK_END)
    if file.tell() == 0:
        raise PictureRefusedError(
            RefusalCode.EMPTY,
            "The file is empty. Copy it again from where it came from.",
        )
    file.seek(0)
    try:
        image = Image.open(file, formats=READ_FORMATS)
    except Exception as cause:
        raise PictureRefusedError(
            RefusalCode.UNKNOWN,
            "This is not a JPEG or PNG picture, whatever its name ends in. "
            "Save it as JPEG or PNG and bring that in.",
        ) from cause
    _require_size(image)
    return image


def _orientation(image: Image.Image) -> int:
    """Return the orientation that EXIF names; what cannot be read counts as upright."""
    try:
        return int(image.getexif().get(ORIENTATION_TAG, UPRIGHT))
    except Exception:  # noqa: BLE001  # the pixels are worth having all the same
        return UPRIGHT


def _require_size(image: Image.Image) -> None:
    width, height = image.size
    if width * height > MAX_PIXELS or max(width, height) > MAX_SIDE:
        image.close()
        raise PictureRefusedError(
            RefusalCode.TOO_MANY_PIXELS,
            f"The picture is {width} × {height} pixels. Pictures may have up to "
            f"{MAX_PIXELS // 1_000_000} million pixels and {MAX_SIDE} on a side; "
            "bring in a smaller copy.",
        )


def _srgb_pixels(image: Image.Image) -> PixelsU8:
    profile = image.info.get("icc_profile")
    alpha = _alpha_of(image)
    color = _color_of(image)
    if profile:
        color = _converted(color, profile)
    pixels = np.empty((image.height, image.width, 4), np.uint8)
    pixels[..., :3] = np.asarray(color.convert("RGB"))
    pixels[..., 3] = 255 if alpha is None else alpha
    return pixels


def _alpha_of(image: Image.Image) -> NDArray[np.uint8] | None:
    if not image.has_transparency_data:
        return None
    return np.asarray(image.convert("RGBA").getchannel("A"))


def _color_of(image: Image.Image) -> Image.Image:
    """Drop alpha and palettes and reduce 16 bit grey, which Pillow would clip."""
    if image.mode.startswith("I"):
        wide = np.asarray(image).astype(np.float64)
        return Image.fromarray(np.round(wide / 257).clip(0, 255).astype(np.uint8))
    if image.mode in {"LA", "1"}:
        return image.convert("L")
    if image.mode in {"L", "RGB", "CMYK"}:
        return image
    return image.convert("RGB")


def _converted(color: Image.Image, profile: bytes) -> Image.Image:
    """Convert to sRGB by the file's profile; a broken profile is passed over."""
    try:
        source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
        if "sRGB" in ImageCms.getProfileDescription(source):
            return color
        converted = ImageCms.profileToProfile(
            color,
            source,
            ImageCms.createProfile("sRGB"),
            renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
            outputMode="RGB",
            flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )
    except (ImageCms.PyCMSError, OSError):
        return color
    return color if converted is None else converted
