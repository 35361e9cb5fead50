"""What a warped picture must look like: 8 by 8 samples a pixel, in float64."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING

import cv2
import numpy as np
from scipy.interpolate import RectBivariateSpline

from glyphaneme.core.place import Placement, corners_on_canvas

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.place import Bend

SAMPLES = 8


def reference(
    pixels: NDArray[np.uint8], placement: Placement, size: tuple[int, int]
) -> NDArray[np.float64]:
    """Return (H, W, 4): 0..255, premultiplied; for pictures that are not cropped."""
    height, width = pixels.shape[:2]
    s, t, inside = places(placement, (width, height), size)
    source = pixels.astype(np.float64)
    source[..., :3] *= source[..., 3:] / 255
    found = between_texels(source, s * width - 0.5, t * height - 0.5)
    found *= inside[..., None]
    boxes = found.reshape(size[1], SAMPLES, size[0], SAMPLES, 4)
    return np.asarray(boxes.mean(axis=(1, 3)))


@lru_cache(maxsize=2)
def places(
    placement: Placement, picture: tuple[int, int], size: tuple[int, int]
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.bool_]]:
    """Return where each sample lies in the picture, 0..1, and whether it does."""
    width, height = picture
    corners = corners_on_canvas(placement, width=width, height=height)
    square = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], np.float32)
    to_square = cv2.getPerspectiveTransform(corners.astype(np.float32), square)
    across = (np.arange(size[0] * SAMPLES) + 0.5) / SAMPLES
    down = (np.arange(size[1] * SAMPLES) + 0.5) / SAMPLES
    x, y = np.meshgrid(across, down)
    whole = np.stack([x, y, np.ones_like(x)], axis=-1) @ to_square.T
    ahead = whole[..., 2] > 0
    depth = np.where(ahead, whole[..., 2], 1)
    s, t = whole[..., 0] / depth, whole[..., 1] / depth
    if placement.bend is not None:
        s, t = straightened(placement.bend, s, t)
    return s, t, ahead & (s >= 0) & (s < 1) & (t >= 0) & (t < 1)


def between_texels(
    source: NDArray[np.float64], u: NDArray[np.float64], v: NDArray[np.float64]
) -> NDArray[np.float64]:
    rows, columns = source.shape[:2]
    u, v = np.clip(u, 0, columns - 1), np.clip(v, 0, rows - 1)
    left, top = np.floor(u).astype(int), np.floor(v).astype(int)
    right, below = np.minimum(left + 1, columns - 1), np.minimum(top + 1, rows - 1)
    across, down = (u - left)[..., None], (v - top)[..., None]
    upper = source[top, left] * (1 - across) + source[top, right] * across
    lower = source[below, left] * (1 - across) + source[below, right] * across
    return np.asarray(upper * (1 - down) + lower * down)


def straightened(
    bend: Bend, s: NDArray[np.float64], t: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Find where what was bent came from, by Newton's method on the splines."""
    moves = np.array(bend.moves).reshape(bend.rows, bend.columns, 2)
    knots = np.linspace(0, 1, bend.rows), np.linspace(0, 1, bend.columns)
    degrees = {"kx": min(3, bend.rows - 1), "ky": min(3, bend.columns - 1)}
    by = [RectBivariateSpline(*knots, moves[..., at], **degrees) for at in (0, 1)]
    a, b = s.copy(), t.copy()
    for _ in range(8):
        x, y = np.clip(a, 0, 1), np.clip(b, 0, 1)
        # Beyond the frame's edge a move stays what it is there.
        free_x, free_y = (a >= 0) & (a <= 1), (b >= 0) & (b <= 1)
        f, g = a + by[0].ev(y, x) - s, b + by[1].ev(y, x) - t
        f_a, f_b = 1 + by[0].ev(y, x, dy=1) * free_x, by[0].ev(y, x, dx=1) * free_y
        g_a, g_b = by[1].ev(y, x, dy=1) * free_x, 1 + by[1].ev(y, x, dx=1) * free_y
        area = f_a * g_b - f_b * g_a
        area = np.where(np.abs(area) < 0.02, 0.02, area)
        a = np.clip(a - (f * g_b - g * f_b) / area, -1, 2)
        b = np.clip(b - (g * f_a - f * g_a) / area, -1, 2)
    return a, b
