"""The part of a picture in which a subject is looked for, at whatever size."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.cutout.finding import SEEN_LONGEST, box_of
from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.mask import Hints
    from glyphaneme.core.place import Pyramid

    MatteU8 = NDArray[np.uint8]
    MatteF32 = NDArray[np.float32]


def box_at(pyramid: Pyramid, level: int, hints: Hints) -> Rect[int]:
    """Return the box that hints ask for, in the pixels of a level.

    Parameters
    ----------
    pyramid : Pyramid
        The picture.
    level : int
        Which of its sizes.
    hints : Hints
        What a hand said, in pixels of the picture itself.

    Returns
    -------
    Rect
        All of it where they have no ring; one pixel at least.
    """
    rows, columns = pyramid.levels[level].shape[:2]
    box = box_of(hints, pyramid.width, pyramid.height)
    share = 0.5**level
    left, top = int(box.left * share), int(box.top * share)
    right = min(round(box.right * share), columns)
    bottom = min(round(box.bottom * share), rows)
    return Rect(left, top, max(right, left + 1), max(bottom, top + 1))


def seen_level(pyramid: Pyramid, finest: int, hints: Hints) -> int:
    """Return the smallest level that shows the box as large as it is looked at.

    Parameters
    ----------
    pyramid : Pyramid
        The picture.
    finest : int
        The largest of its sizes that may be taken.
    hints : Hints
        They say the box.

    Returns
    -------
    int
        `finest` where even that shows it smaller.
    """
    levels = range(finest, len(pyramid.levels))
    boxes = {level: box_at(pyramid, level, hints) for level in levels}
    large = (
        level
        for level, box in boxes.items()
        if max(box.width, box.height) >= SEEN_LONGEST
    )
    return max(large, default=finest)


def pixels_in(pixels: PixelsU8, box: Rect[int]) -> PixelsU8:
    """Return what lies in a box.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Of a size of the picture.
    box : Rect
        In its pixels.

    Returns
    -------
    (height, width, 4) uint8
        A view of them.
    """
    return pixels[box.window]


def opinion_in(whole: MatteF32, box: Rect[int], shape: tuple[int, ...]) -> MatteF32:
    """Return what was seen of a box in a smaller copy of all of it.

    Parameters
    ----------
    whole : (h, w) float32, 0..1
        What was seen in the copy.
    box : Rect
        In pixels of the size that is cut out.
    shape : tuple of int
        Rows and columns of that size.

    Returns
    -------
    (y, x) float32, 0..1
        All of the copy's pixels that the box touches.
    """
    rows, columns = shape[:2]
    high, wide = whole.shape
    top, left = box.top * high // rows, box.left * wide // columns
    bottom = -(-box.bottom * high // rows)
    right = -(-box.right * wide // columns)
    return np.ascontiguousarray(whole[top:bottom, left:right])


def laid_in(matte: MatteU8, box: Rect[int], shape: tuple[int, ...]) -> MatteU8:
    """Return the matte of a box as one of the whole, where nothing else is subject.

    Parameters
    ----------
    matte : (height, width) uint8
        Of the box.
    box : Rect
        Where it lies.
    shape : tuple of int
        Rows and columns of the whole.

    Returns
    -------
    (rows, columns) uint8
        The same where the box is all of it.
    """
    if matte.shape == tuple(shape[:2]):
        return matte
    whole = np.zeros(shape[:2], np.uint8)
    whole[box.window] = matte
    return whole
