"""Where a page is cut, and patches of its inks, as lines of a content stream."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

from glyphaneme.codecs.pdf.pages import POINTS_PER_MM, Box

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.codecs.color.converting import Ink
    from glyphaneme.codecs.pdf.pages import PdfPage

MARK_MM: Final = 5.0
GAP_MM: Final = 1.0
"""Between the bleed and a mark."""
HAIRLINE: Final = 0.25
"""Points."""
PATCH_MM: Final = 5.0
ALL_INKS: Final[dict[Ink, str]] = {
    "cmyk": "1 1 1 1 K",
    "rgb": "0 0 0 RG",
    "gray": "0 G",
}
"""Marks show on every plate."""
PATCHES: Final[dict[Ink, tuple[str, ...]]] = {
    "cmyk": (
        "1 0 0 0 k",
        "0 1 0 0 k",
        "0 0 1 0 k",
        "0 0 0 1 k",
        "0 1 1 0 k",
        "1 0 1 0 k",
        "1 1 0 0 k",
        ".5 0 0 0 k",
        "0 .5 0 0 k",
        "0 0 .5 0 k",
        "0 0 0 .5 k",
    ),
    "rgb": ("1 0 0 rg", "0 1 0 rg", "0 0 1 rg", "0 0 0 rg", ".5 .5 .5 rg"),
    "gray": ("0 g", ".25 g", ".5 g", ".75 g"),
}


def crop_marks(page: PdfPage, ink: Ink) -> Iterator[str]:
    """Yield lines that draw marks at the corners of what is left of a page."""
    trim, bleed = page.trim, page.bleed
    yield f"q {HAIRLINE} w {ALL_INKS[ink]}"
    outer = (
        bleed.left - GAP_MM,
        bleed.top - GAP_MM,
        bleed.left + bleed.width + GAP_MM,
        bleed.top + bleed.height + GAP_MM,
    )
    for x in (trim.left, trim.left + trim.width):
        for begin, end in (
            (outer[1], outer[1] - MARK_MM),
            (outer[3], outer[3] + MARK_MM),
        ):
            yield _line(page, (x, begin), (x, end))
    for y in (trim.top, trim.top + trim.height):
        for begin, end in (
            (outer[0], outer[0] - MARK_MM),
            (outer[2], outer[2] + MARK_MM),
        ):
            yield _line(page, (begin, y), (end, y))
    yield "Q"


def color_bar(page: PdfPage, ink: Ink) -> Iterator[str]:
    """Yield lines that draw patches of the inks beside what is cut, on the left."""
    patches = PATCHES[ink]
    bleed = page.bleed
    left = bleed.left - GAP_MM - PATCH_MM
    top = bleed.top + max(0.0, (bleed.height - PATCH_MM * len(patches)) / 2)
    yield "q"
    for place, patch in enumerate(patches):
        box = Box(left, top + place * PATCH_MM, PATCH_MM, PATCH_MM)
        yield f"{patch} {rectangle(page, box)} f"
    yield "Q"


def rectangle(page: PdfPage, box: Box) -> str:
    """Return a box as a path, in points from the page's bottom left corner."""
    x, y = _points(page, box.left, box.top + box.height)
    return f"{x} {y} {_number(box.width)} {_number(box.height)} re"


def _line(page: PdfPage, begin: tuple[float, float], end: tuple[float, float]) -> str:
    first, last = (" ".join(_points(page, *point)) for point in (begin, end))
    return f"{first} m {last} l S"


def _points(page: PdfPage, x: float, y: float) -> tuple[str, str]:
    return _number(x), _number(page.media[1] - y)


def _number(mm: float) -> str:
    return f"{mm * POINTS_PER_MM:.4f}"
