"""Carries a small matte up to a larger picture by local colour lines."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core._kernels.carrying import carry_rows_into
from glyphaneme.core.bands import run_bands
from glyphaneme.core.cutout.values import f32

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.cutout.values import ColorsU8, MatteF32, MatteU8

    ValuesF32 = NDArray[np.float32]

RADIUS = 2
SOFT = (0.02, 0.98)
LINES_FOLLOW = 1e-4


def carried_up(
    pixels: NDArray[np.uint8],
    small_rgb: ColorsU8,
    matte: MatteF32,
    epsilon: float = LINES_FOLLOW,
) -> MatteU8:
    """Return a small matte at a picture's full size.

    Parameters
    ----------
    pixels : (H, W, 3) or (H, W, 4) uint8
        The picture; an alpha is not looked at.
    small_rgb : (h, w, 3) uint8
        The picture at the matte's size.
    matte : (h, w) float32, 0..1
        What is enlarged.
    epsilon : float, > 0
        How much colour lines are kept from following noise.

    Returns
    -------
    (H, W) uint8, 0..255
        Along colours where it is soft, evenly elsewhere.
    """
    lines = color_lines(small_rgb, matte, epsilon)
    between = ((matte > SOFT[0]) & (matte < SOFT[1])).astype(np.uint8)
    soft = np.asarray(cv2.dilate(between, np.ones((3, 3), np.uint8)), np.uint8)
    small = np.ascontiguousarray(matte, np.float32)
    rows, columns = pixels.shape[:2]
    out = np.empty((rows, columns), np.uint8)
    source = np.ascontiguousarray(pixels)
    run_bands(
        lambda first, last: carry_rows_into(
            source, lines, small, soft, first, last, out
        ),
        rows,
        columns,
    )
    return out


def color_lines(rgb: ColorsU8, matte: MatteF32, epsilon: float) -> ValuesF32:
    """Fit what red, green and blue are worth round each pixel of a matte.

    Parameters
    ----------
    rgb : (h, w, 3) uint8
        Colours.
    matte : (h, w) float32
        What they are to explain.
    epsilon : float, > 0
        Added to the colours' variances.

    Returns
    -------
    (h, w, 4) float32
        matte = r red + g green + b blue + c with colours 0..1, averaged over all
        windows of 5 by 5 that hold the pixel.

    References
    ----------
    .. [1] K. He, J. Sun, X. Tang, "Guided Image Filtering", IEEE TPAMI 35(6), 2013,
       equations 19 to 21; and K. He, J. Sun, "Fast Guided Filter", arXiv:1505.00996.
    """
    colors = f32(rgb) / np.float32(255)
    mean, mean_matte = _mean(colors), _mean(matte)
    shared = _mean(colors * matte[..., None]) - mean * mean_matte[..., None]
    pairs = [(0, 0), (0, 1), (0, 2), (1, 1), (1, 2), (2, 2)]
    products = [
        _mean(colors[..., i] * colors[..., j]) - mean[..., i] * mean[..., j]
        for i, j in pairs
    ]
    worth = _solved_threes(products, shared, epsilon)
    added = mean_matte - (worth * mean).sum(-1)
    return np.ascontiguousarray(np.dstack([_mean(worth), _mean(added)]), np.float32)


def _mean(values: ValuesF32) -> ValuesF32:
    side = 2 * RADIUS + 1
    return f32(cv2.blur(values, (side, side)))


def _solved_threes(
    products: list[ValuesF32], wanted: ValuesF32, epsilon: float
) -> ValuesF32:
    """Solve one symmetric 3 x 3 system a pixel, by cofactors."""
    xx, xy, xz, yy, yz, zz = products
    xx, yy, zz = xx + epsilon, yy + epsilon, zz + epsilon
    ixx, ixy, ixz = yy * zz - yz * yz, xz * yz - xy * zz, xy * yz - xz * yy
    iyy, iyz, izz = xx * zz - xz * xz, xy * xz - xx * yz, xx * yy - xy * xy
    scale = 1 / (xx * ixx + xy * ixy + xz * ixz)
    u, v, w = wanted[..., 0], wanted[..., 1], wanted[..., 2]
    solved = [
        (ixx * u + ixy * v + ixz * w) * scale,
        (ixy * u + iyy * v + iyz * w) * scale,
        (ixz * u + iyz * v + izz * w) * scale,
    ]
    return f32(np.dstack(solved))
