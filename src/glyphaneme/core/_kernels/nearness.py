"""Tells how near colours are to some others."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.layout import HALF, KERNEL, ONE, TO_U8, ZERO

F32 = np.float32
LIGHTNESS = np.float32(100 / 255)
"""What one step of L* is worth where it runs to 255."""


@njit(
    types.void(
        types.u1[:, :, ::1], types.f4[:, ::1], types.f8, types.f8, types.u1[:, ::1]
    ),
    **KERNEL,
)
def nearness_into(
    lab: np.ndarray,
    colors: np.ndarray,
    tolerance: float,
    band: float,
    out: np.ndarray,
) -> None:
    """Write 255 up to `tolerance` from the nearest of some colours, 0 beyond the band.

    `lab` and `colors` are L* times 2.55, a* and b* plus 128; between the two ends it
    falls evenly with the distance, ΔE*ab = √(ΔL*² + Δa*² + Δb*²).
    """
    rows, columns = out.shape
    most, width = F32(tolerance + band), F32(1 / band)
    for row in range(rows):
        for column in range(columns):
            light = F32(lab[row, column, 0])
            a, b = F32(lab[row, column, 1]), F32(lab[row, column, 2])
            least = F32(3e38)
            for at in range(colors.shape[0]):
                dl = (light - colors[at, 0]) * LIGHTNESS
                da, db = a - colors[at, 1], b - colors[at, 2]
                least = min(least, dl * dl + da * da + db * db)
            share = min(max((most - np.sqrt(least)) * width, ZERO), ONE)
            out[row, column] = np.uint8(share * TO_U8 + HALF)
