"""Layers composed and toned as one, where their tones look at neighbours."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.place import Rect
from glyphaneme.core.place.transform import pixel_size
from glyphaneme.core.render.composing import background_of, compose
from glyphaneme.core.render.tables import build_table
from glyphaneme.core.render.toned import toned
from glyphaneme.core.render.views import SLIGHT
from glyphaneme.core.tone import Seen, spread_of

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.document.model import Canvas, Layer
    from glyphaneme.core.render.reading import Reading
    from glyphaneme.core.render.views import View
    from glyphaneme.core.render.visibility import Ground
    from glyphaneme.core.tone import Tone

CLEAR = np.zeros(4, np.float32)


def toned_pile_pixels(
    layers: tuple[Layer, ...],
    tones: tuple[Tone, ...],
    to_pile: MatrixF64,
    on: Ground,
    reading: Reading,
) -> PixelsU8:
    """Return layers composed, as tones make them that look at neighbours.

    Parameters
    ----------
    layers : tuple of Layer
        From back to front.
    tones : tuple of Tone
        All of them working.
    to_pile : (3, 3) float64
        Maps the view's pixels to what the layers lie in.
    on : Ground
        The sheet that they lie on, where it is that.
    reading : Reading
        In what view, and what they are written from besides.

    Returns
    -------
    (view.height, view.width, 4) uint8
        Straight RGBA.
    """
    view, canvas = reading.view, on.canvas
    scale = 1 / pixel_size(to_pile[:2])
    margin = math.ceil(spread_of(tones) * scale)
    around = view.widened(margin)
    inner = Rect(0, 0, around.width, around.height)
    if canvas is not None:
        # What lies beyond the sheet's edge shall not show in it.
        inner = _on_sheet(around, canvas)
    wide = around.part(*inner)
    shift = (inner.left - margin, inner.top - margin)
    moved = np.array([[1.0, 0, shift[0]], [0, 1, shift[1]], [0, 0, 1]])
    to_wide = to_pile @ moved
    widened = reading._replace(view=wide, passes=reading.passes.of_part(wide))
    table = build_table(layers, widened, on=on, to_pile=to_wide)
    ground = CLEAR if canvas is None else background_of(canvas)
    left, top = to_wide[:2, 2].tolist()
    pixels = toned(compose(table, ground, wide), tones, Seen(scale, left, top))
    beyond = (
        (inner.top, around.height - inner.bottom),
        (inner.left, around.width - inner.right),
        (0, 0),
    )
    whole = np.pad(pixels, beyond, "edge")
    shown = whole[margin : margin + view.height, margin : margin + view.width]
    return np.ascontiguousarray(shown)


def _on_sheet(view: View, canvas: Canvas) -> Rect[int]:
    """Return the pixels of a view that show the sheet alone; one where none does.

    Those at its edges that show what lies beyond as well would be smeared over others.
    """
    left, right = _inside(-view.x * view.scale, canvas.width * view.scale, view.width)
    top, bottom = _inside(-view.y * view.scale, canvas.height * view.scale, view.height)
    return Rect(left, top, right, bottom)


def _inside(start: float, length: float, pixels: int) -> tuple[int, int]:
    """Return the first whole pixel of a stretch, and the one after its last."""
    first = min(max(math.ceil(start - SLIGHT), 0), pixels - 1)
    end = min(max(math.floor(start + length + SLIGHT), 0), pixels)
    return first, max(end, first + 1)
