"""Writes `core/_kernels/blend_loops.py`: loops for each blend mode.

Numba cannot cache a kernel that takes its formula as an argument, so each mode needs
a loop of its own in a real source file. Run `python -m tools.generate_blend_loops`
after changing the modes; a test fails while the file is out of date.
"""

from __future__ import annotations

from pathlib import Path

TARGET = Path("src/glyphaneme/core/_kernels/blend_loops.py")

SEPARABLE = (
    "normal",
    "multiply",
    "screen",
    "overlay",
    "darken",
    "lighten",
    "color_dodge",
    "color_burn",
    "hard_light",
    "soft_light",
    "difference",
    "exclusion",
)
TOGETHER = ("hue", "saturation", "color", "luminosity")

HEAD = '''"""Loops for each blend mode, written by tools/generate_blend_loops.py.

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
'''

SEPARABLE_LOOP = '''

@njit(**PART)
def {mode}_any(t: np.ndarray, n: int) -> None:
    """Blend by {mode} over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = mixed(r, sr, formulas.{mode}(r, sr), over, both)
        t[G + i] = mixed(g, sg, formulas.{mode}(g, sg), over, both)
        t[B + i] = mixed(b, sb, formulas.{mode}(b, sb), over, both)
        t[A + i] = union


@njit(**PART)
def {mode}_solid(t: np.ndarray, n: int) -> None:
    """Blend by {mode} over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, sr = t[R + i], t[SR + i]
        g, sg = t[G + i], t[SG + i]
        b, sb = t[B + i], t[SB + i]
        t[R + i] = r + over * (formulas.{mode}(r, sr) - r)
        t[G + i] = g + over * (formulas.{mode}(g, sg) - g)
        t[B + i] = b + over * (formulas.{mode}(b, sb) - b)


@njit(**PART)
def {mode}_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by {mode} over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.{mode}(r, sr) - r)
        t[G + i] = g + over * (formulas.{mode}(g, sg) - g)
        t[B + i] = b + over * (formulas.{mode}(b, sb) - b)


@njit(**PART)
def {mode}_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by {mode} over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        r, sr = t[R + i], red(texel) * FROM_U8
        g, sg = t[G + i], green(texel) * FROM_U8
        b, sb = t[B + i], blue(texel) * FROM_U8
        t[R + i] = r + over * (formulas.{mode}(r, sr) - r)
        t[G + i] = g + over * (formulas.{mode}(g, sg) - g)
        t[B + i] = b + over * (formulas.{mode}(b, sb) - b)
'''

TOGETHER_LOOP = '''

@njit(**PART)
def {mode}_any(t: np.ndarray, n: int) -> None:
    """Blend by {mode} over a backdrop of any alpha."""
    for i in range(n):
        union = t[SA + i] + t[A + i] - t[SA + i] * t[A + i]
        over = t[SA + i] / max(union, TINY)
        both = over * t[A + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        sr, sg, sb = t[SR + i], t[SG + i], t[SB + i]
        br, bg, bb = formulas.{mode}(r, g, b, sr, sg, sb)
        t[R + i] = mixed(r, sr, br, over, both)
        t[G + i] = mixed(g, sg, bg, over, both)
        t[B + i] = mixed(b, sb, bb, over, both)
        t[A + i] = union


@njit(**PART)
def {mode}_solid(t: np.ndarray, n: int) -> None:
    """Blend by {mode} over a solid backdrop."""
    for i in range(n):
        over = t[SA + i]
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.{mode}(r, g, b, t[SR + i], t[SG + i], t[SB + i])
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def {mode}_copied(texels: np.ndarray, strength: F32, t: np.ndarray, n: int) -> None:
    """Blend texels by {mode} over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * strength
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.{mode}(
            r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8
        )
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)


@njit(**PART)
def {mode}_veiled(texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend masked texels by {mode} over a solid backdrop."""
    for i in range(n):
        texel = texels[i]
        over = alpha(texel) * t[SA + i]
        sr, sg, sb = red(texel), green(texel), blue(texel)
        r, g, b = t[R + i], t[G + i], t[B + i]
        br, bg, bb = formulas.{mode}(
            r, g, b, sr * FROM_U8, sg * FROM_U8, sb * FROM_U8
        )
        t[R + i] = r + over * (br - r)
        t[G + i] = g + over * (bg - g)
        t[B + i] = b + over * (bb - b)
'''

CHOICE_COPIED = '''

@njit(**PART)
def blend_copied(
    mode: int, texels: np.ndarray, strength: F32, t: np.ndarray, n: int
) -> None:
    """Blend `n` texels over a solid backdrop, by the mode's code."""
'''

CHOICE_VEILED = '''

@njit(**PART)
def blend_veiled(mode: int, texels: np.ndarray, t: np.ndarray, n: int) -> None:
    """Blend `n` masked texels over a solid backdrop, by the mode's code."""
'''

CHOICE = '''

@njit(**PART)
def blend_span(mode: int, solid: bool, t: np.ndarray, n: int) -> None:
    """Blend `n` pixels by the mode's code, the place of its name in `BlendMode`."""
'''


def generated_source() -> str:
    """Return the whole text of the generated module."""
    parts = [HEAD]
    parts += [SEPARABLE_LOOP.format(mode=mode) for mode in SEPARABLE]
    parts += [TOGETHER_LOOP.format(mode=mode) for mode in TOGETHER]
    parts.append(CHOICE)
    for code, mode in enumerate(SEPARABLE + TOGETHER):
        parts.append(f"    {'el' if code else ''}if mode == {code}:\n")
        parts.append(f"        if solid:\n            {mode}_solid(t, n)\n")
        parts.append(f"        else:\n            {mode}_any(t, n)\n")
    parts.append(CHOICE_COPIED)
    for code, mode in enumerate(SEPARABLE + TOGETHER):
        parts.append(f"    {'el' if code else ''}if mode == {code}:\n")
        parts.append(f"        {mode}_copied(texels, strength, t, n)\n")
    parts.append(CHOICE_VEILED)
    for code, mode in enumerate(SEPARABLE + TOGETHER):
        parts.append(f"    {'el' if code else ''}if mode == {code}:\n")
        parts.append(f"        {mode}_veiled(texels, t, n)\n")
    return "".join(parts)


if __name__ == "__main__":
    TARGET.write_text(generated_source())
