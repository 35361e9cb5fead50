"""The blend functions B(cb, cs) of W3C Compositing and Blending Level 1, section 10.

`b` is the backdrop's colour component and `s` the source's, both 0..1, float32. Each
function is written without branches that LLVM could not turn into selects.
"""

from __future__ import annotations

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import HALF, INLINED, ONE, TINY, ZERO

QUARTER = np.float32(0.25)
FOUR = np.float32(4)
TWELVE = np.float32(12)
SIXTEEN = np.float32(16)
RED_WEIGHT = np.float32(0.3)
GREEN_WEIGHT = np.float32(0.59)
BLUE_WEIGHT = np.float32(0.11)
# A backdrop that float32 left a hair below white must burn as white does: without
# the snap, Color burn is up to 26 levels off there.
NEARLY_WHITE = np.float32(2e-6)

F32 = np.float32


@njit(**INLINED)
def normal(b: F32, s: F32) -> F32:
    """Return the source."""
    return s


@njit(**INLINED)
def multiply(b: F32, s: F32) -> F32:
    """Return b * s."""
    return b * s


@njit(**INLINED)
def screen(b: F32, s: F32) -> F32:
    """Return b + s - b * s."""
    return b + s - b * s


@njit(**INLINED)
def hard_light(b: F32, s: F32) -> F32:
    """Multiply by 2s where the source is dark, screen with 2s - 1 where it is light."""
    doubled = s + s
    above = doubled - ONE
    dark = b * doubled
    light = b + above - b * above
    return dark if s <= HALF else light


@njit(**INLINED)
def overlay(b: F32, s: F32) -> F32:
    """Return hard light with the two exchanged."""
    return hard_light(s, b)


@njit(**INLINED)
def darken(b: F32, s: F32) -> F32:
    """Return the darker one."""
    return min(b, s)


@njit(**INLINED)
def lighten(b: F32, s: F32) -> F32:
    """Return the lighter one."""
    return max(b, s)


@njit(**INLINED)
def color_dodge(b: F32, s: F32) -> F32:
    """Return b / (1 - s), at most 1; 0 where b is 0."""
    return min(b / max(ONE - s, TINY), ONE)


@njit(**INLINED)
def color_burn(b: F32, s: F32) -> F32:
    """Return 1 - (1 - b) / s, at least 0; 1 where b is 1."""
    gap = ONE - b
    gap = gap if gap > NEARLY_WHITE else ZERO
    return ONE - min(gap / max(s, TINY), ONE)


@njit(**INLINED)
def soft_light(b: F32, s: F32) -> F32:
    """Darken or lighten by how far the source lies from mid-grey."""
    polynomial = ((SIXTEEN * b - TWELVE) * b + FOUR) * b
    root = np.sqrt(b)
    lift = (polynomial if b <= QUARTER else root) - b
    drop = b - b * b
    return b + (s + s - ONE) * (lift if s > HALF else drop)


@njit(**INLINED)
def difference(b: F32, s: F32) -> F32:
    """Return |b - s|."""
    return abs(b - s)


@njit(**INLINED)
def exclusion(b: F32, s: F32) -> F32:
    """Return b + s - 2bs."""
    product = b * s
    return b + s - product - product


@njit(**INLINED)
def luminosity_of(r: F32, g: F32, b: F32) -> F32:
    """Return Lum(C)."""
    return RED_WEIGHT * r + GREEN_WEIGHT * g + BLUE_WEIGHT * b


@njit(**INLINED)
def least(r: F32, g: F32, b: F32) -> F32:
    """Return the smallest component."""
    return min(min(r, g), b)


@njit(**INLINED)
def greatest(r: F32, g: F32, b: F32) -> F32:
    """Return the largest component."""
    return max(max(r, g), b)


@njit(**INLINED)
def with_luminosity(r: F32, g: F32, b: F32, wanted: F32) -> tuple[F32, F32, F32]:
    """Return ClipColor(C + (wanted - Lum(C))), the recommendation's SetLum."""
    shift = wanted - luminosity_of(r, g, b)
    r += shift
    g += shift
    b += shift
    low = least(r, g, b)
    high = greatest(r, g, b)
    below = wanted - low
    above = high - wanted
    shrink_low = wanted / (below if below > TINY else ONE)
    shrink_low = shrink_low if low < ZERO else ONE
    shrink_high = (ONE - wanted) / (above if above > TINY else ONE)
    shrink_high = shrink_high if high > ONE else ONE
    shrink = min(shrink_low, shrink_high)
    return (
        wanted + (r - wanted) * shrink,
        wanted + (g - wanted) * shrink,
        wanted + (b - wanted) * shrink,
    )


@njit(**INLINED)
def with_saturation(r: F32, g: F32, b: F32, wanted: F32) -> tuple[F32, F32, F32]:
    """Return SetSat(C, wanted): components stretched to span 0..wanted."""
    low = least(r, g, b)
    span = greatest(r, g, b) - low
    stretch = wanted / (span if span > TINY else ONE)
    return (r - low) * stretch, (g - low) * stretch, (b - low) * stretch


@njit(**INLINED)
def hue(br: F32, bg: F32, bb: F32, sr: F32, sg: F32, sb: F32) -> tuple[F32, F32, F32]:
    """Return the source's hue at the backdrop's saturation and luminosity."""
    span = greatest(br, bg, bb) - least(br, bg, bb)
    r, g, b = with_saturation(sr, sg, sb, span)
    return with_luminosity(r, g, b, luminosity_of(br, bg, bb))


@njit(**INLINED)
def saturation(
    br: F32, bg: F32, bb: F32, sr: F32, sg: F32, sb: F32
) -> tuple[F32, F32, F32]:
    """Return the backdrop at the source's saturation."""
    span = greatest(sr, sg, sb) - least(sr, sg, sb)
    r, g, b = with_saturation(br, bg, bb, span)
    return with_luminosity(r, g, b, luminosity_of(br, bg, bb))


@njit(**INLINED)
def color(br: F32, bg: F32, bb: F32, sr: F32, sg: F32, sb: F32) -> tuple[F32, F32, F32]:
    """Return the source's hue and saturation at the backdrop's luminosity."""
    return with_luminosity(sr, sg, sb, luminosity_of(br, bg, bb))


@njit(**INLINED)
def luminosity(
    br: F32, bg: F32, bb: F32, sr: F32, sg: F32, sb: F32
) -> tuple[F32, F32, F32]:
    """Return the backdrop at the source's luminosity."""
    return with_luminosity(br, bg, bb, luminosity_of(sr, sg, sb))
