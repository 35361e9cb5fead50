"""Makes a photo's pixels with places mended, size by size."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.mend import lay_patch, patch_for
from glyphaneme.core.place import Pyramid

if TYPE_CHECKING:
    from glyphaneme.core.render.texels import Mended


def mended_copy(mended: Mended, pyramid: Pyramid) -> Pyramid:
    """Return a copy of a picture with all its places mended.

    Parameters
    ----------
    mended : Mended
        Its places.
    pyramid : Pyramid
        The picture, which stays as it is.

    Returns
    -------
    Pyramid
        Of the same sizes.
    """
    levels = tuple(map(np.array, pyramid.levels))
    for mend in mended.mends:
        lay_patch(levels, patch_for(levels[0], mend))
    return Pyramid(levels=levels, opaque=pyramid.opaque)
