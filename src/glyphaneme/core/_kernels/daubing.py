"""Lays dabs of paint: each pixel from the evenest of eight neighbours."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.layout import HALF, INLINED, KERNEL, ONE, PART, ZERO

F32 = np.float32
I32 = np.int32
U32 = np.uint32
ABOUT = 8
AT_ONCE = 256
"""Pixels whose neighbours are found at a time: in a loop of its own, many at once."""
THIRD = F32(1 / 3)
QUARTER = F32(0.25)
DIAGONAL = F32(0.5**0.5)
TINY = F32(1e-20)
UNEVEN = F32(8)
"""Levels of spread at which a neighbour counts 1; an even one counts 10 000."""
LEAST = F32(1e-4)

PLANE = types.f4[:, ::1]
PIXELS = types.f4[:, :, ::1]


@njit(types.void(PIXELS, PLANE, PLANE, types.i8, types.i8), **KERNEL)
def lightness_into(
    image: np.ndarray, light: np.ndarray, squares: np.ndarray, first: int, last: int
) -> None:
    """Write the mean of three components of rows first..last, and its square."""
    for y in range(first, last):
        for x in range(light.shape[1]):
            here = (image[y, x, 0] + image[y, x, 1] + image[y, x, 2]) * THIRD
            light[y, x] = here
            squares[y, x] = here * here


@njit(types.void(PLANE, PIXELS, types.i8, types.i8), **KERNEL)
def tensor_into(light: np.ndarray, tensor: np.ndarray, first: int, last: int) -> None:
    """Write the structure tensor of rows first..last: xx, yy and xy.

    It is of Sobel's slopes; beyond its edge the picture is mirrored at the last pixel.
    """
    rows, columns = light.shape
    for y in range(first, last):
        above = light[y - 1 if y > 0 else min(1, rows - 1)]
        here = light[y]
        below = light[y + 1 if y + 1 < rows else max(rows - 2, 0)]
        for x in range(columns):
            left = x - 1 if x > 0 else min(1, columns - 1)
            right = x + 1 if x + 1 < columns else max(columns - 2, 0)
            a, b = above[right] - above[left], below[right] - below[left]
            across = QUARTER * (a + b + F32(2) * (here[right] - here[left]))
            a, b = below[left] - above[left], below[right] - above[right]
            down = QUARTER * (a + b + F32(2) * (below[x] - above[x]))
            tensor[y, x, 0] = across * across
            tensor[y, x, 1] = down * down
            tensor[y, x, 2] = across * down


@njit(
    types.void(PIXELS, PLANE, PIXELS, PLANE, PLANE, PIXELS, types.i8, types.i8),
    **KERNEL,
)
def weigh_rows_into(
    means: np.ndarray,
    squares: np.ndarray,
    tensor: np.ndarray,
    spread: np.ndarray,
    weights: np.ndarray,
    ways: np.ndarray,
    first: int,
    last: int,
) -> None:
    """Write what is read to paint rows first..last, and how far lightness spreads.

    `means` has four components a pixel, of which three make its lightness, `squares`
    the mean of that squared; `tensor` is the structure tensor: xx, yy and xy.
    """
    columns = squares.shape[1]
    for y in range(first, last):
        for x in range(columns):
            light = (means[y, x, 0] + means[y, x, 1] + means[y, x, 2]) * THIRD
            variance = max(squares[y, x] - light * light, ZERO)
            spread[y, x] = np.sqrt(variance)
            uneven = variance / (UNEVEN * UNEVEN)
            uneven *= uneven
            weights[y, x] = ONE / (uneven * uneven + LEAST)
            across, down = tensor[y, x, 0], tensor[y, x, 1]
            apart, twice = across - down, tensor[y, x, 2] + tensor[y, x, 2]
            root = np.sqrt(apart * apart + twice * twice)
            # The picture changes most at half the angle whose cosine this is.
            turn = min((apart + TINY) / (root + TINY), ONE)
            u = np.sqrt(max(HALF - HALF * turn, ZERO))
            ways[y, x, 0] = u if twice < ZERO else -u
            ways[y, x, 1] = np.sqrt(max(HALF + HALF * turn, ZERO))
            ways[y, x, 2] = root / (across + down + F32(1e-3))


@njit(**INLINED)
def place_near(x: F32, y: F32, right: F32, bottom: F32) -> U32:
    """Return the place of the pixel at a position, or of the one next to it."""
    column, row = I32(min(max(x, ZERO), right)), I32(min(max(y, ZERO), bottom))
    return U32(row * I32(right + ONE) + column)


@njit(**PART)
def find_neighbours(
    ways: np.ndarray,
    reach: F32,
    x: F32,
    y: F32,
    right: F32,
    bottom: F32,
    places: np.ndarray,
    n: int,
) -> None:
    """Write where eight neighbours of `n` pixels lie; the first pixel is at x, y."""
    for i in range(n):
        u, v, longer = ways[i, 0], ways[i, 1], ONE + ways[i, 2]
        long, short = reach * longer, reach / longer
        here = x + F32(I32(i))
        ax, ay, bx, by = long * u, long * v, -short * v, short * u
        cx, cy = DIAGONAL * (ax + bx), DIAGONAL * (ay + by)
        dx, dy = DIAGONAL * (bx - ax), DIAGONAL * (by - ay)
        places[i] = place_near(here + ax, y + ay, right, bottom)
        places[AT_ONCE + i] = place_near(here - ax, y - ay, right, bottom)
        places[2 * AT_ONCE + i] = place_near(here + bx, y + by, right, bottom)
        places[3 * AT_ONCE + i] = place_near(here - bx, y - by, right, bottom)
        places[4 * AT_ONCE + i] = place_near(here + cx, y + cy, right, bottom)
        places[5 * AT_ONCE + i] = place_near(here - cx, y - cy, right, bottom)
        places[6 * AT_ONCE + i] = place_near(here + dx, y + dy, right, bottom)
        places[7 * AT_ONCE + i] = place_near(here - dx, y - dy, right, bottom)


@njit(
    types.void(PIXELS, PLANE, PIXELS, types.f4, PIXELS, types.i8, types.i8),
    **KERNEL,
)
def daub_rows_into(
    means: np.ndarray,
    weights: np.ndarray,
    ways: np.ndarray,
    reach: F32,
    out: np.ndarray,
    first: int,
    last: int,
) -> None:
    """Paint rows first..last of `means`, four components a pixel.

    `weights` says how much each counts as a neighbour; `ways` holds a unit vector along
    the picture's direction and how marked that is.
    """
    rows, columns = weights.shape
    colors, heavy = means.reshape(rows * columns, 4), weights.reshape(rows * columns)
    right, bottom = F32(columns - 1), F32(rows - 1)
    places = np.empty(ABOUT * AT_ONCE, np.uint32)
    for y in range(first, last):
        for start in range(0, columns, AT_ONCE):
            n = min(AT_ONCE, columns - start)
            x, middle = F32(start) + HALF, F32(y) + HALF
            find_neighbours(ways[y, start:], reach, x, middle, right, bottom, places, n)
            for i in range(n):
                total = r = g = b = a = ZERO
                for k in range(ABOUT):
                    at = places[k * AT_ONCE + i]
                    weight = heavy[at]
                    total += weight
                    r += weight * colors[at, 0]
                    g += weight * colors[at, 1]
                    b += weight * colors[at, 2]
                    a += weight * colors[at, 3]
                share = ONE / total
                out[y, start + i, 0] = r * share
                out[y, start + i, 1] = g * share
                out[y, start + i, 2] = b * share
                out[y, start + i, 3] = a * share


@njit(types.void(PIXELS, PIXELS, PLANE, types.f4, types.i8, types.i8), **KERNEL)
def paint_over(
    painted: np.ndarray,
    finer: np.ndarray,
    spread: np.ndarray,
    share: F32,
    first: int,
    last: int,
) -> None:
    """Lay a finer brush over rows first..last: of spread s, s² / (1 + s²) of it.

    `share` is what the spread is multiplied by before.
    """
    for y in range(first, last):
        for x in range(spread.shape[1]):
            busy = spread[y, x] * share
            busy *= busy
            kept = busy / (ONE + busy)
            for c in range(4):
                painted[y, x, c] += kept * (finer[y, x, c] - painted[y, x, c])
