"""Breaks paragraphs into lines (UAX 14), and lays each line's glyphs side by side."""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from itertools import accumulate, pairwise
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.words.breaks import break_places
from glyphaneme.core.words.itemizing import base_level, in_sight_order, runs_of
from glyphaneme.core.words.shaping import apart, shaped
from glyphaneme.core.words.values import Align

if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence

    from glyphaneme.core.words.faces import Face
    from glyphaneme.core.words.itemizing import Run
    from glyphaneme.core.words.shaping import Glyph
    from glyphaneme.core.words.values import Setting

    Fonts = Sequence[Face | None]

SLACK = 1e-6
"""By how many ems a line may be too wide and still fit."""


class Line(NamedTuple):
    """One line: its glyphs from left to right, and how wide they are; in ems."""

    glyphs: tuple[Glyph, ...]
    width: float
    """Without spaces at its end."""
    leading: float = 0.0
    """How far left of its letters such spaces reach, where it runs from the right."""
    is_last: bool = True
    """Whether its paragraph ends with it."""
    spaces: tuple[int, ...] = ()
    """The places of glyphs that are spaces between words."""
    from_right: bool = False
    said: str = ""
    """What of the text it says, in the order in which that is read."""


def lines_of(setting: Setting, fonts: Fonts) -> list[Line]:
    """Break a text into lines.

    Parameters
    ----------
    setting : Setting
        The text, and how wide it may be.
    fonts : sequence of Face or None
        By their places in the setting; None for those that are not at hand.

    Returns
    -------
    list of Line
        From top to bottom, at least one.
    """
    most = math.inf if setting.width is None else setting.width / setting.size
    found: list[Line] = []
    for text in setting.text.split("\n"):
        runs = runs_of(text, fonts)
        whole = [(run, _glyphs(text, run, setting, fonts)) for run in runs]
        spans = _spans(text, whole, most, gap=setting.letter_gap)
        for place, (first, last) in enumerate(spans):
            if len(spans) == 1:
                cut = whole
            else:
                part = [_within(run, first, last) for run in _met(runs, first, last)]
                cut = [(run, _glyphs(text, run, setting, fonts)) for run in part]
            is_last = place == len(spans) - 1
            line = _line(text, cut, setting, is_last=is_last)
            found.append(line._replace(said=text[first:last]))
    return found


def justified(line: Line, wide: float) -> Line:
    """Widen the spaces between words until a line is as wide as its block.

    Parameters
    ----------
    line : Line
        One that is narrower; others stay as they are.
    wide : float, ems
        The block's width.

    Returns
    -------
    Line
        The same where it has no spaces, or ends its paragraph.
    """
    more = wide - line.width
    if line.is_last or not line.spaces or more <= 0:
        return line
    each = more / len(line.spaces)
    wider = set(line.spaces)
    glyphs = tuple(
        one._replace(advance=one.advance + each) if place in wider else one
        for place, one in enumerate(line.glyphs)
    )
    return line._replace(glyphs=glyphs, width=wide)


def lies_at(setting: Setting, line: Line, wide: float) -> float:
    """Tell where a line begins in its block.

    Parameters
    ----------
    setting : Setting
        How lines are aligned.
    line : Line
        Whichever.
    wide : float, ems
        The block's width.

    Returns
    -------
    float, ems
        From the block's left edge to the line's first glyph.
    """
    room = wide - line.width
    align = setting.align
    if align is Align.BOTH:
        align = Align.RIGHT if line.from_right else Align.LEFT
    share = {Align.LEFT: 0.0, Align.MIDDLE: 0.5, Align.RIGHT: 1.0}[align]
    return share * room - line.leading


def _glyphs(text: str, run: Run, setting: Setting, fonts: Fonts) -> list[Glyph]:
    return apart(shaped(text, run, setting, fonts), setting.letter_gap)


def _met(runs: Sequence[Run], first: int, last: int) -> Sequence[Run]:
    """Return those of runs, in the order of the text, that a line has a part of."""
    begin = bisect_right(runs, first, key=lambda run: run.last)
    end = bisect_left(runs, last, key=lambda run: run.first)
    return runs[begin:end]


def _within(run: Run, first: int, last: int) -> Run:
    return run._replace(first=max(run.first, first), last=min(run.last, last))


def _spans(
    text: str, whole: Sequence[tuple[Run, list[Glyph]]], most: float, *, gap: float
) -> list[tuple[int, int]]:
    """Return from where to where each line reaches, as much as fits."""
    if math.isinf(most) or not text:
        return [(0, len(text))]
    steps = [0.0] * (len(text) + 1)
    for _, glyphs in whole:
        for one in glyphs:
            steps[one.cluster + 1] += one.advance
    starts = sorted({one.cluster for _, glyphs in whole for one in glyphs})
    reached = list(accumulate(steps))
    found: list[tuple[int, int]] = []
    begin = fits = 0
    for end in break_places(text):
        room = reached[begin] + most + max(gap, 0.0) + SLACK
        if _end_of(text, begin, end, reached) <= room:
            fits = end
            continue
        if fits > begin:
            found.append((begin, fits))
            begin = fits
        # A word that is wider than a line by itself breaks where it must.
        for cut in _cuts(text, begin, end, reached, starts, most + SLACK):
            found.append((begin, cut))
            begin = cut
        fits = end
    found.append((begin, len(text)))
    return found


def _end_of(text: str, begin: int, end: int, reached: Sequence[float]) -> float:
    """Tell how far a line reaches, without spaces at its end."""
    while end > begin + 1 and text[end - 1].isspace():
        end -= 1
    return reached[end]


def _cuts(
    text: str,
    begin: int,
    end: int,
    reached: Sequence[float],
    starts: Sequence[int],
    room: float,
) -> Iterator[int]:
    """Yield where a word is cut that is wider than a line by itself."""
    while end > begin and text[end - 1].isspace():
        end -= 1
    inside = starts[bisect_right(starts, begin) : bisect_left(starts, end)]
    for at, after in pairwise([*inside, end]):
        if reached[after] - reached[begin] > room:
            yield at
            begin = at


def _line(
    text: str,
    cut: Sequence[tuple[Run, list[Glyph]]],
    setting: Setting,
    *,
    is_last: bool,
) -> Line:
    """Lay the runs of a line side by side as they are seen."""
    order = in_sight_order([run.level for run, _ in cut])
    glyphs = [one for place in order for one in cut[place][1]]
    from_right = bool(base_level(text) % 2)
    blank = [text[one.cluster].isspace() for one in glyphs]
    first, last = 0, len(glyphs)
    if from_right:
        while first < last and blank[first]:
            first += 1
    else:
        while last > first and blank[last - 1]:
            last -= 1
    width = sum(one.advance for one in glyphs[first:last])
    if last > first:
        # What sets letters apart stands between them alone.
        width -= setting.letter_gap
    return Line(
        tuple(glyphs),
        max(width, 0.0),
        leading=sum(one.advance for one in glyphs[:first]),
        is_last=is_last,
        spaces=tuple(at for at in range(first, last) if blank[at]),
        from_right=from_right,
    )
