"""A page as a value: what lies where on it, in millimetres from its top left corner."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, NamedTuple

if TYPE_CHECKING:
    import numpy as np
    import uharfbuzz as hb
    from numpy.typing import NDArray

POINTS_PER_MM: Final = 72 / 25.4
MARGIN_MM: Final = 10.0
"""Round the bleed, where marks are."""


class Box(NamedTuple):
    """A part of a page, in millimetres."""

    left: float
    top: float
    width: float
    height: float


class Picture(NamedTuple):
    """Pixels that a document has taken in."""

    number: int


class PlacedPicture(NamedTuple):
    """Pixels on a page."""

    picture: Picture
    box: Box


class PlacedWords(NamedTuple):
    """Words on a page: which letters of which fonts, where."""

    fonts: tuple[hb.Font, ...]
    font: NDArray[np.int64]
    code: NDArray[np.int64]
    """Of each letter its font's place, and its number in that."""
    maps: NDArray[np.float64]
    """(N, 2, 3): a font's units, upwards, to millimetres of the page, downwards."""
    said: tuple[tuple[str, int], ...]
    """What each line says, and how many of the letters are its."""
    color: tuple[float, ...]
    """Of the file's inks, 0..1."""
    opacity: float
    as_lines: bool = False
    """Whether outlines are drawn, and no font goes along."""

    def moved(self, right_mm: float, down_mm: float) -> PlacedWords:
        """Return them moved on the page."""
        maps = self.maps.copy()
        maps[:, :, 2] += (right_mm, down_mm)
        return self._replace(maps=maps)


class PdfPage(NamedTuple):
    """A page, and what lies on it from back to front."""

    media: tuple[float, float]
    """Width and height of the paper."""
    trim: Box
    """What is left of it once it is cut."""
    bleed: Box
    pictures: tuple[PlacedPicture, ...]
    words: tuple[PlacedWords, ...] = ()
    has_marks: bool = False
    has_bar: bool = False
    clip: Box | None = None
    """What of the page pictures and words show on, where that is not all of it."""


def framed(
    trim_mm: tuple[float, float], bleed_mm: float, *, with_margin: bool
) -> tuple[tuple[float, float], Box, Box]:
    """Return a page's paper, and where on it the trimmed page and its bleed lie."""
    margin = MARGIN_MM if with_margin else 0.0
    width, height = trim_mm
    bleed = Box(margin, margin, width + 2 * bleed_mm, height + 2 * bleed_mm)
    trim = Box(margin + bleed_mm, margin + bleed_mm, width, height)
    return (bleed.width + 2 * margin, bleed.height + 2 * margin), trim, bleed
