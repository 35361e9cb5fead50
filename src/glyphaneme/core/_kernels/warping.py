"""Samples a picture through a map that is not affine, pixel by pixel.

Each pixel's footprint in the picture is nearly a parallelogram. It is read at the level
at which its shorter side covers one to two texels, at as many points as its sides are
long, each between four texels: what is seen at an angle is averaged along its length
alone. How a footprint looks is found once a block of pixels in a row; blocks that are
alike and lie well inside the picture make one run, which is read in stages, as
`sampling` does. Where a run's points lie is reckoned for each by itself.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.addressing import lined_up
from glyphaneme.core._kernels.layout import (
    CHUNK,
    INLINED,
    KERNEL,
    ONE,
    PART,
    SA,
    SB,
    SCRATCH_FLOATS,
    SCRATCH_TEXELS,
    SG,
    SR,
    TINY,
    TO_U8,
    ZERO,
    A,
    B,
    G,
    R,
)
from glyphaneme.core._kernels.sampling import (
    alpha,
    blue,
    coverage,
    green,
    load_pair,
    load_texel,
    red,
    weigh_alpha,
    weigh_opaque,
)

ADDRESS, ROWS, COLUMNS = range(3)
"""Columns of the table of levels: where the first texel lies, and how many."""

F32 = np.float32
I32 = np.int32
U32 = np.uint32
BLOCK = 64
SPLIT = 8
STRAIGHT = 4
MOST_POINTS = 16.0
"""Along a side of a footprint."""
APART = 1.25
"""Texels between them, at most."""
HORIZON = 1e-9
NOWHERE = 1e9
NOTHING = 1e-9
AROUND = 1.5
LAST_PAIR = 1.001
"""How far from a level's end the last two texels begin that are read as one."""
OUTSIDE, AT_EDGE, INSIDE = range(3)
TWO = 2 - 1e-9


class Source(NamedTuple):
    """A picture as it is read."""

    levels: np.ndarray
    size: np.ndarray
    """Width and height in texels of the first level."""
    opaque: bool
    averaged: bool
    """Whether over each pixel's area, or else at one point."""


class Way(NamedTuple):
    """How a view's pixels map to the unit square that the picture fills."""

    home: np.ndarray
    """3 x 3: to the bent square."""
    moves: np.ndarray
    """From there to the straight one, at points of a grid; empty if nothing is bent."""
    grid: np.ndarray
    """Where that begins, left and top, and its steps a unit, across and down."""


class Room(NamedTuple):
    """What a run is worked out in."""

    scratch: np.ndarray
    corners: np.ndarray
    places: np.ndarray


@njit(**INLINED)
def level_of(size: float, levels: int) -> tuple[int, float]:
    """Return the level at which so many texels become one to two, and its scale."""
    level, shrink = 0, 1.0
    while size * shrink >= TWO and level < levels - 1:
        shrink *= 0.5
        level += 1
    return level, shrink


@njit(**INLINED)
def pack(r: F32, g: F32, b: F32, a: F32) -> U32:
    """Return a texel of values 0..255."""
    half = F32(0.5)
    # By way of int32, which SIMD converts to.
    return (
        U32(I32(r + half))
        | (U32(I32(g + half)) << U32(8))
        | (U32(I32(b + half)) << U32(16))
        | (U32(I32(a + half)) << U32(24))
    )


@njit(**PART)
def move_at(
    moves: np.ndarray, axis: int, at_x: float, at_y: float
) -> tuple[float, float, float]:
    """Return a move between four points of the grid, and its slopes across and down."""
    i = min(int(at_x), moves.shape[1] - 2)
    j = min(int(at_y), moves.shape[0] - 2)
    across, down = at_x - i, at_y - j
    m00, m01 = moves[j, i, axis], moves[j, i + 1, axis]
    m10, m11 = moves[j + 1, i, axis], moves[j + 1, i + 1, axis]
    top, left = m01 - m00, m10 - m00
    twist = m11 - m10 - top
    move = m00 + across * top + down * (left + across * twist)
    return move, top + down * twist, left + across * twist


