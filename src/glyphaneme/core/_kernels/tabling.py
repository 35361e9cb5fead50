"""Works tones out on the 256 levels that a component of 8 bits can have."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.addressing import lined_up
from glyphaneme.core._kernels.layout import CHUNK, FROM_U8, KERNEL, LEVELS
from glyphaneme.core._kernels.toning import FLOATS, STEP_TYPE, tone_span

F32 = np.float32


@njit(types.void(STEP_TYPE[::1], types.f4[::1], types.f4[:, ::1]), **KERNEL)
def tone_levels_into(steps: np.ndarray, numbers: np.ndarray, out: np.ndarray) -> None:
    """Write what becomes of all three components of each level of grey."""
    x = lined_up(FLOATS)
    for plane in range(3):
        for level in range(LEVELS):
            x[plane * CHUNK + level] = F32(level) * FROM_U8
    tone_span(steps, numbers, x, LEVELS)
    for plane in range(3):
        for level in range(LEVELS):
            out[plane, level] = x[plane * CHUNK + level]
