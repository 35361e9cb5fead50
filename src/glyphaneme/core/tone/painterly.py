"""Painterly: as if laid on with brushes, from broad ones to fine ones."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from glyphaneme.core.tone.areas import (
    AreaTone,
    Seen,
    blurred,
    enlarged,
    shrunk,
    straight,
    weighted,
)
from glyphaneme.core.tone.base import Part

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

    Floats = NDArray[np.float32]

Brush = Annotated[float, Field(ge=2, le=80, allow_inf_nan=False)]

SECTOR, SMOOTHED, EVENED, REACH = 0.45, 0.15, 0.6, 0.75
"""Of the brush: what a sector averages, what comes before the direction is taken, over
how much that is made even, and how far away sectors lie."""
FINER = 0.5
"""How much smaller each next brush is."""
LEAST_BRUSH, LEAST_SEEN = 5.0, 1.2
"""Pixels of the finest brush, at its own size and as it is seen."""
ENOUGH = 4.0
"""Pixels that a brush is worked out with: no more shows, and each costs."""
BUSY = 18.0
"""Levels of spread within a brush at which a finer one takes over by half."""
DETAIL_BRUSHES = 3


class PainterlyTone(AreaTone):
    """An anisotropic Kuwahara filter whose sectors are Gaussians, with several brushes.

    Each pixel becomes the mean of eight neighbours on an ellipse that lies along the
    picture's own direction (its structure tensor), each weighted by 1 / spread^8: the
    evenest gives the colour, so that edges stay and grain goes. It begins with a brush
    of `brush` pixels; where much happens within that, finer ones paint over, the more
    the higher `detail`. On encoded values. It is never neutral.

    References
    ----------
    .. [1] J. E. Kyprianidis, H. Kang, J. Dollner, "Image and Video Abstraction by
       Anisotropic Kuwahara Filtering", Computer Graphics Forum 28(7), 2009.

    Examples
    --------
    >>> PainterlyTone().words
    ('painted',)
    """

    at_rest: ClassVar[str] = "painted"
    length: ClassVar[str] = "brush"
    kind: Literal["painterly"] = "painterly"
    brush: Brush = 16.0
    detail: Part = 0.5

    @property
    def is_neutral(self) -> bool:
        """Never."""
        return False

    @property
    def words(self) -> tuple[str, ...]:
        """That it is painted."""
        return ("painted",)

    @property
    def reach(self) -> float:
        """Three brushes."""
        return 3 * self.brush

    @property
    def halvings(self) -> float:
        """Never: the finest brush needs the pixels."""
        return -1.0

    def made(self, pixels: PixelsU8, seen: Seen) -> PixelsU8:
        """Return pixels painted."""
        if self.brush * seen.scale < LEAST_SEEN:
            return pixels
        image = weighted(pixels)
        painted, spread = _painted(image, self.brush * seen.scale)
        brush = self.brush
        for _ in range(DETAIL_BRUSHES - 1):
            brush *= FINER
            is_fine = brush < LEAST_BRUSH or brush * seen.scale < LEAST_SEEN
            if is_fine or not self.detail:
                break
            finer, next_spread = _painted(image, brush * seen.scale)
            busy = (spread * np.float32(self.detail / BUSY)) ** 2
            share = (busy / (1 + busy))[..., None]
            painted = painted + share * (finer - painted)
            spread = next_spread
        return straight(painted)


def _painted(image: Floats, brush: float) -> tuple[Floats, Floats]:
    """Paint with one brush; return the painting, and how much happens within it."""
    factor = 1
    while brush / (2 * factor) >= ENOUGH:
        factor *= 2
    if factor == 1:
        return _painted_as_large(image, brush)
    found = _painted_as_large(shrunk(image, factor), brush / factor)
    painted, spread = (enlarged(one, factor, image) for one in found)
    return painted, spread


def _painted_as_large(image: Floats, brush: float) -> tuple[Floats, Floats]:
    """Paint at the size that the image has."""
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core._kernels.daubing import daub_rows_into
    from glyphaneme.core.bands import run_bands

    light = np.asarray(image[..., :3].mean(axis=-1), np.float32)
    means = blurred(image, brush * SECTOR)
    squares = blurred(light * light, brush * SECTOR)
    mean_light = means[..., :3].mean(axis=-1)
    spread = np.sqrt(np.maximum(squares - mean_light * mean_light, 0))
    smooth = blurred(light, max(brush * SMOOTHED, 0.8))
    across = cv2.Sobel(smooth, cv2.CV_32F, 1, 0, scale=0.25)
    down = cv2.Sobel(smooth, cv2.CV_32F, 0, 1, scale=0.25)
    tensor = np.dstack([across * across, down * down, across * down])
    e, g, f = np.moveaxis(blurred(tensor, brush * EVENED), -1, 0)
    root = np.sqrt((e - g) ** 2 + 4 * f * f)
    along = 0.5 * np.arctan2(2 * f, e - g) + np.float32(np.pi / 2)
    direction = np.dstack([np.cos(along), np.sin(along), root / (e + g + 1e-3)])
    out = np.empty_like(means)
    means = np.ascontiguousarray(means)
    ways = np.ascontiguousarray(direction, np.float32)
    even = np.ascontiguousarray(spread / 8, np.float32)
    run_bands(
        lambda first, last: daub_rows_into(
            means, even, ways, np.float32(brush * REACH), out, first, last
        ),
        out.shape[0],
        out.shape[1],
    )
    return out, np.asarray(spread, np.float32)
