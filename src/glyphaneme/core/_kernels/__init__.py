"""Compiled loops: no checks, no allocation; callers have checked every input."""

from __future__ import annotations

import gc

import llvmlite.binding as llvm
import numba

from glyphaneme.core._kernels import kept, late

__all__: list[str] = []


def _widen_vectors() -> None:
    """Let the compiler use 512-bit registers where there are any.

    It would keep to 256 bits on many such processors; loops over planes of float32
    run 1.6 x as fast with all 512.
    """
    features = llvm.get_host_cpu_features()
    if features.get("avx512f") and numba.config.CPU_FEATURES is None:
        numba.config.CPU_FEATURES = f"{features.flatten()},-prefer-256-bit"


# What numba's import made lives as long as the process. Garbage collections that pass
# over all of it took a fifth of the time from here to the first frame.
gc.freeze()
_widen_vectors()
numba.config.CACHE_LOCATOR_CLASSES = ",".join(kept.LOCATORS)
late.install()
