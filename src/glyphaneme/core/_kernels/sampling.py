"""Reads one layer's pixels for a run of view pixels, through an affine map.

Sources are straight RGBA read as one u32 a texel. Colours are premultiplied while
they are interpolated: interpolating straight colours leaves a fringe of up to 59
levels round see-through places, and storing premultiplied u8 loses up to 32.
Positions (u, v) are measured in texels from the source's top left corner, so that a
texel's centre lies at + 0.5.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from llvmlite import ir
from numba import njit, types
from numba.core import cgutils
from numba.extending import intrinsic

from glyphaneme.core._kernels.layout import (
    CHUNK,
    FROM_U8,
    HALF,
    INLINED,
    LEVELS,
    ONE,
    PART,
    SA,
    SB,
    SG,
    SR,
    TINY,
    ZERO,
)

F32 = np.float32
I32 = np.int32
BYTE = np.uint32(255)
# The hot loop counts from the chunk's start in float32, which errs by up to 1e-4 of
# a texel; this margin keeps its reads inside the source.
MARGIN = 1e-3
LEVEL = 1e-12
PREFETCH_STEP = 4
LINE = 64  # bytes that memory hands over at once


@njit(**INLINED)
def red(texel: np.uint32) -> F32:
    """Return the red byte as float32; through int32, which SIMD converts."""
    return F32(I32(texel & BYTE))


@njit(**INLINED)
def green(texel: np.uint32) -> F32:
    """Return the green byte as float32."""
    return F32(I32((texel >> np.uint32(8)) & BYTE))


@njit(**INLINED)
def blue(texel: np.uint32) -> F32:
    """Return the blue byte as float32."""
    return F32(I32((texel >> np.uint32(16)) & BYTE))


@njit(**INLINED)
def alpha(texel: np.uint32) -> F32:
    """Return the alpha byte as float32."""
    return F32(I32(texel >> np.uint32(24)))


def _loading(kind: Any) -> Any:
    """Return a function that loads a word from an address, a multiple of four."""

    @intrinsic
    def load(_typing: Any, _address: Any) -> Any:
        def lower(_context: Any, builder: Any, _signature: Any, values: Any) -> Any:
            place = ir.IntType(kind.bitwidth).as_pointer()
            return builder.load(builder.inttoptr(values[0], place), align=4)

        return kind(types.int64), lower

    return load


load_pair = _loading(types.uint64)  # of neighbouring texels
load_texel = _loading(types.uint32)


@intrinsic
def prefetch(_typing: Any, _address: Any) -> Any:
    """Have the memory round an address brought near; any address will do."""

    def lower(context: Any, builder: Any, _signature: Any, values: Any) -> Any:
        word, place = ir.IntType(32), ir.IntType(8).as_pointer()
        shape = ir.FunctionType(ir.VoidType(), [place, word, word, word])
        name = "llvm.prefetch.p0i8"
        function = cgutils.get_or_insert_function(builder.module, shape, name)
        reading, into_second_cache, data = word(0), word(2), word(1)
        where = builder.inttoptr(values[0], place)
        builder.call(function, [where, reading, into_second_cache, data])
        return context.get_dummy_value()

    return types.void(types.int64), lower


@njit(**PART)
def narrowed(
    step: float, start: float, low: float, high: float, first: int, last: int
) -> tuple[int, int]:
    """Return the part of first..last (exclusive) with low <= start + i step <= high."""
    if low > high:
        return first, first
    if abs(step) < LEVEL:
        if start < low or start > high:
            return first, first
        return first, last
    enter = (low - start) / step
    leave = (high - start) / step
    if enter > leave:
        enter, leave = leave, enter
    inner_first = max(float(first), min(float(last), math.ceil(enter)))
    inner_last = max(inner_first, min(float(last), math.floor(leave) + 1.0))
    return int(inner_first), int(inner_last)


@njit(**PART)
def copy_span(
    texels: np.ndarray, offset: int, opacity: F32, t: np.ndarray, n: int
) -> None:
    """Read `n` texels that lie exactly under the view's pixels."""
    source = texels[offset:]
    strength = opacity * FROM_U8
    for i in range(n):
        texel = source[i]
        t[SR + i] = red(texel) * FROM_U8
        t[SG + i] = green(texel) * FROM_U8
        t[SB + i] = blue(texel) * FROM_U8
        t[SA + i] = alpha(texel) * strength


