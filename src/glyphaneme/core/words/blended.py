"""Letters that have a gradient whole, each."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.color.spaces import levels_of

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.words.coverage import Covered
    from glyphaneme.core.words.glyphs import GlyphTable
    from glyphaneme.core.words.values import BlendedInk


def blended_by_letter(
    ink: BlendedInk, letters: GlyphTable, covered: Covered, to_view: MatrixF64
) -> PixelsU8:
    """Colour what letters cover, each letter's box with the whole gradient.

    Parameters
    ----------
    ink : BlendedInk
        Its colours are mixed as they are encoded.
    letters : GlyphTable
        Those that are covered; where two meet, the later one's colour counts.
    covered : Covered
        What they cover of a view.
    to_view : (2, 3) float64
        Maps the letters' pixels to the view's.

    Returns
    -------
    (H, W, 4) uint8
        Straight RGBA, as large as what is covered.
    """
    rows, columns = covered.values.shape
    colors = [np.array(levels_of(one), np.float32) for one in (ink.start, ink.end)]
    out = np.zeros((rows, columns, 4), np.uint8)
    back = np.linalg.inv(np.vstack([to_view, (0, 0, 1)]))[:2]
    corners = np.array([[0, 0, 1, 1], [0, 1, 1, 0]])
    turn = math.radians(ink.angle)
    along = np.array([math.cos(turn), math.sin(turn)])
    for left, top, right, bottom in letters.boxes:
        if right <= left:
            continue
        size = np.array([right - left, bottom - top])
        placed = np.array([[left], [top]]) + corners * size[:, None]
        seen = to_view[:, :2] @ placed + to_view[:, 2:]
        x0, y0 = np.floor(seen.min(axis=1)).astype(int) - (covered.left, covered.top)
        x1, y1 = np.ceil(seen.max(axis=1)).astype(int) - (covered.left, covered.top)
        x0, y0, x1, y1 = max(x0, 0), max(y0, 0), min(x1, columns), min(y1, rows)
        if x0 >= x1 or y0 >= y1:
            continue
        across = np.arange(x0, x1) + 0.5 + covered.left
        down = np.arange(y0, y1)[:, None] + 0.5 + covered.top
        x = back[0, 0] * across + back[0, 1] * down + back[0, 2]
        y = back[1, 0] * across + back[1, 1] * down + back[1, 2]
        away = (x - (left + right) / 2, y - (top + bottom) / 2)
        if ink.shape == "round":
            share = np.hypot(*away) / max(np.hypot(*size) / 2, 1e-6)
        else:
            length = max(float(np.abs(along) @ size), 1e-6)
            share = (along[0] * away[0] + along[1] * away[1]) / length + 0.5
        share = np.clip(share, 0, 1)[..., None].astype(np.float32)
        mixed = colors[0] + share * (colors[1] - colors[0])
        out[y0:y1, x0:x1, :3] = np.rint(mixed)
    out[..., 3] = covered.values
    return out
