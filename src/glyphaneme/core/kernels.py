"""Importing this compiles all kernels, or loads them where that was done before."""

from __future__ import annotations

from glyphaneme.core._kernels import (
    composing,
    halving,
    nearness,
    painting,
    splitting,
    tiling,
)

__all__ = [
    "composing",
    "halving",
    "nearness",
    "painting",
    "splitting",
    "tiling",
]
