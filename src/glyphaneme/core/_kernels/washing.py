"""Makes the pixels of colours and gradients, of groups, and of what tones all else."""

from __future__ import annotations

from typing import Any

import numpy as np
from numba import njit

from glyphaneme.core._kernels.layout import (
    CHUNK,
    ONE,
    PART,
    SA,
    SB,
    SG,
    SR,
    TINY,
    ZERO,
    A,
    B,
    G,
    R,
)

PHOTO, COLOR, LINEAR, ROUND, GROUP_BEGIN, GROUP_END, TONING = range(7)
"""What a row of the layers' table stands for."""

F32 = np.float32
I32 = np.int32


@njit(**PART)
def wash_span(one: Any, row: int, column: float, t: np.ndarray, n: int) -> None:
    """Write a colour's or a gradient's pixels into the source planes."""
    m, c = one.to_source, one.colors
    if one.kind == COLOR:
        for i in range(n):
            t[SR + i], t[SG + i], t[SB + i] = c[0], c[1], c[2]
            t[SA + i] = c[3] * one.opacity
        return
    u = F32(m[0] * (column + 0.5) + m[1] * (row + 0.5) + m[2])
    v = F32(m[3] * (column + 0.5) + m[4] * (row + 0.5) + m[5])
    du, dv = F32(m[0]), F32(m[3])
    # The way along lies in SA until it becomes the alpha.
    if one.kind == LINEAR:
        for i in range(n):
            t[SA + i] = u + du * F32(I32(i))
    else:
        for i in range(n):
            across, down = u + du * F32(I32(i)), v + dv * F32(I32(i))
            t[SA + i] = np.sqrt(across * across + down * down)
    r0, g0, b0, a0 = c[0], c[1], c[2], c[3]
    r1, g1, b1, a1 = c[4], c[5], c[6], c[7]
    opacity = one.opacity
    for i in range(n):
        way = min(max(t[SA + i], ZERO), ONE)
        end = a1 * way
        start = a0 - a0 * way
        total = start + end
        scale = ONE / max(total, TINY)
        t[SR + i] = (r0 * start + r1 * end) * scale
        t[SG + i] = (g0 * start + g1 * end) * scale
        t[SB + i] = (b0 * start + b1 * end) * scale
        t[SA + i] = total * opacity


@njit(**PART)
def begin_group(t: np.ndarray, beneath: np.ndarray, n: int) -> None:
    """Keep the composite so far, and start a clear one for the group."""
    for plane in range(4):
        start = plane * CHUNK
        for i in range(n):
            beneath[start + i] = t[start + i]
            t[start + i] = ZERO


@njit(**PART)
def end_group(t: np.ndarray, beneath: np.ndarray, opacity: F32, n: int) -> None:
    """Make the group's composite the source, and take up the one beneath it again."""
    for i in range(n):
        t[SR + i], t[R + i] = t[R + i], beneath[R + i]
        t[SG + i], t[G + i] = t[G + i], beneath[G + i]
        t[SB + i], t[B + i] = t[B + i], beneath[B + i]
        t[SA + i], t[A + i] = t[A + i] * opacity, beneath[A + i]


@njit(**PART)
def take_composite(t: np.ndarray, opacity: F32, n: int) -> None:
    """Make the composite so far the source."""
    for i in range(n):
        t[SR + i], t[SG + i], t[SB + i] = t[R + i], t[G + i], t[B + i]
        t[SA + i] = opacity
