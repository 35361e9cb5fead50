"""The purposes that a picture is finished for: each is settings, and nothing else."""

from __future__ import annotations

from typing import Final, Literal, NamedTuple, TypeAlias

from glyphaneme.core.finish.formats import FileFormat
from glyphaneme.core.finish.settings import (
    Coloring,
    FileSettings,
    Ground,
    Paper,
)
from glyphaneme.core.finish.sizes import LeastSize, LongestSize, PaperSize, ShareSize

PurposeId: TypeAlias = Literal[
    "print-shop", "home", "web", "listing", "message", "slide", "elsewhere", "own"
]
MEGABYTE: Final = 1_000_000


class Purpose(NamedTuple):
    """A purpose that ships."""

    title: str
    settings: FileSettings


PURPOSES: Final[dict[PurposeId, Purpose]] = {
    "print-shop": Purpose(
        "for a print shop",
        FileSettings(
            format=FileFormat.PDF,
            size=PaperSize(),
            quality=95,
            coloring=Coloring(space="ink"),
            paper=Paper(bleed_mm=3, marks=True),
        ),
    ),
    "home": Purpose(
        "for printing at home",
        FileSettings(format=FileFormat.PDF, size=PaperSize(), quality=95),
    ),
    "web": Purpose(
        "for a web page",
        FileSettings(
            format=FileFormat.WEBP, size=LongestSize(longest=1920), quality=82
        ),
    ),
    "listing": Purpose(
        "for a shop's listing",
        FileSettings(
            format=FileFormat.JPEG,
            size=LeastSize(least=2000),
            quality=90,
            ground=Ground(),
            most_bytes=10 * MEGABYTE,
        ),
    ),
    "message": Purpose(
        "for a message",
        FileSettings(
            format=FileFormat.JPEG,
            size=LongestSize(longest=2048),
            quality=88,
            most_bytes=MEGABYTE,
        ),
    ),
    "slide": Purpose(
        "for a slide",
        FileSettings(format=FileFormat.PNG, size=LongestSize(longest=1920)),
    ),
    "elsewhere": Purpose("to go on elsewhere", FileSettings(format="openraster")),
    "own": Purpose("my own…", FileSettings(format=FileFormat.PNG, size=ShareSize())),
}
