"""The formats that a picture can be saved in, and what each can hold."""

from __future__ import annotations

from enum import StrEnum
from typing import NamedTuple

UNLIMITED = 2**31 - 1


class FormatFacts(NamedTuple):
    """What a format can hold."""

    media_type: str
    ending: str
    longest_side: int
    """How many pixels a side of a picture may have."""
    is_exact: bool
    """Whether every pixel is kept as it is, without being asked to."""
    keeps_alpha: bool
    """Whether see-through places stay see-through."""
    has_deep: bool = False
    """Whether it can hold 16 bits a channel."""
    has_ink: bool = False
    """Whether it can hold a printer's inks (CMYK)."""
    has_gray: bool = True
    """Whether it can hold grey alone."""
    is_shown: bool = True
    """Whether browsers show it."""
    most_pixels: int = UNLIMITED
    """How many its encoder can take within the memory that it may have."""


class FileFormat(StrEnum):
    """The formats of pictures whose layers are put together."""

    PNG = "png"
    JPEG = "jpeg"
    WEBP = "webp"
    AVIF = "avif"
    TIFF = "tiff"
    GIF = "gif"
    PDF = "pdf"

    @property
    def facts(self) -> FormatFacts:
        """What the format can hold.

        Returns
        -------
        FormatFacts
            From the table of formats.
        """
        return FACTS[self]


FACTS = {
    FileFormat.PNG: FormatFacts(
        "image/png", "png", UNLIMITED, is_exact=True, keeps_alpha=True, has_deep=True
    ),
    FileFormat.JPEG: FormatFacts(
        "image/jpeg", "jpg", 65_500, is_exact=False, keeps_alpha=False, has_ink=True
    ),
    FileFormat.WEBP: FormatFacts(
        "image/webp",
        "webp",
        16_383,
        is_exact=False,
        keeps_alpha=True,
        has_gray=False,
    ),
    FileFormat.AVIF: FormatFacts(
        "image/avif",
        "avif",
        65_535,
        is_exact=False,
        keeps_alpha=True,
        has_gray=False,
        most_pixels=40_000_000,
    ),
    FileFormat.TIFF: FormatFacts(
        "image/tiff",
        "tif",
        UNLIMITED,
        is_exact=True,
        keeps_alpha=True,
        has_deep=True,
        has_ink=True,
        is_shown=False,
    ),
    FileFormat.GIF: FormatFacts(
        "image/gif", "gif", 4096, is_exact=False, keeps_alpha=True, has_gray=False
    ),
    FileFormat.PDF: FormatFacts(
        "application/pdf",
        "pdf",
        UNLIMITED,
        is_exact=False,
        keeps_alpha=True,
        has_ink=True,
        is_shown=False,
    ),
}
