"""Makes a photo's pixels with its subject's own colours, size by size."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.errors import PixelsMissingError
from glyphaneme.core.mask.rasters import MOST_PIXELS, size_within
from glyphaneme.core.place import Pyramid
from glyphaneme.core.place.transform import matrix_of
from glyphaneme.core.render.composing import compose
from glyphaneme.core.render.masks import Masking
from glyphaneme.core.render.passes import CLEAR, Passes
from glyphaneme.core.render.rows import white_table
from glyphaneme.core.render.views import View

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.texels import OwnColors

BAND_ROWS = 1024


def own_pyramid(
    own: OwnColors, assets: Assets, most_pixels: int = MOST_PIXELS
) -> Pyramid:
    """Return a photo with its subject's own colours along the edge of its mask.

    Parameters
    ----------
    own : OwnColors
        Which photo, and by what mask.
    assets : mapping of id to what a render reads
        The picture, and what the mask reads.
    most_pixels : int
        Sizes with more pixels stay as they are.

    Returns
    -------
    Pyramid
        Each size is reckoned for itself, with the mask as it shows at that size.

    Raises
    ------
    PixelsMissingError
        `assets` lacks the picture.
    """
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core.cutout.own_colors import with_own_colors

    pyramid = assets[own.picture]
    if not isinstance(pyramid, Pyramid):
        raise PixelsMissingError(own.picture)
    finest = size_within(pyramid, most_pixels)
    levels = list(pyramid.levels)
    for place in range(finest, len(levels)):
        alpha = mask_at(own, assets, levels[place].shape[:2], 0.5**place)
        levels[place] = with_own_colors(levels[place], alpha, strength=own.strength)
    return Pyramid(levels=tuple(levels), opaque=pyramid.opaque)


def mask_at(
    own: OwnColors, assets: Assets, shape: tuple[int, ...], share: float
) -> NDArray[np.uint8]:
    """Return how much of each pixel of a photo its mask shows.

    Parameters
    ----------
    own : OwnColors
        Whose mask.
    assets : mapping of id to what a render reads
        What the mask reads.
    shape : tuple of int
        Rows and columns of a size of the photo.
    share : float
        How many of its pixels lie on one of the photo, along a side.

    Returns
    -------
    (rows, columns) uint8
        0..255.
    """
    rows, columns = shape
    alpha = np.empty((rows, columns), np.uint8)
    for first in range(0, rows, BAND_ROWS):
        count = min(BAND_ROWS, rows - first)
        view = View(0, first / share, columns, count, share)
        to_mask = matrix_of(own.mask.to_mask) @ view.to_canvas
        passes = Passes((), assets, view)
        start, steps = passes.mask_steps(own.mask, to_mask[:2])
        shown = compose(white_table(Masking(start, steps)), CLEAR, view)
        alpha[first : first + count] = shown[..., 3]
    return alpha
