"""How a picture will look when it is printed, and what of it no ink can reach."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

import numpy as np

from glyphaneme.codecs.color.converting import BLACK_POINT, INTENTS
from glyphaneme.core.color import decoded, oklab

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.codecs.color.converting import Conversion
    from glyphaneme.core.arrays import PixelsU8

SEEN_APART: Final = 0.03
"""From which distance in Oklab on a colour counts as lost: one sees it side by side."""


def proofed(pixels: PixelsU8, conversion: Conversion) -> PixelsU8:
    """Return how pixels look once they are in a file's colours.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA.
    conversion : Conversion
        To the file's colours.

    Returns
    -------
    (H, W, 4) uint8
        The same, there and back; alpha stays.
    """
    if conversion.is_same:
        return pixels
    colors = conversion.of_colors(np.ascontiguousarray(pixels[..., :3]))
    return np.dstack([conversion.back(colors), pixels[..., 3]])


def outside_gamut(pixels: PixelsU8, conversion: Conversion) -> NDArray[np.bool_]:
    """Tell which pixels have a colour that a file's colours cannot show.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA.
    conversion : Conversion
        To the file's colours.

    Returns
    -------
    (H, W) bool
        True where what comes back lies farther than 0.03 in Oklab from what went;
        black is what is blackest there.
    """
    # Clipped, not compressed: what is inside comes back as it was.
    exact = conversion._replace(intent=INTENTS["relative"], flags=BLACK_POINT)
    colors = np.ascontiguousarray(pixels[..., :3])
    shown = exact.back(exact.of_colors(colors))
    wanted = _oklab(colors)
    apart = wanted - _oklab(shown)
    # Next to black Oklab makes much of what nobody sees on paper.
    apart[..., 0] *= wanted[..., 0]
    seen = np.sqrt((apart**2).sum(axis=-1)) > SEEN_APART
    return np.asarray(seen & (pixels[..., 3] > 0))


def _oklab(colors: NDArray[np.uint8]) -> NDArray[np.float64]:
    return np.asarray(oklab(decoded(colors / 255.0)))