@njit(**PART)
def place_at(
    way: Way, x: float, y: float
) -> tuple[float, float, float, float, float, float]:
    """Return where in the unit square a pixel lies: s, t, and both by x and y.

    The first is `NOWHERE` beyond the horizon.
    """
    home, moves, grid = way.home, way.moves, way.grid
    depth = home[6] * x + home[7] * y + home[8]
    if depth <= HORIZON:
        return NOWHERE, 0.0, 0.0, 0.0, 0.0, 0.0
    near = 1 / depth
    s = (home[0] * x + home[1] * y + home[2]) * near
    t = (home[3] * x + home[4] * y + home[5]) * near
    s_x, s_y = (home[0] - s * home[6]) * near, (home[1] - s * home[7]) * near
    t_x, t_y = (home[3] - t * home[6]) * near, (home[4] - t * home[7]) * near
    if moves.shape[0] == 0:
        return s, t, s_x, s_y, t_x, t_y
    at_x = min(max((s - grid[0]) * grid[2], 0.0), moves.shape[1] - 1.0)
    at_y = min(max((t - grid[1]) * grid[3], 0.0), moves.shape[0] - 1.0)
    move_s, by_s, by_t = move_at(moves, 0, at_x, at_y)
    a, b = 1 + by_s * grid[2], by_t * grid[3]
    move_t, by_s, by_t = move_at(moves, 1, at_x, at_y)
    c, d = by_s * grid[2], 1 + by_t * grid[3]
    return (
        s + move_s,
        t + move_t,
        a * s_x + b * t_x,
        a * s_y + b * t_y,
        c * s_x + d * t_x,
        c * s_y + d * t_y,
    )


@njit(**INLINED)
def side_of(by_x: float, by_y: float) -> float:
    """Return how far a pixel reaches along one axis of the picture."""
    return math.sqrt(by_x * by_x + by_y * by_y)


@njit(**INLINED)
def points_along(texels: float) -> int:
    """Return at how many points a side of a footprint is read."""
    return int(min(max(math.ceil(texels / APART), 1.0), MOST_POINTS))


@njit(**PART)
def read_point(
    address: int, rows: int, columns: int, u: float, v: float, opaque: bool
) -> tuple[F32, F32, F32, F32]:
    """Return R, G and B times alpha, and alpha, between four texels; 1 where opaque."""
    u = min(max(u - 0.5, 0.0), columns - 1.0)
    v = min(max(v - 0.5, 0.0), rows - 1.0)
    left, top = int(u), int(v)
    right, below = F32(u - left), F32(v - top)
    start = address + 4 * (top * columns + left)
    beside = 4 if left < columns - 1 else 0
    under = 4 * columns if top < rows - 1 else 0
    c00, c01 = load_texel(start), load_texel(start + beside)
    c10, c11 = load_texel(start + under), load_texel(start + under + beside)
    w11 = right * below
    w10, w01 = below - w11, right - w11
    w00 = ONE - right - w10
    total = ONE
    if not opaque:
        w00, w01 = w00 * alpha(c00), w01 * alpha(c01)
        w10, w11 = w10 * alpha(c10), w11 * alpha(c11)
        total = w00 + w01 + w10 + w11
    return (
        w00 * red(c00) + w01 * red(c01) + w10 * red(c10) + w11 * red(c11),
        w00 * green(c00) + w01 * green(c01) + w10 * green(c10) + w11 * green(c11),
        w00 * blue(c00) + w01 * blue(c01) + w10 * blue(c10) + w11 * blue(c11),
        total,
    )


