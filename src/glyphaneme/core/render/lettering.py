"""Writes words as rows: colours, masked by what their letters cover in the view."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core._kernels.washing import COLOR, LINEAR, ROUND
from glyphaneme.core.mask.planes import plane_of
from glyphaneme.core.mask.steps import Step, soft_edge
from glyphaneme.core.place.transform import pixel_size
from glyphaneme.core.render.rows import Fields, pixels_fields, rgba
from glyphaneme.core.words.blended import blended_by_letter
from glyphaneme.core.words.coverage import covered_by
from glyphaneme.core.words.faces import Face
from glyphaneme.core.words.typesetting import typeset
from glyphaneme.core.words.values import BlendedInk, PlainInk, Side

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.document.model import WordsLayer
    from glyphaneme.core.place import Rect
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.words.coverage import Covered
    from glyphaneme.core.words.glyphs import GlyphTable
    from glyphaneme.core.words.typesetting import Typeset
    from glyphaneme.core.words.values import Panel, Words


class Lettering(NamedTuple):
    """One of the colours that words are made of, and what it is masked by."""

    fields: Fields
    steps: tuple[Step, ...]
    alive: PixelsU8 | None = None


class _Seen(NamedTuple):
    """How words are seen."""

    to_words: MatrixF64
    """Maps the view's pixels to theirs; (3, 3) float64."""
    size: tuple[int, int]
    """The view's rows and columns."""

    @property
    def to_view(self) -> MatrixF64:
        """Maps the words' pixels to the view's; (2, 3) float64."""
        return np.asarray(np.linalg.inv(self.to_words)[:2])


def lettering_of(
    layer: WordsLayer, assets: Assets, to_words: MatrixF64, size: tuple[int, int]
) -> list[Lettering]:
    """Return the colours that words are made of in a view.

    Parameters
    ----------
    layer : WordsLayer
        The words; their mask, tones and strength count elsewhere.
    assets : mapping of id to what a render reads
        With their fonts; letters of those that are missing are left out.
    to_words : (3, 3) float64
        Maps the view's pixels to the words' own.
    size : tuple of int
        The view's rows and columns.

    Returns
    -------
    list of Lettering
        From back to front; none where nothing shows.
    """
    faces = {
        one.id: face
        for one in layer.words.setting.fonts
        if isinstance(face := assets.get(one.id), Face)
    }
    words, found = layer.words, typeset(layer.words, faces)
    return list(_colors(words, found, _Seen(to_words, size)))


def _colors(words: Words, found: Typeset, seen: _Seen) -> Iterator[Lettering]:
    if words.panel is not None and found.panel is not None:
        size = words.setting.size
        yield _panel(words.panel, found.panel, size, seen.to_words)
    line = _line(words, found, seen)
    beneath = words.contour is not None and words.contour.side is Side.OUTSIDE
    if line and beneath:
        yield line
    ink = _ink(words, found, seen)
    if ink:
        yield ink
    if line and not beneath:
        yield line


def _panel(
    panel: Panel, box: Rect[float], size: float, to_words: MatrixF64
) -> Lettering:
    to_box = to_words[:2].copy()
    to_box[:, 2] -= (box.at(0, 0.5), box.at(1, 0.5))
    half_wide, half_high = box.width / 2, box.height / 2
    step = Step(
        kind=masking.RECTANGLE,
        to_step=to_box,
        numbers=(
            *soft_edge(panel.softness * size, pixel_size(to_words[:2])),
            half_wide,
            half_high,
            panel.roundness * min(half_wide, half_high),
        ),
    )
    return _plain(panel.color, panel.opacity, (step,))


def _line(words: Words, found: Typeset, seen: _Seen) -> Lettering | None:
    if words.contour is None or found.line is None:
        return None
    step = _step_of(found.line, seen)
    if step is None:
        return None
    return _plain(words.contour.color, words.contour.opacity, (step,))


def _ink(words: Words, found: Typeset, seen: _Seen) -> Lettering | None:
    ink = words.ink
    if ink is None:
        return None
    covered = covered_by(found.letters, seen.to_view, seen.size)
    if covered is None:
        return None
    if isinstance(ink, BlendedInk) and ink.each:
        return _letter_by_letter(ink, found.letters, covered, seen)
    steps = (_step(covered),)
    if isinstance(ink, PlainInk):
        return _plain(ink.color, ink.opacity, steps)
    progress = _progress(ink, found.block)
    fields = Fields(
        ROUND if ink.shape == "round" else LINEAR,
        opaque=True,
        colors=rgba(ink.start).tolist() + rgba(ink.end).tolist(),
        opacity=ink.opacity,
        to_source=(progress @ seen.to_words).ravel().tolist(),
    )
    return Lettering(fields, steps)


def _letter_by_letter(
    ink: BlendedInk, letters: GlyphTable, covered: Covered, seen: _Seen
) -> Lettering:
    """Return a picture of letters that have the gradient whole, each."""
    pixels = blended_by_letter(ink, letters, covered, seen.to_view)
    fields = pixels_fields(pixels, covered.left, covered.top)
    return Lettering(fields._replace(opacity=ink.opacity), (), pixels)


def _progress(ink: BlendedInk, box: Rect[float]) -> MatrixF64:
    """Map the words' pixels to how far along a gradient over a box they lie."""
    turn = math.radians(ink.angle)
    across, down = math.cos(turn), math.sin(turn)
    middle = (box.at(0, 0.5), box.at(1, 0.5))
    if ink.shape == "round":
        length = max(math.hypot(box.width, box.height) / 2, 1e-6)
        axes = np.array([[1 / length, 0, 0], [0, 1 / length, 0]])
    else:
        length = max(abs(across) * box.width + abs(down) * box.height, 1e-6)
        axes = np.array([[across, down, 0], [-down, across, 0]]) / length
    axes[:, 2] = -axes[:, :2] @ middle
    if ink.shape == "linear":
        axes[0, 2] += 0.5
    return axes


def _plain(color: str, opacity: float, steps: tuple[Step, ...]) -> Lettering:
    colors = 2 * rgba(color).tolist()
    return Lettering(Fields(COLOR, opaque=True, colors=colors, opacity=opacity), steps)


def _step_of(table: GlyphTable, seen: _Seen) -> Step | None:
    covered = covered_by(table, seen.to_view, seen.size)
    return None if covered is None else _step(covered)


def _step(covered: Covered) -> Step:
    """Return what is covered as a step that counts from the view's pixels."""
    # Beyond its edge a plane goes on as it is there: nothing is there.
    plane = plane_of(covered.padded)
    to_plane = np.array([[1.0, 0, 1 - covered.left], [0, 1, 1 - covered.top]])
    return Step(masking.PLANE, to_plane, plane=plane, in_view=True)
