"""W3C Compositing and Blending Level 1, written out in float64 to test against.

Slow on purpose and independent of the product: each line is a line of the
recommendation, section 5.8 (general formula) and section 10 (blend functions).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def lum(c: Array) -> Array:
    return 0.3 * c[..., 0] + 0.59 * c[..., 1] + 0.11 * c[..., 2]


def clip_color(c: Array) -> Array:
    level = lum(c)[..., None]
    low, high = c.min(-1, keepdims=True), c.max(-1, keepdims=True)
    with np.errstate(all="ignore"):
        c = np.where(low < 0, level + (c - level) * level / (level - low), c)
        return np.where(high > 1, level + (c - level) * (1 - level) / (high - level), c)


def set_lum(c: Array, level: Array) -> Array:
    return clip_color(c + (level - lum(c))[..., None])


def sat(c: Array) -> Array:
    return c.max(-1) - c.min(-1)


def set_sat(c: Array, s: Array) -> Array:
    span = sat(c)[..., None]
    low = c.min(-1, keepdims=True)
    return np.where(span > 0, (c - low) * s[..., None] / np.where(span > 0, span, 1), 0)


def soft_light(b: Array, s: Array) -> Array:
    d = np.where(b <= 0.25, ((16 * b - 12) * b + 4) * b, np.sqrt(np.maximum(b, 0)))
    return np.where(s <= 0.5, b - (1 - 2 * s) * b * (1 - b), b + (2 * s - 1) * (d - b))


def hard_light(b: Array, s: Array) -> Array:
    return np.where(s <= 0.5, b * 2 * s, b + (2 * s - 1) - b * (2 * s - 1))


def color_dodge(b: Array, s: Array) -> Array:
    with np.errstate(all="ignore"):
        return np.where(b == 0, 0, np.where(s == 1, 1, np.minimum(1, b / (1 - s))))


def color_burn(b: Array, s: Array) -> Array:
    with np.errstate(all="ignore"):
        return np.where(b == 1, 1, np.where(s == 0, 0, 1 - np.minimum(1, (1 - b) / s)))


BLEND = {
    "normal": lambda b, s: s,
    "multiply": lambda b, s: b * s,
    "screen": lambda b, s: b + s - b * s,
    "overlay": lambda b, s: hard_light(s, b),
    "darken": np.minimum,
    "lighten": np.maximum,
    "color-dodge": color_dodge,
    "color-burn": color_burn,
    "hard-light": hard_light,
    "soft-light": soft_light,
    "difference": lambda b, s: np.abs(b - s),
    "exclusion": lambda b, s: b + s - 2 * b * s,
    "hue": lambda b, s: set_lum(set_sat(s, sat(b)), lum(b)),
    "saturation": lambda b, s: set_lum(set_sat(b, sat(s)), lum(b)),
    "color": lambda b, s: set_lum(s, lum(b)),
    "luminosity": lambda b, s: set_lum(b, lum(s)),
}


def laid_over(mode: str, backdrop: Array, source: Array, opacity: float) -> Array:
    """Return straight RGBA 0..1 of `source` over `backdrop`, both straight 0..1."""
    cb, ab = backdrop[..., :3], backdrop[..., 3:]
    cs, a = source[..., :3], source[..., 3:] * opacity
    co = a * (1 - ab) * cs + a * ab * BLEND[mode](cb, cs) + (1 - a) * ab * cb
    ao = a + ab * (1 - a)
    return np.concatenate([co / np.where(ao > 0, ao, 1), ao], -1)
