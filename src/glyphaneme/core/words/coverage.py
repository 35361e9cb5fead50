"""How much of each pixel letters cover: by area, from their outlines (HarfBuzz)."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np
import uharfbuzz as hb

from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.words.glyphs import GlyphTable

TILE = 1024
"""Pixels along a side that are drawn as one: a quarter of what the rasteriser can."""


class Covered(NamedTuple):
    """Part of a view: `padded`, (H + 2, W + 2) uint8, with nothing along its edges."""

    padded: NDArray[np.uint8]
    left: int
    top: int
    """Where in the view its values begin, without those edges."""

    @property
    def values(self) -> NDArray[np.uint8]:
        """How much of each pixel is covered, 0..255; (H, W) uint8."""
        return self.padded[1:-1, 1:-1]


def covered_by(
    table: GlyphTable, to_view: MatrixF64, size: tuple[int, int]
) -> Covered | None:
    """Draw glyphs as a view shows them.

    Parameters
    ----------
    table : GlyphTable
        In pixels of their own.
    to_view : (2, 3) float64
        Maps those to the view's.
    size : tuple of int
        The view's rows and columns.

    Returns
    -------
    Covered or None
        As much of the view as they reach; None where that is nothing.
    """
    boxes = _seen_boxes(table, to_view)
    rows, columns = size
    there = (
        (boxes[:, 2] > boxes[:, 0])
        & (boxes[:, 2] > 0)
        & (boxes[:, 3] > 0)
        & (boxes[:, 0] < columns)
        & (boxes[:, 1] < rows)
    )
    if not there.any():
        return None
    left, top = np.floor(boxes[there, :2].min(axis=0)).astype(int).clip(0)
    right, bottom = np.ceil(boxes[there, 2:].max(axis=0)).astype(int)
    reach = Rect(int(left), int(top), min(int(right), columns), min(int(bottom), rows))
    covered = Covered(
        np.zeros((max(reach.height, 1) + 2, max(reach.width, 1) + 2), np.uint8),
        reach.left,
        reach.top,
    )
    places = np.flatnonzero(there)
    for tile in _tiles(reach):
        inside = places[
            (boxes[places, 2] > tile.left)
            & (boxes[places, 0] < tile.right)
            & (boxes[places, 3] > tile.top)
            & (boxes[places, 1] < tile.bottom)
        ]
        target = covered.values[
            tile.top - reach.top : tile.bottom - reach.top,
            tile.left - reach.left : tile.right - reach.left,
        ]
        # By font: outlines of one font run the same way round, those of two may not.
        for font in np.unique(table.font[inside]):
            which = inside[table.font[inside] == font]
            np.maximum(target, _drawn(table, which, to_view, tile), out=target)
    return covered


def _seen_boxes(table: GlyphTable, to_view: MatrixF64) -> NDArray[np.float64]:
    across = table.boxes[:, [0, 2, 2, 0]]
    down = table.boxes[:, [1, 1, 3, 3]]
    corners = np.stack([across, down, np.ones_like(across)], axis=1)
    seen = to_view @ corners
    boxes = np.concatenate([seen.min(axis=2), seen.max(axis=2)], axis=1)
    boxes[table.boxes[:, 0] == table.boxes[:, 2]] = 0
    return np.asarray(boxes)


def _tiles(reach: Rect[int]) -> Iterator[Rect[int]]:
    for top in range(reach.top, reach.bottom, TILE):
        for left in range(reach.left, reach.right, TILE):
            yield Rect(
                left,
                top,
                min(left + TILE, reach.right),
                min(top + TILE, reach.bottom),
            )


def _drawn(
    table: GlyphTable,
    which: NDArray[np.int64],
    to_view: MatrixF64,
    tile: Rect[int],
) -> NDArray[np.uint8]:
    """Draw some glyphs of one font into a tile; the rasteriser's rows run upwards."""
    draw = hb.RasterDraw()
    draw.extents = hb.RasterExtents(
        tile.left, -tile.bottom, tile.width, tile.height, tile.width
    )
    turned = table.maps[which].copy()
    turned[:, :, 2] = turned[:, :, 2] @ to_view[:, :2].T + to_view[:, 2]
    turned[:, :, :2] = to_view[:, :2] @ turned[:, :, :2]
    turned[:, 1] *= -1
    font = table.fonts[int(table.font[which[0]])]
    for code, ((xx, xy, dx), (yx, yy, dy)) in zip(
        table.code[which].tolist(), turned.tolist(), strict=True
    ):
        draw.transform = (xx, yx, xy, yy, dx, dy)
        draw.draw_glyph(font, code)
    image = draw.render()
    extents = None if image is None else image.extents
    if image is None or extents is None or not extents.width:
        return np.zeros((tile.height, tile.width), np.uint8)
    pixels = np.frombuffer(image.buffer, np.uint8).reshape(extents.height, -1)
    return pixels[::-1, : tile.width]
