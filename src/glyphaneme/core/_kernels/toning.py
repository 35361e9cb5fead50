"""Works tones out on three planes of a chunk, one operation after the other.

The planes hold encoded sRGB, linear light, or Oklab (Ottosson 2020), and on the way to
that and back its cube roots; operations that change from one to another stand in the
table like all others. Loops that reduce floats are not vectorised: whether a colour
leaves the gamut is gathered from sign bits.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numba import from_dtype, njit

from glyphaneme.core._kernels.layout import (
    CHUNK,
    HALF,
    INLINED,
    ONE,
    PART,
    ZERO,
    B,
    G,
    R,
)
from glyphaneme.core._kernels.packing import LANES, pack, unpack
from glyphaneme.core._kernels.transfer import (
    bits_of,
    cube_root,
    decoded,
    encoded,
    logarithm,
    two_to,
)

(
    AFFINE,  # x * scale + shift, held within 0..1
    POWER,  # low + span * ((x - black) * scale held within 0..1) ^ exponent
    CURVE,  # pieces of cubics, added up
    GREY,  # of the least component and six amounts of hue
    DECODE,
    ENCODE,
    MATRIX,  # of linear light, or of Oklab
    ROOTS,  # of what the eye's cones see, on the way to Oklab
    LIGHT,  # from those roots back; chroma is less where a colour would leave the gamut
    VIBRANCE,
    ONE_HUE,
    CAST,  # a colour's chroma, most at middle lightness
    TABLE,  # of what becomes of 256 levels: texels are read by it, if it stands first
) = range(13)

STEP = np.dtype(
    [
        ("code", "i8"),
        ("first", "i8"),  # of its numbers
        ("planes", "i8"),  # bits: 1 red, 2 green, 4 blue, where it goes plane by plane
        ("pieces", "i8"),
    ],
    align=True,
)
"""One operation as the kernel reads it; its numbers lie in an array of their own."""

STEP_TYPE = from_dtype(STEP)
PIECE = 5
"""Numbers a piece of a curve: start, length, and the cubic's three."""
AT_ONCE = 4
SPARE = 8 * CHUNK
"""From the planes on: three for what they held. In one array LLVM proves them apart."""
ROOM = 11 * CHUNK
PACKED = 12 * CHUNK
"""Three planes of colours that leave the gamut: where `ROOM` is below zero."""
BLOCK = 144
"""Colours whose cubics are written at once, beyond those three planes."""
CUBE = 3 * CHUNK
REDS, GREENS, BLUES = CUBE + BLOCK, CUBE + 4 * BLOCK, CUBE + 7 * BLOCK
LEAST = CUBE + 10 * BLOCK
FLOATS = PACKED + CHUNK + LEAST
"""How far all of these reach."""
F32 = np.float32
I32 = np.int32
HALVINGS = 7
VIVID = F32(1 / 0.32)
"""Of chroma: what is as colourful as this, vibrance leaves alone."""
GREYISH = F32(1 / 0.04)
LEAVES = F32(5e-4)
EDGE = HALF + LEAVES
"""How far from the middle of the gamut a component may be."""
LEVEL = F32(1e-6)
"""A slope that is none."""
LEAST_POWERED, LOWEST = F32(1e-9), F32(-40)
"""What is raised as 0 is, and the power of two that stands for that: far below a level,
and so large that what is reckoned from it is slowed by no denormal number."""
THREE = F32(3)
WORD = 4
"""Bytes of a float32."""


@njit(**PART)
def affine(x: np.ndarray, scale: F32, shift: F32, n: int) -> None:
    """Scale and shift one plane."""
    for i in range(n):
        x[i] = min(max(x[i] * scale + shift, ZERO), ONE)


