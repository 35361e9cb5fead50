"""The program that reads fonts which people bring; it is run by its path.

It reads a file from its input and writes JSON, and may take little memory and time: a
hostile file ends it, and nothing else. Nothing of the product is imported, whose start
takes seconds.
"""

from __future__ import annotations

import base64
import json
import resource
import sys
from io import BytesIO
from typing import Any, Final

import uharfbuzz as hb
from fontTools.ttLib import TTCollection, TTFont, TTLibError

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


def written_anew(data: bytes) -> list[dict[str, Any]]:
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


def _written(font: Any) -> dict[str, Any]:  # noqa: ANN401  # the library has no types
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
    return {
        "data": base64.b64encode(data).decode(),
        "family": family,
        "style": style,
        "may_travel": not kind & NOT_EMBEDDED,
    }


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
    found = written_anew(sys.stdin.buffer.read())
    sys.stdout.write(json.dumps(found))
    return 0


if __name__ == "__main__":
    sys.exit(_main())