@njit(**PART)
def aim_at(
    way: Way,
    x: float,
    y: float,
    extent: np.ndarray,
    us: np.ndarray,
    vs: np.ndarray,
    n: int,
) -> None:
    """Write where `n` points of a row lie in a level, from its first texel's centre.

    `extent` is the level's width and height as the unit square counts them, and its
    columns and rows, beyond which no point is let.
    """
    home, bent = way.home, way.moves.shape[0] > 0
    wide, high = extent[0], extent[1]
    most_u, most_v = extent[2] - LAST_PAIR, extent[3] - LAST_PAIR
    s0 = home[0] * x + home[1] * y + home[2]
    t0 = home[3] * x + home[4] * y + home[5]
    depth0 = home[6] * x + home[7] * y + home[8]
    if not bent:
        for i in range(n):
            near = 1 / (depth0 + i * home[6])
            u = (s0 + i * home[0]) * near * wide - 0.5
            v = (t0 + i * home[3]) * near * high - 0.5
            us[i] = min(max(u, 0.0), most_u)
            vs[i] = min(max(v, 0.0), most_v)
        return
    s, t, _, _, _, _ = place_at(way, x, y)
    for begin in range(0, n, STRAIGHT):
        # A bend is straight over a few pixels, to a hundredth of a texel.
        o, p, _, _, _, _ = place_at(way, x + begin + STRAIGHT, y)
        for i in range(begin, min(begin + STRAIGHT, n)):
            share = (i - begin) / STRAIGHT
            u = (s + share * (o - s)) * wide - 0.5
            v = (t + share * (p - t)) * high - 0.5
            us[i] = min(max(u, 0.0), most_u)
            vs[i] = min(max(v, 0.0), most_v)
        s, t = o, p


@njit(**PART)
def gather_at(
    address: int,
    columns: int,
    us: np.ndarray,
    vs: np.ndarray,
    t: np.ndarray,
    corners: np.ndarray,
    n: int,
) -> None:
    """Fetch the four texels round each point, as `gather_corners` does."""
    pairs, offsets = corners.view(np.uint64), corners[4 * CHUNK :]
    below = 4 * np.int64(columns)
    for i in range(n):
        left, top = I32(us[i]), I32(vs[i])
        t[SR + i] = F32(us[i] - left)
        t[SG + i] = F32(vs[i] - top)
        offsets[i] = U32(top * I32(columns) + left)
    for i in range(n):
        at_texel = address + 4 * np.int64(offsets[i])
        pairs[i] = load_pair(at_texel)
        pairs[CHUNK + i] = load_pair(at_texel + below)


@njit(**PART)
def read_run(
    source: Source,
    way: Way,
    look: np.ndarray,
    row: int,
    column: int,
    n: int,
    room: Room,
    out: np.ndarray,
) -> None:
    """Read a run inside the picture; `look` is its level, and points across, down."""
    level, across, down = look[0], look[1], look[2]
    levels, size = source.levels, source.size
    scratch, corners, places = room.scratch, room.corners, room.places
    address, columns = levels[level, ADDRESS], levels[level, COLUMNS]
    shrink = 0.5**level
    extent = places[2 * CHUNK :]
    extent[0], extent[1] = size[0] * shrink, size[1] * shrink
    extent[2], extent[3] = columns, levels[level, ROWS]
    us, vs = places[:CHUNK], places[CHUNK : 2 * CHUNK]
    for k in range(down):
        y = row + (k + 0.5) / down
        for j in range(across):
            x = column + (j + 0.5) / across
            aim_at(way, x, y, extent, us, vs, n)
            gather_at(address, columns, us, vs, scratch, corners, n)
            if source.opaque:
                weigh_opaque(corners, ONE, scratch, n)
            else:
                weigh_alpha(corners, ONE, scratch, n)
            if across * down == 1:
                for i in range(n):
                    out[row, column + i] = pack(
                        scratch[SR + i] * TO_U8,
                        scratch[SG + i] * TO_U8,
                        scratch[SB + i] * TO_U8,
                        scratch[SA + i] * TO_U8,
                    )
                return
            if k + j == 0:
                for i in range(n):
                    alpha_i = scratch[SA + i]
                    scratch[R + i] = scratch[SR + i] * alpha_i
                    scratch[G + i] = scratch[SG + i] * alpha_i
                    scratch[B + i] = scratch[SB + i] * alpha_i
                    scratch[A + i] = alpha_i
            else:
                for i in range(n):
                    alpha_i = scratch[SA + i]
                    scratch[R + i] += scratch[SR + i] * alpha_i
                    scratch[G + i] += scratch[SG + i] * alpha_i
                    scratch[B + i] += scratch[SB + i] * alpha_i
                    scratch[A + i] += alpha_i
    share = TO_U8 / F32(across * down)
    for i in range(n):
        weight = TO_U8 / max(scratch[A + i], TINY)
        out[row, column + i] = pack(
            scratch[R + i] * weight,
            scratch[G + i] * weight,
            scratch[B + i] * weight,
            scratch[A + i] * share,
        )