@njit(**PART)
def power(x: np.ndarray, c: np.ndarray, n: int) -> None:
    """Raise one plane between two ends to a power, and lay it between two others.

    In two loops: in one, a processor would wait for each step.
    """
    black, scale, exponent, low, span = c[0], c[1], c[2], c[3], c[4]
    for i in range(n):
        held = min(max((x[i] - black) * scale, LEAST_POWERED), ONE)
        raised = max(logarithm(held) * exponent, LOWEST)
        x[i] = raised if held > LEAST_POWERED else LOWEST
    for i in range(n):
        x[i] = low + span * two_to(x[i])


@njit(**INLINED)
def risen(x: F32, start: F32, p: np.ndarray) -> F32:
    """Return where four pieces of a curve lead to from `start`."""
    a = min(max(x - p[0], ZERO), p[1])
    b = min(max(x - p[5], ZERO), p[6])
    k = min(max(x - p[10], ZERO), p[11])
    m = min(max(x - p[15], ZERO), p[16])
    y = a * (p[2] + a * (p[3] + a * p[4])) + start
    y = b * (p[7] + b * (p[8] + b * p[9])) + y
    y = k * (p[12] + k * (p[13] + k * p[14])) + y
    return m * (p[17] + m * (p[18] + m * p[19])) + y


@njit(**PART)
def curve(x: np.ndarray, c: np.ndarray, pieces: int, n: int) -> None:
    """Put one plane through a curve: y0 + the sum of u (d + u (e + u f)).

    u is x held within a piece, as far as it lies beyond the piece's start. Four pieces
    are added at a time; those that fill up are empty.
    """
    start = c[0]
    if pieces == AT_ONCE:
        for i in range(n):
            x[i] = risen(x[i], start, c[1:])
        return
    for i in range(n):
        x[SPARE + i] = start
    for piece in range(0, pieces, AT_ONCE):
        for i in range(n):
            x[SPARE + i] = risen(x[i], x[SPARE + i], c[1 + piece * PIECE :])
    for i in range(n):
        x[i] = x[SPARE + i]


@njit(**PART)
def grey(x: np.ndarray, c: np.ndarray, n: int) -> None:
    """Make all planes one: the least component, and six amounts of hue by weight."""
    red, yellow, green, cyan, blue, magenta = c[0], c[1], c[2], c[3], c[4], c[5]
    for i in range(n):
        r, g, b = x[R + i], x[G + i], x[B + i]
        rg, gb, br = min(r, g), min(g, b), min(b, r)
        v = min(rg, b)
        v += red * max(r - max(g, b), ZERO) + yellow * max(rg - b, ZERO)
        v += green * max(g - max(r, b), ZERO) + cyan * max(gb - r, ZERO)
        v += blue * max(b - max(r, g), ZERO) + magenta * max(br - g, ZERO)
        v = min(max(v, ZERO), ONE)
        x[R + i], x[G + i], x[B + i] = v, v, v


@njit(**PART)
def decode(x: np.ndarray, n: int) -> None:
    """Turn encoded values to linear light."""
    for i in range(n):
        x[R + i] = decoded(x[R + i])
        x[G + i] = decoded(x[G + i])
        x[B + i] = decoded(x[B + i])


@njit(**PART)
def encode(x: np.ndarray, n: int) -> None:
    """Turn linear light to encoded values within 0..1."""
    for i in range(n):
        x[R + i] = encoded(x[R + i])
        x[G + i] = encoded(x[G + i])
        x[B + i] = encoded(x[B + i])


@njit(**PART)
def matrix(x: np.ndarray, c: np.ndarray, n: int) -> None:
    """Multiply colours by a matrix."""
    m0, m1, m2, m3, m4, m5, m6, m7, m8 = (
        c[0],
        c[1],
        c[2],
        c[3],
        c[4],
        c[5],
        c[6],
        c[7],
        c[8],
    )
    for i in range(n):
        r, g, b = x[R + i], x[G + i], x[B + i]
        x[R + i] = m0 * r + m1 * g + m2 * b
        x[G + i] = m3 * r + m4 * g + m5 * b
        x[B + i] = m6 * r + m7 * g + m8 * b


