"""Pixels as tones make them that look at neighbours, before the rest is composed."""

from __future__ import annotations

from itertools import groupby
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.place import Pyramid
from glyphaneme.core.render.composing import compose
from glyphaneme.core.render.rows import pixels_table
from glyphaneme.core.render.views import View
from glyphaneme.core.tone import AreaTone, Seen
from glyphaneme.core.tone.areas import shrunk

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.tone import Tone

CLEAR = np.zeros(4, np.float32)
WORTHWHILE = 2
"""Halvings: below that less is saved than is lost by rounding."""
MUCH = 4
"""Halvings, of which the first may be the size that is there already."""
LARGEST = 24_000_000
"""Pixels of a size that is toned, at most: larger pictures are a size smaller then."""


def toned(pixels: PixelsU8, tones: tuple[Tone, ...], seen: Seen) -> PixelsU8:
    """Return pixels as tones make them, one after the other.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA, C-contiguous.
    tones : tuple of Tone
        All of them working.
    seen : Seen
        At what size the pixels are seen.

    Returns
    -------
    (H, W, 4) uint8
        Straight RGBA, rounded wherever neighbours count.
    """
    for is_wide, run in groupby(tones, lambda one: isinstance(one, AreaTone)):
        if not is_wide:
            rows, columns = pixels.shape[:2]
            table = pixels_table(pixels, tuple(run))
            pixels = compose(table, CLEAR, View(0, 0, columns, rows, 1.0))
            continue
        for tone in run:
            if isinstance(tone, AreaTone):
                pixels = tone.made(pixels, seen)
    return pixels


def toned_place(pyramid: Pyramid, at: int, tones: tuple[Tone, ...]) -> int:
    """Return which of a picture's sizes is toned, to be shown at one of them.

    Parameters
    ----------
    pyramid : Pyramid
        The picture.
    at : int
        Which size would be shown without tones.
    tones : tuple of Tone
        Those up to the last that looks at neighbours.

    Returns
    -------
    int
        A smaller size where the last tone leaves nothing finer, or a size is too large.
    """
    last = tones[-1]
    soft = int(last.halvings) if isinstance(last, AreaTone) else 0
    if soft - at < WORTHWHILE:
        soft = at
    place = min(max(at, soft), len(pyramid.levels) - 1)
    while place < len(pyramid.levels) - 1 and pyramid.levels[place].size > 4 * LARGEST:
        place += 1
    return place


def toned_size(
    pyramid: Pyramid, at: int, place: int, tones: tuple[Tone, ...]
) -> Pyramid:
    """Return one size of a picture as tones make it.

    Parameters
    ----------
    pyramid : Pyramid
        The picture.
    at : int
        Which size would be shown without tones.
    place : int
        Which is toned.
    tones : tuple of Tone
        All of them working.

    Returns
    -------
    Pyramid
        Of that one size.
    """
    pixels = np.asarray(pyramid.levels[place])
    if place > at and pyramid.opaque:
        # Averaged at once: sizes halved one after the other are a hair lighter. Of many
        # halvings one counts little, and the first one is most of the work.
        start = at + (place - at >= MUCH)
        pixels = shrunk(np.asarray(pyramid.levels[start]), 2 ** (place - start))
    pixels = toned(pixels, tones, Seen(0.5**place))
    return Pyramid(levels=(pixels,), opaque=pyramid.opaque)