@njit(**PART)
def read_edge(
    source: Source,
    way: Way,
    row: int,
    column: int,
    out: np.ndarray,
) -> None:
    """Read one pixel that may lie at the picture's edge, or beyond it."""
    width, height = source.size[0], source.size[1]
    levels, opaque = source.levels, source.opaque
    out[row, column] = 0
    s, t, s_x, s_y, t_x, t_y = place_at(way, column + 0.5, row + 0.5)
    if s == NOWHERE:
        return
    u, v = s * width, t * height
    u_x, u_y, v_x, v_y = s_x * width, s_y * width, t_x * height, t_y * height
    foot_u, foot_v = side_of(u_x, u_y) + NOTHING, side_of(v_x, v_y) + NOTHING
    shown = coverage(u, width, foot_u) * coverage(v, height, foot_v)
    if shown <= 0:
        return
    a, b, c, area = form_of(u_x, u_y, v_x, v_y)
    level, shrink, across, down = look_at(a, b, c, area, source)
    r = g = b = total = ZERO
    for k in range(down):
        aside = (k + 0.5) / down - 0.5
        for n in range(across):
            along = (n + 0.5) / across - 0.5
            one_r, one_g, one_b, one_a = read_point(
                levels[level, ADDRESS],
                levels[level, ROWS],
                levels[level, COLUMNS],
                (u + along * u_x + aside * u_y) * shrink,
                (v + along * v_x + aside * v_y) * shrink,
                opaque,
            )
            r += one_r
            g += one_g
            b += one_b
            total += one_a
    weight = ONE / max(total, TINY)
    solid = TO_U8 if opaque else total / F32(across * down)
    out[row, column] = pack(r * weight, g * weight, b * weight, solid * F32(shown))


@njit(**INLINED)
def form_of(
    u_x: float, u_y: float, v_x: float, v_y: float
) -> tuple[float, float, float, float]:
    """Return the squares of a footprint's sides, their product, and its area."""
    return (
        u_x * u_x + v_x * v_x,
        u_x * u_y + v_x * v_y,
        u_y * u_y + v_y * v_y,
        abs(u_x * v_y - u_y * v_x),
    )


@njit(**PART)
def look_at(
    a: float, b: float, c: float, area: float, source: Source
) -> tuple[int, float, int, int]:
    """Return at which level, and at how many points, a footprint is read.

    `a` and `c` are the squares of its sides, `b` is their product as vectors.
    """
    longer = math.sqrt((a + c + math.sqrt((a - c) * (a - c) + 4 * b * b)) / 2)
    levels = len(source.levels)
    if not source.averaged:
        level, shrink = level_of(longer, levels)
        return level, shrink, 1, 1
    shorter = area / max(longer, NOTHING)
    level, shrink = level_of(max(shorter, longer / MOST_POINTS), levels)
    across = points_along(math.sqrt(a) * shrink)
    return level, shrink, across, points_along(math.sqrt(c) * shrink)


