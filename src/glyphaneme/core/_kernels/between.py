"""Where a pixel lies between those of a smaller picture."""

from __future__ import annotations

from typing import Any

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import HALF, INLINED, ZERO

F32 = np.float32


@njit(**INLINED)
def between(at: Any, step: Any, count: Any) -> tuple[Any, Any, Any]:
    """Return the two pixels that a pixel's middle lies between, and how far along.

    `step` is how many of the smaller picture's pixels one covers, `count` how many that
    has; beyond its first and last the nearest counts.
    """
    place = min(max((F32(at) + HALF) * step - HALF, ZERO), F32(count - 1))
    first = min(np.int64(place), max(count - 2, 0))
    return first, min(first + 1, count - 1), place - F32(first)
