"""Paints one stroke: how much of each pixel a soft brush covers on its way."""

from __future__ import annotations

import numpy as np
from numba import njit, types

from glyphaneme.core._kernels.layout import KERNEL, ONE, ZERO

HALF_PIXEL = np.float32(0.5)
F32 = np.float32


@njit(
    types.void(types.f8[:, ::1], types.f8, types.f8, types.f8, types.f4[:, ::1]),
    **KERNEL,
)
def paint_stroke_into(
    points: np.ndarray,
    softness: float,
    left: float,
    top: float,
    out: np.ndarray,
) -> None:
    """Raise `out` to what a stroke covers, 0..1.

    `points` are rows of x, y and radius; between two of them the brush moves straight
    and its radius changes evenly. At distance d from the brush's path, with radius r
    and softness s there, t = 1/2 + (r - s r / 2 - d) / max(s r, 1) is cut off at 0 and
    1 and bent to t² (3 - 2 t) where s r > 1. `left` and `top` are where `out` begins.
    """
    rows, columns = out.shape
    for at in range(max(points.shape[0] - 1, 1)):
        x, y, radius = points[at, 0], points[at, 1], points[at, 2]
        end = min(at + 1, points.shape[0] - 1)
        across, down = points[end, 0] - x, points[end, 1] - y
        growth = points[end, 2] - radius
        most = max(radius, points[end, 2]) + 1.0
        squared = across * across + down * down
        first_row = max(int(np.floor(min(y, y + down) - most - top)), 0)
        last_row = min(int(np.ceil(max(y, y + down) + most - top)) + 1, rows)
        first = max(int(np.floor(min(x, x + across) - most - left)), 0)
        last = min(int(np.ceil(max(x, x + across) + most - left)) + 1, columns)
        scale = F32(1 / squared) if squared > 0 else ZERO
        du, dv = F32(across), F32(down)
        start, grown, soft = F32(radius), F32(growth), F32(softness)
        for row in range(first_row, last_row):
            v = F32(top + row + 0.5 - y)
            begin = F32(left + first + 0.5 - x)
            line = out[row, first:]
            for column in range(last - first):
                u = begin + F32(np.int32(column))
                along = min(max((u * du + v * dv) * scale, ZERO), ONE)
                off_u, off_v = u - along * du, v - along * dv
                away = np.sqrt(off_u * off_u + off_v * off_v)
                here = start + along * grown
                band = soft * here
                share = HALF_PIXEL + (here - band * HALF_PIXEL - away) / max(band, ONE)
                share = min(max(share, ZERO), ONE)
                bent = share * share * (F32(3) - share - share)
                value = bent if band > ONE else share
                line[column] = max(line[column], value)
