"""Averages pixels down to half their size."""

from __future__ import annotations

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import INLINED, KERNEL

F32 = np.float32
U32 = np.uint32

BYTE = U32(255)
OPAQUE = U32(255 << 24)
EVERY_OTHER = U32(0x00FF00FF)
TWO_EACH = U32(0x00020002)
SLIGHTLY_MORE = F32(0.25)
"""Of a whole: whole numbers stay so where a quotient is a hair too small."""


@njit(**INLINED)
def _mean_of_opaque(one: U32, two: U32, three: U32, four: U32) -> U32:
    """Average four opaque texels, two channels at a time."""
    even = (one & EVERY_OTHER) + (two & EVERY_OTHER)
    even += (three & EVERY_OTHER) + (four & EVERY_OTHER)
    odd = ((one >> U32(8)) & EVERY_OTHER) + ((two >> U32(8)) & EVERY_OTHER)
    odd += ((three >> U32(8)) & EVERY_OTHER) + ((four >> U32(8)) & EVERY_OTHER)
    even = ((even + TWO_EACH) >> U32(2)) & EVERY_OTHER
    odd = ((odd + TWO_EACH) >> U32(2)) & EVERY_OTHER
    return even | (odd << U32(8))


@njit(**INLINED)
def _weighted(
    one: U32,
    two: U32,
    three: U32,
    four: U32,
    a: U32,
    b: U32,
    c: U32,
    d: U32,
    channel: U32,
) -> U32:
    """Sum one channel of four texels, each times its alpha."""
    return (
        a * ((one >> channel) & BYTE)
        + b * ((two >> channel) & BYTE)
        + c * ((three >> channel) & BYTE)
        + d * ((four >> channel) & BYTE)
    )


@njit(**INLINED)
def _mean(one: U32, two: U32, three: U32, four: U32) -> U32:
    """Average four texels, colours weighted by alpha."""
    a, b, c, d = one >> U32(24), two >> U32(24), three >> U32(24), four >> U32(24)
    total = a + b + c + d
    divisor = max(total, U32(1))
    more = F32(np.int32(divisor >> U32(1))) + SLIGHTLY_MORE
    each = F32(1) / F32(np.int32(divisor))
    red = _weighted(one, two, three, four, a, b, c, d, U32(0))
    green = _weighted(one, two, three, four, a, b, c, d, U32(8))
    blue = _weighted(one, two, three, four, a, b, c, d, U32(16))
    return (
        U32(np.int32((F32(np.int32(red)) + more) * each))
        | (U32(np.int32((F32(np.int32(green)) + more) * each)) << U32(8))
        | (U32(np.int32((F32(np.int32(blue)) + more) * each)) << U32(16))
        | (((total + U32(2)) >> U32(2)) << U32(24))
    )


@njit("void(u4[:, ::1], u4[:, ::1], i8, i8)", **KERNEL)
def halve_rows_into(source: np.ndarray, out: np.ndarray, first: int, last: int) -> None:
    """Average 2 x 2 texels into one, colours weighted by alpha; edges repeat."""
    rows, columns = source.shape
    pairs = columns // 2
    for row in range(first, last):
        top = source[2 * row]
        bottom = source[min(2 * row + 1, rows - 1)]
        target = out[row]
        common = OPAQUE
        for column in range(columns):
            common &= top[column] & bottom[column]
        if common == OPAQUE:
            for column in range(pairs):
                left = 2 * column
                target[column] = _mean_of_opaque(
                    top[left], top[left + 1], bottom[left], bottom[left + 1]
                )
        else:
            for column in range(pairs):
                left = 2 * column
                target[column] = _mean(
                    top[left], top[left + 1], bottom[left], bottom[left + 1]
                )
        if columns % 2:
            above, below = top[columns - 1], bottom[columns - 1]
            target[pairs] = _mean(above, above, below, below)
