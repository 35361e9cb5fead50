"""Carries a small matte up to a larger picture, along its colours."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.between import between
from glyphaneme.core._kernels.layout import (
    FROM_U8,
    HALF,
    INLINED,
    KERNEL,
    ONE,
    TO_U8,
    ZERO,
)

F32 = np.float32


@njit(**INLINED)
def any_of_four(
    marks: np.ndarray, top: int, bottom: int, left: int, right: int
) -> bool:
    """Tell whether one of four pixels is marked."""
    above, below = marks[top, left] | marks[top, right], marks[bottom, left]
    return (above | below | marks[bottom, right]) != 0


@njit(**INLINED)
def are_alike(values: np.ndarray, top: int, bottom: int, left: int, right: int) -> bool:
    """Tell whether four pixels have one value."""
    one = values[top, left]
    above = one == values[top, right]
    return above and one == values[bottom, left] and one == values[bottom, right]


@njit(**INLINED)
def as_level(value: F32) -> np.uint8:
    """Return the nearest of 256 levels to a value, held within 0..1."""
    return np.uint8(min(max(value, ZERO), ONE) * TO_U8 + HALF)


@njit(
    types.void(
        types.Array(types.u1, 3, "C", readonly=True),
        types.f4[:, :, ::1],
        types.f4[:, ::1],
        types.u1[:, ::1],
        types.i8,
        types.i8,
        types.u1[:, ::1],
    ),
    **KERNEL,
)
def carry_rows_into(
    pixels: np.ndarray,
    lines: np.ndarray,
    small: np.ndarray,
    soft: np.ndarray,
    first: int,
    last: int,
    out: np.ndarray,
) -> None:
    """Write rows `first` to `last` of a matte as large as `pixels`, 0..255.

    `lines` holds a colour line for each pixel of the small matte: what red, green and
    blue, 0..1, are worth, and what is added. Where `soft` is set near a pixel, the line
    there says its value; elsewhere the small matte does, between its pixels evenly.
    """
    rows, columns = out.shape
    low, across = small.shape
    step_y, step_x = F32(low / rows), F32(across / columns)
    for row in range(first, last):
        top, bottom, down = between(row, step_y, low)
        known, follows, even, level = -1, False, False, np.uint8(0)
        for column in range(columns):
            left, right, side = between(column, step_x, across)
            if left != known:
                known = left
                follows = any_of_four(soft, top, bottom, left, right)
                even = not follows and are_alike(small, top, bottom, left, right)
                level = as_level(small[top, left])
            if even:
                out[row, column] = level
                continue
            a, b = (ONE - down) * (ONE - side), (ONE - down) * side
            c, d = down * (ONE - side), down * side
            if follows:
                value = ZERO
                for at in range(4):
                    worth = (
                        a * lines[top, left, at]
                        + b * lines[top, right, at]
                        + c * lines[bottom, left, at]
                        + d * lines[bottom, right, at]
                    )
                    if at < 3:
                        value += worth * F32(pixels[row, column, at]) * FROM_U8
                    else:
                        value += worth
            else:
                value = (
                    a * small[top, left]
                    + b * small[top, right]
                    + c * small[bottom, left]
                    + d * small[bottom, right]
                )
            out[row, column] = as_level(value)
