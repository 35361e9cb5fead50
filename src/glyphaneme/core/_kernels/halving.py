"""Averages pixels down to half their size."""

from __future__ import annotations

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import KERNEL

U32 = np.uint32


@njit("void(u4[:, ::1], u4[:, ::1], i8, i8)", **KERNEL)
def halve_rows_into(source: np.ndarray, out: np.ndarray, first: int, last: int) -> None:
    """Average 2 x 2 texels into one, colours weighted by alpha; edges repeat."""
    rows, columns = source.shape
    for row in range(first, last):
        top = source[2 * row]
        bottom = source[min(2 * row + 1, rows - 1)]
        for column in range(out.shape[1]):
            left = 2 * column
            right = min(left + 1, columns - 1)
            total = U32(0)
            r = g = b = U32(0)
            for texel in (top[left], top[right], bottom[left], bottom[right]):
                weight = texel >> U32(24)
                total += weight
                r += weight * (texel & U32(255))
                g += weight * ((texel >> U32(8)) & U32(255))
                b += weight * ((texel >> U32(16)) & U32(255))
            divisor = max(total, U32(1))
            half = divisor >> U32(1)
            out[row, column] = (
                ((r + half) // divisor)
                | (((g + half) // divisor) << U32(8))
                | (((b + half) // divisor) << U32(16))
                | (((total + U32(2)) >> U32(2)) << U32(24))
            )
