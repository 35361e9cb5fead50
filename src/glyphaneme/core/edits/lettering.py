"""Laying words on, and setting them anew."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, Self, TypeVar

import numpy as np

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.model import Composite, Layer, WordsLayer
from glyphaneme.core.document.naming import LONGEST_NAME
from glyphaneme.core.edits.adding import Adding
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.errors import NoSuchWorkError, NotMeasuredError
from glyphaneme.core.place import Placement, source_to_canvas
from glyphaneme.core.place.limits import Position, kept_position
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.values import Align, Measure, Setting, Value, Words

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PointsF64

ValueT = TypeVar("ValueT", bound=Value)
LONGEST_QUOTED = 40
NO_WORDS = "Words"
"""How a layer is called that says nothing as yet."""


class AddWords(Adding):
    """Lay words on, their first line round a point, or in the middle of the sheet.

    What they measure follows from their fonts, and is said before they are laid on.
    """

    kind: Literal["add_words"] = "add_words"
    name: str = NO_WORDS
    words: Words
    measure: Measure | None = None
    at: tuple[Position, Position] | None = None
    placement: Placement | None = None

    def decided(self, composite: Composite) -> Self:
        return with_fields(self, placement=self._place(composite))

    def new_layer(self, composite: Composite) -> Layer:
        measure = _require(self.measure)
        return WordsLayer(
            id=self.layer_id,
            name=name_of(self.words.setting.text),
            words=_with_fonts(self.words, measure),
            measure=measure,
            width=measure.width,
            height=measure.height,
            placement=self._place(composite),
        )

    def label(self, _composite: Composite) -> str:
        return f"{quoted(self.words.setting.text)} laid on"

    def _place(self, composite: Composite) -> Placement:
        if self.placement is not None:
            return self.placement
        canvas, measure = composite.canvas, _require(self.measure)
        middle = np.array((measure.width / 2, measure.height / 2))
        left, top, right, bottom = measure.block
        held = np.array(((left + right) / 2, (top + bottom) / 2))
        at = (canvas.width / 2, canvas.height / 2)
        if self.at is not None:
            at = self.at
            held = _held(self.words.setting, measure)
        x, y = np.array(at) + middle - held
        return Placement(x=kept_position(x), y=kept_position(y), scale_x=1, scale_y=1)


class SetWords(LayerEdit):
    """Say or set words anew; the side that they are aligned at stays where it is."""

    kind: Literal["set_words"] = "set_words"
    words: Words
    measure: Measure | None = None

    def applied(self, composite: Composite) -> Composite:
        """Set them.

        Raises
        ------
        NoSuchWorkError
            The layer is none of words.
        NotMeasuredError
            It is not said what they measure.
        """
        require_unlocked(composite, self.layer_id)
        layer = _words_layer(composite, self.layer_id)
        measure = _require(self.measure)
        before = layer.words.setting.text
        is_named = layer.name != name_of(before)
        return with_layer_fields(
            composite,
            self.layer_id,
            name=layer.name if is_named else name_of(self.words.setting.text),
            words=_with_fonts(self.words, measure),
            measure=measure,
            width=measure.width,
            height=measure.height,
            placement=_standing(layer, self.words.setting, measure),
            stand_in=None,
        )

    def rebased(self, made_on: Composite, now: Composite) -> Self:
        """Change what was changed; a text that was typed counts whole."""
        before = _words_layer(made_on, self.layer_id).words
        present = _words_layer(now, self.layer_id).words
        setting = _changed(before.setting, self.words.setting, present.setting)
        words = _changed(
            before, with_fields(self.words, setting=before.setting), present
        )
        return with_fields(self, words=with_fields(words, setting=setting))

    def label(self, composite: Composite) -> str:
        return f"{quoted(self.words.setting.text)} {self._deed(composite)}"

    def _deed(self, composite: Composite) -> str:
        """Say what it changes, the first of it that counts."""
        before = _words_layer(composite, self.layer_id).words
        old, new = before.setting, self.words.setting
        if old.text != new.text:
            return "typed"
        if old.fonts[0] != new.fonts[0]:
            return f"in {new.fonts[0].name}"
        for name, deed in DEEDS:
            if getattr(old, name) != getattr(new, name):
                return deed
        if before.ink != self.words.ink:
            return "inked anew"
        if before.contour != self.words.contour:
            return "outlined" if self.words.contour else "without an outline"
        return "on a panel" if self.words.panel else "without a panel"


DEEDS = (
    ("size", "in another size"),
    ("form", "in another form"),
    ("align", "aligned"),
    ("width", "in other lines"),
    ("letter_gap", "spaced"),
    ("line_gap", "spaced"),
    ("features", "with other letters"),
    ("ligatures", "with other letters"),
    ("axes", "with other letters"),
)
"""Fields of a setting, and what it is called to change them."""


def quoted(text: str) -> str:
    r"""Return a text as a sentence names it.

    Parameters
    ----------
    text : str
        Of any length.

    Returns
    -------
    str
        In quotes, and cut where it is long; "Words" where it says nothing.

    Examples
    --------
    >>> quoted("Opening\nnight")[1:-1]
    'Opening night'
    """
    name = name_of(text)
    return name if name == NO_WORDS else f"‘{name}’"


def name_of(text: str) -> str:
    """Return how a layer is called after its words.

    Parameters
    ----------
    text : str
        Of any length.

    Returns
    -------
    str
        On one line, and cut where it is long; "Words" where they say nothing.
    """
    line = " ".join(text.split())
    if len(line) > LONGEST_QUOTED:
        line = f"{line[: LONGEST_QUOTED - 1].rstrip()}…"
    return line[:LONGEST_NAME] or NO_WORDS


def _require(measure: Measure | None) -> Measure:
    if measure is None:
        raise NotMeasuredError
    return measure


def _words_layer(composite: Composite, layer_id: str) -> WordsLayer:
    layer = composite.layer(layer_id)
    if not isinstance(layer, WordsLayer):
        raise NoSuchWorkError(layer.kind, "says no words")
    return layer


def _with_fonts(words: Words, measure: Measure) -> Words:
    setting = with_fields(words.setting, fonts=measure.fonts)
    return with_fields(words, setting=setting)


def _changed(before: ValueT, wanted: ValueT, present: ValueT) -> ValueT:
    """Return a value as it is now, with those fields that were meant to change."""
    fields = {
        name: getattr(wanted, name)
        for name in type(wanted).model_fields
        if getattr(wanted, name) != getattr(before, name)
    }
    return with_fields(present, **fields)


def _held(setting: Setting, measure: Measure) -> PointsF64:
    """Return what of a block stays: its first line, at the side of its alignment."""
    left, top, right, _ = measure.block
    share = {Align.RIGHT: 1.0, Align.MIDDLE: 0.5}.get(setting.align, 0.0)
    down = measure.baselines[0] if measure.baselines else top
    return np.array((left + share * (right - left), down))


def _standing(layer: WordsLayer, setting: Setting, measure: Measure) -> Placement:
    """Return a placement at which the side that lines are aligned at stays."""
    before = layer.placement
    old = source_to_canvas(before, width=layer.width, height=layer.height)
    new = source_to_canvas(before, width=measure.width, height=measure.height)
    stays = old @ (*_held(setting, layer.measure), 1)
    moved = stays - new @ (*_held(setting, measure), 1)
    return with_fields(
        before,
        x=kept_position(before.x + moved[0]),
        y=kept_position(before.y + moved[1]),
    )
