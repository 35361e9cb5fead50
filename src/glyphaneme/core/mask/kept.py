"""Parts that were kept: how something showed once, as the alpha of a picture."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core.mask.parts import Join
from glyphaneme.core.mask.raster import Raster
from glyphaneme.core.mask.rasters import MOST_PIXELS, RasterPart, size_within

if TYPE_CHECKING:
    from glyphaneme.core.place import Pyramid

LONGEST_SAID = 160


class KeptPart(RasterPart):
    """The alpha of a picture that was made for it, and stays as it is."""

    kind: Literal["kept"] = "kept"
    join: Join = Join.KEEP
    said: Annotated[str, Field(min_length=1, max_length=LONGEST_SAID)]
    """What it shows, such as "the shape of Moths"."""

    @property
    def raster(self) -> str:
        """Named by the picture."""
        return f"kept-{self.picture}"

    def raster_of(self, pyramid: Pyramid, most_pixels: int = MOST_PIXELS) -> Raster:
        """Read the picture's alpha.

        Examples
        --------
        >>> from glyphaneme.core.place import build_pyramid
        >>> moths = KeptPart(id="k", picture="p", said="the shape of Moths")
        >>> grey = np.full((64, 64, 4), 51, np.uint8)
        >>> moths.raster_of(build_pyramid(grey)).plane_for(1)[1].extremes[0, 0]
        array([13107, 13107], dtype=uint16)
        """
        place = size_within(pyramid, most_pixels)
        alpha = np.ascontiguousarray(pyramid.levels[place][..., 3])
        return Raster(alpha, 0.5**place)

    @property
    def words(self) -> str:
        return f"{self.said}, as it was"
