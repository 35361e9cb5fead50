"""Applies the matting Laplacian window by window, without building a matrix."""

from __future__ import annotations

from typing import TYPE_CHECKING

from numba import njit, types

from glyphaneme.core._kernels.layout import INLINED, KERNEL

if TYPE_CHECKING:
    import numpy as np

SHARES = 9
"""How many pixels a window has: three by three."""

_PLANES = types.f8[:, :, ::1]
_VALUES = types.f8[:, ::1]
_MARKS = types.u1[:, ::1]
FAR = -2
"""No column, nor one next to any."""


@njit(**INLINED)
def weighed(
    colors: np.ndarray, values: np.ndarray, row: int, x: int
) -> tuple[float, float, float, float]:
    """Return three values above one another, added up, and times red, green, blue."""
    total = u = v = w = 0.0
    for y in range(row - 1, row + 2):
        value = values[y, x]
        total += value
        u += value * colors[y, x, 0]
        v += value * colors[y, x, 1]
        w += value * colors[y, x, 2]
    return total, u, v, w


@njit(**INLINED)
def lines_above(
    lines: np.ndarray, top: int, bottom: int, x: int
) -> tuple[float, float, float, float]:
    """Return the lines of windows above one another, added up; none beyond the rim."""
    r = g = b = added = 0.0
    if x < 0 or x >= lines.shape[1]:
        return r, g, b, added
    for y in range(top, bottom):
        r, g = r + lines[y, x, 0], g + lines[y, x, 1]
        b, added = b + lines[y, x, 2], added + lines[y, x, 3]
    return r, g, b, added


@njit(types.void(_PLANES, _MARKS, types.f8, types.i8, types.i8, _PLANES), **KERNEL)
def fit_rows_into(
    colors: np.ndarray,
    touched: np.ndarray,
    epsilon: float,
    first: int,
    last: int,
    windows: np.ndarray,
) -> None:
    """Write the mean and the inverse covariance of each window that is `touched`.

    Windows are named by their middles, none of which lies on the picture's rim.
    `windows` has nine planes: mean red, green and blue, then the inverse of the
    covariance plus `epsilon` / 9 on its diagonal, as xx, xy, xz, yy, yz, zz.
    """
    share = 1.0 / SHARES
    for row in range(first, last):
        for column in range(touched.shape[1]):
            if touched[row, column] == 0:
                continue
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
            iyy, iyz = xx * zz - xz * xz, xy * xz - xx * yz
            izz = xx * yy - xy * xy
            scale = 1.0 / (xx * ixx + xy * ixy + xz * ixz)
            into = windows[row, column]
            into[0], into[1], into[2] = r, g, b
            into[3], into[4], into[5] = ixx * scale, ixy * scale, ixz * scale
            into[6], into[7], into[8] = iyy * scale, iyz * scale, izz * scale


@njit(
    types.void(_PLANES, _MARKS, _PLANES, _VALUES, types.i8, types.i8, _PLANES),
    **KERNEL,
)
def lines_rows_into(
    colors: np.ndarray,
    touched: np.ndarray,
    windows: np.ndarray,
    values: np.ndarray,
    first: int,
    last: int,
    lines: np.ndarray,
) -> None:
    """Write what line of colours is nearest to `values` in each window.

    `lines` gets what red, green and blue are worth, and what is added. What neighbours
    have in common is added up once.
    """
    share = 1.0 / SHARES
    for row in range(first, last):
        before = here = after = (0.0, 0.0, 0.0, 0.0)
        known = FAR
        for column in range(touched.shape[1]):
            if touched[row, column] == 0:
                continue
            if known == column - 1:
                before, here = here, after
            else:
                before = weighed(colors, values, row, column - 1)
                here = weighed(colors, values, row, column)
            after = weighed(colors, values, row, column + 1)
            known = column
            fit = windows[row, column]
            mean = (before[0] + here[0] + after[0]) * share
            u = (before[1] + here[1] + after[1]) * share - mean * fit[0]
            v = (before[2] + here[2] + after[2]) * share - mean * fit[1]
            w = (before[3] + here[3] + after[3]) * share - mean * fit[2]
            i = fit[3] * u + fit[4] * v + fit[5] * w
            j = fit[4] * u + fit[6] * v + fit[7] * w
            k = fit[5] * u + fit[7] * v + fit[8] * w
            into = lines[row, column]
            into[0], into[1], into[2] = i, j, k
            into[3] = mean - i * fit[0] - j * fit[1] - k * fit[2]


@njit(
    types.void(_PLANES, _MARKS, _MARKS, _PLANES, _VALUES, types.i8, types.i8, _VALUES),
    **KERNEL,
)
def left_rows_into(
    colors: np.ndarray,
    area: np.ndarray,
    counts: np.ndarray,
    lines: np.ndarray,
    values: np.ndarray,
    first: int,
    last: int,
    out: np.ndarray,
) -> None:
    """Write what the lines of all windows round each pixel of an area leave of it.

    The sum, over the windows that hold the pixel, of its value less that of the line.
    `counts` says how many those are; `lines` holds nothing where no window is touched.
    """
    rows, columns = area.shape
    for row in range(first, last):
        top, bottom = max(row - 1, 0), min(row + 2, rows)
        before = here = after = (0.0, 0.0, 0.0, 0.0)
        known = FAR
        for column in range(columns):
            if area[row, column] == 0:
                continue
            if known == column - 1:
                before, here = here, after
            else:
                before = lines_above(lines, top, bottom, column - 1)
                here = lines_above(lines, top, bottom, column)
            after = lines_above(lines, top, bottom, column + 1)
            known = column
            line = before[3] + here[3] + after[3]
            for channel in range(3):
                worth = before[channel] + here[channel] + after[channel]
                line += worth * colors[row, column, channel]
            out[row, column] = counts[row, column] * values[row, column] - line


@njit(
    types.void(_PLANES, _MARKS, _MARKS, _PLANES, types.i8, types.i8, _VALUES), **KERNEL
)
def diagonal_rows_into(
    colors: np.ndarray,
    area: np.ndarray,
    touched: np.ndarray,
    windows: np.ndarray,
    first: int,
    last: int,
    out: np.ndarray,
) -> None:
    """Write the Laplacian's diagonal for each pixel of an area.

    The sum, over the windows that hold the pixel, of
    1 - (1 + (I - mean)' inverse (I - mean)) / 9.
    """
    share = 1.0 / SHARES
    rows, columns = area.shape
    for row in range(first, last):
        for column in range(columns):
            if area[row, column] == 0:
                continue
            total = 0.0
            for y in range(max(row - 1, 0), min(row + 2, rows)):
                for x in range(max(column - 1, 0), min(column + 2, columns)):
                    if touched[y, x] == 0:
                        continue
                    fit = windows[y, x]
                    i = colors[row, column, 0] - fit[0]
                    j = colors[row, column, 1] - fit[1]
                    k = colors[row, column, 2] - fit[2]
                    u = fit[3] * i + fit[4] * j + fit[5] * k
                    v = fit[4] * i + fit[6] * j + fit[7] * k
                    w = fit[5] * i + fit[7] * j + fit[8] * k
                    total += 1.0 - share * (1.0 + i * u + j * v + k * w)
            out[row, column] = total
