"""Carries a small matte up to a larger picture, along its colours."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.between import between
from glyphaneme.core._kernels.layout import FROM_U8, HALF, KERNEL, ONE, TO_U8, ZERO

F32 = np.float32


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
        for column in range(columns):
            left, right, side = between(column, step_x, across)
            a, b = (ONE - down) * (ONE - side), (ONE - down) * side
            c, d = down * (ONE - side), down * side
            if (
                soft[top, left]
                | soft[top, right]
                | soft[bottom, left]
                | soft[bottom, right]
            ):
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
            value = min(max(value, ZERO), ONE)
            out[row, column] = np.uint8(value * TO_U8 + HALF)
