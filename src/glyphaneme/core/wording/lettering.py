"""Says how words are set, and what they are inked with."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.color import color_name
from glyphaneme.core.wording.words import percent
from glyphaneme.core.words.values import (
    Align,
    Arc,
    Circle,
    Feature,
    Fitted,
    PlainInk,
    Straight,
    Wave,
)

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.words.values import Form, Ink, Measure, Setting, Words

ALIGN_WORDS = {
    Align.LEFT: "aligned left",
    Align.MIDDLE: "centred",
    Align.RIGHT: "aligned right",
    Align.BOTH: "justified",
}
FEATURE_WORDS = {
    Feature.SMALL_CAPITALS: "small capitals",
    Feature.OLD_FIGURES: "old-style figures",
    Feature.EVEN_FIGURES: "even figures",
    Feature.SWASHES: "swashes",
}
MOST_LACKING_SAID = 8


def lettering_words(words: Words, measure: Measure, pixel_mm: float) -> Iterator[str]:
    """Say how words are set and inked.

    Parameters
    ----------
    words : Words
        The words.
    measure : Measure
        What follows from them and their fonts.
    pixel_mm : float, millimetres
        How large one of their pixels is in print.

    Yields
    ------
    str
        Phrases such as "in Lobster" and "62 mm high"; what is usual is not said.
    """
    setting = words.setting
    yield f"in {setting.fonts[0].name}"
    yield f"{measure.capital * pixel_mm:.3g} mm high"
    if "\n" in setting.text or setting.width is not None:
        yield ALIGN_WORDS[setting.align]
    form = form_words(setting.form)
    if form:
        yield form
    if setting.features:
        yield f"with {' and '.join(FEATURE_WORDS[one] for one in setting.features)}"
    yield from _spacing(setting)
    yield ink_words(words.ink)
    if words.contour is not None:
        yield f"outlined {color_name(words.contour.color)}"
    if words.panel is not None:
        yield f"on a {color_name(words.panel.color)} panel"
    if measure.lent:
        yield f"some letters lent by {' and '.join(measure.lent)}"
    if measure.lacking:
        lacking = " ".join(measure.lacking[:MOST_LACKING_SAID])
        yield f"without {lacking}, which no font has"


def _spacing(setting: Setting) -> Iterator[str]:
    if setting.letter_gap:
        how = "wider" if setting.letter_gap > 0 else "closer"
        yield f"spaced {how} by {percent(abs(setting.letter_gap))}"


def form_words(form: Form) -> str:
    """Say along what lines run.

    Parameters
    ----------
    form : Form
        Any.

    Returns
    -------
    str
        Nothing where they are straight.

    Examples
    --------
    >>> form_words(Arc(angle=-40)), form_words(Straight())
    ('along an arc, hanging', '')
    """
    match form:
        case Straight():
            return ""
        case Arc(angle=angle):
            return "along an arc" if angle >= 0 else "along an arc, hanging"
        case Circle(inside=inside):
            return f"round {'the inside of ' if inside else ''}a circle"
        case Wave():
            return "along a wave"
        case Fitted():
            return "each line as wide as the block"


def ink_words(ink: Ink | None) -> str:
    """Say what letters are filled with.

    Parameters
    ----------
    ink : Ink or None
        None for letters that are see-through.

    Returns
    -------
    str
        Such as "inked black".
    """
    if ink is None:
        return "see-through"
    word = (
        f"inked {color_name(ink.color)}"
        if isinstance(ink, PlainInk)
        else f"inked from {color_name(ink.start)} to {color_name(ink.end)}"
    )
    return word if ink.opacity == 1 else f"{word} at {percent(ink.opacity)}"
