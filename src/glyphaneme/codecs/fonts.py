"""Fonts that people bring: read, checked and written anew, without what nobody needs.

`python -m glyphaneme.codecs.fonts` does so with what it reads, in a process that may
take little memory and time: a hostile file ends it, and nothing else.
"""

from __future__ import annotations

import base64
import json
import resource
import subprocess
import sys
from io import BytesIO
from typing import Any, Final, NamedTuple

import uharfbuzz as hb
from fontTools.ttLib import TTCollection, TTFont, TTLibError

from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode

MAX_FONT_BYTES: Final = 30 * 2**20
MAX_FONTS: Final = 30
"""Of a collection."""
MOST_GLYPHS: Final = 65_535
MEMORY_BYTES: Final = 1536 * 2**20
SECONDS: Final = 30
KEPT: Final = frozenset(
    {"cmap", "head", "hhea", "hmtx", "maxp", "name", "OS/2", "post", "glyf", "loca"}
    | {"CFF ", "CFF2", "VORG", "GDEF", "GPOS", "GSUB", "BASE", "kern", "COLR", "CPAL"}
    | {"fvar", "avar", "gvar", "STAT", "HVAR", "VVAR", "MVAR", "vhea", "vmtx"}
)
"""Tables that shaping and outlines need; hints, pixels and programs go."""
NEEDED: Final = ("cmap", "head", "hmtx", "maxp")
NOT_EMBEDDED: Final = 0x0002
"""The bit of "OS/2".fsType that forbids embedding (OpenType 1.9)."""


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
    try:
        done = subprocess.run(  # words of our own
            [sys.executable, "-m", "glyphaneme.codecs.fonts"],
            input=data,
            capture_output=True,
            timeout=2 * SECONDS,
            check=True,
        )
        found = json.loads(done.stdout)
    except (subprocess.SubprocessError, ValueError) as cause:
        raise PictureRefusedError(
            RefusalCode.DAMAGED,
            "The file is no font, or a damaged one. Nothing of it was kept; fonts are "
            "read from TTF, OTF, TTC and WOFF2 files.",
        ) from cause
    return [
        FontFile(
            base64.b64decode(one["data"]), one["family"], one["style"], one["travels"]
        )
        for one in found
    ]


def written_anew(data: bytes) -> list[FontFile]:
    """Read all fonts of a file, and write each with what is needed alone.

    Raises
    ------
    TTLibError
        It is none.
    """
    if data[:4] == b"ttcf":
        fonts: list[Any] = list(TTCollection(BytesIO(data)).fonts)[:MAX_FONTS]
    else:
        fonts = [TTFont(BytesIO(data), recalcTimestamp=False)]
    return [_written(font) for font in fonts]


def _written(font: Any) -> FontFile:  # noqa: ANN401  # the library has no types
    missing = [tag for tag in NEEDED if tag not in font]
    if missing or font["maxp"].numGlyphs > MOST_GLYPHS or not font.getBestCmap():
        message = "the font has no letters"
        raise TTLibError(message)
    names = font.get("name")
    family, style = (_name(names, one, usual) for one, usual in NAMED)
    kind = font["OS/2"].fsType if "OS/2" in font else 0
    for tag in set(font.keys()) - KEPT - {"GlyphOrder"}:
        del font[tag]
    font.flavor = None
    file = BytesIO()
    font.save(file)
    data = file.getvalue()
    _draw_all(data)
    return FontFile(data, family, style, not kind & NOT_EMBEDDED)


NAMED: Final = (((16, 1), "Font"), ((17, 2), "Regular"))


def _name(names: Any, ids: tuple[int, ...], usual: str) -> str:  # noqa: ANN401
    found = (names.getDebugName(one) for one in ids) if names is not None else ()
    return next((one.strip()[:80] for one in found if one and one.strip()), usual)


def _draw_all(data: bytes) -> None:
    """Draw each glyph once: whatever one does to the process, it does now."""
    face = hb.Face(hb.Blob(data))
    font = hb.Font(face)
    for glyph in range(face.glyph_count):
        font.get_glyph_extents(glyph)


def _main() -> int:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    found = [
        {
            "data": base64.b64encode(one.data).decode(),
            "family": one.family,
            "style": one.style,
            "travels": one.may_travel,
        }
        for one in written_anew(sys.stdin.buffer.read())
    ]
    sys.stdout.write(json.dumps(found))
    return 0


if __name__ == "__main__":
    sys.exit(_main())