@njit(**PART)
def look_up_span(
    texels: np.ndarray,
    offset: int,
    levels: np.ndarray,
    opacity: F32,
    t: np.ndarray,
    n: int,
) -> None:
    """Read texels like `copy_span`, by a table of what becomes of their levels.

    `levels` are 256 of red, then of green, then of blue.
    """
    source = texels[offset:]
    reds, greens, blues = levels, levels[LEVELS:], levels[2 * LEVELS :]
    strength = opacity * FROM_U8
    for i in range(n):
        texel = source[i]
        t[SR + i] = reds[texel & BYTE]
        t[SG + i] = greens[(texel >> np.uint32(8)) & BYTE]
        t[SB + i] = blues[(texel >> np.uint32(16)) & BYTE]
    for i in range(n):
        t[SA + i] = alpha(source[i]) * strength


@njit(**INLINED)
def aim(
    columns: int,
    ray: np.ndarray,
    middle: F32,
    t: np.ndarray,
    offsets: np.ndarray,
    n: int,
) -> int:
    """Write which texels samples lie on, and how far from them, into SR and SG.

    With 0 as the middle a sample lies behind its texel's centre, by 0 to 1; with 1/2
    the nearest one counts, and distances are -1/2 to 1/2. Offsets count from the byte
    that is returned.
    """
    whole_u = math.floor(ray[0])
    whole_v = math.floor(ray[1])
    u, v = F32(ray[0] - whole_u) + middle, F32(ray[1] - whole_v) + middle
    du, dv = F32(ray[2]), F32(ray[3])
    stride = I32(columns)
    for i in range(n):
        at = F32(I32(i))
        here_u = du * at + u
        here_v = dv * at + v
        floor_u, floor_v = np.floor(here_u), np.floor(here_v)
        t[SR + i] = here_u - floor_u - middle
        t[SG + i] = here_v - floor_v - middle
        offsets[i] = np.uint32(I32(floor_v) * stride + I32(floor_u))
    return int(4 * (np.int64(whole_v) * columns + np.int64(whole_u)))


@njit(**PART)
def gather_corners(
    address: int,
    columns: int,
    ray: np.ndarray,
    ahead: int,
    t: np.ndarray,
    corners: np.ndarray,
    n: int,
) -> None:
    """Fetch the four texels round each sample, and its fractions into SR and SG.

    `ray` is (u, v, du, dv) of the first sample and the step to the next, less half a
    texel; `ahead`, in bytes, is how far the view's next row lies, or 0. In stages:
    fractions and offsets vectorise, the gather itself is scalar; 2.7 x the speed of
    one loop for all. Neighbours in a row are fetched as one.
    """
    pairs, offsets = corners.view(np.uint64), corners[4 * CHUNK :]
    below = 4 * np.int64(columns)
    base = address + aim(columns, ray, ZERO, t, offsets, n)
    if ahead != 0:
        bring_near(base + ahead, offsets, n)
    for i in range(n):
        at_texel = base + 4 * np.int64(I32(offsets[i]))
        pairs[i] = load_pair(at_texel)
        pairs[CHUNK + i] = load_pair(at_texel + below)


@njit(**PART)
def bring_near(base: int, offsets: np.ndarray, n: int) -> None:
    """Prefetch what the view's next row will read; turned rows cross many lines."""
    for i in range(0, n, PREFETCH_STEP):
        prefetch(base + 4 * np.int64(I32(offsets[i])))


@njit(**PART)
def bring_span_near(address: int, size: int) -> None:
    """Prefetch so many bytes; the processor itself does so within a page only."""
    for at in range(0, size, LINE):
        prefetch(address + at)


@njit(**PART)
def gather_nine(
    address: int,
    columns: int,
    ray: np.ndarray,
    ahead: int,
    t: np.ndarray,
    texels: np.ndarray,
    n: int,
) -> None:
    """Fetch the nine texels round each sample, as `gather_corners` does four.

    Into SR and SG goes how far the sample lies from the middle one's centre. Of each
    of three rows, two texels are fetched as one, and then the third.
    """
    pairs, offsets = texels.view(np.uint64), texels[9 * CHUNK :]
    below = 4 * np.int64(columns)
    base = address + aim(columns, ray, HALF, t, offsets, n) - below - 4
    if ahead != 0:
        bring_near(base + ahead, offsets, n)
    for i in range(n):
        at_texel = base + 4 * np.int64(I32(offsets[i]))
        pairs[i] = load_pair(at_texel)
        texels[6 * CHUNK + i] = load_texel(at_texel + 8)
        pairs[CHUNK + i] = load_pair(at_texel + below)
        texels[7 * CHUNK + i] = load_texel(at_texel + below + 8)
        pairs[2 * CHUNK + i] = load_pair(at_texel + 2 * below)
        texels[8 * CHUNK + i] = load_texel(at_texel + 2 * below + 8)


