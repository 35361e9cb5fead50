"""Masks that are pixels, at full, half, quarter … size."""

from __future__ import annotations

import math
from threading import Lock
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core.mask.planes import plane_of

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.mask.planes import Plane

    Bytes = NDArray[np.uint8]

SMALLEST_SIDE = 8


class Raster:
    """How much of each pixel shows, at halving sizes, each made when it is asked for.

    Safe to use from several threads: what is made is made once.

    Parameters
    ----------
    values : (H, W) uint8
        0..255; beyond its edges it goes on as it is there.
    share : float
        How many of its pixels lie on one of the picture that it was made of, along a
        side: 1 at full size, 0.5 at half.
    """

    def __init__(self, values: Bytes, share: float = 1.0) -> None:
        self.share = share
        self._values = [values]
        self._planes: dict[int, Plane] = {}
        self._lock = Lock()

    @property
    def nbytes(self) -> int:
        """How much memory it takes at most, with all the sizes that may be asked for.

        Each is kept as pixels, and as a plane of twice as many bytes; all that are
        smaller take a third of the first.
        """
        return self._values[0].nbytes * 4

    def plane_for(self, pixel: float) -> tuple[int, Plane]:
        """Choose the size that is not blown up.

        Parameters
        ----------
        pixel : float
            How many of the raster's pixels a shown one covers.

        Returns
        -------
        int, Plane
            How often it is halved, and its pixels.
        """
        wanted = math.floor(math.log2(pixel) + 1e-9) if pixel > 1 else 0
        halvings = 0
        with self._lock:
            while (
                halvings < wanted and min(self._at(halvings).shape) >= 2 * SMALLEST_SIDE
            ):
                halvings += 1
            if halvings not in self._planes:
                self._planes[halvings] = plane_of(self._at(halvings))
            return halvings, self._planes[halvings]

    def _at(self, halvings: int) -> Bytes:
        """Return one size; whoever asks holds the lock."""
        while len(self._values) <= halvings:
            self._values.append(_halved(self._values[-1]))
        return self._values[halvings]


def _halved(values: Bytes) -> Bytes:
    """Average two by two; an odd last row or column counts twice."""
    rows, columns = values.shape
    even = np.pad(values, ((0, rows % 2), (0, columns % 2)), mode="edge")
    size = (even.shape[1] // 2, even.shape[0] // 2)
    small = cv2.resize(even, size, interpolation=cv2.INTER_AREA)
    return np.asarray(small, np.uint8)
