"""Splits pixels into what an opaque image format can carry."""

from __future__ import annotations

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import FROM_U8, HALF, KERNEL

F32 = np.float32
I32 = np.int32
U32 = np.uint32


@njit("void(u4[:, ::1], u1[:, :, ::1], u1[:, ::1], i8, i8)", **KERNEL)
def split_rows_into(
    frame: np.ndarray, color: np.ndarray, veil: np.ndarray, first: int, last: int
) -> None:
    """Split straight RGBA into premultiplied RGB and 255 - alpha."""
    for row in range(first, last):
        for column in range(frame.shape[1]):
            texel = frame[row, column]
            opacity = F32(I32(texel >> U32(24))) * FROM_U8
            color[row, column, 0] = np.uint8(F32(texel & U32(255)) * opacity + HALF)
            color[row, column, 1] = np.uint8(
                F32((texel >> U32(8)) & U32(255)) * opacity + HALF
            )
            color[row, column, 2] = np.uint8(
                F32((texel >> U32(16)) & U32(255)) * opacity + HALF
            )
            veil[row, column] = np.uint8(U32(255) - (texel >> U32(24)))
