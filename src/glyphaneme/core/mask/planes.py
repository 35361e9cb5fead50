"""Masks as pixels: planes of 16 bits a pixel, kept in tiles."""

from __future__ import annotations

import ctypes
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from glyphaneme.core._kernels.masking import TILE, TILE_STRIDE
from glyphaneme.core.errors import PlaneShapeError

if TYPE_CHECKING:
    from numpy.typing import NDArray

TILE_BYTES = 2 * TILE_STRIDE**2
FROM_BYTE = 257
"""65535 in 255."""


def address_of(array: NDArray[Any]) -> int:
    """Return where an array that may be written to begins.

    Parameters
    ----------
    array : array
        It must stay alive, and have no gaps.

    Returns
    -------
    int
        As `array.ctypes.data`, which takes three times as long.

    Examples
    --------
    >>> values = np.zeros(4)
    >>> address_of(values) == values.ctypes.data
    True
    """
    return ctypes.addressof(ctypes.c_char.from_buffer(array.data))


@dataclass(frozen=True)
class Plane:
    """A plane in tiles of 64 by 64; even tiles take no memory but for their value.

    `tiles` is (rows of tiles, columns of tiles) int64: the address of a tile's pixels,
    or -1 - its value where it is even. A tile's pixels, (65, 65) uint16, hold the first
    row and column of its neighbours too; `alive` keeps those. `extremes`, (…, 2)
    uint16, holds least and greatest values.
    """

    rows: int
    columns: int
    tiles: NDArray[np.int64]
    extremes: NDArray[np.uint16]
    alive: object

    @property
    def addresses(self) -> tuple[int, int]:
        """Where `tiles` and `extremes` begin."""
        return address_of(self.tiles), address_of(self.extremes)

    @property
    def nbytes(self) -> int:
        """How much memory it takes."""
        uneven = int((self.tiles >= 0).sum())
        return self.tiles.nbytes + self.extremes.nbytes + uneven * TILE_BYTES


def plane_of(values: NDArray[np.uint8] | NDArray[np.uint16]) -> Plane:
    """Cut a mask's pixels into tiles.

    Parameters
    ----------
    values : (H, W) uint8 or uint16
        How much shows, 0..255 or 0..65535; at least one pixel.

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
    array([[-2314, -2314, -2314],
           [-2314, -2314, -2314]])
    """
    if values.ndim != len(("rows", "columns")) or not values.size:
        raise PlaneShapeError(values.shape, str(values.dtype))
    if values.dtype == np.uint8:
        values = np.multiply(values, np.uint16(FROM_BYTE), dtype=np.uint16)
    if values.dtype != np.uint16:
        raise PlaneShapeError(values.shape, str(values.dtype))
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core._kernels.tiling import cut_tiles, find_extremes

    texels = np.ascontiguousarray(values)
    rows, columns = texels.shape
    extremes = np.empty((-(-rows // TILE), -(-columns // TILE), 2), np.uint16)
    find_extremes(texels, extremes)
    tiles = -1 - extremes[..., 0].astype(np.int64)
    unlike = extremes[..., 0] != extremes[..., 1]
    uneven = np.ascontiguousarray(np.argwhere(unlike))
    pixels = np.empty((len(uneven), TILE_STRIDE, TILE_STRIDE), np.uint16)
    cut_tiles(texels, uneven, pixels)
    places = pixels.ctypes.data + TILE_BYTES * np.arange(len(uneven))
    tiles[uneven[:, 0], uneven[:, 1]] = places
    return Plane(rows, columns, tiles, extremes, pixels)
