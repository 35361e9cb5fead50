"""Works tones out on three planes of a chunk, one operation after the other.

The planes hold encoded sRGB, linear light, or Oklab (Ottosson 2020); operations that
change from one to another stand in the table like all others. Loops that reduce floats
are not vectorised: whether a colour leaves the gamut is gathered from sign bits.
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
from glyphaneme.core._kernels.transfer import (
    bits_of,
    cube_root,
    decoded,
    encoded,
    powered,
)

(
    AFFINE,  # x * scale + shift, held within 0..1
    POWER,  # low + span * ((x - black) * scale held within 0..1) ^ exponent
    CURVE,  # pieces of cubics, added up
    GREY,  # of the least component and six amounts of hue
    DECODE,
    ENCODE,
    MATRIX,  # of linear light
    TO_LAB,
    FROM_LAB,  # chroma is taken back as far as a colour would leave the gamut
    CHROMA_MATRIX,
    VIBRANCE,
    ONE_HUE,
    CAST,  # a colour's chroma, most at middle lightness
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
"""From the planes on: seven more that are free. In one array LLVM proves them apart."""
AT = 11 * CHUNK
PACKED = 12 * CHUNK
"""Three planes of colours that leave the gamut; where they were, `AT` says."""
F32 = np.float32
I32 = np.int32
HALVINGS = 5
TANGENTS = 2
BLOCK = 128
"""Pixels that are looked at together for whether one leaves the gamut."""
VIVID = F32(1 / 0.32)
"""Of chroma: what is as colourful as this, vibrance leaves alone."""
GREYISH = F32(1 / 0.04)
LEAVES = F32(5e-4)
LEVEL = F32(1e-6)
"""A slope that is none."""
TWO, THREE = F32(2), F32(3)
SIGN = I32(31)


@njit(**PART)
def affine(x: np.ndarray, scale: F32, shift: F32, n: int) -> None:
    """Scale and shift one plane."""
    for i in range(n):
        x[i] = min(max(x[i] * scale + shift, ZERO), ONE)


@njit(**PART)
def power(x: np.ndarray, c: np.ndarray, n: int) -> None:
    """Raise one plane between two ends to a power, and lay it between two others."""
    black, scale, exponent, low, span = c[0], c[1], c[2], c[3], c[4]
    for i in range(n):
        held = min(max((x[i] - black) * scale, ZERO), ONE)
        x[i] = low + span * powered(held, exponent)


@njit(**PART)
def curve(x: np.ndarray, c: np.ndarray, pieces: int, n: int) -> None:
    """Put one plane through a curve: y0 + the sum of u (d + u (e + u f)).

    u is x held within a piece, as far as it lies beyond the piece's start. Four pieces
    are added at a time; those that fill up are empty.
    """
    start = c[0]
    for i in range(n):
        x[SPARE + i] = start
    for piece in range(0, pieces, AT_ONCE):
        p = c[1 + piece * PIECE :]
        x0, h0, d0, e0, f0 = p[0], p[1], p[2], p[3], p[4]
        x1, h1, d1, e1, f1 = p[5], p[6], p[7], p[8], p[9]
        x2, h2, d2, e2, f2 = p[10], p[11], p[12], p[13], p[14]
        x3, h3, d3, e3, f3 = p[15], p[16], p[17], p[18], p[19]
        for i in range(n):
            a = min(max(x[i] - x0, ZERO), h0)
            b = min(max(x[i] - x1, ZERO), h1)
            k = min(max(x[i] - x2, ZERO), h2)
            m = min(max(x[i] - x3, ZERO), h3)
            first = a * (d0 + a * (e0 + a * f0)) + b * (d1 + b * (e1 + b * f1))
            last = k * (d2 + k * (e2 + k * f2)) + m * (d3 + m * (e3 + m * f3))
            x[SPARE + i] += first + last
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
def to_lab(x: np.ndarray, n: int) -> None:
    """Turn linear light to Oklab."""
    for i in range(n):
        r, g, b = x[R + i], x[G + i], x[B + i]
        u = cube_root(
            F32(0.4122214708) * r + F32(0.5363325363) * g + F32(0.0514459929) * b
        )
        v = cube_root(
            F32(0.2119034982) * r + F32(0.6806995451) * g + F32(0.1073969566) * b
        )
        w = cube_root(
            F32(0.0883024619) * r + F32(0.2817188376) * g + F32(0.6299787005) * b
        )
        x[R + i] = F32(0.2104542553) * u + F32(0.7936177850) * v - F32(0.0040720468) * w
        x[G + i] = F32(1.9779984951) * u - F32(2.4285922050) * v + F32(0.4505937099) * w
        x[B + i] = F32(0.0259040371) * u + F32(0.7827717662) * v - F32(0.8086757660) * w


@njit(**PART)
def from_lab(x: np.ndarray, n: int) -> None:
    """Turn Oklab to linear light; take chroma back where that leaves the gamut.

    Along a line of one hue and lightness each component is a cubic in the share of
    chroma that is kept. Only colours that leave are worked out so, packed together.
    """
    count = 0
    for start in range(0, n, BLOCK):
        length = min(BLOCK, n - start)
        if leaves_gamut(x[start:], length):
            count = noted(x, start, length, count)
    for j in range(count):
        i = int(x[AT + j])
        x[PACKED + R + j] = x[R + i]
        x[PACKED + G + j] = x[G + i]
        x[PACKED + B + j] = x[B + i]
    for i in range(n):
        x[R + i] = min(max(x[SPARE + R + i], ZERO), ONE)
        x[G + i] = min(max(x[SPARE + G + i], ZERO), ONE)
        x[B + i] = min(max(x[SPARE + B + i], ZERO), ONE)
    keep_gamut(x[PACKED:], count)
    for j in range(count):
        i = int(x[AT + j])
        x[R + i] = x[PACKED + R + j]
        x[G + i] = x[PACKED + G + j]
        x[B + i] = x[PACKED + B + j]


@njit(**PART)
def leaves_gamut(x: np.ndarray, n: int) -> bool:
    """Write colours as linear light, and what room that leaves; tell if one left."""
    leaving = I32(0)
    for i in range(n):
        light, a, b = x[R + i], x[G + i], x[B + i]
        u = light + F32(0.3963377774) * a + F32(0.2158037573) * b
        v = light - F32(0.1055613458) * a - F32(0.0638541728) * b
        w = light - F32(0.0894841775) * a - F32(1.2914855480) * b
        u, v, w = u * u * u, v * v * v, w * w * w
        r = F32(4.0767416621) * u - F32(3.3077115913) * v + F32(0.2309699292) * w
        g = F32(-1.2684380046) * u + F32(2.6097574011) * v - F32(0.3413193965) * w
        e = F32(-0.0041960863) * u - F32(0.7034186147) * v + F32(1.7076147010) * w
        x[SPARE + R + i], x[SPARE + G + i], x[SPARE + B + i] = r, g, e
        low, high = min(r, min(g, e)), max(r, max(g, e))
        room = min(low + LEAVES, ONE + LEAVES - high)
        x[AT + i] = room
        leaving |= bits_of(room)
    return bool(leaving < 0)


@njit(**PART)
def noted(x: np.ndarray, start: int, n: int, count: int) -> int:
    """Note where colours leave the gamut, after those before them; return how many."""
    for i in range(start, start + n):
        sign = bits_of(x[AT + i]) >> SIGN
        # Never beyond what is read: no more are noted than were looked at.
        x[AT + count] = F32(i)
        count -= sign
    return count


@njit(**INLINED)
def widened(
    share: F32,
    step: F32,
    cube: F32,
    red: tuple[F32, F32, F32],
    green: tuple[F32, F32, F32],
    blue: tuple[F32, F32, F32],
) -> F32:
    """Return a larger share of chroma where the gamut still holds it."""
    k = share + step
    r = cube + k * (red[0] + k * (red[1] + k * red[2]))
    g = cube + k * (green[0] + k * (green[1] + k * green[2]))
    b = cube + k * (blue[0] + k * (blue[1] + k * blue[2]))
    low, high = min(r, min(g, b)), max(r, max(g, b))
    return k if min(low + LEAVES, ONE + LEAVES - high) >= ZERO else share


@njit(**INLINED)
def reached(k: F32, cube: F32, cubic: tuple[F32, F32, F32]) -> F32:
    """Return the share at which a component's tangent meets the edge it goes to."""
    height = cube + k * (cubic[0] + k * (cubic[1] + k * cubic[2]))
    slope = cubic[0] + k * (TWO * cubic[1] + k * (THREE * cubic[2]))
    edge = -LEAVES if slope < ZERO else ONE + LEAVES
    steep = min(slope, -LEVEL) if slope < ZERO else max(slope, LEVEL)
    return k + (edge - height) / steep


