"""Works out how much of a layer shows: its mask's steps, one after the other.

A step either reckons a value of 0 to 1 for each pixel, from a distance or from a plane,
and joins that with what the steps before left, or it changes that alone. Blocks of a
span in which nothing or all is shown are found from bounds, without a look at a pixel.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numba import carray, from_dtype, njit

from glyphaneme.core._kernels.addressing import pointer
from glyphaneme.core._kernels.layout import FROM_U16, INLINED, ONE, PART, ZERO
from glyphaneme.core._kernels.sampling import bring_span_near

STEP = np.dtype(
    [
        ("kind", "i8"),  # LINE … SETTLE
        ("join", "i8"),  # MULTIPLY … TAKE
        ("inverted", "i8"),  # 1: one less the value is joined
        ("tiles", "i8"),  # address of the addresses of the plane's tiles, int64
        ("extremes", "i8"),  # of their least and greatest values, two uint16 each
        ("rows", "i8"),  # of the plane
        ("columns", "i8"),
        ("to_step", "f8", 6),  # view pixels to the step's own units
        ("numbers", "f4", 8),
    ],
    align=True,
)
"""One step as the kernel reads it.

`numbers` of a distance: slope and offset of the value's straight part, the three
factors of its curve, half the width and height, and the radius of corners. Of SETTLE:
what is added, and by what the rest is multiplied.
"""

STEP_TYPE = from_dtype(STEP)

LINE, BOTH, ROUND, RECTANGLE, ELLIPSE, PLANE, SETTLE = range(7)
"""What a value follows from: a distance, a plane, or what is there already."""
MULTIPLY, ADD, TAKE, PLUS, MINUS = range(5)
"""m p, m + p - m p, m (1 - p), m + p as far as 1, and m - p as far as 0."""
SLOPE, OFFSET, CURVE, HALF_WIDTH, HALF_HEIGHT, RADIUS = 0, 1, 2, 5, 6, 7

TILE = 64
TILE_STRIDE = TILE + 1
"""A tile holds its neighbours' first row and column too: four texels lie in one."""
WHOLE = 65535
BLOCK = 256
"""For so many pixels it is found out whether nothing or all of them show."""
JUST_OFF = 1e-6
ALL = 1 - 1e-6
F32 = np.float32
I32 = np.int32


@njit(**INLINED)
def floats_from(array: np.ndarray, first: int, n: int) -> np.ndarray:
    """Return a part of an array without a count of its owners, which a slice has."""
    address = array.ctypes.data + np.intp(4 * first)
    part: Any = carray(pointer(address), (n,), np.float32)
    return part


@njit(**INLINED)
def length(across: float, down: float) -> float:
    """Return a vector's length; `math.hypot` guards against what cannot be here."""
    return math.sqrt(across * across + down * down)


@njit(**PART)
def distance(step: Any, u: float, v: float) -> float:
    """Return how far a point lies from any shape but an ellipse, in its own units."""
    if step.kind == LINE:
        return u
    if step.kind == BOTH:
        return abs(u)
    if step.kind == ROUND:
        return length(u, v)
    across, down = abs(u), abs(v)
    half_width, half_height = step.numbers[HALF_WIDTH], step.numbers[HALF_HEIGHT]
    radius = step.numbers[RADIUS]
    across, down = across - half_width + radius, down - half_height + radius
    outside = length(max(across, 0.0), max(down, 0.0))
    return min(max(across, down), 0.0) + outside - radius


@njit(**PART)
def value_at(step: Any, away: float) -> float:
    """Return the value at a distance: a straight part cut off at 0 and 1, then bent."""
    share = min(max(step.numbers[OFFSET] + step.numbers[SLOPE] * away, 0.0), 1.0)
    one, two, three = step.numbers[2], step.numbers[3], step.numbers[4]
    return share * (one + share * (two + share * three))


@njit(**PART)
def bounds_in_ellipse(
    step: Any, u: float, v: float, other_u: float, other_v: float
) -> tuple[float, float]:
    """Return bounds of the distances on the way from one point to another.

    A distance is (k - 1) r, with k the point's length in radii and r between the two of
    them; k is never greater than at an end, and changes by at most a way's length in
    the shorter radius.
    """
    half_width, half_height = step.numbers[HALF_WIDTH], step.numbers[HALF_HEIGHT]
    least, most = min(half_width, half_height), max(half_width, half_height)
    one = length(u / half_width, v / half_height)
    other = length(other_u / half_width, other_v / half_height)
    way = length(other_u - u, other_v - v) / least
    low, high = (one + other - way) / 2 - 1, max(one, other) - 1
    return low * (most if low < 0 else least), high * (least if high < 0 else most)


