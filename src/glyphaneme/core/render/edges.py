"""Shows the edge of a mask alone."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

NEIGHBOURS = cv2.getStructuringElement(cv2.MORPH_RECT, (3, 3))


def edge_of(shown: PixelsU8) -> PixelsU8:
    """Return where a mask is neither all hidden nor all shown, or where both meet.

    Parameters
    ----------
    shown : (H, W, 4) uint8
        The mask as grey, 255 where the layer shows; opaque.

    Returns
    -------
    (H, W, 4) uint8
        White at its edge and black elsewhere: with m shown, the greater of 4 m (1 - m)
        and of the difference between the greatest and least m of 3 by 3 pixels.

    Examples
    --------
    >>> halves = np.full((4, 6, 4), 255, np.uint8)
    >>> halves[:, :3, :3] = 0
    >>> edge_of(halves)[0, :, 0].tolist()
    [0, 0, 255, 255, 0, 0]
    """
    grey = np.ascontiguousarray(shown[..., 0])
    share = grey.astype(np.float32) / 255
    soft = (4 * 255 * share * (1 - share) + 0.5).astype(np.uint8)
    hard = cv2.morphologyEx(grey, cv2.MORPH_GRADIENT, NEIGHBOURS)
    out = np.empty_like(shown)
    out[..., :3] = np.maximum(soft, hard)[..., np.newaxis]
    out[..., 3] = 255
    return out
