"""Estimates what colours a subject has of its own where it is half see-through."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.between import between
from glyphaneme.core._kernels.layout import FROM_U8, HALF, KERNEL, ONE, TO_U8, ZERO

F32 = np.float32
_COLORS = types.f4[:, :, ::1]
_VALUES = types.f4[:, ::1]


@njit(
    types.void(_COLORS, _VALUES, types.f8, types.f8, types.i8, _COLORS, _COLORS),
    **KERNEL,
)
def relax_colors(
    colors: np.ndarray,
    alpha: np.ndarray,
    regular: float,
    gradient: float,
    rounds: int,
    front: np.ndarray,
    behind: np.ndarray,
) -> None:
    """Bring colours in front and behind nearer to what explains a picture, in place.

    Each pixel's two colours are solved for with its four neighbours held, in their
    order: alpha F + (1 - alpha) B = I as well as may be, and each difference to a
    neighbour costs `regular` + `gradient` |difference of alphas|. Red, green and blue
    share the 2 x 2 system.
    """
    rows, columns = alpha.shape
    least, worth = F32(regular), F32(gradient)
    for _ in range(rounds):
        for row in range(rows):
            up, down = max(row - 1, 0), min(row + 1, rows - 1)
            for column in range(columns):
                left, right = max(column - 1, 0), min(column + 1, columns - 1)
                a = alpha[row, column]
                b = ONE - a
                wu = least + worth * abs(a - alpha[up, column])
                wd = least + worth * abs(a - alpha[down, column])
                wl = least + worth * abs(a - alpha[row, left])
                wr = least + worth * abs(a - alpha[row, right])
                weight = wu + wd + wl + wr
                aa, bb, ab = a * a + weight, b * b + weight, a * b
                scale = ONE / (aa * bb - ab * ab)
                for at in range(3):
                    color = colors[row, column, at]
                    in_front = a * color + (
                        wu * front[up, column, at]
                        + wd * front[down, column, at]
                        + wl * front[row, left, at]
                        + wr * front[row, right, at]
                    )
                    from_behind = b * color + (
                        wu * behind[up, column, at]
                        + wd * behind[down, column, at]
                        + wl * behind[row, left, at]
                        + wr * behind[row, right, at]
                    )
                    f = (bb * in_front - ab * from_behind) * scale
                    g = (aa * from_behind - ab * in_front) * scale
                    front[row, column, at] = min(max(f, ZERO), ONE)
                    behind[row, column, at] = min(max(g, ZERO), ONE)


@njit(
    types.void(
        types.Array(types.u1, 3, "C", readonly=True),
        types.Array(types.u1, 2, "C", readonly=True),
        types.u1[:, ::1],
        _COLORS,
        _COLORS,
        types.f8,
        types.i8,
        types.i8,
        types.u1[:, :, ::1],
    ),
    **KERNEL,
)
def give_own_colors_into(
    pixels: np.ndarray,
    alpha: np.ndarray,
    near: np.ndarray,
    front: np.ndarray,
    behind: np.ndarray,
    strength: float,
    first: int,
    last: int,
    out: np.ndarray,
) -> None:
    """Write rows `first` to `last` of a picture with own colours where `near` is set.

    Where alpha is 255 the picture's own colours stay all the same.

    `front` and `behind` may be smaller: they are taken between their pixels evenly, and
    then moved as little as makes them explain the pixel: both by what is left of
    I - alpha F - (1 - alpha) B, shared out by alpha and 1 - alpha.
    """
    rows, columns = alpha.shape
    low, across = front.shape[:2]
    step_y, step_x = F32(low / rows), F32(across / columns)
    share = F32(strength)
    for row in range(first, last):
        top, bottom, down = between(row, step_y, low)
        for column in range(columns):
            out[row, column, 3] = pixels[row, column, 3]
            if near[row, column] == 0 or alpha[row, column] == 255:
                for at in range(3):
                    out[row, column, at] = pixels[row, column, at]
                continue
            left, right, side = between(column, step_x, across)
            wa, wb = (ONE - down) * (ONE - side), (ONE - down) * side
            wc, wd = down * (ONE - side), down * side
            a = F32(alpha[row, column]) * FROM_U8
            b = ONE - a
            fit = a / (a * a + b * b)
            for at in range(3):
                color = F32(pixels[row, column, at]) * FROM_U8
                f = (
                    wa * front[top, left, at]
                    + wb * front[top, right, at]
                    + wc * front[bottom, left, at]
                    + wd * front[bottom, right, at]
                )
                g = (
                    wa * behind[top, left, at]
                    + wb * behind[top, right, at]
                    + wc * behind[bottom, left, at]
                    + wd * behind[bottom, right, at]
                )
                f = min(max(f + fit * (color - a * f - b * g), ZERO), ONE)
                value = color + share * (f - color)
                out[row, column, at] = np.uint8(value * TO_U8 + HALF)
