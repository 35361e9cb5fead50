"""Which part of a canvas is shown, and how large."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

SLIGHT = 1e-6
"""What of a pixel is too little to count: sums of fractions are never whole."""


class View(NamedTuple):
    """A rectangle of the canvas at a scale.

    `x` and `y` are canvas pixels of its top left corner, `width` and `height` the
    size of what is shown, `scale` shown pixels per canvas pixel.

    Examples
    --------
    >>> View(x=10, y=0, width=640, height=480, scale=0.5).on_canvas
    Rect(left=10, top=0, right=1290.0, bottom=960.0)
    """

    x: float
    y: float
    width: int
    height: int
    scale: float

    @property
    def on_canvas(self) -> Rect[float]:
        """The rectangle, in canvas pixels."""
        return Rect(
            self.x,
            self.y,
            self.x + self.width / self.scale,
            self.y + self.height / self.scale,
        )

    @property
    def to_canvas(self) -> MatrixF64:
        """Map the view's pixels to the canvas, as a (3, 3) float64 matrix."""
        step = 1 / self.scale
        return np.array([[step, 0, self.x], [0, step, self.y], [0, 0, 1]])

    def enlarged(self, times: int) -> View:
        """Return the same rectangle at so many times the size.

        Parameters
        ----------
        times : int
            How many shown pixels, along each side, come for one.

        Returns
        -------
        View
            With as many times the width, height and scale.

        Examples
        --------
        >>> View(x=10, y=10, width=4, height=2, scale=0.5).enlarged(3)
        View(x=10, y=10, width=12, height=6, scale=1.5)
        """
        return View(
            self.x,
            self.y,
            times * self.width,
            times * self.height,
            scale=times * self.scale,
        )

    def widened(self, margin: int) -> View:
        """Return a view with some more pixels on every side.

        Parameters
        ----------
        margin : int, pixels
            How many of them.

        Returns
        -------
        View
            At the same scale.

        Examples
        --------
        >>> View(x=10, y=10, width=4, height=2, scale=0.5).widened(1)
        View(x=8.0, y=8.0, width=6, height=4, scale=0.5)
        """
        return View(
            x=self.x - margin / self.scale,
            y=self.y - margin / self.scale,
            width=self.width + 2 * margin,
            height=self.height + 2 * margin,
            scale=self.scale,
        )

    def part(self, left: int, top: int, right: int, bottom: int) -> View:
        """Return some of its pixels as a view of their own.

        Parameters
        ----------
        left, top, right, bottom : int, pixels
            Of the view; the latter two exclusive.

        Returns
        -------
        View
            At the same scale.

        Examples
        --------
        >>> View(x=0, y=0, width=40, height=20, scale=0.5).part(10, 0, 30, 20)
        View(x=20.0, y=0.0, width=20, height=20, scale=0.5)
        """
        return View(
            self.x + left / self.scale,
            self.y + top / self.scale,
            right - left,
            bottom - top,
            self.scale,
        )

    def band(self, top: int, rows: int) -> View:
        """Return the part of it from a row on, so many rows high or to its end.

        Parameters
        ----------
        top : int
            How many rows lie above.
        rows : int
            How many it has at most.

        Returns
        -------
        View
            At the same scale.

        Examples
        --------
        >>> View(x=0, y=0, width=640, height=480, scale=0.5).band(400, 256)
        View(x=0, y=800.0, width=640, height=80, scale=0.5)
        """
        height = min(rows, self.height - top)
        return self._replace(y=self.y + top / self.scale, height=height)