@njit(**INLINED)
def share_before(away: F32, reach: F32) -> F32:
    """Return how much of a box of size `reach` lies on the texel before the middle one.

    `away` is how far the box's centre lies behind that of the middle texel, at most
    half a texel; `reach` is 1 to 2 texels. At 1 this is linear interpolation.
    """
    return max(ZERO, HALF * (reach - ONE) - away) / reach


@njit(**PART)
def weigh_opaque(corners: np.ndarray, opacity: F32, t: np.ndarray, n: int) -> None:
    """Interpolate gathered corners that are all opaque."""
    for i in range(n):
        across, down = t[SR + i], t[SG + i]
        c00, c01 = corners[2 * i], corners[2 * i + 1]
        c10, c11 = corners[2 * CHUNK + 2 * i], corners[2 * CHUNK + 2 * i + 1]
        w11 = across * down
        w10 = down - w11
        w01 = across - w11
        w00 = ONE - across - w10
        t[SR + i] = FROM_U8 * (
            w00 * red(c00) + w01 * red(c01) + w10 * red(c10) + w11 * red(c11)
        )
        t[SG + i] = FROM_U8 * (
            w00 * green(c00) + w01 * green(c01) + w10 * green(c10) + w11 * green(c11)
        )
        t[SB + i] = FROM_U8 * (
            w00 * blue(c00) + w01 * blue(c01) + w10 * blue(c10) + w11 * blue(c11)
        )
        t[SA + i] = opacity


@njit(**PART)
def weigh_alpha(corners: np.ndarray, opacity: F32, t: np.ndarray, n: int) -> None:
    """Interpolate gathered corners of any alpha: premultiplied, then divided."""
    strength = opacity * FROM_U8
    for i in range(n):
        across, down = t[SR + i], t[SG + i]
        c00, c01 = corners[2 * i], corners[2 * i + 1]
        c10, c11 = corners[2 * CHUNK + 2 * i], corners[2 * CHUNK + 2 * i + 1]
        w11 = across * down
        w10 = down - w11
        w01 = across - w11
        w00 = ONE - across - w10
        w00 *= alpha(c00)
        w01 *= alpha(c01)
        w10 *= alpha(c10)
        w11 *= alpha(c11)
        total = w00 + w01 + w10 + w11
        scale = FROM_U8 / max(total, TINY)
        t[SR + i] = scale * (
            w00 * red(c00) + w01 * red(c01) + w10 * red(c10) + w11 * red(c11)
        )
        t[SG + i] = scale * (
            w00 * green(c00) + w01 * green(c01) + w10 * green(c10) + w11 * green(c11)
        )
        t[SB + i] = scale * (
            w00 * blue(c00) + w01 * blue(c01) + w10 * blue(c10) + w11 * blue(c11)
        )
        t[SA + i] = total * strength


@njit(**PART)
def average_opaque(
    texels: np.ndarray, reach: np.ndarray, opacity: F32, t: np.ndarray, n: int
) -> None:
    """Average nine gathered texels that are all opaque over each pixel's area."""
    reach_u, reach_v = F32(reach[0]), F32(reach[1])
    for i in range(n):
        across, down = t[SR + i], t[SG + i]
        left, right = share_before(across, reach_u), share_before(-across, reach_u)
        middle = ONE - left - right
        above, below = share_before(down, reach_v), share_before(-down, reach_v)
        level = ONE - above - below
        a0, a1, a2 = texels[2 * i], texels[2 * i + 1], texels[6 * CHUNK + i]
        b0, b1 = texels[2 * CHUNK + 2 * i], texels[2 * CHUNK + 2 * i + 1]
        b2 = texels[7 * CHUNK + i]
        c0, c1 = texels[4 * CHUNK + 2 * i], texels[4 * CHUNK + 2 * i + 1]
        c2 = texels[8 * CHUNK + i]
        t[SR + i] = FROM_U8 * (
            above * (left * red(a0) + middle * red(a1) + right * red(a2))
            + level * (left * red(b0) + middle * red(b1) + right * red(b2))
            + below * (left * red(c0) + middle * red(c1) + right * red(c2))
        )
        t[SG + i] = FROM_U8 * (
            above * (left * green(a0) + middle * green(a1) + right * green(a2))
            + level * (left * green(b0) + middle * green(b1) + right * green(b2))
            + below * (left * green(c0) + middle * green(c1) + right * green(c2))
        )
        t[SB + i] = FROM_U8 * (
            above * (left * blue(a0) + middle * blue(a1) + right * blue(a2))
            + level * (left * blue(b0) + middle * blue(b1) + right * blue(b2))
            + below * (left * blue(c0) + middle * blue(c1) + right * blue(c2))
        )
        t[SA + i] = opacity


