"""Tones in float64, written from what was published, and from nothing of ours.

sRGB: IEC 61966-2-1. Oklab: B. Ottosson 2020. Monotone cubics: SciPy's Hermite splines
with the slopes of Fritsch and Carlson 1980, their second algorithm.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from scipy.interpolate import CubicHermiteSpline

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    Floats = np.ndarray

CONES = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
INSIDE = 5e-4
"""How far beyond linear 0..1 a colour still counts as in the gamut."""


def decoded(v: Floats) -> Floats:
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)


def encoded(v: Floats) -> Floats:
    v = np.clip(v, 0, 1)
    return np.where(v <= 0.0031308, v * 12.92, 1.055 * v ** (1 / 2.4) - 0.055)


def oklab(linear: Floats) -> Floats:
    return np.cbrt(linear @ CONES.T) @ LAB.T


def from_oklab(lab: Floats) -> Floats:
    return (lab @ np.linalg.inv(LAB).T) ** 3 @ np.linalg.inv(CONES).T


def kept_in_gamut(lab: Floats) -> Floats:
    """Return linear light with the most chroma that fits, by halving."""
    lab = lab.copy()
    lab[..., 0] = np.clip(lab[..., 0], 0, 1)

    def fits(share: Floats) -> Floats:
        rgb = from_oklab(np.concatenate([lab[..., :1], lab[..., 1:] * share], -1))
        return ((rgb >= -INSIDE) & (rgb <= 1 + INSIDE)).all(-1, keepdims=True)

    share, step = np.zeros((*lab.shape[:-1], 1)), 1.0
    for _ in range(40):
        wider = share + step
        share = np.where((wider <= 1) & fits(wider), wider, share)
        step /= 2
    return from_oklab(np.concatenate([lab[..., :1], lab[..., 1:] * share], -1))


def monotone(points: Sequence[tuple[float, float]]) -> Callable[[Floats], Floats]:
    x, y = np.array(points, float).T
    rises = np.diff(y) / np.diff(x)
    slopes = np.concatenate([rises[:1], (rises[:-1] + rises[1:]) / 2, rises[-1:]])
    for k in range(1, len(x) - 1):
        if rises[k - 1] * rises[k] <= 0:
            slopes[k] = 0
    for k, rise in enumerate(rises):
        if rise == 0:
            slopes[k] = slopes[k + 1] = 0
            continue
        alpha, beta = slopes[k] / rise, slopes[k + 1] / rise
        if alpha**2 + beta**2 > 9:
            tau = 3 / np.hypot(alpha, beta)
            slopes[k], slopes[k + 1] = tau * alpha * rise, tau * beta * rise
    spline = CubicHermiteSpline(x, y, slopes)
    return lambda v: spline(np.clip(v, x[0], x[-1]))