@njit(**PART)
def roots(x: np.ndarray, n: int) -> None:
    """Take the cube root of every component."""
    for plane in range(3):
        here = x[plane * CHUNK :]
        for i in range(n):
            here[i] = cube_root(here[i])


@njit(**PART)
def roots_to_light(x: np.ndarray, n: int) -> None:
    """Turn roots to linear light; take chroma back where that leaves the gamut.

    Along a line of one hue and lightness each component is a cubic in the share of
    chroma that is kept. Only colours that leave are worked out so, packed together.
    """
    if leaves_gamut(x, n):
        keep_gamut(x[PACKED:], pack_leaving(x, n))
        lay_back(x, n)


@njit(**PART)
def leaves_gamut(x: np.ndarray, n: int) -> bool:
    """Turn roots to linear light within 0..1; tell if a colour leaves the gamut.

    The roots are kept in spare planes, and in `ROOM` how much room there is: below zero
    where a colour leaves.
    """
    leaving = I32(0)
    for i in range(n):
        u, v, w = x[R + i], x[G + i], x[B + i]
        x[SPARE + R + i], x[SPARE + G + i], x[SPARE + B + i] = u, v, w
        u, v, w = u * u * u, v * v * v, w * w * w
        r = F32(4.0767416621) * u - F32(3.3077115913) * v + F32(0.2309699292) * w
        g = F32(-1.2684380046) * u + F32(2.6097574011) * v - F32(0.3413193965) * w
        e = F32(-0.0041960863) * u - F32(0.7034186147) * v + F32(1.7076147010) * w
        x[R + i] = min(max(r, ZERO), ONE)
        x[G + i] = min(max(g, ZERO), ONE)
        x[B + i] = min(max(e, ZERO), ONE)
        low, high = min(r, min(g, e)), max(r, max(g, e))
        room = min(low + LEAVES, ONE + LEAVES - high)
        x[ROOM + i] = room
        # As 32 bits: one word of 64 would halve how many pixels go at a time.
        leaving = I32(leaving | bits_of(room))
    return bool(leaving < 0)


