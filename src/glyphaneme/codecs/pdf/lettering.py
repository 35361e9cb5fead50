"""Words of a PDF: letters of fonts that go along, or their outlines.

A letter is placed by an affine map of its own, as words may bend. What a line says goes
along with it, so that it is selected and found as it is read (ISO 32000-2, 14.9.4).
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

import pikepdf
import uharfbuzz as hb
from pikepdf import Array, Dictionary, Name

from glyphaneme.codecs.pdf.pages import POINTS_PER_MM

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    import numpy as np
    from numpy.typing import NDArray

    from glyphaneme.codecs.color.converting import Ink
    from glyphaneme.codecs.pdf.pages import PlacedWords

UNITS: Final = 1000
SYMBOLIC: Final = 4
STEM: Final = 80
"""Of letters whose font is not at hand: readers have it, and do not need this."""
FILLS: Final[dict[Ink, str]] = {"rgb": "rg", "gray": "g", "cmyk": "k"}


class Letterer:
    """Writes the words of a page, and takes their fonts along, each once."""

    def __init__(self, pdf: pikepdf.Pdf, ink: Ink) -> None:
        self._pdf = pdf
        self._ink: Ink = ink

    def written(
        self, words: Sequence[PlacedWords], height_mm: float, resources: Dictionary
    ) -> Iterator[str]:
        """Yield the lines of a content stream that draw words on a page."""
        fonts, states = Dictionary(), Dictionary()
        for place, one in enumerate(words):
            yield "q"
            if one.opacity < 1:
                state = f"/G{place}"
                states[state] = Dictionary(ca=one.opacity, CA=one.opacity)
                yield f"{state} gs"
            channels = " ".join(f"{channel:.4f}" for channel in one.color)
            yield f"{channels} {FILLS[self._ink]}"
            maps = _on_page(one.maps, height_mm)
            if one.as_lines:
                yield from _outlines(one, maps)
            else:
                names = [f"/F{place}_{at}" for at in range(len(one.fonts))]
                for at, name in enumerate(names):
                    used = one.code[one.font == at]
                    if len(used):
                        fonts[name] = self._font(one.fonts[at], used)
                yield from _letters(one, maps, names)
            yield "Q"
        resources.Font, resources.ExtGState = fonts, states

    def _font(self, font: hb.Font, used: NDArray[np.int64]) -> pikepdf.Object:
        """Take the letters of a font along that are used (ISO 32000-2, 9.7)."""
        pdf, codes = self._pdf, sorted(set(used.tolist()))
        data = subset(font, codes)
        face = hb.Face(hb.Blob(data))
        is_cff = data[:4] == b"OTTO"
        name = Name(f"/{_tag(codes)}+{_plain_name(face)}")
        per_unit = UNITS / face.upem
        extents = font.get_font_extents("ltr")
        program = pikepdf.Stream(pdf, data)
        if is_cff:
            program.Subtype = Name.OpenType
        described = Dictionary(
            Type=Name.FontDescriptor,
            FontName=name,
            Flags=SYMBOLIC,
            FontBBox=Array(
                [0, extents.descender * per_unit, UNITS, extents.ascender * per_unit]
            ),
            ItalicAngle=0,
            Ascent=extents.ascender * per_unit,
            Descent=extents.descender * per_unit,
            CapHeight=extents.ascender * per_unit,
            StemV=STEM,
        )
        described["/FontFile3" if is_cff else "/FontFile2"] = pdf.make_indirect(program)
        widths = Array([])
        for code in codes:
            widths.append(code)
            widths.append(Array([round(font.get_glyph_h_advance(code) * per_unit, 2)]))
        descendant = Dictionary(
            Type=Name.Font,
            Subtype=Name.CIDFontType0 if is_cff else Name.CIDFontType2,
            BaseFont=name,
            CIDSystemInfo=Dictionary(
                Registry=b"Adobe", Ordering=b"Identity", Supplement=0
            ),
            FontDescriptor=pdf.make_indirect(described),
            DW=UNITS,
            W=widths,
        )
        if not is_cff:
            descendant.CIDToGIDMap = Name.Identity
        return pdf.make_indirect(
            Dictionary(
                Type=Name.Font,
                Subtype=Name.Type0,
                BaseFont=name,
                Encoding=Name("/Identity-H"),
                DescendantFonts=Array([pdf.make_indirect(descendant)]),
                ToUnicode=pdf.make_stream(_to_unicode(font.face, codes)),
            )
        )


def subset(font: hb.Font, codes: Sequence[int]) -> bytes:
    """Return a font of some of its letters, as it is varied; their numbers stay."""
    wanted = hb.SubsetInput()
    wanted.flags = hb.SubsetFlags.RETAIN_GIDS | hb.SubsetFlags.NO_HINTING
    wanted.glyph_set.update(codes)
    face = font.face
    if face.has_var_data:
        for axis, value in zip(
            face.axis_infos, font.get_var_coords_design(), strict=False
        ):
            wanted.pin_axis_location(face, axis.tag, value)
    return bytes(hb.subset(face, wanted).blob.data)


def _on_page(maps: NDArray[np.float64], height_mm: float) -> NDArray[np.float64]:
    """Return maps to points, upwards from the bottom."""
    turned = maps.copy()
    turned[:, 1] *= -1
    turned[:, 1, 2] += height_mm
    return turned * POINTS_PER_MM


def _letters(
    words: PlacedWords, maps: NDArray[np.float64], names: Sequence[str]
) -> Iterator[str]:
    yield "BT"
    at = 0
    for said, count in words.said:
        told = ("\ufeff" + said).encode("utf-16-be").hex().upper()
        yield f"/Span <</ActualText <{told}>>> BDC"
        used = -1
        for place in range(at, at + count):
            font = int(words.font[place])
            units = words.fonts[font].face.upem
            if font != used:
                # The map counts in the font's units, of which an em has so many.
                yield f"{names[font]} {units} Tf"
                used = font
            yield f"{_matrix(maps[place])} Tm <{int(words.code[place]):04X}> Tj"
        yield "EMC"
        at += count
    yield "ET"


def _outlines(words: PlacedWords, maps: NDArray[np.float64]) -> Iterator[str]:
    for place in range(len(words.code)):
        path = _path(words.fonts[int(words.font[place])], int(words.code[place]))
        if path:
            yield f"q {_matrix(maps[place])} cm {path} f Q"


def _path(font: hb.Font, code: int) -> str:
    """Return the outline of a letter, in its font's units."""
    found: list[str] = []
    pen = (0.0, 0.0)

    def to(operator: str, *numbers: float) -> None:
        nonlocal pen
        pen = (numbers[-2], numbers[-1])
        found.append(" ".join(f"{one:.2f}" for one in numbers) + f" {operator}")

    def quadratic(cx: float, cy: float, x: float, y: float, _: object) -> None:
        (px, py) = pen
        third = (px + 2 * (cx - px) / 3, py + 2 * (cy - py) / 3)
        to("c", *third, x + 2 * (cx - x) / 3, y + 2 * (cy - y) / 3, x, y)

    funcs = hb.DrawFuncs()
    funcs.set_move_to_func(lambda x, y, _: to("m", x, y))
    funcs.set_line_to_func(lambda x, y, _: to("l", x, y))
    funcs.set_quadratic_to_func(quadratic)
    funcs.set_cubic_to_func(lambda a, b, c, d, x, y, _: to("c", a, b, c, d, x, y))
    funcs.set_close_path_func(lambda _: found.append("h"))
    font.draw_glyph(code, funcs, None)
    return " ".join(found)


def _to_unicode(face: hb.Face, codes: Sequence[int]) -> bytes:
    """Return which letter each number stands for, where it stands for one."""
    font = hb.Font(face)
    wanted = set(codes)
    letters: dict[int, int] = {}
    for letter in face.unicodes:
        code = font.get_nominal_glyph(letter)
        if code in wanted:
            letters.setdefault(code, letter)
    lines = [
        f"<{code:04X}> <{chr(letter).encode('utf-16-be').hex().upper()}>"
        for code, letter in sorted(letters.items())
    ]
    # At most a hundred of them in one block.
    blocks = [lines[at : at + 100] for at in range(0, len(lines), 100)]
    body = "\n".join(
        f"{len(block)} beginbfchar\n" + "\n".join(block) + "\nendbfchar"
        for block in blocks
    )
    return (
        "/CIDInit /ProcSet findresource begin 12 dict begin begincmap\n"
        "/CMapName /Letters def /CMapType 2 def\n"
        "1 begincodespacerange <0000> <FFFF> endcodespacerange\n"
        f"{body}\n"
        "endcmap CMapName currentdict /CMap defineresource pop end end\n"
    ).encode()


def _matrix(one: NDArray[np.float64]) -> str:
    (a, c, e), (b, d, f) = one.tolist()
    return f"{a:.8f} {b:.8f} {c:.8f} {d:.8f} {e:.4f} {f:.4f}"


def _tag(codes: Sequence[int]) -> str:
    """Return six letters that tell subsets of one font apart (9.9.2)."""
    number = hash(tuple(codes)) & 0xFFFFFFFF
    return "".join(chr(65 + (number // 26**place) % 26) for place in range(6))


def _plain_name(face: hb.Face) -> str:
    name = face.get_name(hb.OTNameIdPredefined.POSTSCRIPT_NAME) or "Letters"
    return (
        "".join(one for one in name if one.isascii() and (one.isalnum() or one == "-"))
        or "Letters"
    )
