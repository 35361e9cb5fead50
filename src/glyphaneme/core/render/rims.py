"""Marks what is left of an old backdrop along a layer's edge, where it would show."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

    ValuesF32 = NDArray[np.float32]

REACH = 9.0
"""Standard deviation, in shown pixels, of what lies round a place."""
INSIDE, OUTSIDE = 0.97, 0.03
SUSPECT = 10 / 255
"""How far what remains must be from what lies behind to be marked."""
SEVERE = 40 / 255
DIMMED = 0.3


def rim_of(cut: PixelsU8, whole: PixelsU8, behind: PixelsU8) -> PixelsU8:
    """Return a dimmed picture with suspect rim pixels in white.

    Along the edge a colour is some of the subject's, as it is inside near by, and some
    of the old backdrop's, as it is outside near by. How much is the backdrop's follows
    from where the colour lies between both; it is suspect as far as it shows there,
    alpha times, and as the backdrop differs from what lies behind now.

    Parameters
    ----------
    cut : (H, W, 4) uint8
        The layer alone, as it shows; straight RGBA.
    whole : (H, W, 4) uint8
        The same without its mask.
    behind : (H, W, 4) uint8
        What lies behind it.

    Returns
    -------
    (H, W, 4) uint8
        Opaque grey: dark where nothing is wrong, and up to white at a rim.
    """
    alpha = np.asarray(cut[..., 3], np.float32) / np.float32(255)
    ground = _over(behind, np.ones((1, 3), np.float32))
    shown = _over(cut, ground)
    grey = DIMMED * shown.mean(-1)
    there = whole[..., 3] > 0
    subject, inner = _round_about(cut, alpha > INSIDE)
    backdrop, outer = _round_about(whole, (alpha < OUTSIDE) & there)
    color = cut[..., :3].astype(np.float32) / 255
    between = backdrop - subject
    apart = (between * between).sum(-1)
    along = ((color - subject) * between).sum(-1) / np.maximum(apart, 1e-4)
    remains = np.clip(along, 0, 1) * alpha
    visible = remains * np.sqrt(((backdrop - ground) ** 2).mean(-1))
    edge = (inner > 0) & (outer > 0) & (alpha > OUTSIDE) & _near_edge(alpha)
    strength = np.clip((visible - SUSPECT) / (SEVERE - SUSPECT), 0, 1) * edge
    marked = np.where(visible > SUSPECT, 0.55 + 0.45 * strength, grey)
    grey = np.where(edge, np.maximum(grey, marked), grey)
    out = np.empty_like(cut)
    out[..., :3] = (np.clip(grey, 0, 1) * 255 + 0.5).astype(np.uint8)[..., None]
    out[..., 3] = 255
    return out


def _over(pixels: PixelsU8, ground: ValuesF32) -> ValuesF32:
    share = pixels[..., 3:].astype(np.float32) / 255
    laid = pixels[..., :3].astype(np.float32) / 255 * share + ground * (1 - share)
    return np.asarray(laid, np.float32)


def _round_about(
    pixels: PixelsU8, counts: NDArray[np.bool_]
) -> tuple[ValuesF32, ValuesF32]:
    """Return the average colour of what counts round each pixel, and how much does."""
    weight = counts.astype(np.float32)
    colors = pixels[..., :3].astype(np.float32) / 255 * weight[..., None]
    summed = cv2.GaussianBlur(colors, (0, 0), REACH)
    total = np.asarray(cv2.GaussianBlur(weight, (0, 0), REACH), np.float32)
    enough = np.where(total > 1e-3, total, 0)
    average = summed / np.maximum(enough, 1e-3)[..., None]
    return np.asarray(average, np.float32), enough


def _near_edge(alpha: ValuesF32) -> NDArray[np.bool_]:
    """Tell which pixels lie within two of where alpha changes."""
    square = np.ones((5, 5), np.uint8)
    changes = cv2.morphologyEx(alpha, cv2.MORPH_GRADIENT, square)
    return np.asarray(changes > OUTSIDE)
