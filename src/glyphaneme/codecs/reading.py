"""Reads picture files of all kinds into straight sRGB pixels, upright."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, Any, BinaryIO, NamedTuple

import numpy as np
from PIL import Image, ImageCms

from glyphaneme.codecs.deep import deep_pixels, is_deep
from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode
from glyphaneme.codecs.kinds import DECODERS, SAID, kind_of
from glyphaneme.codecs.maptags import map_tags_of

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

MAX_PIXELS = 150_000_000
MAX_SIDE = 30_000
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
TURNED_BY_DECODERS = {"TIFF"}
"""Pillow's names of kinds that it and OpenCV turn by themselves, sizes and all."""
MEASURED_MODES = {"F", "I"}
"""Numbers whose range nobody says: heights, temperatures."""

# Sizes are checked by `identify_picture`, with our own limit and our own words.
Image.MAX_IMAGE_PIXELS = None


class PictureFacts(NamedTuple):
    """What a file's header tells: its format, and its size as it is seen upright."""

    format: str
    width: int
    height: int
    note: str | None
    """What people should know of how it was taken, such as that it has pages."""
    map_tags: dict[str, Any] | None
    """Where on a map it lies, as `map_tags_of` returns it."""


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
        kind = kind_of(str(image.format))
        count = _count(image)
        note = kind.more.format(count) if kind.more and count > 1 else None
        return PictureFacts(kind.name, width, height, note, map_tags_of(image))


def read_picture(file: BinaryIO) -> PixelsU8:
    """Read a picture: turned upright, colours converted to sRGB, alpha kept.

    Parameters
    ----------
    file : binary file
        Seekable; read from its start. Of several pictures in it, the first.

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
            return _upright(image, _decoded(file, image))
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
        image = Image.open(file, formats=DECODERS)
    except Exception as cause:
        raise PictureRefusedError(
            RefusalCode.UNKNOWN,
            f"This is not a picture of a kind that is read here ({SAID}), whatever its "
            "name ends in. Save it as one of those and bring that in.",
        ) from cause
    _require_size(image)
    _require_colors(image)
    return image


def _orientation(image: Image.Image) -> int:
    """Return the orientation that EXIF names, and that is left to be turned by.

    What cannot be read counts as upright.
    """
    if image.format in TURNED_BY_DECODERS:
        return UPRIGHT
    try:
        return int(image.getexif().get(ORIENTATION_TAG, UPRIGHT))
    except Exception:  # noqa: BLE001  # the pixels are worth having all the same
        return UPRIGHT


def _count(image: Image.Image) -> int:
    try:
        return int(getattr(image, "n_frames", 1))
    except Exception:  # noqa: BLE001  # the first is worth having all the same
        return 1


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


def _require_colors(image: Image.Image) -> None:
    if image.mode in MEASURED_MODES and image.format != "PNG":
        image.close()
        raise PictureRefusedError(
            RefusalCode.UNKNOWN,
            "The file holds measurements, such as heights, not colours. Save it as a "
            "picture of 8 or 16 bits and bring that in.",
        )


def _decoded(file: BinaryIO, image: Image.Image) -> PixelsU8:
    """Return pixels as the file holds them, but in sRGB."""
    profile = image.info.get("icc_profile")
    if is_deep(image):
        pixels = deep_pixels(file, image)
        if profile:
            color = _converted(Image.fromarray(pixels[..., :3]), profile)
            pixels[..., :3] = np.asarray(color.convert("RGB"))
        return pixels
    image.load()
    alpha = _alpha_of(image)
    color = _color_of(image)
    if profile:
        color = _converted(color, profile)
    pixels = np.empty((image.height, image.width, 4), np.uint8)
    pixels[..., :3] = np.asarray(_plain_rgb(color))
    pixels[..., 3] = 255 if alpha is None else alpha
    return pixels


def _upright(image: Image.Image, pixels: PixelsU8) -> PixelsU8:
    turn = TURNS.get(_orientation(image))
    if turn is None:
        return pixels
    return np.array(Image.fromarray(pixels).transpose(turn))


def _alpha_of(image: Image.Image) -> NDArray[np.uint8] | None:
    if not image.has_transparency_data:
        return None
    return np.asarray(image.convert("RGBA").getchannel("A"))


def _color_of(image: Image.Image) -> Image.Image:
    """Drop alpha and palettes and reduce 16 bit grey, which Pillow would clip."""
    if image.mode.startswith("I"):
        wide = np.asarray(image).astype(np.float64)
        return Image.fromarray(np.round(wide / 257).clip(0, 255).astype(np.uint8))
    if image.mode in {"LA", "La", "1"}:
        return image.convert("L")
    if image.mode in {"L", "RGB", "CMYK", "LAB"}:
        return image
    if image.mode == "RGBa":
        return image.convert("RGBA").convert("RGB")
    return image.convert("RGB")


def _plain_rgb(color: Image.Image) -> Image.Image:
    if color.mode != "LAB":
        return color.convert("RGB")
    lab = ImageCms.createProfile("LAB")
    srgb = ImageCms.createProfile("sRGB")
    return ImageCms.profileToProfile(color, lab, srgb, outputMode="RGB") or color


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
