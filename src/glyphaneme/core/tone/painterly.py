"""Painterly: as if laid on with brushes, from broad ones to fine ones."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core.bands import run_bands
from glyphaneme.core.tone.areas import (
    OPAQUE,
    AreaTone,
    Seen,
    as_levels,
    blurred,
    enlarged,
    shrunk,
    straight,
    weighted,
)
from glyphaneme.core.tone.base import Part

if TYPE_CHECKING:
    from collections.abc import Callable

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
        return False

    @property
    def words(self) -> tuple[str, ...]:
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
        # Here, not above: a kernel takes a twentieth of a second to load.
        from glyphaneme.core._kernels import daubing

        brushes = self._brushes(seen.scale)
        if not brushes:
            return pixels
        # Nothing of it is finer than the finest brush is worked out with.
        factor = _factor(brushes[-1])
        is_opaque = bool(pixels[..., 3].min() == OPAQUE)
        if is_opaque:
            small = np.asarray(_smaller(pixels, factor), np.float32)
        else:
            small = _smaller(weighted(pixels), factor)
        painted, spread = _painted(small, brushes[0] / factor)
        share = np.float32(self.detail / BUSY)
        for brush in brushes[1:]:
            finer, next_spread = _painted(small, brush / factor)
            _in_bands(daubing.paint_over, painted, finer, spread, share)
            spread = next_spread
        if is_opaque:
            return _larger(as_levels(painted), factor, pixels)
        return straight(_larger(painted, factor, pixels))

    def _brushes(self, scale: float) -> list[float]:
        """Return the sizes of all brushes as they are seen, the broadest first."""
        sizes = [self.brush * FINER**place for place in range(DETAIL_BRUSHES)]
        wanted = [one for one in sizes if one >= LEAST_BRUSH] if self.detail else []
        seen = [one * scale for one in wanted or sizes[:1]]
        return [one for one in seen if one >= LEAST_SEEN]


def _factor(brush: float) -> int:
    """Return by how much the image may be smaller that a brush is worked out with."""
    factor = 1
    while brush / (2 * factor) >= ENOUGH:
        factor *= 2
    return factor


def _smaller(image: NDArray[Any], factor: int) -> NDArray[Any]:
    return image if factor == 1 else shrunk(image, factor)


def _larger(small: NDArray[Any], factor: int, like: NDArray[Any]) -> NDArray[Any]:
    return small if factor == 1 else enlarged(small, factor, like)


def _in_bands(
    work: Callable[..., None], image: Floats, *others: Floats | np.float32
) -> None:
    """Run compiled work over all rows of an image."""
    rows, columns = image.shape[:2]
    run_bands(partial(work, image, *others), rows, columns)


def _evened(image: Floats, sigma: float) -> Floats:
    """Return an image blurred, as compiled work reads it."""
    return np.ascontiguousarray(blurred(image, sigma))


def _painted(image: Floats, brush: float) -> tuple[Floats, Floats]:
    """Paint with one brush; return the painting, and how much happens within it."""
    factor = _factor(brush)
    found = _painted_as_large(_smaller(image, factor), brush / factor)
    painted, spread = (_larger(one, factor, image) for one in found)
    return painted, spread


def _painted_as_large(image: Floats, brush: float) -> tuple[Floats, Floats]:
    """Paint at the size that the image has."""
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core._kernels import daubing

    light, squares = (np.empty(image.shape[:2], np.float32) for _ in range(2))
    _in_bands(daubing.lightness_into, image, light, squares)
    means, squares = (_evened(one, brush * SECTOR) for one in (image, squares))
    tensor = np.empty((*light.shape, 3), np.float32)
    smooth = _evened(light, max(brush * SMOOTHED, 0.8))
    _in_bands(daubing.tensor_into, smooth, tensor)
    tensor = _evened(tensor, brush * EVENED)
    spread, weights, ways = (np.empty_like(one) for one in (light, light, tensor))
    _in_bands(daubing.weigh_rows_into, means, squares, tensor, spread, weights, ways)
    out = np.empty_like(means)
    reach = np.float32(brush * REACH)
    _in_bands(daubing.daub_rows_into, means, weights, ways, reach, out)
    return out, spread
