"""A subject's own colours along its soft edge, without its old backdrop's."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core._kernels.own_colors import give_own_colors_into, relax_colors
from glyphaneme.core.bands import run_bands
from glyphaneme.core.cutout.values import f32

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.cutout.values import MatteU8

    ColorsF32 = NDArray[np.float32]

REGULAR = 1e-5
GRADIENT = 1.0
SMALL_SIDE = 32
SMALL_ROUNDS = 10
LARGE_ROUNDS = 2
MOST_PIXELS = 1_500_000
BESIDE = 5


def colors_apart(
    colors: ColorsF32, alpha: NDArray[np.float32]
) -> tuple[ColorsF32, ColorsF32]:
    """Estimate what colours lie in front and behind, from the coarsest size on.

    Parameters
    ----------
    colors : (H, W, 3) float32, 0..1
        The picture.
    alpha : (H, W) float32, 0..1
        How much of each pixel is in front.

    Returns
    -------
    (H, W, 3) float32, (H, W, 3) float32
        The colours in front and behind, 0..1.

    References
    ----------
    .. [1] T. Germer, T. Uelwer, S. Conrad, S. Harmeling, "Fast Multi-Level Foreground
       Estimation", ICPR 2020, algorithm 1.
    """
    rows, columns = alpha.shape
    count = max(int(np.ceil(np.log2(max(rows, columns)))), 1)
    front = np.empty((1, 1, 3), np.float32)
    front[0, 0] = _average(colors, alpha)
    behind = np.empty((1, 1, 3), np.float32)
    behind[0, 0] = _average(colors, 1 - alpha)
    for at in range(count + 1):
        size = (
            round(columns ** (at / count)),
            round(rows ** (at / count)),
        )
        small = _nearest(colors, size)
        small_alpha = _nearest(alpha, size)
        front, behind = _nearest(front, size), _nearest(behind, size)
        little = max(size) <= SMALL_SIDE
        rounds = SMALL_ROUNDS if little else LARGE_ROUNDS
        relax_colors(small, small_alpha, REGULAR, GRADIENT, rounds, front, behind)
    return front, behind


def with_own_colors(
    pixels: PixelsU8, alpha: MatteU8, *, strength: float = 1.0
) -> PixelsU8:
    """Return a picture with its subject's own colours where that is half see-through.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA.
    alpha : (H, W) uint8, 0..255
        How much of each pixel is subject.
    strength : float, 0..1
        How far colours are changed.

    Returns
    -------
    (H, W, 4) uint8
        A new array; the picture's own alpha stays, and so do colours where `alpha` is
        255, or 0 and not right beside the edge.
    """
    rows, columns = alpha.shape
    share = min(1.0, (MOST_PIXELS / (rows * columns)) ** 0.5)
    size = (max(round(columns * share), 1), max(round(rows * share), 1))
    way = cv2.INTER_AREA
    small = cv2.resize(pixels[..., :3], size, interpolation=way)
    small_alpha = cv2.resize(alpha, size, interpolation=way)
    front, behind = colors_apart(
        f32(small) / np.float32(255), f32(small_alpha) / np.float32(255)
    )
    between = ((alpha > 0) & (alpha < 255)).astype(np.uint8)
    # Those right beside it too: pixels in between are made of both.
    square = np.ones((BESIDE, BESIDE), np.uint8)
    near = np.asarray(cv2.dilate(between, square), np.uint8)
    out = np.empty((rows, columns, 4), np.uint8)
    source = np.ascontiguousarray(pixels)
    known = np.ascontiguousarray(alpha)
    run_bands(
        lambda first, last: give_own_colors_into(
            source, known, near, front, behind, strength, first, last, out
        ),
        rows,
        columns,
    )
    return out


def _average(colors: ColorsF32, weight: NDArray[np.float32]) -> NDArray[np.float32]:
    total = float(weight.sum())
    if total <= 0:
        return np.asarray(colors.mean((0, 1)), np.float32)
    summed = (colors * weight[..., None]).sum((0, 1))
    return np.asarray(summed / total, np.float32)


def _nearest(values: ColorsF32, size: tuple[int, int]) -> ColorsF32:
    resized = cv2.resize(values, size, interpolation=cv2.INTER_NEAREST)
    return np.ascontiguousarray(resized, np.float32)