@njit(**PART)
def look_at_block(
    source: Source,
    way: Way,
    x: float,
    y: float,
    n: int,
    look: np.ndarray,
) -> int:
    """Write how a block of a row is read; return OUTSIDE, INSIDE or AT_EDGE.

    Between two pixels that lie well inside, or both beyond the same edge, all others
    do: a straight row is straight in the picture, or nearly so where that is bent.
    """
    width, height = source.size[0], source.size[1]
    s, t, s_x, s_y, t_x, t_y = place_at(way, x, y)
    o, p, o_x, o_y, p_x, p_y = place_at(way, x + n - 1, y)
    if s == NOWHERE or o == NOWHERE:
        return OUTSIDE if s == o else AT_EDGE
    foot_s = max(side_of(s_x, s_y), side_of(o_x, o_y)) * AROUND
    foot_t = max(side_of(t_x, t_y), side_of(p_x, p_y)) * AROUND
    if max(s, o) < -foot_s or min(s, o) > 1 + foot_s:
        return OUTSIDE
    if max(t, p) < -foot_t or min(t, p) > 1 + foot_t:
        return OUTSIDE
    # Of both ends, not of their mean: sides may lean either way.
    a, b, c, area = form_of(s_x * width, s_y * width, t_x * height, t_y * height)
    d, e, f, other = form_of(o_x * width, o_y * width, p_x * height, p_y * height)
    level, shrink, across, down = look_at(
        (a + d) / 2, (b + e) / 2, (c + f) / 2, (area + other) / 2, source
    )
    look[0], look[1], look[2] = level, across, down
    # Whatever a point reads must lie inside, too.
    away_s, away_t = foot_s + 1 / (width * shrink), foot_t + 1 / (height * shrink)
    if min(s, o) < away_s or max(s, o) > 1 - away_s:
        return AT_EDGE
    if min(t, p) < away_t or max(t, p) > 1 - away_t:
        return AT_EDGE
    return INSIDE


@njit(**PART)
def read_split(
    source: Source,
    way: Way,
    row: int,
    column: int,
    n: int,
    look: np.ndarray,
    room: Room,
    out: np.ndarray,
) -> None:
    """Read a block through which an edge runs, in smaller ones."""
    for at in range(column, column + n, SPLIT):
        few = min(SPLIT, column + n - at)
        where = look_at_block(source, way, at + 0.5, row + 0.5, few, look)
        if where == INSIDE:
            read_run(source, way, look, row, at, few, room, out)
        elif where == OUTSIDE:
            out[row, at : at + few] = 0
        else:
            for i in range(at, at + few):
                read_edge(source, way, row, i, out)


@njit(
    types.void(
        types.Array(types.i8, 2, "C", readonly=True),
        types.b1,
        types.Array(types.f8, 1, "C", readonly=True),
        types.Array(types.f4, 3, "C", readonly=True),
        types.Array(types.f8, 1, "C", readonly=True),
        types.Array(types.f8, 1, "C", readonly=True),
        types.b1,
        types.u4[:, ::1],
        types.i8,
        types.i8,
    ),
    **KERNEL,
)
def warp_rows_into(
    levels: np.ndarray,
    opaque: bool,
    home: np.ndarray,
    moves: np.ndarray,
    grid: np.ndarray,
    size: np.ndarray,
    averaged: bool,
    out: np.ndarray,
    first: int,
    last: int,
) -> None:
    """Write rows `first` to `last` of straight RGBA.

    What goes in is as `Source` and `Way` explain it. Not averaged, the level is that
    of the footprint's longer side, read at one point.
    """
    source = Source(levels, size, opaque, averaged)
    way = Way(home, moves, grid)
    room = Room(
        lined_up(SCRATCH_FLOATS),
        lined_up(SCRATCH_TEXELS).view(np.uint32),
        np.empty(2 * CHUNK + 4, np.float64),
    )
    look, run = np.zeros(3, np.int64), np.zeros(3, np.int64)
    columns = out.shape[1]
    for row in range(first, last):
        begin = 0
        pending = 0
        for column in range(0, columns, BLOCK):
            n = min(BLOCK, columns - column)
            where = look_at_block(source, way, column + 0.5, row + 0.5, n, look)
            alike = (
                where == INSIDE
                and pending > 0
                and pending + n <= CHUNK
                and look[0] == run[0]
                and look[1] == run[1]
                and look[2] == run[2]
            )
            if alike:
                pending += n
                continue
            if pending > 0:
                read_run(source, way, run, row, begin, pending, room, out)
                pending = 0
            if where == INSIDE:
                begin, pending = column, n
                run[:] = look
            elif where == OUTSIDE:
                out[row, column : column + n] = 0
            else:
                read_split(source, way, row, column, n, look, room, out)
        if pending > 0:
            read_run(source, way, run, row, begin, pending, room, out)
