"""What words say and how they are set: frozen values, and no pixels.

Lengths are pixels of the words' own; shares count from the size of the letters.
"""

from __future__ import annotations

import re
from enum import StrEnum
from typing import Annotated, Final, Literal, TypeAlias

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from glyphaneme.core.color import Color

MAX_LETTERS: Final = 20_000
MAX_FONTS: Final = 16
LEAST_SIZE: Final = 1.0
GREATEST_SIZE: Final = 20_000.0
WIDEST: Final = 100_000.0
LETTER_GAPS: Final = (-0.9, 5.0)
LINE_GAPS: Final = (0.2, 5.0)
MAX_AXES: Final = 16
MAX_BASELINES: Final = 100
MAX_LACKING: Final = 40

LINE_ENDS: Final = re.compile("\r\n?|[\x0b\x0c\x85\u2028\u2029]")
UNSETTABLE: Final = re.compile("[\x00-\x08\x0e-\x1f\x7f-\x9f\ud800-\udfff\ufffe\uffff]")


def settable(text: object) -> object:
    r"""Take out of a text what cannot be set: control characters and half characters.

    Parameters
    ----------
    text : object
        Mostly a str; others are left to whoever checks them.

    Returns
    -------
    object
        Of one kind of line ends; a tab is a space.

    Examples
    --------
    >>> settable("Opening\r\nnight\x08")
    'Opening\nnight'
    """
    if not isinstance(text, str):
        return text
    return UNSETTABLE.sub("", LINE_ENDS.sub("\n", text).replace("\t", " "))


