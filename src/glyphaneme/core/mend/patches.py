"""Mended pixels: found once for each place, and laid into a photo's sizes."""

from __future__ import annotations

import hashlib
import itertools
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.mend.filling import filled, smoothed_over
from glyphaneme.core.mend.values import AROUND
from glyphaneme.core.place import Rect, halved

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.mend.values import Mend

VERSION = "2"
"""Of the way in which holes are filled; it is part of what names them."""
SQUARE = 64
"""Smaller sizes are made anew in squares of so many pixels."""


class Patch(NamedTuple):
    """Pixels that take the place of others: rows, columns, and R, G, B, A of each.

    `rows` and `columns` are (N,) int32, `colors` is (N, 4) uint8.
    """

    rows: NDArray[np.int32]
    columns: NDArray[np.int32]
    colors: NDArray[np.uint8]

    @property
    def nbytes(self) -> int:
        """How much memory it takes."""
        return self.rows.nbytes + self.columns.nbytes + self.colors.nbytes


NOTHING = Patch(
    np.empty(0, np.int32), np.empty(0, np.int32), np.empty((0, 4), np.uint8)
)


def patch_names(
    picture: str, mends: Sequence[Mend], width: int, height: int
) -> tuple[str, ...]:
    """Name what fills each place: by the place, and those before it that it may see.

    Parameters
    ----------
    picture : str
        Id of the picture.
    mends : sequence of Mend
        All of them working, in their order.
    width, height : int, pixels
        The picture's.

    Returns
    -------
    tuple of str
        The same only where the pixels are.
    """
    names: list[str] = []
    areas: list[Rect[int]] = []
    for mend in mends:
        around = mend.area(width, height, AROUND)
        seen = [
            name for name, area in zip(names, areas, strict=True) if area.meets(around)
        ]
        said = mend.model_dump_json(include={"points", "size"})
        text = "\n".join([VERSION, picture, said, *seen])
        names.append(f"patch-{hashlib.sha256(text.encode()).hexdigest()}")
        areas.append(mend.area(width, height))
    return tuple(names)


def patch_for(pixels: PixelsU8, mend: Mend, *, roughly: bool = False) -> Patch:
    """Fill one place of a picture.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA at full size, with all that was mended before.
    mend : Mend
        The place.
    roughly : bool
        Whether it must be quick: smooth, with neither structure nor grain.

    Returns
    -------
    Patch
        Without pixels where it lies beside the picture, or where that is clear. Alpha
        stays as it is.
    """
    height, width = pixels.shape[:2]
    whole = Rect(0, 0, width, height)
    found = [NOTHING]
    for square in mend.squares(width, height):
        around = square.widened(AROUND, AROUND).within(whole)
        hole = mend.hole(around)
        inner = np.zeros_like(hole)
        top, left = square.top - around.top, square.left - around.left
        window = Rect(left, top, left + square.width, top + square.height).window
        inner[window] = hole[window]
        if not inner.any():
            continue
        part = pixels[around.window]
        image = part[..., :3].astype(np.float32)
        alpha = part[..., 3]
        # What is clear has no colour that anything could be filled with.
        hole |= alpha == 0
        inner &= alpha > 0
        for patch in found:
            _lay_into(image, hole, patch, around)
        full = smoothed_over(image, hole) if roughly else filled(image, hole, inner)
        found.append(_patch_of(full, alpha, inner, around))
    return Patch(*(np.concatenate(each) for each in zip(*found, strict=True)))


def _lay_into(
    image: NDArray[np.float32], hole: NDArray[np.bool_], patch: Patch, area: Rect[int]
) -> None:
    """Let what was filled before count as known."""
    rows, columns = patch.rows - area.top, patch.columns - area.left
    inside = (
        (rows >= 0)
        & (rows < image.shape[0])
        & (columns >= 0)
        & (columns < image.shape[1])
    )
    at = (rows[inside], columns[inside])
    image[at] = patch.colors[inside, :3]
    hole[at] = False


def _patch_of(
    image: NDArray[np.float32],
    alpha: NDArray[np.uint8],
    wanted: NDArray[np.bool_],
    area: Rect[int],
) -> Patch:
    rows, columns = np.nonzero(wanted)
    colors = np.clip(image[rows, columns] + 0.5, 0, 255).astype(np.uint8)
    colors = np.column_stack([colors, alpha[rows, columns]])
    return Patch(
        (rows + area.top).astype(np.int32),
        (columns + area.left).astype(np.int32),
        colors,
    )


def lay_patch(levels: Sequence[PixelsU8], patch: Patch) -> None:
    """Write a patch into all sizes of a picture.

    Parameters
    ----------
    levels : sequence of (H, W, 4) uint8
        A pyramid's, which belong to the caller alone; they are changed.
    patch : Patch
        At full size.
    """
    if not len(patch.rows):
        return
    levels[0][patch.rows, patch.columns] = patch.colors
    squares = np.unique(
        np.column_stack([patch.rows, patch.columns]) // SQUARE, axis=0
    ).astype(np.int64)
    for finer, coarser in itertools.pairwise(levels):
        for row, column in squares.tolist():
            top, left = row * SQUARE, column * SQUARE
            whole = finer[top : top + SQUARE, left : left + SQUARE]
            half = halved(np.ascontiguousarray(whole))
            coarser[
                top // 2 : top // 2 + half.shape[0],
                left // 2 : left // 2 + half.shape[1],
            ] = half
        squares = np.unique(squares // 2, axis=0)
