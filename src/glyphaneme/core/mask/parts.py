"""What every part of a mask's recipe has in common."""

from __future__ import annotations

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated, ClassVar, NamedTuple, Protocol

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core._kernels import masking

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.mask.planes import Plane
    from glyphaneme.core.mask.raster import Raster
    from glyphaneme.core.mask.steps import Step
    from glyphaneme.core.place import Pyramid

PartId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,40}$")]


class Join(StrEnum):
    """What a part does with what the parts before it leave."""

    ADD = "add"
    TAKE = "take"
    KEEP = "keep"


JOINS = {Join.ADD: masking.ADD, Join.TAKE: masking.TAKE, Join.KEEP: masking.MULTIPLY}
"""With m shown before and p the part's own: m + p - m p, m (1 - p), m p."""


class LayerQuality(StrEnum):
    """What of another layer counts."""

    SHAPE = "shape"
    """Its alpha, as its own mask and fades leave it."""
    LIGHTNESS = "lightness"
    """Its luminosity, 0.3 red + 0.59 green + 0.11 blue, times its alpha."""


class Seeing(NamedTuple):
    """How a mask is seen: what it is worked out for.

    `pixel` is how many of the mask's own pixels a shown one covers, along a side;
    `to_mask`, (2, 3) or (3, 3) float64, maps the view's pixels to those, and `size` is
    the view's, rows and columns; `assets` holds what a render reads, by id; `other`
    gives another layer as it lies in the view.
    """

    pixel: float
    to_mask: MatrixF64 = np.eye(2, 3)
    size: tuple[int, int] = (1, 1)
    assets: Mapping[str, object] = {}
    other: Callable[[str, LayerQuality], Plane | None] = lambda _id, _quality: None


class OfPicture(Protocol):
    """What is made of a picture's pixels, and called by all that it is made of."""

    @property
    def picture(self) -> str:
        """The picture's id."""

    @property
    def raster(self) -> str:
        """How it is called."""

    def raster_of(self, pyramid: Pyramid, most_pixels: int = ...) -> Raster:
        """Make it.

        Parameters
        ----------
        pyramid : Pyramid
            The picture.
        most_pixels : int
            It is made of no larger size of the picture than that.

        Returns
        -------
        Raster
            As large as that size.
        """


class Found(Protocol):
    """What was found of a picture before, and is kept."""

    @property
    def matte(self) -> str:
        """The SHA-256 of its file."""

    @property
    def raster(self) -> str:
        """How it is called as this part lays it."""

    @property
    def share(self) -> float:
        """How many of its pixels lie on one of the picture, along a side."""

    @property
    def level(self) -> int:
        """Which of the picture's sizes it was found in."""


class Reads(NamedTuple):
    """What the pixels of a part are made from, besides its own values; by ids."""

    paintings: tuple[str, ...] = ()
    layers: tuple[str, ...] = ()
    pictures: tuple[str, ...] = ()
    rasters: tuple[OfPicture, ...] = ()
    mattes: tuple[Found, ...] = ()


class PartBase(BaseModel):
    """One line of a recipe."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    is_of_photo: ClassVar[bool] = False
    """Whether it was found in the photo's pixels, and means nothing without them."""

    id: PartId
    join: Join = Join.ADD
    inverted: bool = False
    works: bool = True

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Return how the compositor works the part out.

        Parameters
        ----------
        seeing : Seeing
            At what size it is seen, and what it may read.

        Returns
        -------
        tuple of Step
            One after the other.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError

    @property
    def reads(self) -> Reads:
        """What has to be there before its pixels can be made; nothing for most."""
        return Reads()

    @property
    def words(self) -> str:
        """What it is, in a few words, such as "a soft circle".

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError
