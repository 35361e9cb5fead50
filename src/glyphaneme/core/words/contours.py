"""Outlines of letters: made once as outlines themselves, and drawn like letters.

What touches is contoured as one, so that joined letters have no lines between them.
"""

from __future__ import annotations

from contextlib import suppress
from io import BytesIO
from typing import TYPE_CHECKING

import numpy as np
import pathops
import uharfbuzz as hb
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.t2CharStringPen import T2CharStringPen

from glyphaneme.core.words.glyphs import GlyphTable, glyph_table
from glyphaneme.core.words.values import Side

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.words.values import Contour

UNITS = 4096
"""Of an em of the font that contours are kept in, at most one clump's larger side."""
SHARPEST = 4.0
"""How many widths a mitre may reach; SVG 2 has the same at first."""
MOST_AS_ONE = 1500
"""Glyphs beyond which each is outlined by itself."""
FLAT = 0.25
"""Units by which a curve may be off where it is made of simpler ones."""
JOINS = {"mitre": pathops.LineJoin.MITER_JOIN, "round": pathops.LineJoin.ROUND_JOIN}


def contoured(
    table: GlyphTable, contour: Contour, size: float, *, filled: bool
) -> GlyphTable | None:
    """Return the contour of glyphs.

    Parameters
    ----------
    table : GlyphTable
        The letters.
    contour : Contour
        How.
    size : float, pixels
        Of the em.
    filled : bool
        Whether letters lie over it: one outside them goes on beneath, so that nothing
        shows between.

    Returns
    -------
    GlyphTable or None
        Of a font of its own; None where nothing shows.
    """
    if len(table) > MOST_AS_ONE:
        return _each(table, contour, size, filled=filled)
    width = contour.width * size
    paths: list[pathops.Path] = []
    maps: list[MatrixF64] = []
    for clump in _clumps(table, width):
        left, top = table.boxes[clump, :2].min(axis=0)
        right, bottom = table.boxes[clump, 2:].max(axis=0)
        side = max(right - left, bottom - top) + 2 * SHARPEST * width
        scale = UNITS / side
        to_units = np.array([[scale, 0, -left * scale], [0, -scale, bottom * scale]])
        letters = _joined(table, clump, to_units)
        paths.append(_edge(letters, contour, width * scale, filled=filled))
        maps.append(np.array([[1 / scale, 0, left], [0, -1 / scale, bottom]]))
    if not paths:
        return None
    places = list(range(1, len(paths) + 1))
    return glyph_table([_font_of(paths)], [0] * len(paths), places, np.array(maps))


def _each(
    table: GlyphTable, contour: Contour, size: float, *, filled: bool
) -> GlyphTable | None:
    """Outline each glyph by itself, and once however often it stands there."""
    paths: list[pathops.Path] = []
    known: dict[tuple[int, int], int] = {}
    codes: list[int] = []
    shown = np.flatnonzero(table.boxes[:, 2] > table.boxes[:, 0]).tolist()
    for place in shown:
        which = int(table.font[place]), int(table.code[place])
        if which not in known:
            path = pathops.Path()
            table.fonts[which[0]].draw_glyph_with_pen(which[1], path.getPen())
            _tidy(path)
            # The map's columns are as long as a unit is in pixels.
            unit = float(np.hypot(*table.maps[place, :, 0]))
            width = contour.width * size / unit
            paths.append(_edge(path, contour, width, filled=filled))
            known[which] = len(paths)
        codes.append(known[which])
    if not paths:
        return None
    maps = table.maps[shown]
    return glyph_table([_font_of(paths)], [0] * len(codes), codes, maps)


def _tidy(path: pathops.Path) -> None:
    """Take overlaps out of a path, where the library can."""
    with suppress(pathops.PathOpsError):
        path.simplify(fix_winding=True, keep_starting_points=False)


def _clumps(table: GlyphTable, width: float) -> Iterator[list[int]]:
    """Yield glyphs that may touch with their contours: neighbours, in their order."""
    clump: list[int] = []
    reach = np.zeros(4)
    for place, box in enumerate(table.boxes):
        if box[2] <= box[0]:
            continue
        wide = box + np.array([-width, -width, width, width])
        meets = (
            wide[0] <= reach[2]
            and wide[2] >= reach[0]
            and wide[1] <= reach[3]
            and wide[3] >= reach[1]
        )
        if clump and not meets:
            yield clump
            clump = []
        reach = wide if not clump else _around(reach, wide)
        clump.append(place)
    if clump:
        yield clump


def _around(one: MatrixF64, other: MatrixF64) -> MatrixF64:
    return np.concatenate(
        [np.minimum(one[:2], other[:2]), np.maximum(one[2:], other[2:])]
    )


def _joined(table: GlyphTable, clump: list[int], to_units: MatrixF64) -> pathops.Path:
    """Return the outlines of several glyphs as one without overlaps."""
    whole = pathops.Path()
    for place in clump:
        one = pathops.Path()
        font = table.fonts[int(table.font[place])]
        font.draw_glyph_with_pen(int(table.code[place]), one.getPen())
        matrix = table.maps[place]
        a, b = to_units[:, :2] @ matrix[:, :2]
        shift = to_units[:, :2] @ matrix[:, 2] + to_units[:, 2]
        # Skia's order: x across, y across, x down, y down.
        moved = one.transform(a[0], b[0], a[1], b[1], *shift.tolist())
        _tidy(moved)
        whole.addPath(moved)
    _tidy(whole)
    return whole


def _edge(
    letters: pathops.Path, contour: Contour, width: float, *, filled: bool
) -> pathops.Path:
    """Return the line along the edges, inside, outside, or on both sides."""
    line = pathops.Path(letters)
    whole = width if contour.side is Side.MIDDLE else 2 * width
    line.stroke(whole, pathops.LineCap.BUTT_CAP, JOINS[contour.join], SHARPEST)
    line.convertConicsToQuads(FLAT)
    _tidy(line)
    if contour.side is Side.MIDDLE:
        return line
    how = pathops.PathOp.UNION if filled else pathops.PathOp.DIFFERENCE
    if contour.side is Side.INSIDE:
        how = pathops.PathOp.INTERSECTION
    with suppress(pathops.PathOpsError):
        line = pathops.op(line, letters, how, fix_winding=True)
        line.convertConicsToQuads(FLAT)
    return line


def _font_of(paths: list[pathops.Path]) -> hb.Font:
    """Return a font whose glyphs are those paths, after an empty first one."""
    names = [".notdef", *(f"line{place}" for place in range(len(paths)))]
    builder = FontBuilder(UNITS, isTTF=False)
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap({})
    drawn = {}
    for name, path in zip(names, [pathops.Path(), *paths], strict=True):
        pen = T2CharStringPen(0, None, roundTolerance=0)
        path.draw(pen)
        drawn[name] = pen.getCharString()
    builder.setupCFF("Contours", {}, drawn, {})
    builder.setupHorizontalMetrics(dict.fromkeys(names, (0, 0)))
    builder.setupHorizontalHeader()
    builder.setupOS2()
    builder.setupPost(keepGlyphNames=False)
    return hb.Font(hb.Face(hb.Blob(_saved(builder))))


def _saved(builder: FontBuilder) -> bytes:
    file = BytesIO()
    builder.save(file)
    return file.getvalue()