@njit(**PART)
def pack_leaving(x: np.ndarray, n: int) -> int:
    """Pack the colours that leave the gamut; return how many."""
    for i in range(n, (n + LANES - 1) // LANES * LANES):
        x[ROOM + i] = ZERO
    here = x.ctypes.data
    count = 0
    for start in range(0, n, LANES):
        room = here + WORD * (ROOM + start)
        source, target = room - WORD * (ROOM - SPARE), here + WORD * (PACKED + count)
        pack(room, source + WORD * G, target + WORD * G)
        pack(room, source + WORD * B, target + WORD * B)
        count += pack(room, source, target)
    return count


@njit(**PART)
def lay_back(x: np.ndarray, n: int) -> None:
    """Lay what was packed back where it was."""
    here = x.ctypes.data
    count = 0
    for start in range(0, n, LANES):
        room = here + WORD * (ROOM + start)
        source, target = here + WORD * (PACKED + count), here + WORD * start
        unpack(room, source + WORD * G, target + WORD * G)
        unpack(room, source + WORD * B, target + WORD * B)
        count += unpack(room, source, target)


@njit(**INLINED)
def component(x: np.ndarray, cubic: int, i: int, k: F32) -> F32:
    """Return how far a component is above the middle at a share of chroma."""
    c1, c2, c3 = x[cubic + i], x[cubic + BLOCK + i], x[cubic + 2 * BLOCK + i]
    return x[CUBE + i] + k * (c1 + k * (c2 + k * c3))


@njit(**INLINED)
def tangent(x: np.ndarray, place: int, i: int, k: F32) -> tuple[F32, F32]:
    """Return how far a component is from the edge it goes to, and how fast it goes."""
    c1, c2, c3 = x[place + i], x[place + BLOCK + i], x[place + 2 * BLOCK + i]
    cubic = k * c3
    square = c2 + cubic
    once = c1 + k * square
    height, slope = x[CUBE + i] + k * once, once + k * (square + cubic)
    rest = EDGE + height if slope < ZERO else EDGE - height
    return rest, max(abs(slope), LEVEL)


@njit(**INLINED)
def sooner(one: tuple[F32, F32], other: tuple[F32, F32]) -> tuple[F32, F32]:
    """Return which of two components reaches its edge first."""
    first = one[0] * other[1] < other[0] * one[1]
    return (one[0] if first else other[0]), (one[1] if first else other[1])


@njit(**PART)
def keep_gamut(x: np.ndarray, n: int) -> None:
    """Turn roots to linear light with as much chroma as the gamut holds.

    The share of chroma is found by halving, and a step of Newton's method from there.
    """
    for start in range(0, n, BLOCK):
        keep_block(x[start:], min(BLOCK, n - start))


@njit(**PART)
def keep_block(x: np.ndarray, n: int) -> None:
    """Do so for a block; in one long loop a processor would wait for each step."""
    write_cubics(x, n)
    step = HALF
    for _ in range(HALVINGS):
        widen(x, step, n)
        step = step * HALF
    step = step + step
    approach(x, step, n)
    for i in range(n):
        k = x[LEAST + i]
        x[R + i] = min(max(component(x, REDS, i, k) + HALF, ZERO), ONE)
        x[G + i] = min(max(component(x, GREENS, i, k) + HALF, ZERO), ONE)
        x[B + i] = min(max(component(x, BLUES, i, k) + HALF, ZERO), ONE)


@njit(**PART)
def write_cubics(x: np.ndarray, n: int) -> None:
    """Write the cubics of all three components in the share of chroma."""
    for i in range(n):
        u, v, w = x[R + i], x[G + i], x[B + i]
        # Of grey, all three are its lightness; chroma is what they differ from that.
        grey = F32(0.2104542553) * u + F32(0.7936177850) * v - F32(0.0040720468) * w
        u, v, w = u - grey, v - grey, w - grey
        light = min(max(grey, ZERO), ONE)
        once, twice = THREE * light * light, THREE * light
        x[CUBE + i] = light * light * light - HALF
        x[LEAST + i] = ZERO
        u2, v2, w2 = u * u, v * v, w * w
        u3, v3, w3 = u2 * u, v2 * v, w2 * w
        u1, v1, w1 = once * u, once * v, once * w
        u2, v2, w2 = twice * u2, twice * v2, twice * w2
        x[REDS + i] = (
            F32(4.0767416621) * u1 - F32(3.3077115913) * v1 + F32(0.2309699292) * w1
        )
        x[REDS + BLOCK + i] = (
            F32(4.0767416621) * u2 - F32(3.3077115913) * v2 + F32(0.2309699292) * w2
        )
        x[REDS + 2 * BLOCK + i] = (
            F32(4.0767416621) * u3 - F32(3.3077115913) * v3 + F32(0.2309699292) * w3
        )
        x[GREENS + i] = (
            F32(-1.2684380046) * u1 + F32(2.6097574011) * v1 - F32(0.3413193965) * w1
        )
        x[GREENS + BLOCK + i] = (
            F32(-1.2684380046) * u2 + F32(2.6097574011) * v2 - F32(0.3413193965) * w2
        )
        x[GREENS + 2 * BLOCK + i] = (
            F32(-1.2684380046) * u3 + F32(2.6097574011) * v3 - F32(0.3413193965) * w3
        )
        x[BLUES + i] = (
            F32(-0.0041960863) * u1 - F32(0.7034186147) * v1 + F32(1.7076147010) * w1
        )
        x[BLUES + BLOCK + i] = (
            F32(-0.0041960863) * u2 - F32(0.7034186147) * v2 + F32(1.7076147010) * w2
        )
        x[BLUES + 2 * BLOCK + i] = (
            F32(-0.0041960863) * u3 - F32(0.7034186147) * v3 + F32(1.7076147010) * w3
        )


@njit(**PART)
def widen(x: np.ndarray, step: F32, n: int) -> None:
    """Add a step to the shares of chroma where the gamut still holds them."""
    for i in range(n):
        least = x[LEAST + i]
        k = least + step
        r = component(x, REDS, i, k)
        g = component(x, GREENS, i, k)
        b = component(x, BLUES, i, k)
        held = max(abs(r), max(abs(g), abs(b))) <= EDGE
        x[LEAST + i] = k if held else least


@njit(**PART)
def approach(x: np.ndarray, step: F32, n: int) -> None:
    """Move shares to where the first component's tangent meets its edge.

    It is drawn in the middle of what the halvings left.
    """
    for i in range(n):
        least = x[LEAST + i]
        k = least + step * HALF
        first = sooner(tangent(x, REDS, i, k), tangent(x, GREENS, i, k))
        rest, slope = sooner(first, tangent(x, BLUES, i, k))
        x[LEAST + i] = min(max(k + rest / slope, least), least + step)


@njit(**PART)
def vibrance(x: np.ndarray, amount: F32, n: int) -> None:
    """Stretch chroma, the less the more of it there is."""
    for i in range(n):
        a, b = x[G + i], x[B + i]
        chroma = np.sqrt(a * a + b * b)
        k = ONE + amount * max(ONE - chroma * VIVID, ZERO)
        x[G + i], x[B + i] = a * k, b * k


@njit(**PART)
def one_hue(x: np.ndarray, c: np.ndarray, n: int) -> None:
    """Change lightness, chroma and hue of the colours round one hue."""
    across, down, outer, scale = c[0], c[1], c[2], c[3]
    m0, m1, m2, m3, lighter = c[4], c[5], c[6], c[7], c[8]
    for i in range(n):
        a, b = x[G + i], x[B + i]
        chroma = np.sqrt(a * a + b * b)
        along = (a * across + b * down) / max(chroma, F32(1e-6))
        w = min(max((along - outer) * scale, ZERO), ONE)
        w = w * w * (F32(3) - w - w)
        w *= min(chroma * GREYISH, ONE)
        x[R + i] += w * lighter * chroma
        x[G + i] = a + w * (m0 * a + m1 * b - a)
        x[B + i] = b + w * (m2 * a + m3 * b - b)


@njit(**PART)
def cast(x: np.ndarray, c: np.ndarray, n: int) -> None:
    """Add a colour's a and b, most at middle lightness, none to black and white."""
    across, down = c[0], c[1]
    for i in range(n):
        light = min(max(x[R + i], ZERO), ONE)
        k = F32(4) * light * (ONE - light)
        x[G + i] += k * across
        x[B + i] += k * down


@njit(**PART)
def plane_by_plane(one: Any, c: np.ndarray, x: np.ndarray, n: int) -> None:
    """Work out an operation that looks at one component at a time."""
    for plane in range(3):
        if (one.planes >> plane) & 1:
            here = x[plane * CHUNK :]
            if one.code == AFFINE:
                affine(here, c[0], c[1], n)
            elif one.code == POWER:
                power(here, c, n)
            else:
                curve(here, c, one.pieces, n)


@njit(**PART)
def tone_span(steps: np.ndarray, numbers: np.ndarray, x: np.ndarray, n: int) -> None:
    """Work out all operations on `n` pixels of the three planes from `x` on."""
    for step in range(steps.shape[0]):
        one = steps[step]
        c = numbers[one.first :]
        if one.code <= CURVE:
            plane_by_plane(one, c, x, n)
        elif one.code == GREY:
            grey(x, c, n)
        elif one.code == DECODE:
            decode(x, n)
        elif one.code == ENCODE:
            encode(x, n)
        elif one.code == MATRIX:
            matrix(x, c, n)
        elif one.code == ROOTS:
            roots(x, n)
        elif one.code == LIGHT:
            roots_to_light(x, n)
        elif one.code == VIBRANCE:
            vibrance(x, c[0], n)
        elif one.code == ONE_HUE:
            one_hue(x, c, n)
        elif one.code == CAST:
            cast(x, c, n)
