"""Paints strokes: how much of each pixel a soft brush covers, and what that leaves.

Tiles are 64 by 64 pixels with their neighbours' first row and column, two channels of
uint16: how much is covered, and how much of that is shown. A channel that is even has
no pixels; in place of their address stands -1 - its value.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numba import carray, njit, types

from glyphaneme.core._kernels.addressing import pointer
from glyphaneme.core._kernels.layout import INLINED, KERNEL, ONE, PART, ZERO
from glyphaneme.core._kernels.masking import TILE, TILE_STRIDE

HALF_PIXEL = np.float32(0.5)
HALF_STEP = np.float32(0.5)
F32 = np.float32
I32 = np.int32
U32 = np.uint32
WHOLE = 65535
MOST = np.float32(WHOLE)
TEXELS = TILE_STRIDE * TILE_STRIDE
AROUND = 3
"""A halved tile is made of so many by so many: its border needs the third."""

POINTS = types.f8[:, ::1]
TEXELS_F32 = types.f4[:, ::1]
ROWS = types.i8[:, ::1]
PLANES = types.i8[:, :, ::1]
EXTREMES = types.u2[:, :, :, ::1]


@njit(**PART)
def raise_covered(
    points: np.ndarray, softness: float, left: float, top: float, out: np.ndarray
) -> None:
    """Raise `out` to what a stroke covers, 0..1.

    `points` are rows of x, y and radius; between two of them the brush moves straight
    and its radius changes evenly. At distance d from the brush's path, with radius r
    and softness s there, t = 1/2 + (r - s r / 2 - d) / max(s r, 1) is cut off at 0 and
    1 and bent to t² (3 - 2 t) where s r > 1. `left` and `top` are where `out` begins.
    """
    rows, columns = out.shape
    for at in range(max(points.shape[0] - 1, 1)):
        x, y, radius = points[at, 0], points[at, 1], points[at, 2]
        end = min(at + 1, points.shape[0] - 1)
        across, down = points[end, 0] - x, points[end, 1] - y
        growth = points[end, 2] - radius
        most = max(radius, points[end, 2]) + 1.0
        squared = across * across + down * down
        first_row = max(int(np.floor(min(y, y + down) - most - top)), 0)
        last_row = min(int(np.ceil(max(y, y + down) + most - top)) + 1, rows)
        first = max(int(np.floor(min(x, x + across) - most - left)), 0)
        last = min(int(np.ceil(max(x, x + across) + most - left)) + 1, columns)
        scale = F32(1 / squared) if squared > 0 else ZERO
        du, dv = F32(across), F32(down)
        start, grown, soft = F32(radius), F32(growth), F32(softness)
        for row in range(first_row, last_row):
            v = F32(top + row + 0.5 - y)
            begin = F32(left + first + 0.5 - x)
            line = out[row, first:]
            for column in range(last - first):
                u = begin + F32(I32(column))
                along = min(max((u * du + v * dv) * scale, ZERO), ONE)
                off_u, off_v = u - along * du, v - along * dv
                away = np.sqrt(off_u * off_u + off_v * off_v)
                here = start + along * grown
                band = soft * here
                share = HALF_PIXEL + (here - band * HALF_PIXEL - away) / max(band, ONE)
                share = min(max(share, ZERO), ONE)
                bent = share * share * (F32(3) - share - share)
                value = bent if band > ONE else share
                line[column] = max(line[column], value)


@njit(types.void(POINTS, types.f8, types.f8, types.f8, TEXELS_F32), **KERNEL)
def cover_tile(
    points: np.ndarray, softness: float, left: float, top: float, out: np.ndarray
) -> None:
    """Raise `out` to what a stroke covers of a tile that begins at `left`, `top`."""
    raise_covered(points, softness, left, top, out)


@njit(**INLINED)
def covers(covered: np.ndarray) -> bool:
    """Tell whether a stroke covers anything of a tile: no value is below nothing."""
    bits = covered.view(np.uint32)
    found = U32(0)
    for at in range(TEXELS):
        found = U32(found | bits[at])
    return found != U32(0)


@njit(**PART)
def lay_channel(
    place: int, covered: np.ndarray, strength: F32, added: F32, out: np.ndarray
) -> tuple[int, int]:
    """Write b (1 - s c) + a s c over a channel's b; return the least and greatest.

    What is even and stays so is not written.
    """
    if place < 0:
        even = F32(I32(-1 - place))
        if even == added:
            return -1 - place, -1 - place
        for at in range(TEXELS):
            share = covered[at] * strength
            out[at] = np.uint16(even + (added - even) * share + HALF_STEP)
    else:
        before = carray(pointer(place), (TEXELS,), np.uint16)
        for at in range(TEXELS):
            share, here = covered[at] * strength, F32(I32(before[at]))
            out[at] = np.uint16(here + (added - here) * share + HALF_STEP)
    return extremes_of(out)


@njit(**INLINED)
def extremes_of(texels: np.ndarray) -> tuple[int, int]:
    """Return the least and the greatest of a tile's texels."""
    least, most = np.uint16(WHOLE), np.uint16(0)
    for at in range(TEXELS):
        least, most = min(least, texels[at]), max(most, texels[at])
    return int(least), int(most)


