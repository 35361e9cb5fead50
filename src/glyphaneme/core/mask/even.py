"""Parts that are areas of even colour: what looks like the spots that were clicked."""

from __future__ import annotations

import hashlib
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from glyphaneme.core.mask.parts import Join
from glyphaneme.core.mask.raster import Raster
from glyphaneme.core.mask.rasters import MOST_PIXELS, RasterPart, size_within
from glyphaneme.core.place.limits import Position

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.place import Pyramid

    LabF32 = NDArray[np.float32]

MAX_SPOTS = 32
MOST_TOLERANCE = 100.0
LEAST_BAND = 2.0
BAND_SHARE = 0.25
FILLED = 2

Spot = tuple[Position, Position]
Tolerance = Annotated[float, Field(ge=0, le=MOST_TOLERANCE, allow_inf_nan=False)]


class EvenPart(RasterPart):
    """What of a picture has nearly the colour that it has at some spots.

    `spots` are in the picture's own pixels. A colour belongs to the area up to
    `tolerance` away from a spot's in CIELAB (ΔE*ab of 1976), falls off over a quarter
    more, two at least, and does not belong from there on. Where the area is
    `connected`, only what hangs together with a spot counts.
    """

    is_of_photo: ClassVar[bool] = True
    kind: Literal["even"] = "even"
    join: Join = Join.TAKE
    spots: Annotated[tuple[Spot, ...], Field(min_length=1, max_length=MAX_SPOTS)]
    tolerance: Tolerance = 12.0
    connected: bool = True

    @property
    def raster(self) -> str:
        """Named by the picture and by what is looked for."""
        kept = self.model_dump(include={"picture", "spots", "tolerance", "connected"})
        return f"even-{hashlib.sha256(repr(sorted(kept.items())).encode()).hexdigest()}"

    def raster_of(self, pyramid: Pyramid, most_pixels: int = MOST_PIXELS) -> Raster:
        """Find the area.

        Examples
        --------
        >>> from glyphaneme.core.place import build_pyramid
        >>> halves = np.full((64, 64, 4), 255, np.uint8)
        >>> halves[:, 32:, :3] = 0
        >>> white = EvenPart(id="w", picture="p", spots=((5, 5),))
        >>> white.raster_of(build_pyramid(halves)).plane_for(1)[1].extremes[0, 0]
        array([    0, 65535], dtype=uint16)
        """
        place = size_within(pyramid, most_pixels)
        share = 0.5**place
        lab = _lab_of(pyramid.levels[place])
        rows, columns = lab.shape[:2]
        spots = [
            (_inside(y * share, rows), _inside(x * share, columns))
            for x, y in self.spots
        ]
        values = _belonging(lab, spots, self.tolerance)
        if self.connected:
            values = _hanging_together(values, spots)
        return Raster(values, share)

    @property
    def words(self) -> str:
        count = len(self.spots)
        return f"an even colour, {count} spots" if count > 1 else "an even colour"


def _inside(position: float, length: int) -> int:
    """Return the pixel at a position, or the nearest one."""
    return min(max(int(position), 0), length - 1)


def _lab_of(pixels: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """Return CIELAB under D65, L* times 2.55, a* and b* plus 128."""
    rgb = cv2.cvtColor(np.asarray(pixels), cv2.COLOR_RGBA2RGB)
    return np.asarray(cv2.cvtColor(rgb, cv2.COLOR_RGB2LAB), np.uint8)


def _belonging(
    lab: NDArray[np.uint8], spots: list[tuple[int, int]], tolerance: float
) -> NDArray[np.uint8]:
    """Return how near each pixel's colour is to that of the nearest spot, 0..255."""
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core._kernels.nearness import nearness_into

    colors = np.array([_color_at(lab, spot) for spot in spots], np.float32)
    band = max(LEAST_BAND, tolerance * BAND_SHARE)
    out = np.empty(lab.shape[:2], np.uint8)
    nearness_into(np.ascontiguousarray(lab), colors, tolerance, band, out)
    return out


def _color_at(lab: NDArray[np.uint8], spot: tuple[int, int]) -> LabF32:
    """Return the median colour of three by three pixels."""
    row, column = spot
    around = lab[max(row - 1, 0) : row + 2, max(column - 1, 0) : column + 2]
    return np.asarray(np.median(around.reshape(-1, 3), axis=0), np.float32)


def _hanging_together(
    values: NDArray[np.uint8], spots: list[tuple[int, int]]
) -> NDArray[np.uint8]:
    """Return what of an area hangs together with a spot, by sides of pixels."""
    belongs = np.minimum(values, 1)
    for row, column in spots:
        if belongs[row, column] == 1:
            cv2.floodFill(belongs, None, (column, row), FILLED)
    return np.where(belongs == FILLED, values, 0).astype(np.uint8)
