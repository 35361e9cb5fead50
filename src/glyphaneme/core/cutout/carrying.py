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


class Guide:
    """A picture's colours, ready to explain one matte of it after another.

    Parameters
    ----------
    rgb : (h, w, 3) uint8
        The picture at the mattes' size.
    epsilon : float, > 0
        How much colour lines are kept from following noise: it is added to the colours'
        variances.

    References
    ----------
    .. [1] K. He, J. Sun, X. Tang, "Guided Image Filtering", IEEE TPAMI 35(6), 2013,
       equations 19 to 21; and K. He, J. Sun, "Fast Guided Filter", arXiv:1505.00996.
    """

    def __init__(self, rgb: ColorsU8, epsilon: float = LINES_FOLLOW) -> None:
        self._colors = f32(rgb) / np.float32(255)
        self._mean = _mean(self._colors)
        self._inverse = _inverse(self._colors, self._mean, epsilon)

    def lines(self, matte: MatteF32) -> ValuesF32:
        """Fit what red, green and blue are worth round each pixel of a matte.

        Parameters
        ----------
        matte : (h, w) float32
            What they are to explain.

        Returns
        -------
        (h, w, 4) float32
            matte = r red + g green + b blue + c with colours 0..1, averaged over all
            windows of 5 by 5 that hold the pixel.
        """
        mean_matte = _mean(matte)
        shared = _mean(self._colors * matte[..., None])
        u, v, w = np.moveaxis(shared - self._mean * mean_matte[..., None], -1, 0)
        xx, xy, xz, yy, yz, zz = self._inverse
        rows = ((xx, xy, xz), (xy, yy, yz), (xz, yz, zz))
        worth = f32(np.dstack([a * u + b * v + c * w for a, b, c in rows]))
        added = mean_matte - (worth * self._mean).sum(-1)
        return np.ascontiguousarray(np.dstack([_mean(worth), _mean(added)]), np.float32)


class Guides:
    """A picture's guides, one for each size in which its mattes come.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        The picture.
    """

    def __init__(self, rgb: ColorsU8) -> None:
        self.rgb = rgb
        self._found: dict[tuple[tuple[int, int], float], Guide] = {}

    def at(self, matte: MatteF32, epsilon: float = LINES_FOLLOW) -> Guide:
        """Return the guide of a matte's size, made when it is first asked for.

        Parameters
        ----------
        matte : (h, w) float32
            Only its size counts.
        epsilon : float, > 0
            As for `Guide`.

        Returns
        -------
        Guide
            Of the picture averaged to that size, or enlarged.
        """
        rows, columns = matte.shape
        key = ((rows, columns), epsilon)
        if key not in self._found:
            small = cv2.resize(self.rgb, (columns, rows), interpolation=cv2.INTER_AREA)
            self._found[key] = Guide(np.asarray(small, np.uint8), epsilon)
        return self._found[key]


def carried_up(pixels: NDArray[np.uint8], guide: Guide, matte: MatteF32) -> MatteU8:
    """Return a small matte at a picture's full size.

    Parameters
    ----------
    pixels : (H, W, 3) or (H, W, 4) uint8
        The picture; an alpha is not looked at.
    guide : Guide
        The picture at the matte's size.
    matte : (h, w) float32, 0..1
        What is enlarged.

    Returns
    -------
    (H, W) uint8, 0..255
        Along colours where it is soft, evenly elsewhere.
    """
    lines = guide.lines(matte)
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


def _mean(values: ValuesF32) -> ValuesF32:
    side = 2 * RADIUS + 1
    return f32(cv2.blur(values, (side, side)))


def _inverse(
    colors: ValuesF32, mean: ValuesF32, epsilon: float
) -> tuple[ValuesF32, ...]:
    """Invert the symmetric covariance of colours round each pixel, by cofactors."""
    pairs = [(0, 0), (0, 1), (0, 2), (1, 1), (1, 2), (2, 2)]
    xx, xy, xz, yy, yz, zz = (
        _mean(colors[..., i] * colors[..., j]) - mean[..., i] * mean[..., j]
        for i, j in pairs
    )
    xx, yy, zz = xx + epsilon, yy + epsilon, zz + epsilon
    ixx, ixy, ixz = yy * zz - yz * yz, xz * yz - xy * zz, xy * yz - xz * yy
    iyy, iyz, izz = xx * zz - xz * xz, xy * xz - xx * yz, xx * yy - xy * xy
    scale = 1 / (xx * ixx + xy * ixy + xz * ixz)
    return tuple(f32(one * scale) for one in (ixx, ixy, ixz, iyy, iyz, izz))