@njit(**INLINED)
def put(
    least: int, most: int, tile: np.ndarray, place: np.ndarray, extremes: np.ndarray
) -> None:
    """Write what stands for a channel where it was written: its room, or its value."""
    extremes[0], extremes[1] = least, most
    if least == most:
        tile[0] = -1 - least
    place[0] = tile[0]


@njit(
    types.void(
        POINTS,
        types.f8,
        types.f8,
        types.boolean,
        ROWS,
        types.i8,
        types.i8,
        PLANES,
        EXTREMES,
    ),
    **KERNEL,
)
def lay_stroke(
    points: np.ndarray,
    softness: float,
    strength: float,
    shows: bool,
    tiles: np.ndarray,
    top: int,
    left: int,
    places: np.ndarray,
    extremes: np.ndarray,
) -> None:
    """Paint a stroke over tiles of both planes, which begin at the tile `top`, `left`.

    Each is its row and column, the places of room for the pixels of both channels, and
    of what the stroke covers already, float32; 0 where there is none, or where a
    channel needs none, being even and staying so. In place of room it gets what stands
    for each channel, and for what is covered 1, or 0 where the stroke covers nothing.
    """
    share, kept = F32(strength), MOST if shows else ZERO
    covered = np.empty((TILE_STRIDE, TILE_STRIDE), np.float32)
    flat = covered.reshape(TEXELS)
    for at in range(tiles.shape[0]):
        row, column, start = tiles[at, 0], tiles[at, 1], tiles[at, 4]
        if start == 0:
            flat[:] = ZERO
        else:
            flat[:] = carray(pointer(start), (TEXELS,), np.float32)
        upper, first = float(row * TILE), float(column * TILE)
        raise_covered(points, softness, first, upper, covered)
        tiles[at, 4] = int(covers(flat))
        if tiles[at, 4] == 0:
            continue
        for channel in range(2):
            before = places[channel, row - top, column - left]
            out = carray(pointer(tiles[at, 2 + channel]), (TEXELS,), np.uint16)
            added = kept if channel else MOST
            least, most = lay_channel(before, flat, share, added, out)
            put(
                least,
                most,
                tiles[at, 2 + channel :],
                places[channel, row - top, column - left :],
                extremes[channel, row - top, column - left],
            )


@njit(**INLINED)
def texels_at(place: int, even: np.ndarray) -> np.ndarray:
    """Return a tile's texels; where it is even, `even` with its value."""
    if place < 0:
        even[:] = np.uint16(-1 - place)
        return even
    texels: Any = carray(pointer(place), (TEXELS,), np.uint16)
    return texels


@njit(**PART)
def widen_by_tile(
    before: int, after: int, even: np.ndarray, row: int, column: int, box: np.ndarray
) -> None:
    """Widen first row, first column, last row and last column to what differs there."""
    one, other = texels_at(before, even[0]), texels_at(after, even[1])
    for line in range(TILE_STRIDE):
        start = line * TILE_STRIDE
        differs = I32(0)
        for at in range(start, start + TILE_STRIDE):
            differs = I32(differs | (I32(one[at]) ^ I32(other[at])))
        if differs == I32(0):
            continue
        first, last = 0, TILE_STRIDE - 1
        while one[start + first] == other[start + first]:
            first += 1
        while one[start + last] == other[start + last]:
            last -= 1
        box[0], box[1] = min(box[0], row + line), min(box[1], column + first)
        box[2], box[3] = max(box[2], row + line), max(box[3], column + last)


