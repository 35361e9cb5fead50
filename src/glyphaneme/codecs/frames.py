"""Encodes what the page shows: quickly, and small."""

from __future__ import annotations

import struct
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core.render import split_frame

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.place import Pyramid

THUMBNAIL_SIDE = 320
FULL_COLOR_QUALITY = 90


def encode_frame(frame: PixelsU8, *, quality: int = 85) -> bytes:
    """Encode a frame of the stage.

    Parameters
    ----------
    frame : (H, W, 4) uint8
        Straight RGBA.
    quality : int, 1..100
        JPEG quality; from 90 on, colour keeps its full resolution.

    Returns
    -------
    bytes
        Two numbers of four bytes, big endian: how long two JPEGs are; then those:
        the premultiplied colour and, in grey, the veil, 255 - alpha. The second has no
        bytes where nothing is see-through. Frames follow one another as they are.
    """
    color, veil = split_frame(frame)
    first = _jpeg(cv2.cvtColor(color, cv2.COLOR_RGB2BGR), quality)
    second = b"" if veil is None else _jpeg(veil, quality)
    return struct.pack(">II", len(first), len(second)) + first + second


def encode_thumbnail(pyramid: Pyramid) -> bytes:
    """Encode a small copy of a picture for the shelf.

    Parameters
    ----------
    pyramid : Pyramid
        The picture.

    Returns
    -------
    bytes
        A PNG where the picture has see-through places, else a JPEG, at most 320
        pixels on its longer side.
    """
    longer = max(pyramid.width, pyramid.height)
    scale = min(1.0, THUMBNAIL_SIDE / longer)
    level = pyramid.levels[pyramid.level_for(scale)]
    size = (max(1, round(pyramid.width * scale)), max(1, round(pyramid.height * scale)))
    small = cv2.resize(np.asarray(level), size, interpolation=cv2.INTER_AREA)
    if pyramid.opaque:
        return _jpeg(cv2.cvtColor(small, cv2.COLOR_RGBA2BGR), 85)
    return bytes(cv2.imencode(".png", cv2.cvtColor(small, cv2.COLOR_RGBA2BGRA))[1])


def _jpeg(pixels: NDArray[np.uint8] | cv2.typing.MatLike, quality: int) -> bytes:
    options = [cv2.IMWRITE_JPEG_QUALITY, quality]
    if quality >= FULL_COLOR_QUALITY:
        options += [
            cv2.IMWRITE_JPEG_SAMPLING_FACTOR,
            cv2.IMWRITE_JPEG_SAMPLING_FACTOR_444,
        ]
    done, data = cv2.imencode(".jpg", pixels, options)
    if not done:
        height, width = pixels.shape[:2]
        message = f"a JPEG must have 1..65500 pixels a side; got {width} by {height}"
        raise ValueError(message)
    return bytes(data)
