"""Masks that are pixels: at full, half, quarter … size, made of a picture's."""

from __future__ import annotations

import math
from threading import Lock
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core.errors import RasterMissingError
from glyphaneme.core.mask.parts import JOINS, PartBase, PartId, Reads
from glyphaneme.core.mask.planes import plane_of
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.place.transform import IDENTITY, Transform, matrix_of

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.mask.parts import Seeing
    from glyphaneme.core.mask.planes import Plane
    from glyphaneme.core.place import Pyramid

    Bytes = NDArray[np.uint8]

SMALLEST_SIDE = 8
MOST_PIXELS = 16_000_000
"""Larger pictures are read in their first smaller size that has no more."""


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


class RasterPart(PartBase):
    """A part that is made of a picture's pixels.

    `to_picture` maps the mask's own positions to the picture's pixels.
    """

    picture: PartId
    to_picture: Transform = IDENTITY

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Read the raster's pixels.

        Raises
        ------
        RasterMissingError
            They were not handed over.
        """
        raster = seeing.assets.get(self.raster)
        if not isinstance(raster, Raster):
            raise RasterMissingError(self.words)
        to_picture = matrix_of(self.to_picture)[:2]
        pixel = seeing.pixel * abs(float(np.linalg.det(to_picture[:, :2]))) ** 0.5
        halvings, plane = raster.plane_for(pixel * raster.share)
        return (
            Step(
                kind=masking.PLANE,
                to_step=to_picture * (raster.share * 0.5**halvings),
                join=JOINS[self.join],
                inverted=self.inverted,
                plane=plane,
            ),
        )

    @property
    def reads(self) -> Reads:
        """The picture, and what is made of it."""
        return Reads(pictures=(self.picture,), rasters=(self,))

    @property
    def raster(self) -> str:
        """The name of its raster: parts that have the same one have one name.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError

    def raster_of(self, pyramid: Pyramid, most_pixels: int = MOST_PIXELS) -> Raster:
        """Make its raster.

        Parameters
        ----------
        pyramid : Pyramid
            The picture that it names.
        most_pixels : int
            No larger size of the picture is read.

        Returns
        -------
        Raster
            Its pixels.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError


def size_within(pyramid: Pyramid, most_pixels: int) -> int:
    """Return the largest size of a picture that has no more than so many pixels.

    Parameters
    ----------
    pyramid : Pyramid
        The picture.
    most_pixels : int
        The limit; the smallest size has more if need be.

    Returns
    -------
    int
        Place in its levels.
    """
    last = len(pyramid.levels) - 1
    sizes = (level.shape[0] * level.shape[1] for level in pyramid.levels)
    return next((at for at, size in enumerate(sizes) if size <= most_pixels), last)
