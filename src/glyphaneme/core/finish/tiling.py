"""A poster over several sheets of paper."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.errors import TooManyTilesError

if TYPE_CHECKING:
    from glyphaneme.core.finish.settings import Tiling

MOST_TILES = 400


class Tile(NamedTuple):
    """One sheet of a poster: which part of the page it shows, in millimetres."""

    row: int
    column: int
    left: float
    top: float
    width: float
    height: float


def tiled(width_mm: float, height_mm: float, tiling: Tiling) -> list[Tile]:
    """Cut a page into what single sheets of paper can show.

    Parameters
    ----------
    width_mm, height_mm : float
        Of the page.
    tiling : Tiling
        Paper, its margins, and how far neighbours overlap.

    Returns
    -------
    list of Tile
        Row by row; the last ones are as narrow and low as what is left.

    Raises
    ------
    TooManyTilesError
        There would be more than 400.

    Examples
    --------
    >>> from glyphaneme.core.finish.settings import Tiling
    >>> plain = Tiling(margin_mm=0, overlap_mm=10)
    >>> [tile.left for tile in tiled(400, 200, plain)]
    [0.0, 200.0]
    """
    room = (
        tiling.width_mm - 2 * tiling.margin_mm,
        tiling.height_mm - 2 * tiling.margin_mm,
    )
    columns, rows = (
        max(
            1,
            math.ceil(
                round((whole - tiling.overlap_mm) / (part - tiling.overlap_mm), 6)
            ),
        )
        for whole, part in zip((width_mm, height_mm), room, strict=True)
    )
    if columns * rows > MOST_TILES:
        raise TooManyTilesError(columns * rows, MOST_TILES)
    found = []
    for row in range(rows):
        for column in range(columns):
            left = column * (room[0] - tiling.overlap_mm)
            top = row * (room[1] - tiling.overlap_mm)
            width = min(room[0], width_mm - left)
            height = min(room[1], height_mm - top)
            found.append(Tile(row, column, left, top, width, height))
    return found
