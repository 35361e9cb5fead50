"""Array types that the core's signatures speak in."""

from __future__ import annotations

from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

PixelsU8: TypeAlias = NDArray[np.uint8]
"""(H, W, 4) uint8, C-contiguous: sRGB-encoded R, G, B and straight alpha, 0..255."""

PixelsU16: TypeAlias = NDArray[np.uint16]
"""(H, W, 4) uint16, C-contiguous: as `PixelsU8`, 0..65535."""

MatrixF64: TypeAlias = NDArray[np.float64]
"""(2, 3) float64: the upper rows of an affine map of column vectors (x, y, 1)."""

PointsF64: TypeAlias = NDArray[np.float64]
"""(N, 2) float64: x and y of N points, in pixels."""

ScratchF32: TypeAlias = NDArray[np.float32]
"""(8 * CHUNK,) float32: the planes of one chunk, see ``_kernels.layout``."""
