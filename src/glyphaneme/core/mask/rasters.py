"""Parts of masks that are pixels, made of a picture's."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core.errors import RasterMissingError
from glyphaneme.core.mask.parts import JOINS, PartBase, PartId, Reads
from glyphaneme.core.mask.raster import Raster
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.place.transform import IDENTITY, Transform, matrix_of

if TYPE_CHECKING:
    from glyphaneme.core.mask.parts import Seeing
    from glyphaneme.core.place import Pyramid

MOST_PIXELS = 16_000_000
"""Larger pictures are read in their first smaller size that has no more."""


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
