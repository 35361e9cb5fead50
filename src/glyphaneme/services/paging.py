"""Pages of a PDF: pictures at their size on paper, with words, bleed and marks."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, BinaryIO, Final, NamedTuple

import numpy as np

from glyphaneme.codecs.color import Conversion
from glyphaneme.codecs.pdf import (
    Box,
    PdfDocument,
    PdfPage,
    PdfTarget,
    PlacedPicture,
    PlacedWords,
    framed,
)
from glyphaneme.core.color import levels_of
from glyphaneme.core.finish import tiled, words_apart
from glyphaneme.core.finish.gathering import cell_of
from glyphaneme.core.words import Setting, Words
from glyphaneme.core.words.typesetting import typeset
from glyphaneme.services.filing import on_something, rendered
from glyphaneme.services.reporting import PartOf

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator, Mapping

    from glyphaneme.codecs.pdf.pages import Picture
    from glyphaneme.core.finish import Dimensions
    from glyphaneme.core.finish.gathering import Cell, ContactSheet
    from glyphaneme.core.finish.lettering import SetWords
    from glyphaneme.core.finish.settings import Tiling
    from glyphaneme.core.words import FontRef
    from glyphaneme.core.words.faces import Face
    from glyphaneme.services.filing import Making
    from glyphaneme.services.reporting import Reporting


NAME_UNITS: Final = 100.0
NAME_SIZE_MM: Final = 3.2
NAME_GAP_MM: Final = 1.0


def write_pages(
    makings: Iterable[Making], count: int, file: BinaryIO, progress: Reporting
) -> dict[str, Any]:
    """Write so many pictures as pages of one PDF; all are like the first of them.

    They are taken one after the other, so that no two need to be in memory.
    """
    document: PdfDocument | None = None
    found: dict[str, Any] = {}
    pages = 0
    for place, making in enumerate(makings):
        share = PartOf(progress, place / count, 1 / count)
        settings = making.settings
        conversion = Conversion.into(settings.coloring, making.profile)
        placed, words = _with_words(on_something(making), conversion)
        with rendered(placed, share) as (spool, spec):
            if document is None:
                printer = making.printer if settings.coloring.space == "ink" else None
                document = PdfDocument(PdfTarget(spec, conversion, printer))
            picture = document.picture(spool)
        for page in _pages(placed, picture, words):
            document.add(page)
            pages += 1
        found = found or {
            "width": making.dimensions.file_width,
            "height": making.dimensions.file_height,
            "quality": settings.quality,
        }
    if document is not None:
        document.save(file)
    return found | {"pages": pages}


class Named(NamedTuple):
    """A picture with its name, and the fonts that this is written in."""

    making: Making
    name: str
    refs: tuple[FontRef, ...]
    faces: Mapping[str, Face]


def write_contact_sheets(
    pictures: Iterable[Named],
    count: int,
    sheet: ContactSheet,
    file: BinaryIO,
    progress: Reporting,
) -> None:
    """Write sheets with small pictures in rows, their names beneath."""
    document: PdfDocument | None = None
    each = sheet.rows * sheet.columns
    placed: list[PlacedPicture] = []
    names: list[PlacedWords] = []

    def turn_over() -> None:
        size = (sheet.width_mm, sheet.height_mm)
        whole = Box(0.0, 0.0, *size)
        if document is not None and placed:
            document.add(PdfPage(size, whole, whole, tuple(placed), tuple(names)))
        placed.clear()
        names.clear()

    for place, one in enumerate(pictures):
        making = on_something(one.making)
        settings = making.settings
        conversion = Conversion.into(settings.coloring, making.profile)
        share = PartOf(progress, place / count, 1 / count)
        with rendered(making, share) as (spool, spec):
            if document is None:
                printer = making.printer if settings.coloring.space == "ink" else None
                document = PdfDocument(PdfTarget(spec, conversion, printer))
            picture = document.picture(spool)
        cell = cell_of(sheet, len(placed), spool.shape.width / spool.shape.height)
        placed.append(PlacedPicture(picture, Box(*cell[:4])))
        named = _name_beneath(one, cell, conversion)
        if named is not None:
            names.append(named)
        if len(placed) == each:
            turn_over()
    turn_over()
    if document is not None:
        document.save(file)


def _name_beneath(one: Named, cell: Cell, conversion: Conversion) -> PlacedWords | None:
    """Set a picture's name in the middle beneath it, as long as there is room."""
    if not one.refs:
        return None
    setting = Setting(text=one.name, fonts=one.refs, size=NAME_UNITS)
    found = typeset(Words(setting=setting), one.faces)
    if not len(found.letters):
        return None
    size_mm = min(NAME_SIZE_MM / NAME_UNITS, max(cell.width, 20.0) / found.block.width)
    left = cell.left + (cell.width - found.block.width * size_mm) / 2
    maps = found.letters.maps * size_mm
    black = conversion.of_colors(np.zeros((1, 1, 3), np.uint8))
    return PlacedWords(
        found.letters.fonts,
        found.letters.font,
        found.letters.code,
        maps,
        found.said,
        tuple(float(channel) / 255 for channel in black.ravel()),
        1.0,
    ).moved(left - found.block.left * size_mm, cell.name_top + NAME_GAP_MM)


