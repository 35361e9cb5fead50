"""Importing this compiles all kernels, or loads them where that was done before."""

from __future__ import annotations

from glyphaneme.core._kernels import (
    averaging,
    carrying,
    composing,
    daubing,
    halving,
    matting,
    nearness,
    own_colors,
    painting,
    splitting,
    tabling,
    tiling,
    warping,
)

__all__ = [
    "averaging",
    "carrying",
    "composing",
    "daubing",
    "halving",
    "matting",
    "nearness",
    "own_colors",
    "painting",
    "splitting",
    "tabling",
    "tiling",
    "warping",
]
