"""Reads pictures of 16 bits a channel, which Pillow would cut down, not round."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, BinaryIO

import cv2
import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray
    from PIL import Image

    from glyphaneme.core.arrays import PixelsU8

COLOUR_MODES = {"RGB", "RGBA", "RGBa", "RGBX", "LA"}
LEVEL = 257
"""Of 65536 levels, as many to one of 256: 65535 / 255."""
MOST = 65535


def is_deep(image: Image.Image) -> bool:
    """Tell whether a file holds colours of 16 bits a channel.

    Parameters
    ----------
    image : PIL.Image.Image
        Opened, not loaded.

    Returns
    -------
    bool
        By how Pillow would unpack it.
    """
    return _packing(image).partition(";")[0] in COLOUR_MODES and (
        ";16" in _packing(image)
    )


def deep_pixels(file: BinaryIO, image: Image.Image) -> PixelsU8:
    """Decode a file for which `is_deep` holds.

    Parameters
    ----------
    file : binary file
        PNG or TIFF, seekable.
    image : PIL.Image.Image
        The same file, opened.

    Returns
    -------
    (H, W, 4) uint8
        Straight RGBA in the file's own colours, each value rounded; PNG as it lies,
        TIFF upright.

    Raises
    ------
    ValueError
        It cannot be decoded.
    """
    file.seek(0)
    data = np.frombuffer(file.read(), np.uint8)
    decoded = cv2.imdecode(data, cv2.IMREAD_UNCHANGED | cv2.IMREAD_IGNORE_ORIENTATION)
    if decoded is None or decoded.dtype != np.uint16:
        raise ValueError("the file must hold 16 bits a channel")
    wide = _as_rgba(np.asarray(decoded))
    if _packing(image).startswith("RGBa"):
        wide = _straight(wide)
    # In whole numbers: a picture of 100 million pixels in float would be too large.
    return ((wide.astype(np.uint32) + LEVEL // 2) // LEVEL).astype(np.uint8)


def _as_rgba(decoded: NDArray[np.integer[Any]]) -> NDArray[np.uint16]:
    """Return four channels in our order."""
    if decoded.ndim == 2:  # grey
        converted = cv2.cvtColor(decoded, cv2.COLOR_GRAY2RGBA)
    elif decoded.shape[2] == 3:  # without alpha
        converted = cv2.cvtColor(decoded, cv2.COLOR_BGR2RGBA)
    else:
        converted = cv2.cvtColor(decoded, cv2.COLOR_BGRA2RGBA)
    return np.asarray(converted, np.uint16)


def _straight(premultiplied: NDArray[np.uint16]) -> NDArray[np.uint16]:
    alpha = premultiplied[..., 3:].astype(np.float32)
    share = np.divide(MOST, alpha, out=np.zeros_like(alpha), where=alpha > 0)
    straight = premultiplied.copy()
    straight[..., :3] = np.minimum(premultiplied[..., :3] * share + 0.5, MOST)
    return straight


def _packing(image: Image.Image) -> str:
    """Return Pillow's name for how the file packs its pixels, such as "RGB;16B"."""
    tiles = getattr(image, "tile", None)
    if not tiles:
        return ""
    arguments = tiles[0][3]
    found = arguments[0] if isinstance(arguments, tuple) else arguments
    return found if isinstance(found, str) else ""
