"""Averages pixels down to any size from a quarter on."""

from __future__ import annotations

import math

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import HALF, KERNEL, PART, TINY, TO_U8, ZERO

F32 = np.float32
I32 = np.int32
U32 = np.uint32
U64 = np.uint64

NARROW, WIDE = 3, 5
"""So many texels a step of two, and one of four, lies on at most."""


@njit(**PART)
def _add_row(
    line: np.ndarray,
    share: float,
    r: np.ndarray,
    g: np.ndarray,
    b: np.ndarray,
    a: np.ndarray,
) -> None:
    """Add a share of a row of texels to sums, colours times their alpha."""
    for x in range(line.size):
        texel = line[x]
        weight = share * F32(I32(texel >> U32(24)))
        r[x] += weight * F32(I32(texel & U32(255)))
        g[x] += weight * F32(I32((texel >> U32(8)) & U32(255)))
        b[x] += weight * F32(I32((texel >> U32(16)) & U32(255)))
        a[x] += weight


@njit(**PART)
def _add_columns(
    sums: np.ndarray, starts: np.ndarray, shares: np.ndarray, out: np.ndarray
) -> None:
    """Add for every pixel what lies in its columns, each by its share."""
    # Starts have no sign: what counts from the end need not be looked for.
    one, two, three = shares[0], shares[1], shares[2]
    for column in range(out.size):
        start = starts[column]
        out[column] = (
            one[column] * sums[start]
            + two[column] * sums[start + U64(1)]
            + three[column] * sums[start + U64(2)]
        )
    if shares.shape[0] == NARROW:
        return
    four, five = shares[3], shares[4]
    for column in range(out.size):
        start = starts[column] + U64(3)
        out[column] += four[column] * sums[start] + five[column] * sums[start + U64(1)]


@njit("void(u4[:, ::1], u4[:, ::1], f8, f8, f8, i8, i8)", **KERNEL)
def average_rows_into(
    source: np.ndarray,
    out: np.ndarray,
    left: float,
    top: float,
    step: float,
    first: int,
    last: int,
) -> None:
    """Average squares of `step` by `step` texels, those cut through by their share.

    A step is four texels at most. Colours are weighted by alpha; what reaches beyond
    the source is clear.
    """
    rows, columns = source.shape
    width = out.shape[1]
    reach = NARROW if step <= NARROW - 1 else WIDE
    starts = np.empty(width, np.uint64)
    shares = np.empty((reach, width), np.float32)
    for column in range(width):
        begin = left + column * step
        starts[column] = U64(begin)
        for place in range(reach):
            x = math.floor(begin) + place
            overlap = min(begin + step, x + 1.0) - max(begin, x)
            shares[place, column] = F32(max(overlap, 0.0))
    # What lies beyond the last column is read as well, and is nothing.
    sums = np.empty((4, max(columns, int(starts[width - 1]) + reach)), np.float32)
    r, g, b, a = sums[0], sums[1], sums[2], sums[3]
    means = np.empty((4, width), np.float32)
    whole = F32(1 / (step * step))
    for row in range(first, last):
        begin = top + row * step
        end = begin + step
        sums[:] = ZERO
        for y in range(int(begin), min(math.ceil(end), rows)):
            overlap = min(end, y + 1.0) - max(begin, float(y))
            _add_row(source[y], F32(overlap), r, g, b, a)
        for channel in range(4):
            _add_columns(sums[channel], starts, shares, means[channel])
        for column in range(width):
            total = means[3, column]
            each = F32(1) / max(total, TINY)
            out[row, column] = (
                U32(I32(min(means[0, column] * each, TO_U8) + HALF))
                | (U32(I32(min(means[1, column] * each, TO_U8) + HALF)) << U32(8))
                | (U32(I32(min(means[2, column] * each, TO_U8) + HALF)) << U32(16))
                | (U32(I32(min(total * whole, TO_U8) + HALF)) << U32(24))
            )
