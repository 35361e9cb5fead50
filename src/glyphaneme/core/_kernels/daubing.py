"""Lays dabs of paint: each pixel from the evenest of eight neighbours."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.layout import KERNEL

F32 = np.float32
ABOUT = 8


@njit(
    types.void(
        types.f4[:, :, ::1],
        types.f4[:, ::1],
        types.f4[:, :, ::1],
        types.f4,
        types.f4[:, :, ::1],
        types.i8,
        types.i8,
    ),
    **KERNEL,
)
def daub_rows_into(
    means: np.ndarray,
    weights: np.ndarray,
    ways: np.ndarray,
    reach: F32,
    out: np.ndarray,
    first: int,
    last: int,
) -> None:
    """Paint rows first..last of `means`, four components a pixel.

    `weights` says how much each counts as a neighbour; `ways` holds a unit vector along
    the picture's direction and how marked that is.
    """
    rows, columns = weights.shape
    cosines, sines = np.empty(ABOUT, np.float32), np.empty(ABOUT, np.float32)
    for k in range(ABOUT):
        cosines[k] = np.cos(k * np.pi / 4)
        sines[k] = np.sin(k * np.pi / 4)
    for y in range(first, last):
        for x in range(columns):
            u, v, marked = ways[y, x, 0], ways[y, x, 1], ways[y, x, 2]
            long, short = reach * (F32(1) + marked), reach / (F32(1) + marked)
            total = F32(0)
            r = g = b = a = F32(0)
            for k in range(ABOUT):
                p, q = cosines[k] * long, sines[k] * short
                at_x = int(x + p * u - q * v + F32(0.5))
                at_y = int(y + p * v + q * u + F32(0.5))
                at_x = min(max(at_x, 0), columns - 1)
                at_y = min(max(at_y, 0), rows - 1)
                weight = weights[at_y, at_x]
                total += weight
                r += weight * means[at_y, at_x, 0]
                g += weight * means[at_y, at_x, 1]
                b += weight * means[at_y, at_x, 2]
                a += weight * means[at_y, at_x, 3]
            share = F32(1) / total
            out[y, x, 0] = r * share
            out[y, x, 1] = g * share
            out[y, x, 2] = b * share
            out[y, x, 3] = a * share
