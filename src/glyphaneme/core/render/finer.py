"""How near a frame comes to the export: what it is blended as, and averaged from."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Literal, NamedTuple

import numpy as np

from glyphaneme.core.bands import run_bands
from glyphaneme.core.place import Rect, halved
from glyphaneme.core.render.views import SLIGHT, View

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

Fineness = Literal["quick", "fine", "exact"]
"""How near to the export. Quick: each layer is read at one point of a pixel. Fine: each
is averaged over the pixel's area, and the means are blended. Exact: more pixels are
blended than the frame has, and averaged then: modes and tones that bend colours give
something else where detail was averaged before."""
ENOUGH_BLENDED = 5_000_000
"""Pixels that are not too many to blend for one view."""
FEWEST, MOST = 2, 4
"""Pixels that are blended for one, along each side."""


class Finer(NamedTuple):
    """Another view with more pixels, of which those of a view are the means."""

    view: View
    left: float
    top: float
    """How many of its pixels lie beyond the view's left and top; below 1."""
    step: float
    """How many of its pixels are one of the view, along each side."""
    width: int
    height: int
    """Pixels of the view that it is for."""

    def averaged(self, blended: PixelsU8) -> PixelsU8:
        """Average what was blended down to the view's own pixels.

        Parameters
        ----------
        blended : (view.height, view.width, 4) uint8
            Straight RGBA, C-contiguous.

        Returns
        -------
        (height, width, 4) uint8
            The mean over each pixel's area, colours weighted by their alpha; the same
            array where a step is one pixel.
        """
        if self.step == 1:
            return blended
        if (self.left, self.top, self.step) == (0, 0, 2):
            return halved(blended)
        # Here, not above: loading a kernel takes a moment at every start.
        from glyphaneme.core._kernels.averaging import average_rows_into

        out = np.empty((self.height, self.width, 4), np.uint8)
        source = blended.view(np.uint32)[..., 0]
        target = out.view(np.uint32)[..., 0]
        run_bands(
            lambda first, last: average_rows_into(
                source, target, self.left, self.top, self.step, first, last
            ),
            self.height,
            self.width,
        )
        return out

    def shown_in(self, blended: Rect[int]) -> Rect[int]:
        """Return the pixels of the view in which some that are blended count.

        Parameters
        ----------
        blended : Rect
            Of `view`; perhaps without a pixel.

        Returns
        -------
        Rect
            Of the view that this is for.
        """
        left, top, right, bottom = blended
        shown = Rect(
            math.floor((left - self.left) / self.step),
            math.floor((top - self.top) / self.step),
            math.ceil((right - self.left) / self.step),
            math.ceil((bottom - self.top) / self.step),
        )
        return shown.within(Rect(0, 0, self.width, self.height))

    def of_part(self, shown: Rect[int]) -> tuple[Finer, Rect[int]]:
        """Return what a part of the view is the mean of.

        Parameters
        ----------
        shown : Rect
            Of the view that this is for.

        Returns
        -------
        Finer
            For that part.
        Rect
            Which part of `view` its own is.
        """
        across = self.left + shown.left * self.step
        down = self.top + shown.top * self.step
        left, top = math.floor(across), math.floor(down)
        across, down = across - left, down - top
        part = Rect(
            left,
            top,
            left + _covered(across, shown.width, self.step),
            top + _covered(down, shown.height, self.step),
        ).within(Rect(0, 0, self.view.width, self.view.height))
        view = self.view.part(*part)
        return Finer(view, across, down, self.step, shown.width, shown.height), part


def as_it_is(view: View) -> Finer:
    """Return a view itself, pixel for pixel.

    Parameters
    ----------
    view : View
        Any.

    Returns
    -------
    Finer
        Whose means are what is blended.
    """
    return Finer(view, 0, 0, 1, view.width, view.height)


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
    >>> finer(View(x=4.5, y=6, width=6, height=3, scale=0.25), 2).view
    View(x=4.5, y=6, width=12, height=6, scale=0.5)
    >>> finer(View(x=4.5, y=6, width=6, height=3, scale=0.75), 2).view
    View(x=4, y=6, width=9, height=4, scale=1)
    """
    if samples * view.scale < 1:
        more = view.enlarged(samples)
        return Finer(more, 0, 0, samples, view.width, view.height)
    x, y = math.floor(view.x), math.floor(view.y)
    left, top = view.x - x, view.y - y
    step = 1 / view.scale
    width = _covered(left, view.width, step)
    height = _covered(top, view.height, step)
    own = View(x, y, width, height, 1)
    return Finer(own, left, top, step, view.width, view.height)


def _covered(start: float, pixels: int, step: float) -> int:
    """Return on how many of smaller pixels so many lie that start within the first."""
    return math.ceil(start + pixels * step - SLIGHT)
