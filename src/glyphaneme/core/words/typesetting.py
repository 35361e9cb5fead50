"""Sets words: from a text and its fonts to placed glyphs and the block round them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.place import Rect
from glyphaneme.core.weighed import ENTRY, WeighedCache
from glyphaneme.core.words.contours import contoured
from glyphaneme.core.words.forms import Ground, spot_along
from glyphaneme.core.words.glyphs import GlyphTable, glyph_table
from glyphaneme.core.words.lines import Line, justified, lies_at, lines_of
from glyphaneme.core.words.values import (
    MAX_BASELINES,
    MAX_LACKING,
    Align,
    Arc,
    Circle,
    Fitted,
    Measure,
)

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping, Sequence

    from glyphaneme.core.words.faces import Face
    from glyphaneme.core.words.shaping import Glyph
    from glyphaneme.core.words.values import Panel, Setting, Words

    Fonts = Sequence[Face | None]

KEPT_BYTES = 32 * 2**20
NARROWEST = 0.25
"""Of a block, in ems: an empty one can still be seen and taken hold of."""
WIDEST_FITTED = 50.0
"""How many times its size a line is enlarged at most to fill its block."""
USUAL_ASCENT, USUAL_DESCENT = 0.8, 0.2
"""Where no font is at hand; ems."""


@dataclass(frozen=True)
class Typeset:
    """Words as they are set; pixels of the words' own, from their frame's corner."""

    width: int
    height: int
    block: Rect[float]
    """The lines, from edge to edge; letters may reach beyond it."""
    baselines: tuple[float, ...]
    """Of a straight block."""
    capital: float
    """How high capitals are."""
    letters: GlyphTable
    line: GlyphTable | None
    """The outline of the letters."""
    panel: Rect[float] | None
    lacking: str
    """Letters that no font has, each once."""
    lent: tuple[int, ...]
    """Fonts besides the chosen one that lend letters, by their places."""
    said: tuple[tuple[str, int], ...]
    """What each line says, and how many of the letters are its."""

    @property
    def nbytes(self) -> int:
        """How much memory it takes."""
        line = 0 if self.line is None else 100 * len(self.line) + self.line.nbytes
        return self.letters.nbytes + line + ENTRY


_KEPT: WeighedCache[object, Typeset] = WeighedCache(KEPT_BYTES, lambda one: one.nbytes)


def typeset(words: Words, faces: Mapping[str, Face]) -> Typeset:
    """Set words, or return how they were set before.

    Parameters
    ----------
    words : Words
        What is set.
    faces : mapping of font id to Face
        Those that are at hand; words in others stay empty.

    Returns
    -------
    Typeset
        Kept between calls, by the words and by which of their fonts are there.
    """
    fonts = [faces.get(one.id) for one in words.setting.fonts]
    line = words.contour and (
        words.contour.width,
        words.contour.side,
        words.contour.join,
        _is_filled(words),
    )
    panel = words.panel and words.panel.padding
    key = (words.setting, line, panel, tuple(one is not None for one in fonts))
    found = _KEPT.get(key)
    return _KEPT.put(key, _set(words, fonts)) if found is None else found


def let_go() -> None:
    """Keep nothing of what was set."""
    _KEPT.clear()


def measured(words: Words, faces: Mapping[str, Face]) -> Measure:
    """Set words, and return what is kept of that with them.

    Parameters
    ----------
    words : Words
        What is set; all their fonts count.
    faces : mapping of font id to Face
        Those that are at hand.

    Returns
    -------
    Measure
        In the words' own pixels.
    """
    found = typeset(words, faces)
    names = [one.name for one in words.setting.fonts]
    return Measure(
        fonts=words.setting.fonts,
        width=found.width,
        height=found.height,
        block=tuple(found.block),
        baselines=found.baselines[:MAX_BASELINES],
        capital=found.capital,
        lacking=found.lacking[:MAX_LACKING],
        lent=tuple(names[place] for place in found.lent),
    )


class _Standing(NamedTuple):
    """A line where it stands in the straight block; pixels."""

    line: Line
    size: float
    """Of its em."""
    left: float
    baseline: float


def _set(words: Words, fonts: Fonts) -> Typeset:
    setting = words.setting
    face = next((one for one in fonts if one is not None), None)
    ascent, descent, capital = (
        (USUAL_ASCENT, USUAL_DESCENT, USUAL_ASCENT)
        if face is None
        else (face.ascent, face.descent, face.capital)
    )
    lines = lines_of(setting, fonts)
    wide = _width_of(setting, lines)
    standing, high = _standing(setting, lines, wide, ascent, descent)
    ground = Ground(wide / 2, standing[0].baseline, wide, setting.size)
    placed = list(_placed(setting, standing, fonts, ground))
    letters = _table_of(placed, fonts, setting)
    line = _line_round(words, letters)
    is_bent = isinstance(setting.form, Arc | Circle)
    block = Rect(0.0, 0.0, wide, high)
    inked = [one.bounds for one in (letters, line) if one and one.bounds]
    if is_bent:
        block = _around(inked) or block
    panel = _panel(words.panel, block, setting.size) if words.panel else None
    frame = _around([block, *inked, *([panel] if panel else [])]) or block
    left, top = math.floor(frame.left), math.floor(frame.top)
    return Typeset(
        width=max(math.ceil(frame.right) - left, 1),
        height=max(math.ceil(frame.bottom) - top, 1),
        block=_moved(block, -left, -top),
        baselines=() if is_bent else tuple(one.baseline - top for one in standing),
        capital=capital * setting.size,
        letters=letters.moved(-left, -top),
        line=line and line.moved(-left, -top),
        panel=panel and _moved(panel, -left, -top),
        lacking=_lacking(setting.text, fonts),
        lent=tuple(sorted({one.glyph.font for one in placed} - {0})),
        said=tuple((one.line.said, len(one.line.glyphs)) for one in standing),
    )


def _is_filled(words: Words) -> bool:
    return words.ink is not None and words.ink.opacity == 1


def _line_round(words: Words, letters: GlyphTable) -> GlyphTable | None:
    if words.contour is None:
        return None
    size, filled = words.setting.size, _is_filled(words)
    return contoured(letters, words.contour, size, filled=filled)


def _width_of(setting: Setting, lines: Sequence[Line]) -> float:
    """Return how wide the block is; pixels."""
    widest = max(one.width for one in lines) * setting.size
    least = NARROWEST * setting.size
    if setting.width is None:
        return max(widest, least)
    return setting.width


def _standing(
    setting: Setting, lines: Sequence[Line], wide: float, ascent: float, descent: float
) -> tuple[list[_Standing], float]:
    """Stand lines beneath one another; also return how high they are together."""
    found: list[_Standing] = []
    top = 0.0
    ems = wide / setting.size
    for one in lines:
        line, size = one, setting.size
        if isinstance(setting.form, Fitted):
            if line.width > 0:
                size *= min(ems / line.width, WIDEST_FITTED)
            left = 0.0
        else:
            if setting.align is Align.BOTH:
                line = justified(line, ems)
            left = lies_at(setting, line, ems) * size
        pitch = setting.line_gap * size
        # Half of what a line has besides its letters lies above them (CSS 2.1, 10.8).
        baseline = top + (pitch - (ascent + descent) * size) / 2 + ascent * size
        found.append(_Standing(line, size, left, baseline))
        top += pitch
    return found, max(top, 1.0)


class _PlacedGlyph(NamedTuple):
    glyph: Glyph
    map: tuple[tuple[float, float, float], tuple[float, float, float]]


def _placed(
    setting: Setting, standing: Sequence[_Standing], fonts: Fonts, ground: Ground
) -> Iterator[_PlacedGlyph]:
    """Lay all clusters along the form, each as one."""
    for line, size, left, baseline in standing:
        pen = left
        for cluster in _clusters(line.glyphs):
            wide = sum(one.advance for one in cluster) * size
            middle = pen + wide / 2
            spot = spot_along(setting.form, ground, middle, baseline)
            cos, sin = math.cos(spot.turn), math.sin(spot.turn)
            for glyph in cluster:
                face = fonts[glyph.font]
                units = size / (face.units if face else 1)
                across = pen + glyph.x * size - middle
                down = -glyph.y * size
                yield _PlacedGlyph(
                    glyph,
                    # Units run upwards, pixels down.
                    (
                        (units * cos, units * sin, spot.x + cos * across - sin * down),
                        (units * sin, -units * cos, spot.y + sin * across + cos * down),
                    ),
                )
                pen += glyph.advance * size


def _clusters(glyphs: Sequence[Glyph]) -> Iterator[list[Glyph]]:
    begun: list[Glyph] = []
    for one in glyphs:
        if begun and begun[-1].cluster != one.cluster:
            yield begun
            begun = []
        begun.append(one)
    if begun:
        yield begun


def _table_of(
    placed: Sequence[_PlacedGlyph], fonts: Fonts, setting: Setting
) -> GlyphTable:
    there = [at for at, one in enumerate(fonts) if one is not None]
    place_of = {at: place for place, at in enumerate(there)}
    varied = [
        face.at(setting.axes if at == 0 else ())
        for at, face in enumerate(fonts)
        if face is not None
    ]
    maps = np.array([one.map for one in placed], np.float64).reshape(-1, 2, 3)
    return glyph_table(
        varied,
        [place_of[one.glyph.font] for one in placed],
        [one.glyph.code for one in placed],
        maps,
    )


def _panel(panel: Panel, block: Rect[float], size: float) -> Rect[float]:
    room = panel.padding * size
    return Rect(
        block.left - room, block.top - room, block.right + room, block.bottom + room
    )


def _lacking(text: str, fonts: Fonts) -> str:
    there = [one for one in fonts if one is not None]
    letters = dict.fromkeys(text.replace("\n", ""))
    return "".join(one for one in letters if not any(font.has(one) for font in there))


def _around(found: Sequence[Rect[float]]) -> Rect[float] | None:
    if not found:
        return None
    return Rect(
        min(one.left for one in found),
        min(one.top for one in found),
        max(one.right for one in found),
        max(one.bottom for one in found),
    )


def _moved(one: Rect[float], x: float, y: float) -> Rect[float]:
    return Rect(one.left + x, one.top + y, one.right + x, one.bottom + y)
