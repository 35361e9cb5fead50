"""Fonts that people bring: read, checked and written anew by a process of its own."""

from __future__ import annotations

import base64
from pathlib import Path
from typing import Final, NamedTuple

from glyphaneme.codecs.apart import read_apart
from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode

MAX_FONT_BYTES: Final = 30 * 2**20
READER: Final = Path(__file__).with_name("font_reader.py")
SECONDS: Final = 60
"""On the clock; of the processor it may take half as many."""


class FontFile(NamedTuple):
    """One font of a file, written anew."""

    data: bytes
    family: str
    style: str
    may_travel: bool
    """Whether its licence lets documents carry it along."""


def read_fonts(data: bytes) -> list[FontFile]:
    """Read a TrueType, OpenType, WOFF2 or collection file in a process of its own.

    Raises
    ------
    PictureRefusedError
        It is none, is damaged, or takes more than a font may.
    """
    if not data:
        raise PictureRefusedError(
            RefusalCode.EMPTY, "The file is empty. Nothing was kept; look for the font."
        )
    if len(data) > MAX_FONT_BYTES:
        raise PictureRefusedError(
            RefusalCode.TOO_HEAVY,
            f"The font is larger than {MAX_FONT_BYTES // 2**20} MB. Nothing of it was "
            "kept; bring in a smaller one.",
        )
    found = read_apart(READER, data, seconds=SECONDS)
    if found is None:
        raise PictureRefusedError(
            RefusalCode.DAMAGED,
            "The file is no font, or a damaged one. Nothing of it was kept; fonts are "
            "read from TTF, OTF, TTC and WOFF2 files.",
        )
    return [FontFile(**{**one, "data": base64.b64decode(one["data"])}) for one in found]