@njit(**PART)
def keep_gamut(x: np.ndarray, n: int) -> None:
    """Turn Oklab to linear light with as much chroma as the gamut holds.

    The share of chroma is found by halving, and from there by Newton's method.
    """
    for i in range(n):
        light = min(max(x[R + i], ZERO), ONE)
        a, b = x[G + i], x[B + i]
        u = F32(0.3963377774) * a + F32(0.2158037573) * b
        v = F32(-0.1055613458) * a - F32(0.0638541728) * b
        w = F32(-0.0894841775) * a - F32(1.2914855480) * b
        once, twice = THREE * light * light, THREE * light
        cube = light * light * light
        u2, v2, w2 = u * u, v * v, w * w
        u3, v3, w3 = u2 * u, v2 * v, w2 * w
        r1 = once * (
            F32(4.0767416621) * u - F32(3.3077115913) * v + F32(0.2309699292) * w
        )
        r2 = twice * (
            F32(4.0767416621) * u2 - F32(3.3077115913) * v2 + F32(0.2309699292) * w2
        )
        r3 = F32(4.0767416621) * u3 - F32(3.3077115913) * v3 + F32(0.2309699292) * w3
        g1 = once * (
            F32(-1.2684380046) * u + F32(2.6097574011) * v - F32(0.3413193965) * w
        )
        g2 = twice * (
            F32(-1.2684380046) * u2 + F32(2.6097574011) * v2 - F32(0.3413193965) * w2
        )
        g3 = F32(-1.2684380046) * u3 + F32(2.6097574011) * v3 - F32(0.3413193965) * w3
        b1 = once * (
            F32(-0.0041960863) * u - F32(0.7034186147) * v + F32(1.7076147010) * w
        )
        b2 = twice * (
            F32(-0.0041960863) * u2 - F32(0.7034186147) * v2 + F32(1.7076147010) * w2
        )
        b3 = F32(-0.0041960863) * u3 - F32(0.7034186147) * v3 + F32(1.7076147010) * w3
        red, green, blue = (r1, r2, r3), (g1, g2, g3), (b1, b2, b3)
        least, step = ZERO, HALF
        for _ in range(HALVINGS):
            least = widened(least, step, cube, red, green, blue)
            step = step * HALF
        most = least + step + step
        share = least + step
        for _ in range(TANGENTS):
            nearest = min(reached(share, cube, red), reached(share, cube, green))
            nearest = min(nearest, reached(share, cube, blue))
            share = min(max(nearest, least), most)
        r = cube + share * (r1 + share * (r2 + share * r3))
        g = cube + share * (g1 + share * (g2 + share * g3))
        e = cube + share * (b1 + share * (b2 + share * b3))
        x[R + i] = min(max(r, ZERO), ONE)
        x[G + i] = min(max(g, ZERO), ONE)
        x[B + i] = min(max(e, ZERO), ONE)


@njit(**PART)
def chroma_matrix(x: np.ndarray, c: np.ndarray, n: int) -> None:
    """Turn and stretch Oklab's a and b."""
    m0, m1, m2, m3 = c[0], c[1], c[2], c[3]
    for i in range(n):
        a, b = x[G + i], x[B + i]
        x[G + i] = m0 * a + m1 * b
        x[B + i] = m2 * a + m3 * b


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
        elif one.code == TO_LAB:
            to_lab(x, n)
        elif one.code == FROM_LAB:
            from_lab(x, n)
        elif one.code == CHROMA_MATRIX:
            chroma_matrix(x, c, n)
        elif one.code == VIBRANCE:
            vibrance(x, c[0], n)
        elif one.code == ONE_HUE:
            one_hue(x, c, n)
        elif one.code == CAST:
            cast(x, c, n)