@njit(**PART)
def bounds_of_distance(
    step: Any, row: int, column: float, first: int, last: int
) -> tuple[float, float]:
    """Return the least and the greatest value among pixels first..last of a line."""
    m = step.to_step
    u = m[0] * (column + first + 0.5) + m[1] * (row + 0.5) + m[2]
    v = m[3] * (column + first + 0.5) + m[4] * (row + 0.5) + m[5]
    steps = last - first - 1
    other_u, other_v = u + steps * m[0], v + steps * m[3]
    if step.kind == ELLIPSE:
        near, far = bounds_in_ellipse(step, u, v, other_u, other_v)
    else:
        # Shapes without dents: between two points the distance is never greater than
        # at the farther one, and changes by at most the way's length.
        away, other = distance(step, u, v), distance(step, other_u, other_v)
        near, far = min(away, other), max(away, other)
        if step.kind != LINE:
            near = (away + other - length(other_u - u, other_v - v)) / 2
    low, high = value_at(step, near), value_at(step, far)
    return min(low, high), max(low, high)


@njit(**PART)
def bounds_of_plane(
    step: Any, row: int, column: float, first: int, last: int
) -> tuple[float, float]:
    """Return the least and the greatest value of all tiles that a line may read."""
    m = step.to_step
    u = m[0] * (column + first + 0.5) + m[1] * (row + 0.5) + m[2] - 0.5
    v = m[3] * (column + first + 0.5) + m[4] * (row + 0.5) + m[5] - 0.5
    steps = last - first - 1
    other_u, other_v = u + steps * m[0], v + steps * m[3]
    across, down = step.columns - 1, step.rows - 1
    tile_columns = across // TILE + 1
    left = tile_of(min(u, other_u) - 0.01, across)
    right = tile_of(max(u, other_u) + 0.01, across)
    top, bottom = (
        tile_of(min(v, other_v) - 0.01, down),
        tile_of(max(v, other_v) + 0.01, down),
    )
    extremes = carray(
        pointer(step.extremes), ((down // TILE + 1) * tile_columns * 2,), np.uint16
    )
    low, high = WHOLE, 0
    for tile_row in range(top, bottom + 1):
        for tile_column in range(left, right + 1):
            at = 2 * (tile_row * tile_columns + tile_column)
            low = min(low, extremes[at])
            high = max(high, extremes[at + 1])
    return low / WHOLE, high / WHOLE


@njit(**PART)
def tile_of(position: float, greatest: int) -> int:
    """Return in which row or column of tiles a texel lies."""
    return int(min(max(position, 0.0), float(greatest))) // TILE


@njit(**PART)
def bounds_of_step(
    step: Any, row: int, column: float, first: int, last: int
) -> tuple[float, float]:
    """Return the least and the greatest value that a step joins."""
    if step.kind == PLANE:
        low, high = bounds_of_plane(step, row, column, first, last)
    else:
        low, high = bounds_of_distance(step, row, column, first, last)
    if step.inverted == 1:
        low, high = 1 - high, 1 - low
    return low, high


@njit(**INLINED)
def bounds_of_block(
    steps: np.ndarray,
    start: float,
    row: int,
    column: float,
    first: int,
    last: int,
) -> tuple[float, float]:
    """Return bounds of what all steps leave, for pixels first..last of a line."""
    low = high = start
    for at in range(steps.shape[0]):
        step = steps[at]
        if step.kind == SETTLE:
            one = step.numbers[0] + step.numbers[1] * low
            other = step.numbers[0] + step.numbers[1] * high
            low, high = min(one, other), max(one, other)
            continue
        least, most = bounds_of_step(step, row, column, first, last)
        if step.join == MULTIPLY:
            low, high = low * least, high * most
        elif step.join == ADD:
            low, high = low + least - low * least, high + most - high * most
        elif step.join == TAKE:
            low, high = low * (1 - most), high * (1 - least)
        elif step.join == PLUS:
            low, high = min(low + least, 1.0), min(high + most, 1.0)
        else:
            low, high = max(low - most, 0.0), max(high - least, 0.0)
    return low, high


@njit(**INLINED)
def bent(
    away: F32, slope: F32, offset: F32, least: F32, one: F32, two: F32, three: F32
) -> F32:
    """Turn a distance into a value, as `value_at` does, on top of the least one."""
    share = min(max(offset + slope * away, ZERO), ONE)
    return least + share * (one + share * (two + share * three))


@njit(**INLINED)
def write_bent(
    step: Any, u: float, v: float, turned: bool, values: np.ndarray, n: int
) -> None:
    """Write the values of a run's pixels by their distance; the first lies at u, v."""
    m, numbers = step.to_step, step.numbers
    left, top = F32(u), F32(v)
    du, dv = F32(m[0]), F32(m[3])
    half_width, half_height = numbers[HALF_WIDTH], numbers[HALF_HEIGHT]
    slope, offset = numbers[SLOPE], numbers[OFFSET]
    one, two, three = numbers[CURVE], numbers[CURVE + 1], numbers[CURVE + 2]
    least = ZERO
    if turned:
        least, one, two, three = ONE, -one, -two, -three
    if step.kind == LINE:
        for i in range(n):
            away = left + du * F32(I32(i))
            values[i] = bent(away, slope, offset, least, one, two, three)
    elif step.kind == BOTH:
        for i in range(n):
            away = abs(left + du * F32(I32(i)))
            values[i] = bent(away, slope, offset, least, one, two, three)
    elif step.kind == ROUND:
        for i in range(n):
            across, down = left + du * F32(I32(i)), top + dv * F32(I32(i))
            away = np.sqrt(across * across + down * down)
            values[i] = bent(away, slope, offset, least, one, two, three)
    elif step.kind == RECTANGLE:
        radius = numbers[RADIUS]
        inner_width, inner_height = half_width - radius, half_height - radius
        for i in range(n):
            across = abs(left + du * F32(I32(i))) - inner_width
            down = abs(top + dv * F32(I32(i))) - inner_height
            inside = min(max(across, down), ZERO)
            across, down = max(across, ZERO), max(down, ZERO)
            away = inside + np.sqrt(across * across + down * down) - radius
            values[i] = bent(away, slope, offset, least, one, two, three)
    else:
        share_u, share_v = ONE / half_width, ONE / half_height
        off = F32(JUST_OFF)
        for i in range(n):
            across = (abs(left + du * F32(I32(i))) + off) * share_u
            down = (abs(top + dv * F32(I32(i))) + off) * share_v
            share = np.sqrt(across * across + down * down)
            across, down = across * share_u, down * share_v
            away = (share - ONE) * share / np.sqrt(across * across + down * down)
            values[i] = bent(away, slope, offset, least, one, two, three)


@njit(**INLINED)
def share_of(texel: int, flip: int) -> F32:
    """Turn 0..65535 into 0..1; flipped by 65535 into one less that, exactly."""
    return F32(I32(I32(texel) ^ I32(flip))) * FROM_U16


@njit(**INLINED)
def write_plane(
    step: Any, u: float, v: float, flip: int, values: np.ndarray, n: int
) -> None:
    """Write a plane's values at a run's pixels, interpolated between texels."""
    across, down = step.columns - 1, step.rows - 1
    tile_columns = across // TILE + 1
    tiles = carray(pointer(step.tiles), ((down // TILE + 1) * tile_columns,), np.int64)
    du, dv = step.to_step[0], step.to_step[3]
    right, bottom = float(across), float(down)
    for i in range(n):
        here_u = min(max(u + du * i, 0.0), right)
        here_v = min(max(v + dv * i, 0.0), bottom)
        column, row = int(here_u), int(here_v)
        tile = tiles[(row // TILE) * tile_columns + column // TILE]
        if tile < 0:
            values[i] = share_of(-1 - tile, flip)
            continue
        start = tile + 2 * ((row % TILE) * TILE_STRIDE + column % TILE)
        texels = carray(pointer(start), (TILE_STRIDE + 2,), np.uint16)
        part_u, part_v = F32(here_u - column), F32(here_v - row)
        upper, lower = share_of(texels[0], flip), share_of(texels[TILE_STRIDE], flip)
        upper += part_u * (share_of(texels[1], flip) - upper)
        lower += part_u * (share_of(texels[TILE_STRIDE + 1], flip) - lower)
        values[i] = upper + part_v * (lower - upper)


@njit(**INLINED)
def copy_plane(
    step: Any, u: int, v: int, flip: int, values: np.ndarray, n: int
) -> None:
    """Write the values of a plane whose texels lie exactly under the view's pixels."""
    across, down = step.columns - 1, step.rows - 1
    tile_columns = across // TILE + 1
    tiles = carray(pointer(step.tiles), ((down // TILE + 1) * tile_columns,), np.int64)
    row = min(max(v, 0), down)
    at = 0
    while at < n:
        column = min(max(u + at, 0), across)
        run = min(TILE - column % TILE, n - at)
        if u + at != column:  # beyond an edge, which repeats
            run = min(max(-u, at + 1), n) - at if column == 0 else n - at
        tile = tiles[(row // TILE) * tile_columns + column // TILE]
        here = floats_from(values, at, run)
        start = tile + 2 * ((row % TILE) * TILE_STRIDE + column % TILE)
        texels = carray(pointer(start), (TILE,), np.uint16)
        if tile < 0 or u + at != column:
            level = share_of(-1 - tile if tile < 0 else texels[0], flip)
            for i in range(run):
                here[i] = level
        else:
            bring_span_near(start + 2 * TILE_STRIDE, 2 * run)
            for i in range(run):
                here[i] = share_of(texels[i], flip)
        at += run


@njit(**INLINED)
def write_values(
    step: Any, row: int, column: float, turned: bool, values: np.ndarray, n: int
) -> None:
    """Write a step's values at `n` pixels of a line from a column on.

    Turned, they are one less those: written so at once, they need not be read again.
    """
    m = step.to_step
    u = m[0] * (column + 0.5) + m[1] * (row + 0.5) + m[2]
    v = m[3] * (column + 0.5) + m[4] * (row + 0.5) + m[5]
    if step.kind == PLANE:
        flip = WHOLE if turned else 0
        u, v = u - 0.5, v - 0.5
        straight = m[0] == 1 and m[3] == 0
        if straight and u == math.floor(u) and v == math.floor(v):
            copy_plane(step, int(u), int(v), flip, values, n)
        else:
            write_plane(step, u, v, flip, values, n)
    else:
        write_bent(step, u, v, turned, values, n)


@njit(**INLINED)
def join_values(join: int, shown: np.ndarray, values: np.ndarray, n: int) -> None:
    """Join a step's values with what the steps before it left."""
    if join == MULTIPLY:
        for i in range(n):
            shown[i] *= values[i]
    elif join == ADD:
        for i in range(n):
            shown[i] += values[i] - shown[i] * values[i]
    elif join == TAKE:
        for i in range(n):
            shown[i] -= shown[i] * values[i]
    elif join == PLUS:
        for i in range(n):
            shown[i] = min(shown[i] + values[i], ONE)
    else:
        for i in range(n):
            shown[i] = max(shown[i] - values[i], ZERO)


@njit(**INLINED)
def write_shown(
    steps: np.ndarray,
    start: F32,
    row: int,
    column: float,
    shown: np.ndarray,
    values: np.ndarray,
    n: int,
) -> None:
    """Write how much all steps leave of `n` pixels of a line from a column on."""
    begun = begins(steps[0], start)
    if not begun:
        for i in range(n):
            shown[i] = start
    for at in range(steps.shape[0]):
        step = steps[at]
        if step.kind == SETTLE:
            added, kept = step.numbers[0], step.numbers[1]
            for i in range(n):
                shown[i] = added + kept * shown[i]
            continue
        is_first = begun and at == 0
        turned = (step.inverted == 1) != (is_first and step.join == TAKE)
        target = shown if is_first else values
        write_values(step, row, column, turned, target, n)
        if not is_first:
            join_values(step.join, shown, values, n)


@njit(**INLINED)
def begins(step: Any, start: F32) -> bool:
    """Tell whether what the first step leaves is its own value, or one less that."""
    if step.kind == SETTLE:
        return False
    return step.join == ADD if start == ZERO else step.join in (MULTIPLY, TAKE)


@njit(**INLINED)
def mask_line(
    steps: np.ndarray,
    start: F32,
    row: int,
    column: float,
    shown: np.ndarray,
    values: np.ndarray,
    first: int,
    last: int,
) -> tuple[int, int]:
    """Write how much of a line shows, and return the part that shows anything."""
    shown_first, shown_last = last, first
    for begin in range(first, last, BLOCK):
        n = min(BLOCK, last - begin)
        low, high = bounds_of_block(steps, start, row, column, begin, begin + n)
        here = floats_from(shown, begin, n)
        if high <= 0 or low >= ALL:
            level = ONE if high > 0 else ZERO
            for i in range(n):
                here[i] = level
        else:
            write_shown(steps, start, row, column + begin, here, values, n)
        if high > 0:
            shown_first = min(shown_first, begin)
            shown_last = begin + n
    return min(shown_first, shown_last), shown_last
