"""Pictures enlarged well, for files in which they are larger than their pixels."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

import cv2
import numpy as np

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

MOST_DOUBLED: Final = 2
"""Beyond four times nothing is left to be found: it stays smooth."""
ROWS: Final = 256
REACH: Final = 8
"""How many rows beyond a band its pixels follow from."""


def doublings_for(enlarged: float) -> int:
    """Return how often a picture is doubled for being shown so much enlarged.

    Parameters
    ----------
    enlarged : float
        Shown pixels for one of its own, along a side.

    Returns
    -------
    int
        0, 1 or 2; 0 where it is hardly enlarged.

    Examples
    --------
    >>> [doublings_for(one) for one in (0.5, 1.0, 1.6, 3.0, 40.0)]
    [0, 0, 1, 2, 2]
    """
    if enlarged <= 1 + 1 / 16:
        return 0
    return min(MOST_DOUBLED, math.ceil(math.log2(enlarged)))


def enlarge_into(pixels: PixelsU8, power: int, out: PixelsU8) -> None:
    """Enlarge a picture by Lanczos resampling.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA.
    power : int
        How often it is doubled.
    out : (H * 2**power, W * 2**power, 4) uint8
        What is written into, band by band; colours count by how much they show, so
        that none of what is see-through comes to be seen.

    References
    ----------
    .. [1] C. E. Duchon, "Lanczos Filtering in One and Two Dimensions", Journal of
       Applied Meteorology 18, 1979.

    Examples
    --------
    >>> flat = np.full((4, 4, 4), 200, np.uint8)
    >>> out = np.empty((8, 8, 4), np.uint8)
    >>> enlarge_into(flat, 1, out)
    >>> int(out.min()), int(out.max())
    (200, 200)
    """
    times = 2**power
    opaque = bool(pixels[..., 3].min() == np.iinfo(np.uint8).max)
    for top in range(0, len(pixels), ROWS):
        begin, end = max(0, top - REACH), min(len(pixels), top + ROWS + REACH)
        band = pixels[begin:end]
        rows = min(ROWS, len(pixels) - top)
        first = (top - begin) * times
        large = _enlarged(band, times, opaque=opaque)
        out[top * times : (top + rows) * times] = large[first : first + rows * times]


def _enlarged(band: PixelsU8, times: int, *, opaque: bool) -> PixelsU8:
    size = (band.shape[1] * times, band.shape[0] * times)
    if opaque:
        return np.asarray(cv2.resize(band, size, interpolation=cv2.INTER_LANCZOS4))
    shown = band.astype(np.float32)
    shown[..., :3] *= shown[..., 3:] / 255
    large = cv2.resize(shown, size, interpolation=cv2.INTER_LANCZOS4)
    # Clipped only after the division: both overshoot alike along an edge.
    alpha = large[..., 3:]
    colors = np.divide(
        large[..., :3] * 255, alpha, out=np.zeros_like(large[..., :3]), where=alpha > 0
    )
    straight = np.concatenate([colors, alpha], axis=-1)
    return np.asarray(np.clip(straight.round(), 0, 255), np.uint8)
