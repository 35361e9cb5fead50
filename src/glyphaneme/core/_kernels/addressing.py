"""Reads memory by its address, and makes room where its lines begin."""

from __future__ import annotations

from typing import Any

import numpy as np
from numba import njit, types
from numba.core import cgutils
from numba.extending import intrinsic

from glyphaneme.core._kernels.layout import PART

LINE = 16
"""Values of 32 bits in a line of memory: as many as a processor takes at a time."""


def whole_lines(floats: int) -> int:
    """Return so many float32, or as few more as fill whole lines of memory."""
    return -(-floats // LINE) * LINE


@intrinsic
def pointer(typing_context: Any, address: Any) -> Any:
    """Turn an address into a pointer; numba cannot mix arrays of sizes in a tuple."""

    def lower(context: Any, builder: Any, signature: Any, values: Any) -> Any:
        return builder.inttoptr(values[0], cgutils.voidptr_t)

    return types.voidptr(types.intp), lower


@njit(**PART)
def lined_up(floats: int) -> np.ndarray:
    """Return room for so many float32 that begins where a line of memory does."""
    room = np.empty(floats + LINE, np.float32)
    first = (-room.ctypes.data // 4) % LINE
    return room[first : first + floats]
