"""What a view that stays is made of: more pixels than it has, averaged then."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels.averaging import average_rows_into
from glyphaneme.core.bands import run_bands
from glyphaneme.core.place import halved
from glyphaneme.core.render.views import SLIGHT, View

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

ENOUGH_BLENDED = 5_000_000
"""Pixels that are not too many to blend for one view."""
FEWEST, MOST = 2, 4
"""Pixels that are blended for one, along each side."""


class Finer(NamedTuple):
    """Another view that covers a view with more pixels, and how it lies on it."""

    view: View
    left: float
    top: float
    """How many of its pixels lie beyond the view's left and top; below 1."""
    step: float
    """How many of its pixels are one of the view, along each side."""

    def averaged(self, blended: PixelsU8, width: int, height: int) -> PixelsU8:
        """Average what was blended down to the view's own pixels.

        Parameters
        ----------
        blended : (view.height, view.width, 4) uint8
            Straight RGBA, C-contiguous.
        width, height : int, pixels
            Size of the view that it covers.

        Returns
        -------
        (height, width, 4) uint8
            The mean over each pixel's area, colours weighted by their alpha.
        """
        if (self.left, self.top, self.step) == (0, 0, 2):
            return halved(blended)
        out = np.empty((height, width, 4), np.uint8)
        source = blended.view(np.uint32)[..., 0]
        target = out.view(np.uint32)[..., 0]
        run_bands(
            lambda first, last: average_rows_into(
                source, target, self.left, self.top, self.step, first, last
            ),
            height,
            width,
        )
        return out


def samples_for(view: View) -> int:
    """Choose how many pixels are blended for each of a view's, along each side.

    Parameters
    ----------
    view : View
        All that is shown at once.

    Returns
    -------
    int
        From two to four: as many as are not too much work, but two always.

    Examples
    --------
    >>> samples_for(View(x=0, y=0, width=320, height=240, scale=0.1))
    4
    >>> samples_for(View(x=0, y=0, width=1280, height=960, scale=0.1))
    2
    """
    affordable = math.isqrt(ENOUGH_BLENDED // (view.width * view.height))
    return min(max(affordable, FEWEST), MOST)


def finer(view: View, samples: int) -> Finer:
    """Return what a view, or a part of it, is blended as.

    Parameters
    ----------
    view : View
        At less than full size.
    samples : int
        For each of its pixels, along each side; fewer where those are more than the
        pixels of the canvas itself: it is these then, and the export to the pixel.

    Returns
    -------
    Finer
        At full size at most.

    Examples
    --------
    >>> finer(View(x=4.5, y=6, width=6, height=3, scale=0.25), 2)
    Finer(view=View(x=4.5, y=6, width=12, height=6, scale=0.5), left=0, top=0, step=2)
    >>> finer(View(x=4.5, y=6, width=6, height=3, scale=0.75), 2).view
    View(x=4, y=6, width=9, height=4, scale=1)
    """
    if samples * view.scale < 1:
        return Finer(view.enlarged(samples), 0, 0, samples)
    x, y = math.floor(view.x), math.floor(view.y)
    left, top = view.x - x, view.y - y
    step = 1 / view.scale
    width = math.ceil(left + view.width * step - SLIGHT)
    height = math.ceil(top + view.height * step - SLIGHT)
    return Finer(View(x, y, width, height, 1), left, top, step)
