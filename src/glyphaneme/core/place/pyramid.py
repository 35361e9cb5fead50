"""A picture at full, half, quarter … size, each averaged from the one before."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core._kernels.halving import halve_rows_into
from glyphaneme.core.bands import run_bands
from glyphaneme.core.checks import require_pixels

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

SMALLEST_SIDE = 16


@dataclass(frozen=True)
class Pyramid:
    """A picture at halving sizes; a texel of level n covers 2^n by 2^n pixels.

    Where a size is odd, the next level's last texel reaches beyond the picture, so
    that every level maps onto the one before by exactly one half.
    """

    levels: tuple[PixelsU8, ...]
    opaque: bool
    finer: PixelsU8 | None = None
    """The picture itself, enlarged well, where it is shown enlarged in a file."""
    finer_power: int = 0
    """How often that was doubled."""

    @property
    def width(self) -> int:
        """Width of the picture itself, in pixels."""
        return int(self.levels[0].shape[1])

    @property
    def height(self) -> int:
        """Height of the picture itself, in pixels."""
        return int(self.levels[0].shape[0])

    @property
    def nbytes(self) -> int:
        """How much memory all levels take."""
        return sum(level.nbytes for level in self.levels)

    def level_for(self, scale: float) -> int:
        """Choose the smallest level that is not blown up when shown at a scale.

        Parameters
        ----------
        scale : float, > 0
            Shown pixels per pixel of the picture, the larger of both axes.

        Returns
        -------
        int
            Place in `levels`; 0 for scales of a half and more.
        """
        wanted = math.floor(-math.log2(scale) + 1e-9) if scale < 1 else 0
        return min(wanted, len(self.levels) - 1)


def build_pyramid(pixels: PixelsU8) -> Pyramid:
    """Average a picture down, by halves, until its shorter side is small.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, C-contiguous. Becomes level 0 as it is, not copied.

    Returns
    -------
    Pyramid
        Colours averaged with their alpha as weight, on sRGB-encoded values.

    Raises
    ------
    PixelsShapeError
        `pixels` has another shape, dtype or order.

    Examples
    --------
    >>> flat = np.full((64, 40, 4), 255, np.uint8)
    >>> [level.shape[:2] for level in build_pyramid(flat).levels]
    [(64, 40), (32, 20)]
    """
    require_pixels(pixels)
    levels = [pixels]
    while min(levels[-1].shape[:2]) >= 2 * SMALLEST_SIDE:
        levels.append(halved(levels[-1]))
    return Pyramid(levels=tuple(levels), opaque=bool(pixels[..., 3].min() == 255))


def halved(pixels: PixelsU8) -> PixelsU8:
    """Average a picture down to half its size.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, C-contiguous.

    Returns
    -------
    (ceil(H / 2), ceil(W / 2), 4) uint8
        Colours averaged with their alpha as weight, on sRGB-encoded values.

    Examples
    --------
    >>> halved(np.full((4, 6, 4), 255, np.uint8)).shape
    (2, 3, 4)
    """
    rows, columns = pixels.shape[:2]
    out = np.empty(((rows + 1) // 2, (columns + 1) // 2, 4), np.uint8)
    source = pixels.view(np.uint32)[..., 0]
    target = out.view(np.uint32)[..., 0]
    run_bands(
        lambda first, last: halve_rows_into(source, target, first, last),
        out.shape[0],
        out.shape[1],
    )
    return out
