"""Masks whose pixels follow from their neighbours: grown, rounded off, softened."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import cv2
import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.mask import Mask

    Alpha = NDArray[np.uint8]

WIDEST = 3.0
"""How many standard deviations of a Gaussian count."""
SHARPENED = 2.0


def reach_of_settling(mask: Mask, scale: float) -> int:
    """Return how far beyond a view pixels count in it.

    Parameters
    ----------
    mask : Mask
        The recipe.
    scale : float
        How many shown pixels one of the mask's covers.

    Returns
    -------
    int
        Shown pixels.
    """
    return math.ceil(
        (abs(mask.grown) + WIDEST * (mask.softened + mask.smoothed)) * scale
    )


def settled_alpha(alpha: Alpha, mask: Mask, scale: float) -> Alpha:
    """Grow, round off and soften what a mask leaves, as it says.

    Parameters
    ----------
    alpha : (H, W) uint8
        What its parts leave.
    mask : Mask
        The recipe.
    scale : float
        How many shown pixels one of the mask's covers.

    Returns
    -------
    (H, W) uint8
        As large.
    """
    alpha = _grown(alpha, mask.grown * scale)
    if mask.smoothed:
        alpha = _smoothed(alpha, mask.smoothed * scale)
    return _softened(alpha, mask.softened * scale) if mask.softened else alpha


def _grown(alpha: Alpha, radius: float) -> Alpha:
    """Grow what shows by some pixels, or shrink it; nearly as a disk would.

    Every third step is by a square, the others by a cross, which reaches as far as an
    octagon; between whole steps it is mixed.
    """
    change = cv2.dilate if radius > 0 else cv2.erode
    shapes = [
        cv2.getStructuringElement(shape, (3, 3))
        for shape in (cv2.MORPH_CROSS, cv2.MORPH_RECT, cv2.MORPH_CROSS)
    ]
    steps, rest = divmod(abs(radius), 1)
    for step in range(int(steps)):
        alpha = np.asarray(change(alpha, shapes[step % 3]), np.uint8)
    if rest:
        beyond = change(alpha, shapes[int(steps) % 3])
        mixed = cv2.addWeighted(alpha, 1 - rest, beyond, rest, 0)
        alpha = np.asarray(mixed, np.uint8)
    return alpha


def _softened(alpha: Alpha, sigma: float) -> Alpha:
    soft = cv2.GaussianBlur(alpha, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(soft, np.uint8)


def _smoothed(alpha: Alpha, sigma: float) -> Alpha:
    """Round an outline off: blur it, and make the blurred edge as hard as it may be."""
    blurred = _softened(alpha, sigma).astype(np.float32)
    harder = (blurred - 127.5) * (SHARPENED * max(sigma, 0.5)) + 127.5
    return np.asarray(np.clip(harder + 0.5, 0, 255), np.uint8)
