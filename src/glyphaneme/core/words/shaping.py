"""Shapes runs of a text by HarfBuzz into glyphs with their advances."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import uharfbuzz as hb

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.words.faces import Face
    from glyphaneme.core.words.itemizing import Run
    from glyphaneme.core.words.values import Setting


class Glyph(NamedTuple):
    """One glyph as it stands on a line; lengths in ems."""

    font: int
    code: int
    cluster: int
    """Which character of the text it begins with."""
    advance: float
    x: float
    """How far it is moved from where the line has come to, and upwards `y`."""
    y: float


def shaped(
    text: str, run: Run, setting: Setting, fonts: Sequence[Face | None]
) -> list[Glyph]:
    """Shape a run.

    Parameters
    ----------
    text : str
        The paragraph.
    run : Run
        Some of it.
    setting : Setting
        Which features are switched, and how the chosen font is varied.
    fonts : sequence of Face or None
        As for the run.

    Returns
    -------
    list of Glyph
        From left to right. Where letters are set apart, what is optional of joined
        letters is not joined (CSS Text 3, section 7.2).
    """
    face = fonts[run.font]
    if face is None:
        return []
    buffer = hb.Buffer()
    buffer.cluster_level = hb.BufferClusterLevel.MONOTONE_GRAPHEMES
    buffer.add_str(text, item_offset=run.first, item_length=run.last - run.first)
    buffer.direction = "rtl" if run.level % 2 else "ltr"
    buffer.script = run.script
    buffer.language = "und"
    joins = setting.ligatures and not setting.letter_gap
    features: dict[str, bool] = {"liga": joins, "clig": joins}
    features |= {one.value: True for one in setting.features}
    hb.shape(face.at(setting.axes if run.font == 0 else ()), buffer, features)
    ems = 1 / face.units
    return [
        Glyph(
            run.font,
            info.codepoint,
            info.cluster,
            place.x_advance * ems,
            place.x_offset * ems,
            place.y_offset * ems,
        )
        for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True)
    ]


def apart(glyphs: Sequence[Glyph], gap: float) -> list[Glyph]:
    """Set letters further apart, or closer; each cluster stays together.

    Parameters
    ----------
    glyphs : sequence of Glyph
        From left to right.
    gap : float, ems
        After each cluster.

    Returns
    -------
    list of Glyph
        As many.
    """
    if not gap:
        return list(glyphs)
    following = [one.cluster for one in glyphs[1:]] + [-1]
    return [
        one._replace(advance=one.advance + gap) if one.cluster != after else one
        for one, after in zip(glyphs, following, strict=True)
    ]
