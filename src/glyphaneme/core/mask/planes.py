"""Masks as pixels: planes of one byte a pixel, kept in tiles."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core._kernels.masking import TILE, TILE_STRIDE
from glyphaneme.core.errors import PlaneShapeError

if TYPE_CHECKING:
    from numpy.typing import NDArray


@dataclass(frozen=True)
class Plane:
    """A plane in tiles of 64 by 64; even tiles take no memory but for their number.

    A tile also holds the first row and column of its neighbours. `tiles` is (rows of
    tiles, columns of tiles) int32: which tile of `store` it is, or -1 - its value where
    it is even. `extremes`, (…, 2) uint8, holds least and greatest values, `store`,
    (n, 65, 65) uint8, the pixels.
    """

    rows: int
    columns: int
    tiles: NDArray[np.int32]
    extremes: NDArray[np.uint8]
    store: NDArray[np.uint8]

    @property
    def nbytes(self) -> int:
        """How much memory it takes."""
        return self.tiles.nbytes + self.extremes.nbytes + self.store.nbytes


def plane_of(values: NDArray[np.uint8]) -> Plane:
    """Cut a mask's pixels into tiles.

    Parameters
    ----------
    values : (H, W) uint8
        How much shows, 0..255; at least one pixel.

    Returns
    -------
    Plane
        Beyond its edges it goes on as it is there.

    Raises
    ------
    PlaneShapeError
        The array has another shape or dtype.

    Examples
    --------
    >>> plane_of(np.full((70, 130), 9, np.uint8)).tiles
    array([[-10, -10, -10],
           [-10, -10, -10]], dtype=int32)
    """
    if values.ndim != len(("rows", "columns")) or not values.size:
        raise PlaneShapeError(values.shape, str(values.dtype))
    if values.dtype != np.uint8:
        raise PlaneShapeError(values.shape, str(values.dtype))
    rows, columns = values.shape
    down, across = -(-rows // TILE), -(-columns // TILE)
    beyond = ((0, down * TILE + 1 - rows), (0, across * TILE + 1 - columns))
    padded = np.pad(values, beyond, mode="edge")
    windows = np.lib.stride_tricks.sliding_window_view(
        padded, (TILE_STRIDE, TILE_STRIDE)
    )[::TILE, ::TILE]
    extremes = np.stack([windows.min(axis=(2, 3)), windows.max(axis=(2, 3))], axis=-1)
    uneven = extremes[..., 0] != extremes[..., 1]
    tiles = -1 - extremes[..., 0].astype(np.int32)
    tiles[uneven] = np.arange(uneven.sum(), dtype=np.int32)
    return Plane(rows, columns, tiles, extremes, np.ascontiguousarray(windows[uneven]))
