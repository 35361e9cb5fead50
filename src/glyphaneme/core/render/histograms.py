"""How often each level occurs in a picture."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.checks import require_pixels

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

LEVELS = 256
CHANNELS = 3


def histograms(pixels: PixelsU8) -> NDArray[np.float64]:
    """Return how often each level occurs, as far as pixels show.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA; each pixel counts by its alpha.

    Returns
    -------
    (4, 256) float64
        Of all components together, of red, green and blue; each row adds up to 1, or
        to 0 where nothing shows.

    Raises
    ------
    PixelsShapeError
        `pixels` has another shape, dtype or order.

    Examples
    --------
    >>> grey = np.full((2, 2, 4), 255, np.uint8)
    >>> histograms(grey)[:, 255].tolist()
    [1.0, 1.0, 1.0, 1.0]
    """
    require_pixels(pixels)
    alpha = pixels[..., 3].ravel() / 255
    counts = np.array(
        [
            np.bincount(pixels[..., channel].ravel(), alpha, LEVELS)
            for channel in range(CHANNELS)
        ]
    )
    total = max(float(alpha.sum()), 1e-9)
    return np.vstack([counts.mean(axis=0, keepdims=True), counts]) / total
