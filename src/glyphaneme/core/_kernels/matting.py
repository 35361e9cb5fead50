"""Applies the matting Laplacian window by window, without building a matrix."""

from __future__ import annotations

from typing import TYPE_CHECKING

from numba import njit, types

from glyphaneme.core._kernels.layout import KERNEL

if TYPE_CHECKING:
    import numpy as np

SHARES = 9
"""How many pixels a window has: three by three."""

_PIXELS = types.f8[:, :, ::1]
_VALUES = types.f8[:, ::1]


@njit(types.void(_PIXELS, types.i4[:, ::1], types.f8, _VALUES, _VALUES), **KERNEL)
def fit_windows_into(
    colors: np.ndarray,
    middles: np.ndarray,
    epsilon: float,
    windows: np.ndarray,
    diagonal: np.ndarray,
) -> None:
    """Write each window's mean and inverse covariance, and the Laplacian's diagonal.

    `windows` has nine numbers a row: mean red, green and blue, then the inverse of the
    covariance plus `epsilon` / 9 on its diagonal, as xx, xy, xz, yy, yz, zz. The
    diagonal is added to what `diagonal` holds.
    """
    share = 1.0 / SHARES
    for at in range(middles.shape[0]):
        row, column = middles[at, 0], middles[at, 1]
        r = g = b = rr = rg = rb = gg = gb = bb = 0.0
        for y in range(row - 1, row + 2):
            for x in range(column - 1, column + 2):
                i, j, k = colors[y, x, 0], colors[y, x, 1], colors[y, x, 2]
                r, g, b = r + i, g + j, b + k
                rr, rg, rb = rr + i * i, rg + i * j, rb + i * k
                gg, gb, bb = gg + j * j, gb + j * k, bb + k * k
        r, g, b = r * share, g * share, b * share
        extra = epsilon * share
        xx, yy, zz = (
            rr * share - r * r + extra,
            gg * share - g * g + extra,
            bb * share - b * b + extra,
        )
        xy, xz, yz = rg * share - r * g, rb * share - r * b, gb * share - g * b
        ixx, ixy, ixz = yy * zz - yz * yz, xz * yz - xy * zz, xy * yz - xz * yy
        iyy, iyz, izz = xx * zz - xz * xz, xy * xz - xx * yz, xx * yy - xy * xy
        scale = 1.0 / (xx * ixx + xy * ixy + xz * ixz)
        windows[at, 0], windows[at, 1], windows[at, 2] = r, g, b
        windows[at, 3], windows[at, 4] = ixx * scale, ixy * scale
        windows[at, 5], windows[at, 6] = ixz * scale, iyy * scale
        windows[at, 7], windows[at, 8] = iyz * scale, izz * scale
        for y in range(row - 1, row + 2):
            for x in range(column - 1, column + 2):
                i, j, k = colors[y, x, 0] - r, colors[y, x, 1] - g, colors[y, x, 2] - b
                u = windows[at, 3] * i + windows[at, 4] * j + windows[at, 5] * k
                v = windows[at, 4] * i + windows[at, 6] * j + windows[at, 7] * k
                w = windows[at, 5] * i + windows[at, 7] * j + windows[at, 8] * k
                diagonal[y, x] += 1.0 - share * (1.0 + i * u + j * v + k * w)


@njit(types.void(_PIXELS, types.i4[:, ::1], _VALUES, _VALUES, _VALUES), **KERNEL)
def apply_laplacian_into(
    colors: np.ndarray,
    middles: np.ndarray,
    windows: np.ndarray,
    values: np.ndarray,
    out: np.ndarray,
) -> None:
    """Add to `out` what each window's best colour line leaves of `values`.

    For a window with mean m of the values and v their covariance with the colours,
    each of its pixels gets p - m - (I - mean) · inverse · v.
    """
    share = 1.0 / SHARES
    for at in range(middles.shape[0]):
        row, column = middles[at, 0], middles[at, 1]
        r, g, b = windows[at, 0], windows[at, 1], windows[at, 2]
        mean = u = v = w = 0.0
        for y in range(row - 1, row + 2):
            for x in range(column - 1, column + 2):
                value = values[y, x]
                mean += value
                u += value * (colors[y, x, 0] - r)
                v += value * (colors[y, x, 1] - g)
                w += value * (colors[y, x, 2] - b)
        mean, u, v, w = mean * share, u * share, v * share, w * share
        i = windows[at, 3] * u + windows[at, 4] * v + windows[at, 5] * w
        j = windows[at, 4] * u + windows[at, 6] * v + windows[at, 7] * w
        k = windows[at, 5] * u + windows[at, 7] * v + windows[at, 8] * w
        for y in range(row - 1, row + 2):
            for x in range(column - 1, column + 2):
                line = (
                    mean
                    + i * (colors[y, x, 0] - r)
                    + j * (colors[y, x, 1] - g)
                    + k * (colors[y, x, 2] - b)
                )
                out[y, x] += values[y, x] - line
