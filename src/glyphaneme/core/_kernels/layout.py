"""How one chunk of pixels lies in the scratch memory that all kernels share.

Eight planes of float32 at constant offsets in one 1-D array: with constant offsets
LLVM proves that planes never overlap and vectorises every loop; a 2-D scratch does
not vectorise and is 2.6 x slower.
"""

from __future__ import annotations

from typing import Any

import numpy as np

CHUNK = 1136
"""Pixels at a time, and how far planes lie apart.

At a power of two, the same place of all planes would fall on the same few lines of the
nearest memory, and a write to one would hold up reads of the others.
"""
# The composite so far: straight colour and alpha.
R, G, B, A = 0, CHUNK, 2 * CHUNK, 3 * CHUNK
# The layer being laid over it.
SR, SG, SB, SA = 4 * CHUNK, 5 * CHUNK, 6 * CHUNK, 7 * CHUNK
SCRATCH_FLOATS = 8 * CHUNK
SCRATCH_TEXELS = 10 * CHUNK

LEVELS = 256
"""Of a component of 8 bits."""
ZERO = np.float32(0)
ONE = np.float32(1)
HALF = np.float32(0.5)
TINY = np.float32(1e-7)
FROM_U8 = np.float32(1 / 255)
TO_U8 = np.float32(255)
FROM_U16 = np.float32(1 / 65535)
TO_U16 = np.float32(65535)

KERNEL: dict[str, Any] = {
    "nogil": True,
    "fastmath": True,
    "cache": True,
    "error_model": "numpy",
}
# Compiled into the kernels that call them, and kept in no cache of their own: each
# cached function costs some 50 ms at every start. Nothing else calls them: without
# what calls from Python need they compile sooner.
PART: dict[str, Any] = {
    "nogil": True,
    "fastmath": True,
    "error_model": "numpy",
    "no_cpython_wrapper": True,
    "no_cfunc_wrapper": True,
}
INLINED: dict[str, Any] = {**PART, "forceinline": True}
# Written into what calls it before anything is compiled: what is optimised on its own
# is optimised again with whatever calls it, and that adds up where one calls another.
WRITTEN_IN: dict[str, Any] = {**PART, "inline": "always"}
