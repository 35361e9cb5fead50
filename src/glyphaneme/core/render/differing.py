"""Where pictures that are nearly alike differ, so that one can look there."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

WHOLE: Rect[float] = Rect(0.0, 0.0, 1.0, 1.0)
LOOKED_AT = 64
"""Pixels along the longer side: small pictures tell well enough where to look."""
DIFFERS_FROM = 3
"""Levels of 255; less is not seen."""
HOLDS = 0.6
"""How much of all differences a window holds."""
SHARES = np.linspace(0.15, 0.75, 13)
"""Sides of windows, of the picture's sides; larger ones are the whole picture."""


def telling_window(pictures: Sequence[PixelsU8], *, least: float = 0) -> Rect[float]:
    """Return the smallest window in which most of what tells pictures apart lies.

    Each picture counts alike, however strongly it differs from what most of them are.

    Parameters
    ----------
    pictures : sequence of (H, W, 4) uint8
        At least one, all of one size.
    least : float, 0..1
        How small the window's sides may be at least, of the picture's sides.

    Returns
    -------
    Rect of float, 0..1
        Of the picture's sides, with their proportion; all of it where the pictures
        differ nowhere, or nearly everywhere.

    Examples
    --------
    >>> plain = np.zeros((50, 50, 4), np.uint8)
    >>> spotted = plain.copy()
    >>> spotted[20:22, 20:22] = 255
    >>> [round(side, 3) for side in telling_window([plain, spotted])]
    [0.345, 0.345, 0.495, 0.495]
    >>> telling_window([plain, plain]) == WHOLE
    True
    """
    differences = _differences(pictures)
    total = differences.sum()
    if total == 0:
        return WHOLE
    sums = cv2.integral(differences)
    height, width = differences.shape
    for share in SHARES[least <= SHARES]:
        rows, columns = max(1, round(height * share)), max(1, round(width * share))
        held = (
            sums[rows:, columns:]
            - sums[:-rows, columns:]
            - sums[rows:, :-columns]
            + sums[:-rows, :-columns]
        )
        if held.max() >= HOLDS * total:
            top, left = divmod(int(held.argmax()), held.shape[1])
            inner = Rect(left, top, left + columns, top + rows)
            return _round_middle(differences, inner, float(share))
    return WHOLE


def _differences(pictures: Sequence[PixelsU8]) -> NDArray[np.float64]:
    """Return how much tells pictures apart by place: 1 in all for each that differs."""
    height, width = pictures[0].shape[:2]
    scale = min(1, LOOKED_AT / max(width, height))
    size = max(1, round(width * scale)), max(1, round(height * scale))
    small = [cv2.resize(one, size, interpolation=cv2.INTER_AREA) for one in pictures]
    stack = np.stack(small).astype(np.float64)
    apart = np.abs(stack - np.median(stack, axis=0)).max(axis=-1)
    apart[apart < DIFFERS_FROM] = 0
    totals = apart.sum(axis=(1, 2), keepdims=True)
    shares = np.divide(apart, totals, out=np.zeros_like(apart), where=totals > 0)
    return np.ascontiguousarray(shares.sum(axis=0))


def _round_middle(
    differences: NDArray[np.float64], inner: Rect[int], share: float
) -> Rect[float]:
    """Return a window round the middle of what differs, as far as there is room."""
    height, width = differences.shape
    moments = cv2.moments(differences[inner.window])
    across = inner.left + moments["m10"] / moments["m00"] + 0.5
    down = inner.top + moments["m01"] / moments["m00"] + 0.5
    left = float(np.clip(across / width - share / 2, 0, 1 - share))
    top = float(np.clip(down / height - share / 2, 0, 1 - share))
    return Rect(left, top, left + share, top + share)
