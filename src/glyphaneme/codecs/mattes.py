"""Mattes as files: grey PNGs, one byte a pixel."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode
from glyphaneme.codecs.reading import identify_picture

if TYPE_CHECKING:
    from glyphaneme.core.cutout import MatteU8

MOST_PIXELS = 16_000_000
REFUSED = "A matte in the file is damaged or too large. Nothing of it was kept."


def encode_matte(matte: MatteU8) -> bytes:
    """Encode a matte.

    Parameters
    ----------
    matte : (H, W) uint8
        0..255, how much of each pixel is subject.

    Returns
    -------
    bytes
        A grey PNG.
    """
    # As it is by default: with a level of compression it takes three times as long.
    return bytes(cv2.imencode(".png", matte)[1])


def decode_matte(data: bytes) -> MatteU8:
    """Decode a matte.

    Parameters
    ----------
    data : bytes
        As `encode_matte` wrote it.

    Returns
    -------
    (H, W) uint8
        0..255.

    Raises
    ------
    PictureRefusedError
        It is none, or too large.
    """
    facts = identify_picture(io.BytesIO(data))
    size = facts.height, facts.width
    if facts.format != "PNG" or size[0] * size[1] > MOST_PIXELS:
        raise PictureRefusedError(RefusalCode.DAMAGED, REFUSED)
    try:
        matte = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_GRAYSCALE)
    except cv2.error as cause:
        raise PictureRefusedError(RefusalCode.DAMAGED, REFUSED) from cause
    if matte is None or matte.shape != size:
        raise PictureRefusedError(RefusalCode.DAMAGED, REFUSED)
    return np.asarray(matte, np.uint8)