@njit(**PART)
def average_alpha(
    texels: np.ndarray, reach: np.ndarray, opacity: F32, t: np.ndarray, n: int
) -> None:
    """Average nine gathered texels of any alpha: premultiplied, then divided."""
    strength = opacity * FROM_U8
    reach_u, reach_v = F32(reach[0]), F32(reach[1])
    for i in range(n):
        across, down = t[SR + i], t[SG + i]
        left, right = share_before(across, reach_u), share_before(-across, reach_u)
        middle = ONE - left - right
        above, below = share_before(down, reach_v), share_before(-down, reach_v)
        level = ONE - above - below
        r = g = b = total = ZERO
        for row in range(3):
            first = texels[2 * row * CHUNK + 2 * i]
            second = texels[2 * row * CHUNK + 2 * i + 1]
            third = texels[(6 + row) * CHUNK + i]
            share = above if row == 0 else (level if row == 1 else below)
            w0 = share * left * alpha(first)
            w1 = share * middle * alpha(second)
            w2 = share * right * alpha(third)
            total += w0 + w1 + w2
            r += w0 * red(first) + w1 * red(second) + w2 * red(third)
            g += w0 * green(first) + w1 * green(second) + w2 * green(third)
            b += w0 * blue(first) + w1 * blue(second) + w2 * blue(third)
        scale = FROM_U8 / max(total, TINY)
        t[SR + i] = r * scale
        t[SG + i] = g * scale
        t[SB + i] = b * scale
        t[SA + i] = total * strength


@njit(**PART)
def coverage(position: float, extent: float, footprint: float) -> float:
    """Return how much of a view pixel lies between 0 and `extent`, along one axis.

    `footprint` is the pixel's size in texels; the pixel is taken as a box.
    """
    before = min(max(position / footprint + 0.5, 0.0), 1.0)
    behind = min(max((extent - position) / footprint + 0.5, 0.0), 1.0)
    return max(before + behind - 1.0, 0.0)


@njit(**PART)
def edge_span(
    texels: np.ndarray,
    columns: int,
    rows: int,
    ray: np.ndarray,
    extent: np.ndarray,
    opacity: F32,
    t: np.ndarray,
    first: int,
    last: int,
) -> None:
    """Sample pixels first..last one by one, at or across the source's edges.

    Colours beyond the edge repeat it; how much shows is the pixel's coverage.
    `extent` is (reach across, reach down, width, height, footprint across, footprint
    down) in texels; a reach is what `share_before` takes.
    """
    reach_u, reach_v = F32(extent[0]), F32(extent[1])
    for i in range(first, last):
        u = ray[0] + i * ray[2]
        v = ray[1] + i * ray[3]
        middle = math.floor(u + 0.5)
        level = math.floor(v + 0.5)
        left = share_before(F32(u - middle), reach_u)
        right = share_before(F32(middle - u), reach_u)
        above = share_before(F32(v - level), reach_v)
        below = share_before(F32(level - v), reach_v)
        centre, along = ONE - left - right, ONE - above - below
        total = r = g = b = ZERO
        for down in range(-1, 2):
            row = min(max(int(level) + down, 0), rows - 1)
            weight_v = above if down < 0 else (below if down else along)
            for across in range(-1, 2):
                column = min(max(int(middle) + across, 0), columns - 1)
                weight_u = left if across < 0 else (right if across else centre)
                texel = texels[row * columns + column]
                weight = weight_u * weight_v * alpha(texel)
                total += weight
                r += weight * red(texel)
                g += weight * green(texel)
                b += weight * blue(texel)
        scale = FROM_U8 / max(total, TINY)
        shown = coverage(u + 0.5, extent[2], extent[4]) * coverage(
            v + 0.5, extent[3], extent[5]
        )
        t[SR + i] = r * scale
        t[SG + i] = g * scale
        t[SB + i] = b * scale
        t[SA + i] = total * opacity * FROM_U8 * F32(shown)
