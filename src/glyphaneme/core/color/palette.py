"""The few colours that a picture is mostly made of."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core.checks import require_pixels

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

ROUNDS = 20
MOVED = 0.5
"""Colours that move less than this, in L*a*b* units, have settled."""


def palette_of(pixels: PixelsU8, *, count: int = 6) -> tuple[str, ...]:
    """Find the colours that stand for a picture.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, sRGB-encoded; a small copy of the picture is enough.
    count : int, 1..16
        How many colours at most.

    Returns
    -------
    tuple of str
        Such as "#ff8000", from dark to light, none twice; empty where the picture
        is clear.

    Raises
    ------
    PixelsShapeError
        `pixels` has another shape, dtype or order.

    References
    ----------
    .. [1] S. Lloyd, "Least squares quantization in PCM", IEEE Transactions on
       Information Theory 28(2), 1982, doi:10.1109/TIT.1982.1056489; run in CIE
       L*a*b*, started from quantiles of lightness so that it never varies.

    Examples
    --------
    >>> two = np.zeros((4, 8, 4), np.uint8)
    >>> two[:, :4] = (255, 0, 0, 255)
    >>> two[:, 4:] = (255, 255, 255, 255)
    >>> palette_of(two, count=2)
    ('#ff0000', '#ffffff')
    """
    require_pixels(pixels)
    seen = pixels[pixels[..., 3] > 127][:, :3]
    if len(seen) == 0:
        return ()
    if len(seen) == 1:
        # Of one sample OpenCV makes no clusters.
        seen = np.repeat(seen, 2, axis=0)
    lab = cv2.cvtColor((seen[None] / 255).astype(np.float32), cv2.COLOR_RGB2LAB)[0]
    count = min(count, len(np.unique(seen, axis=0)))
    rank = np.argsort(np.argsort(lab[:, 0], kind="stable"), kind="stable")
    labels = (rank * count // len(lab)).astype(np.int32)[:, None]
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, ROUNDS, MOVED)
    _, _, centres = cv2.kmeans(
        lab, count, labels, stop, 1, cv2.KMEANS_USE_INITIAL_LABELS
    )
    by_lightness = centres[np.argsort(centres[:, 0])]
    rgb = cv2.cvtColor(by_lightness[None].astype(np.float32), cv2.COLOR_LAB2RGB)[0]
    levels = np.clip(np.rint(rgb * 255), 0, 255).astype(int)
    return tuple(dict.fromkeys("#{:02x}{:02x}{:02x}".format(*one) for one in levels))