@njit(**INLINED)
def differ(one: np.ndarray, other: np.ndarray) -> bool:
    """Tell whether two rows of addresses are other ones somewhere."""
    found = 0
    for at in range(len(one)):
        found |= one[at] ^ other[at]
    return found != 0


@njit(**INLINED)
def from_outside(turn: int, count: int) -> int:
    """Go through places from both ends: what lies in the middle widens no box then."""
    return count - 1 - turn // 2 if turn % 2 else turn // 2


@njit(types.void(PLANES, PLANES, types.i8, types.i8, types.i8[::1]), **KERNEL)
def find_differences(
    before: np.ndarray, after: np.ndarray, first: int, end: int, box: np.ndarray
) -> None:
    """Write where the tiles of two sets of planes differ, (c, rows, columns) addresses.

    Only rows of tiles from `first` on are looked at, and none from `end` on. `box` gets
    the first row and column of pixels that differ, and the last ones; the last before
    the first where nothing does.
    """
    channels, rows, columns = before.shape
    box[0], box[1], box[2], box[3] = rows * TILE, columns * TILE, -1, -1
    even = np.empty((2, TEXELS), np.uint16)
    for turn in range(end - first):
        row = first + from_outside(turn, end - first)
        for channel in range(channels):
            one, other = before[channel, row], after[channel, row]
            if not differ(one, other):
                continue
            for turn_across in range(columns):
                column = from_outside(turn_across, columns)
                was, now = one[column], other[column]
                top, left = row * TILE, column * TILE
                inside = box[0] <= top and top + TILE <= box[2]
                inside &= box[1] <= left and left + TILE <= box[3]
                if was != now and not inside:
                    widen_by_tile(was, now, even, top, left, box)


@njit(**PART)
def halve_one(place: int, down: int, across: int, out: np.ndarray) -> None:
    """Average one of three by three tiles into its part of the halved one."""
    half = TILE // 2
    rows = min(half, TILE_STRIDE - half * down)
    columns = min(half, TILE_STRIDE - half * across)
    if place < 0:
        even = np.uint16(-1 - place)
        for row in range(rows):
            line = out[half * down + row, half * across :]
            for column in range(columns):
                line[column] = even
        return
    texels: Any = carray(pointer(place), (TILE_STRIDE, TILE_STRIDE), np.uint16)
    for row in range(rows):
        line = out[half * down + row, half * across :]
        upper, lower = texels[2 * row], texels[2 * row + 1]
        for column in range(columns):
            total = (
                I32(upper[2 * column])
                + I32(upper[2 * column + 1])
                + I32(lower[2 * column])
                + I32(lower[2 * column + 1])
            )
            line[column] = np.uint16((total + 2) >> 2)


@njit(**INLINED)
def place_at(places: np.ndarray, row: int, column: int) -> int:
    """Return the place of a tile's channel; that of nothing beyond a plane."""
    rows, columns = places.shape
    inside = 0 <= row < rows and 0 <= column < columns
    return places[row, column] if inside else -1


@njit(
    types.void(PLANES, types.i8, types.i8, ROWS, types.i8, types.i8, PLANES, EXTREMES),
    **KERNEL,
)
def halve_tiles(
    finer: np.ndarray,
    finer_top: int,
    finer_left: int,
    tiles: np.ndarray,
    top: int,
    left: int,
    places: np.ndarray,
    extremes: np.ndarray,
) -> None:
    """Average three by three tiles into one each, in both channels.

    `finer` are the planes at twice the size, which begin at the tile `finer_top`,
    `finer_left`; the others are as for `lay_stroke`.
    """
    for at in range(tiles.shape[0]):
        row, column = tiles[at, 0], tiles[at, 1]
        upper, first = 2 * row - finer_top, 2 * column - finer_left
        tiles[at, 4] = 1
        for channel in range(2):
            room = pointer(tiles[at, 2 + channel])
            out: Any = carray(room, (TILE_STRIDE, TILE_STRIDE), np.uint16)
            for down in range(AROUND):
                for across in range(AROUND):
                    place = place_at(finer[channel], upper + down, first + across)
                    halve_one(place, down, across, out)
            least, most = extremes_of(out.reshape(TEXELS))
            put(
                least,
                most,
                tiles[at, 2 + channel :],
                places[channel, row - top, column - left :],
                extremes[channel, row - top, column - left],
            )