Text = Annotated[str, BeforeValidator(settable), Field(max_length=MAX_LETTERS)]
FontId = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
"""The SHA-256 of a font's file."""
FontName = Annotated[str, Field(min_length=1, max_length=120)]
Number = Annotated[float, Field(allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Align(StrEnum):
    """To which side the lines of a block lie."""

    LEFT = "left"
    MIDDLE = "middle"
    RIGHT = "right"
    BOTH = "both"


class Feature(StrEnum):
    """What some fonts can do; named by the OpenType features that are switched."""

    SMALL_CAPITALS = "smcp"
    OLD_FIGURES = "onum"
    EVEN_FIGURES = "tnum"
    SWASHES = "swsh"


class Value(BaseModel):
    """What all values of words have in common."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Straight(Value):
    """Lines lie straight."""

    kind: Literal["straight"] = "straight"


class Arc(Value):
    """Lines bend so that a line as wide as the block turns by an angle.

    Positive angles lift the middle, negative ones the ends.
    """

    kind: Literal["arc"] = "arc"
    angle: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 90.0


class Circle(Value):
    """Lines run round a circle: outside it clockwise, or inside the other way."""

    kind: Literal["circle"] = "circle"
    radius: Annotated[float, Field(gt=0, le=WIDEST, allow_inf_nan=False)]
    """To the first baseline."""
    start: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    """Where the middle of a line lies, degrees clockwise from the top."""
    inside: bool = False


class Wave(Value):
    """Lines rise and fall."""

    kind: Literal["wave"] = "wave"
    height: Annotated[float, Field(ge=-5, le=5, allow_inf_nan=False)] = 0.3
    """From the middle to the crest, as a share of the size."""
    length: Annotated[float, Field(ge=0.5, le=100, allow_inf_nan=False)] = 8.0
    """From crest to crest, likewise."""
    shift: Annotated[float, Field(ge=-1, le=1, allow_inf_nan=False)] = 0.0
    """How far the wave is moved along, in shares of its length."""


class Fitted(Value):
    """Each line is made as wide as the block."""

    kind: Literal["fitted"] = "fitted"


Form: TypeAlias = Annotated[
    Straight | Arc | Circle | Wave | Fitted, Field(discriminator="kind")
]


class PlainInk(Value):
    """One colour."""

    kind: Literal["plain"] = "plain"
    color: Color = "#000000"
    opacity: Share = 1.0


class BlendedInk(Value):
    """A gradient of two colours over the words, or over each letter."""

    kind: Literal["blended"] = "blended"
    start: Color
    end: Color
    shape: Literal["linear", "round"] = "linear"
    angle: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 90.0
    """Where it runs to, degrees clockwise; 0 is to the right."""
    each: bool = False
    """Whether each letter has it whole."""
    opacity: Share = 1.0


Ink: TypeAlias = Annotated[PlainInk | BlendedInk, Field(discriminator="kind")]


class Side(StrEnum):
    """Where along the edge of the letters an outline lies."""

    INSIDE = "inside"
    MIDDLE = "middle"
    OUTSIDE = "outside"


class Contour(Value):
    """A line along the edges of the letters."""

    width: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 0.05
    """As a share of the size."""
    color: Color = "#000000"
    opacity: Share = 1.0
    side: Side = Side.OUTSIDE
    join: Literal["mitre", "round"] = "round"


class Panel(Value):
    """What lies behind the words, and follows them."""

    color: Color = "#ffffff"
    opacity: Share = 0.8
    padding: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.4
    """Round the lines, as a share of the size."""
    roundness: Share = 0.2
    """Of its corners: 1 makes half circles of the shorter sides."""
    softness: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.0
    """How wide its edge is, as a share of the size."""


class FontRef(Value):
    """A font by its file, and how it is called where that is not at hand."""

    id: FontId
    name: FontName


class Variation(Value):
    """Where along one of its axes a font stands."""

    tag: Annotated[str, Field(pattern=r"^[A-Za-z0-9 ]{4}$")]
    value: Number


class Setting(Value):
    """What is said, in which font, how large, in what lines and form."""

    text: Text
    fonts: Annotated[tuple[FontRef, ...], Field(min_length=1, max_length=MAX_FONTS)]
    """The chosen one, and those that lend the letters which it lacks."""
    axes: Annotated[tuple[Variation, ...], Field(max_length=MAX_AXES)] = ()
    """Where along its axes the chosen font stands."""
    size: Annotated[float, Field(ge=LEAST_SIZE, le=GREATEST_SIZE, allow_inf_nan=False)]
    """Of the em, in pixels."""
    width: Annotated[float, Field(gt=0, le=WIDEST, allow_inf_nan=False)] | None = None
    """Where lines break; None where they do so only where they are told to."""
    align: Align = Align.LEFT
    letter_gap: Annotated[
        float, Field(ge=LETTER_GAPS[0], le=LETTER_GAPS[1], allow_inf_nan=False)
    ] = 0.0
    """Between letters besides, as a share of the size."""
    line_gap: Annotated[
        float, Field(ge=LINE_GAPS[0], le=LINE_GAPS[1], allow_inf_nan=False)
    ] = 1.2
    """From baseline to baseline, as a share of the size."""
    ligatures: bool = True
    features: Annotated[tuple[Feature, ...], Field(max_length=len(Feature))] = ()
    form: Form = Straight()


class Words(Value):
    """Words as they are set, and what they are inked with."""

    setting: Setting
    ink: Ink | None = PlainInk()
    """None where letters are see-through, and show by their outline alone."""
    contour: Contour | None = None
    panel: Panel | None = None


class Measure(Value):
    """What follows from words and their fonts, and is kept with them.

    All are pixels of the words' own, from the corner of their frame.
    """

    fonts: Annotated[tuple[FontRef, ...], Field(min_length=1, max_length=MAX_FONTS)]
    """The chosen one, and those that lend letters."""
    width: Annotated[int, Field(ge=1)]
    """Of the frame, which holds all that shows."""
    height: Annotated[int, Field(ge=1)]
    block: tuple[Number, Number, Number, Number]
    """The lines' left, top, right and bottom."""
    baselines: Annotated[tuple[Number, ...], Field(max_length=MAX_BASELINES)] = ()
    """Of the first lines, where they are straight."""
    capital: Annotated[float, Field(ge=0, allow_inf_nan=False)]
    """How high capitals are."""
    lacking: Annotated[str, Field(max_length=MAX_LACKING)] = ""
    """Letters that no font has, the first of them."""
    lent: Annotated[tuple[FontName, ...], Field(max_length=MAX_FONTS)] = ()
    """How fonts are called that lend letters."""
