"""Checks of what comes into the core's public functions."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.errors import PixelsShapeError

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

RGBA_CHANNELS = 4
ARRAY_AXES = 3


def require_pixels(pixels: PixelsU8) -> None:
    """Require straight RGBA pixels that a kernel may read through their address.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Any array that claims to be pixels.

    Raises
    ------
    PixelsShapeError
        The shape, dtype or memory order is another.
    """
    fits = (
        pixels.ndim == ARRAY_AXES
        and pixels.shape[2] == RGBA_CHANNELS
        and pixels.size > 0
        and pixels.dtype == np.uint8
        and pixels.flags.c_contiguous
    )
    if not fits:
        raise PixelsShapeError(pixels.shape, str(pixels.dtype))