def _with_words(
    making: Making, conversion: Conversion
) -> tuple[Making, tuple[PlacedWords, ...]]:
    """Take the words out of a picture that its page holds as words."""
    if making.settings.letters == "pixels":
        return making, ()
    left, found = words_apart(making.composite, making.assets)
    as_lines = making.settings.letters == "lines"
    placed = tuple(
        _placed(one, making.dimensions, conversion, as_lines) for one in found
    )
    return making._replace(composite=left), placed


def _placed(
    words: SetWords,
    made: Dimensions,
    conversion: Conversion,
    as_lines: bool,  # noqa: FBT001
) -> PlacedWords:
    """Lay words on the page: from canvas pixels to millimetres from its bleed."""
    across, down = (
        made.page_mm[0] / made.file_width,
        made.page_mm[1] / made.file_height,
    )
    left, top = (made.laid.left, made.laid.top) if made.laid else (0, 0)
    to_page = np.array(
        [
            [
                across * made.scale,
                0,
                across * (left - made.area.left * made.scale),
            ],
            [
                0,
                down * made.scale,
                down * (top - made.area.top * made.scale),
            ],
        ]
    )
    letters = words.found.letters
    to_words = np.vstack([words.to_canvas, [0, 0, 1]])
    row = np.broadcast_to([[[0.0, 0.0, 1.0]]], (len(letters), 1, 3))
    maps = to_page @ to_words @ np.concatenate([letters.maps, row], axis=1)
    inked = conversion.of_colors(np.array([[levels_of(words.color)]], np.uint8))
    return PlacedWords(
        letters.fonts,
        letters.font,
        letters.code,
        maps,
        words.found.said,
        tuple(float(one) / 255 for one in inked.ravel()),
        words.opacity,
        as_lines,
    )


def _pages(
    making: Making, picture: Picture, words: tuple[PlacedWords, ...]
) -> Iterator[PdfPage]:
    """Yield the page of a picture, or the sheets that a poster is put together of."""
    made, settings = making.dimensions, making.settings
    if settings.tiling is not None:
        yield from _tiles(made, settings.tiling, picture, words)
        return
    paper = settings.paper
    media, trim, bleed = framed(
        made.trim_mm, made.bleed_mm, with_margin=paper.marks or paper.bar
    )
    yield PdfPage(
        media,
        trim,
        bleed,
        (PlacedPicture(picture, bleed),),
        tuple(one.moved(bleed.left, bleed.top) for one in words),
        has_marks=paper.marks,
        has_bar=paper.bar,
    )


def _tiles(
    made: Dimensions,
    tiling: Tiling,
    picture: Picture,
    words: tuple[PlacedWords, ...],
) -> Iterator[PdfPage]:
    width, height = made.page_mm
    margin = tiling.margin_mm
    for tile in tiled(width, height, tiling):
        shown = Box(margin, margin, tile.width, tile.height)
        whole = Box(margin - tile.left, margin - tile.top, width, height)
        yield PdfPage(
            (tiling.width_mm, tiling.height_mm),
            shown,
            shown,
            (PlacedPicture(picture, whole),),
            tuple(one.moved(whole.left, whole.top) for one in words),
            has_marks=True,
            clip=shown,
        )
