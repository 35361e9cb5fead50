"""Loops for each blend mode, written by tools/generate_blend_loops.py.

`t` is the chunk's scratch from its first wanted pixel on, `n` the count of pixels.
Section 5.8 of W3C Compositing and Blending Level 1 gives the weights: with source
alpha as and backdrop alpha ab,
co = [as (1 - ab) cs + as ab B(cb, cs) + (1 - as) ab cb] / ao,
ao = as + ab - as ab.
The `_solid` loops know that ab is 1, which needs no division. So do the `_copied`
ones, which take the layer straight from texels that lie under the view's pixels: a
third less time than over the source planes. `strength` is the layer's opacity / 255;
for `_veiled` ones it lies in SA, multiplied by the layer's mask.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from glyphaneme.core._kernels import formulas
from glyphaneme.core._kernels.layout import (
    FROM_U8,
    INLINED,
    PART,
    SA,
    SB,
    SG,
    SR,
    TINY,
    A,
    B,
    G,
    R,
)
from glyphaneme.core._kernels.sampling import alpha, blue, green, red

F32 = np.float32


@njit(**INLINED)
def mixed(b: F32, s: F32, blended: F32, over: F32, both: F32) -> F32:
    """Return (1 - over) b + (over - both) s + both B(b, s)."""
    return b + over * (s - b) + both * (blended - s)


@njit(**PART)
def normal_any(t: np.ndarray, n: int) -> None:
    """Blend by normal over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.normal(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.normal(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.normal(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def normal_solid(t: np.ndarray, n: int) -> None:
    """Blend by normal over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.normal(r, sr) - r)
        t[G + i] = g + over * (formulas.normal(g, sg) - g)
        t[B + i] = b + over * (formulas.normal(b, sb) - b)


@njit(**PART)
def normal_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by normal over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.normal(r, sr) - r)
        t[G + i] = g + over * (formulas.normal(g, sg) - g)
        t[B + i] = b + over * (formulas.normal(b, sb) - b)


@njit(**PART)
def normal_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by normal over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.normal(r, sr) - r)
        t[G + i] = g + over * (formulas.normal(g, sg) - g)
        t[B + i] = b + over * (formulas.normal(b, sb) - b)


@njit(**PART)
def multiply_any(t: np.ndarray, n: int) -> None:
    """Blend by multiply over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.multiply(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.multiply(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.multiply(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def multiply_solid(t: np.ndarray, n: int) -> None:
    """Blend by multiply over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.multiply(r, sr) - r)
        t[G + i] = g + over * (formulas.multiply(g, sg) - g)
        t[B + i] = b + over * (formulas.multiply(b, sb) - b)


@njit(**PART)
def multiply_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by multiply over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.multiply(r, sr) - r)
        t[G + i] = g + over * (formulas.multiply(g, sg) - g)
        t[B + i] = b + over * (formulas.multiply(b, sb) - b)


@njit(**PART)
def multiply_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by multiply over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.multiply(r, sr) - r)
        t[G + i] = g + over * (formulas.multiply(g, sg) - g)
        t[B + i] = b + over * (formulas.multiply(b, sb) - b)


@njit(**PART)
def screen_any(t: np.ndarray, n: int) -> None:
    """Blend by screen over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.screen(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.screen(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.screen(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def screen_solid(t: np.ndarray, n: int) -> None:
    """Blend by screen over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.screen(r, sr) - r)
        t[G + i] = g + over * (formulas.screen(g, sg) - g)
        t[B + i] = b + over * (formulas.screen(b, sb) - b)


@njit(**PART)
def screen_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by screen over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.screen(r, sr) - r)
        t[G + i] = g + over * (formulas.screen(g, sg) - g)
        t[B + i] = b + over * (formulas.screen(b, sb) - b)


@njit(**PART)
def screen_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by screen over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.screen(r, sr) - r)
        t[G + i] = g + over * (formulas.screen(g, sg) - g)
        t[B + i] = b + over * (formulas.screen(b, sb) - b)


@njit(**PART)
def overlay_any(t: np.ndarray, n: int) -> None:
    """Blend by overlay over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.overlay(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.overlay(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.overlay(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def overlay_solid(t: np.ndarray, n: int) -> None:
    """Blend by overlay over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.overlay(r, sr) - r)
        t[G + i] = g + over * (formulas.overlay(g, sg) - g)
        t[B + i] = b + over * (formulas.overlay(b, sb) - b)


@njit(**PART)
def overlay_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by overlay over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.overlay(r, sr) - r)
        t[G + i] = g + over * (formulas.overlay(g, sg) - g)
        t[B + i] = b + over * (formulas.overlay(b, sb) - b)


@njit(**PART)
def overlay_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by overlay over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.overlay(r, sr) - r)
        t[G + i] = g + over * (formulas.overlay(g, sg) - g)
        t[B + i] = b + over * (formulas.overlay(b, sb) - b)


@njit(**PART)
def darken_any(t: np.ndarray, n: int) -> None:
    """Blend by darken over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.darken(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.darken(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.darken(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def darken_solid(t: np.ndarray, n: int) -> None:
    """Blend by darken over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.darken(r, sr) - r)
        t[G + i] = g + over * (formulas.darken(g, sg) - g)
        t[B + i] = b + over * (formulas.darken(b, sb) - b)


@njit(**PART)
def darken_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by darken over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.darken(r, sr) - r)
        t[G + i] = g + over * (formulas.darken(g, sg) - g)
        t[B + i] = b + over * (formulas.darken(b, sb) - b)


@njit(**PART)
def darken_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by darken over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.darken(r, sr) - r)
        t[G + i] = g + over * (formulas.darken(g, sg) - g)
        t[B + i] = b + over * (formulas.darken(b, sb) - b)


@njit(**PART)
def lighten_any(t: np.ndarray, n: int) -> None:
    """Blend by lighten over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.lighten(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.lighten(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.lighten(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def lighten_solid(t: np.ndarray, n: int) -> None:
    """Blend by lighten over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.lighten(r, sr) - r)
        t[G + i] = g + over * (formulas.lighten(g, sg) - g)
        t[B + i] = b + over * (formulas.lighten(b, sb) - b)


@njit(**PART)
def lighten_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by lighten over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.lighten(r, sr) - r)
        t[G + i] = g + over * (formulas.lighten(g, sg) - g)
        t[B + i] = b + over * (formulas.lighten(b, sb) - b)


@njit(**PART)
def lighten_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by lighten over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.lighten(r, sr) - r)
        t[G + i] = g + over * (formulas.lighten(g, sg) - g)
        t[B + i] = b + over * (formulas.lighten(b, sb) - b)


@njit(**PART)
def color_dodge_any(t: np.ndarray, n: int) -> None:
    """Blend by color_dodge over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.color_dodge(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.color_dodge(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.color_dodge(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def color_dodge_solid(t: np.ndarray, n: int) -> None:
    """Blend by color_dodge over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.color_dodge(r, sr) - r)
        t[G + i] = g + over * (formulas.color_dodge(g, sg) - g)
        t[B + i] = b + over * (formulas.color_dodge(b, sb) - b)


@njit(**PART)
def color_dodge_copied(
    texels: np.ndarray, strength: F32, t: np.ndarray, n: int
) -> None:
    """Blend texels by color_dodge over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.color_dodge(r, sr) - r)
        t[G + i] = g + over * (formulas.color_dodge(g, sg) - g)
        t[B + i] = b + over * (formulas.color_dodge(b, sb) - b)


@njit(**PART)
def color_dodge_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by color_dodge over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.color_dodge(r, sr) - r)
        t[G + i] = g + over * (formulas.color_dodge(g, sg) - g)
        t[B + i] = b + over * (formulas.color_dodge(b, sb) - b)


@njit(**PART)
def color_burn_any(t: np.ndarray, n: int) -> None:
    """Blend by color_burn over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.color_burn(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.color_burn(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.color_burn(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def color_burn_solid(t: np.ndarray, n: int) -> None:
    """Blend by color_burn over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.color_burn(r, sr) - r)
        t[G + i] = g + over * (formulas.color_burn(g, sg) - g)
        t[B + i] = b + over * (formulas.color_burn(b, sb) - b)


@njit(**PART)
def color_burn_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by color_burn over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.color_burn(r, sr) - r)
        t[G + i] = g + over * (formulas.color_burn(g, sg) - g)
        t[B + i] = b + over * (formulas.color_burn(b, sb) - b)


@njit(**PART)
def color_burn_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by color_burn over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.color_burn(r, sr) - r)
        t[G + i] = g + over * (formulas.color_burn(g, sg) - g)
        t[B + i] = b + over * (formulas.color_burn(b, sb) - b)


@njit(**PART)
def hard_light_any(t: np.ndarray, n: int) -> None:
    """Blend by hard_light over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.hard_light(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.hard_light(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.hard_light(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def hard_light_solid(t: np.ndarray, n: int) -> None:
    """Blend by hard_light over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.hard_light(r, sr) - r)
        t[G + i] = g + over * (formulas.hard_light(g, sg) - g)
        t[B + i] = b + over * (formulas.hard_light(b, sb) - b)


@njit(**PART)
def hard_light_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by hard_light over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.hard_light(r, sr) - r)
        t[G + i] = g + over * (formulas.hard_light(g, sg) - g)
        t[B + i] = b + over * (formulas.hard_light(b, sb) - b)


@njit(**PART)
def hard_light_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by hard_light over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.hard_light(r, sr) - r)
        t[G + i] = g + over * (formulas.hard_light(g, sg) - g)
        t[B + i] = b + over * (formulas.hard_light(b, sb) - b)


@njit(**PART)
def soft_light_any(t: np.ndarray, n: int) -> None:
    """Blend by soft_light over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.soft_light(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.soft_light(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.soft_light(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def soft_light_solid(t: np.ndarray, n: int) -> None:
    """Blend by soft_light over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.soft_light(r, sr) - r)
        t[G + i] = g + over * (formulas.soft_light(g, sg) - g)
        t[B + i] = b + over * (formulas.soft_light(b, sb) - b)


@njit(**PART)
def soft_light_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by soft_light over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.soft_light(r, sr) - r)
        t[G + i] = g + over * (formulas.soft_light(g, sg) - g)
        t[B + i] = b + over * (formulas.soft_light(b, sb) - b)


@njit(**PART)
def soft_light_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by soft_light over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.soft_light(r, sr) - r)
        t[G + i] = g + over * (formulas.soft_light(g, sg) - g)
        t[B + i] = b + over * (formulas.soft_light(b, sb) - b)


@njit(**PART)
def difference_any(t: np.ndarray, n: int) -> None:
    """Blend by difference over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.difference(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.difference(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.difference(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def difference_solid(t: np.ndarray, n: int) -> None:
    """Blend by difference over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.difference(r, sr) - r)
        t[G + i] = g + over * (formulas.difference(g, sg) - g)
        t[B + i] = b + over * (formulas.difference(b, sb) - b)


@njit(**PART)
def difference_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by difference over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.difference(r, sr) - r)
        t[G + i] = g + over * (formulas.difference(g, sg) - g)
        t[B + i] = b + over * (formulas.difference(b, sb) - b)


@njit(**PART)
def difference_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by difference over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.difference(r, sr) - r)
        t[G + i] = g + over * (formulas.difference(g, sg) - g)
        t[B + i] = b + over * (formulas.difference(b, sb) - b)


@njit(**PART)
def exclusion_any(t: np.ndarray, n: int) -> None:
    """Blend by exclusion over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.exclusion(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.exclusion(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.exclusion(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def exclusion_solid(t: np.ndarray, n: int) -> None:
    """Blend by exclusion over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.exclusion(r, sr) - r)
        t[G + i] = g + over * (formulas.exclusion(g, sg) - g)
        t[B + i] = b + over * (formulas.exclusion(b, sb) - b)


@njit(**PART)
def exclusion_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by exclusion over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.exclusion(r, sr) - r)
        t[G + i] = g + over * (formulas.exclusion(g, sg) - g)
        t[B + i] = b + over * (formulas.exclusion(b, sb) - b)


@njit(**PART)
def exclusion_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by exclusion over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.exclusion(r, sr) - r)
        t[G + i] = g + over * (formulas.exclusion(g, sg) - g)
        t[B + i] = b + over * (formulas.exclusion(b, sb) - b)


@njit(**PART)
def hue_any(t: np.ndarray, n: int) -> None:
    """Blend by hue over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        sr, sg, sb = t[SR + i], t[SG + i], t[SB + i]
        br, bg, bb = formulas.hue(r, g, b, sr, sg, sb)
        t[R + i] = mixed(r, sr, br, over, both)
        t[G + i] = mixed(g, sg, bg, over, both)
        t[B + i] = mixed(b, sb, bb, over, both)
        t[A + i] = union


@njit(**PART)
def hue_solid(t: np.ndarray, n: int) -> None:
    """Blend by hue over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.hue(r, g, b, t[SR + i], t[SG + i], t[SB + i])
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def hue_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by hue over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.hue(r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8)
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def hue_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by hue over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.hue(r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8)
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def saturation_any(t: np.ndarray, n: int) -> None:
    """Blend by saturation over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        sr, sg, sb = t[SR + i], t[SG + i], t[SB + i]
        br, bg, bb = formulas.saturation(r, g, b, sr, sg, sb)
        t[R + i] = mixed(r, sr, br, over, both)
        t[G + i] = mixed(g, sg, bg, over, both)
        t[B + i] = mixed(b, sb, bb, over, both)
        t[A + i] = union


@njit(**PART)
def saturation_solid(t: np.ndarray, n: int) -> None:
    """Blend by saturation over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.saturation(r, g, b, t[SR + i], t[SG + i], t[SB + i])
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def saturation_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by saturation over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.saturation(
            r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8
        )
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def saturation_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by saturation over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.saturation(
            r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8
        )
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def color_any(t: np.ndarray, n: int) -> None:
    """Blend by color over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        sr, sg, sb = t[SR + i], t[SG + i], t[SB + i]
        br, bg, bb = formulas.color(r, g, b, sr, sg, sb)
        t[R + i] = mixed(r, sr, br, over, both)
        t[G + i] = mixed(g, sg, bg, over, both)
        t[B + i] = mixed(b, sb, bb, over, both)
        t[A + i] = union


@njit(**PART)
def color_solid(t: np.ndarray, n: int) -> None:
    """Blend by color over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.color(r, g, b, t[SR + i], t[SG + i], t[SB + i])
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def color_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by color over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.color(r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8)
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def color_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by color over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.color(r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8)
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def luminosity_any(t: np.ndarray, n: int) -> None:
    """Blend by luminosity over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        sr, sg, sb = t[SR + i], t[SG + i], t[SB + i]
        br, bg, bb = formulas.luminosity(r, g, b, sr, sg, sb)
        t[R + i] = mixed(r, sr, br, over, both)
        t[G + i] = mixed(g, sg, bg, over, both)
        t[B + i] = mixed(b, sb, bb, over, both)
        t[A + i] = union


@njit(**PART)
def luminosity_solid(t: np.ndarray, n: int) -> None:
    """Blend by luminosity over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.luminosity(r, g, b, t[SR + i], t[SG + i], t[SB + i])
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def luminosity_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by luminosity over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.luminosity(
            r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8
        )
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def luminosity_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by luminosity over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.luminosity(
            r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8
        )
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def blend_span(mode: int, solid: bool, t: np.ndarray, n: int) -> None:
    """Blend `n` pixels by the mode's code, the place of its name in `BlendMode`."""
    if mode == 0:
        if solid:
            normal_solid(t, n)
        else:
            normal_any(t, n)
    elif mode == 1:
        if solid:
            multiply_solid(t, n)
        else:
            multiply_any(t, n)
    elif mode == 2:
        if solid:
            screen_solid(t, n)
        else:
            screen_any(t, n)
    elif mode == 3:
        if solid:
            overlay_solid(t, n)
        else:
            overlay_any(t, n)
    elif mode == 4:
        if solid:
            darken_solid(t, n)
        else:
            darken_any(t, n)
    elif mode == 5:
        if solid:
            lighten_solid(t, n)
        else:
            lighten_any(t, n)
    elif mode == 6:
        if solid:
            color_dodge_solid(t, n)
        else:
            color_dodge_any(t, n)
    elif mode == 7:
        if solid:
            color_burn_solid(t, n)
        else:
            color_burn_any(t, n)
    elif mode == 8:
        if solid:
            hard_light_solid(t, n)
        else:
            hard_light_any(t, n)
    elif mode == 9:
        if solid:
            soft_light_solid(t, n)
        else:
            soft_light_any(t, n)
    elif mode == 10:
        if solid:
            difference_solid(t, n)
        else:
            difference_any(t, n)
    elif mode == 11:
        if solid:
            exclusion_solid(t, n)
        else:
            exclusion_any(t, n)
    elif mode == 12:
        if solid:
            hue_solid(t, n)
        else:
            hue_any(t, n)
    elif mode == 13:
        if solid:
            saturation_solid(t, n)
        else:
            saturation_any(t, n)
    elif mode == 14:
        if solid:
            color_solid(t, n)
        else:
            color_any(t, n)
    elif mode == 15:
        if solid:
            luminosity_solid(t, n)
        else:
            luminosity_any(t, n)


@njit(**PART)
def blend_copied(
    mode: int, texels: np.ndarray, strength: F32, t: np.ndarray, n: int
) -> None:
    """Blend `n` texels over a solid backdrop, by the mode's code."""
    if mode == 0:
        normal_copied(texels, strength, t, n)
    elif mode == 1:
        multiply_copied(texels, strength, t, n)
    elif mode == 2:
        screen_copied(texels, strength, t, n)
    elif mode == 3:
        overlay_copied(texels, strength, t, n)
    elif mode == 4:
        darken_copied(texels, strength, t, n)
    elif mode == 5:
        lighten_copied(texels, strength, t, n)
    elif mode == 6:
        color_dodge_copied(texels, strength, t, n)
    elif mode == 7:
        color_burn_copied(texels, strength, t, n)
    elif mode == 8:
        hard_light_copied(texels, strength, t, n)
    elif mode == 9:
        soft_light_copied(texels, strength, t, n)
    elif mode == 10:
        difference_copied(texels, strength, t, n)
    elif mode == 11:
        exclusion_copied(texels, strength, t, n)
    elif mode == 12:
        hue_copied(texels, strength, t, n)
    elif mode == 13:
        saturation_copied(texels, strength, t, n)
    elif mode == 14:
        color_copied(texels, strength, t, n)
    elif mode == 15:
        luminosity_copied(texels, strength, t, n)


@njit(**PART)
def blend_veiled(mode: int, texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend `n` masked texels over a solid backdrop, by the mode's code."""
    if mode == 0:
        normal_veiled(texels, t, n)
    elif mode == 1:
        multiply_veiled(texels, t, n)
    elif mode == 2:
        screen_veiled(texels, t, n)
    elif mode == 3:
        overlay_veiled(texels, t, n)
    elif mode == 4:
        darken_veiled(texels, t, n)
    elif mode == 5:
        lighten_veiled(texels, t, n)
    elif mode == 6:
        color_dodge_veiled(texels, t, n)
    elif mode == 7:
        color_burn_veiled(texels, t, n)
    elif mode == 8:
        hard_light_veiled(texels, t, n)
    elif mode == 9:
        soft_light_veiled(texels, t, n)
    elif mode == 10:
        difference_veiled(texels, t, n)
    elif mode == 11:
        exclusion_veiled(texels, t, n)
    elif mode == 12:
        hue_veiled(texels, t, n)
    elif mode == 13:
        saturation_veiled(texels, t, n)
    elif mode == 14:
        color_veiled(texels, t, n)
    elif mode == 15:
        luminosity_veiled(texels, t, n)
