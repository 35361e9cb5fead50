"""Glyphs as they are placed: which, of which font, and by which affine map each."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from collections.abc import Sequence

    import uharfbuzz as hb

Maps = NDArray[np.float64]


@dataclass(frozen=True)
class GlyphTable:
    """Glyphs from first to last.

    `fonts` are those that `font` counts in; `maps`, (N, 2, 3) float64, take a font's
    units, upwards, to pixels, downwards; `boxes`, (N, 4) float64, hold each glyph's
    left, top, right and bottom in those pixels, all 0 for one that shows nothing.
    """

    fonts: tuple[hb.Font, ...]
    font: NDArray[np.int64]
    code: NDArray[np.int64]
    maps: Maps
    boxes: NDArray[np.float64]

    def __len__(self) -> int:
        """Count the glyphs.

        Returns
        -------
        int
            Those that show nothing too.
        """
        return len(self.code)

    @property
    def nbytes(self) -> int:
        """How much memory it takes, without its fonts."""
        arrays = (self.font, self.code, self.maps, self.boxes)
        return sum(one.nbytes for one in arrays)

    @property
    def bounds(self) -> Rect[float] | None:
        """Return what all of them cover at most; None where nothing shows."""
        there = self.boxes[self.boxes[:, 2] > self.boxes[:, 0]]
        if not len(there):
            return None
        left, top = there[:, :2].min(axis=0)
        right, bottom = there[:, 2:].max(axis=0)
        return Rect(float(left), float(top), float(right), float(bottom))

    def moved(self, x: float, y: float) -> GlyphTable:
        """Return them moved.

        Parameters
        ----------
        x, y : float, pixels
            To the right and down.

        Returns
        -------
        GlyphTable
            Of the same fonts.
        """
        maps, boxes = self.maps.copy(), self.boxes.copy()
        maps[:, :, 2] += (x, y)
        boxes[boxes[:, 2] > boxes[:, 0]] += (x, y, x, y)
        return GlyphTable(self.fonts, self.font, self.code, maps, boxes)


def glyph_table(
    fonts: Sequence[hb.Font],
    font: Sequence[int],
    code: Sequence[int],
    maps: Maps,
) -> GlyphTable:
    """Collect glyphs, and reckon what each covers.

    Parameters
    ----------
    fonts : sequence of uharfbuzz.Font
        Those that are used.
    font, code : sequence of int
        Of each glyph its font's place and its number in that.
    maps : (N, 2, 3) float64
        As `GlyphTable` says.

    Returns
    -------
    GlyphTable
        In the same order.
    """
    known: dict[tuple[int, int], tuple[float, float, float, float]] = {}
    for which in set(zip(font, code, strict=True)):
        extents = fonts[which[0]].get_glyph_extents(which[1])
        known[which] = (
            (0.0, 0.0, 0.0, 0.0)
            if extents is None
            else (
                extents.x_bearing,
                extents.y_bearing,
                extents.x_bearing + extents.width,
                extents.y_bearing + extents.height,
            )
        )
    units = np.array(
        [known[which] for which in zip(font, code, strict=True)], np.float64
    ).reshape(-1, 4)
    across = units[:, [0, 2, 2, 0]]
    upwards = units[:, [1, 1, 3, 3]]
    corners = np.stack([across, upwards, np.ones_like(across)], axis=1)
    seen = maps @ corners
    boxes = np.concatenate([seen.min(axis=2), seen.max(axis=2)], axis=1)
    boxes[units[:, 0] == units[:, 2]] = 0
    return GlyphTable(
        tuple(fonts),
        np.array(font, np.int64),
        np.array(code, np.int64),
        maps,
        boxes,
    )
