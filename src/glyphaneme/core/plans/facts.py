"""What is known of photos: named measures that places in a plan may follow.

All positions are in the photo's own pixels, from its top left.
"""

from __future__ import annotations

from enum import StrEnum
from typing import TYPE_CHECKING, Annotated, NamedTuple, Protocol

from pydantic import Field

from glyphaneme.core.color import Color
from glyphaneme.core.document.model import Extent, PictureId
from glyphaneme.core.place import Rect
from glyphaneme.core.plans.base import PlanValue, Sha256, Share

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.tone import MatchTone
    from glyphaneme.core.words.values import Measure, Words

Number = Annotated[float, Field(allow_inf_nan=False)]
Spot = tuple[Number, Number]


class Facing(StrEnum):
    """Which way a subject looks."""

    LEFT = "left"
    RIGHT = "right"


class Side(StrEnum):
    """A side of a photo."""

    LEFT = "left"
    TOP = "top"
    RIGHT = "right"
    BOTTOM = "bottom"


class ColorMeasure(StrEnum):
    """Which of a photo's colours is meant."""

    EDGE = "edge"
    """What its rim is mostly of."""
    DARK = "dark"
    LIGHT = "light"
    STRONG = "strong"
    """The one farthest from grey."""
    MIDDLE = "middle"
    """What its middle is mostly of."""


class Subject(PlanValue):
    """What stands out of a photo: its box, its centre, and what it is cut off by."""

    left: Number
    top: Number
    right: Number
    bottom: Number
    x: Number
    y: Number
    """Its centre: of its mass, not of its box."""
    touches: tuple[Side, ...] = ()
    """Sides of the photo that it runs into."""
    certainty: Share = 1.0
    """How much of its outline is sure."""
    is_found: bool = False
    """Whether a cut-out says so; a glance at the colours does otherwise."""

    @property
    def box(self) -> Rect[float]:
        """Its box."""
        return Rect(self.left, self.top, self.right, self.bottom)


class FoundCut(PlanValue):
    """A matte that was found of a photo."""

    matte: Sha256
    level: Annotated[int, Field(ge=0, le=12)] = 0


class PhotoFacts(PlanValue):
    """What is known of one photo."""

    picture: PictureId
    sha256: str = ""
    """Of its file: the same photo, whatever it is called."""
    name: str
    width: Extent
    height: Extent
    subject: Subject | None = None
    """None where nothing stands out."""
    is_cut: bool = False
    """Whether it is see-through round its subject already."""
    cut: FoundCut | None = None
    facing: Facing | None = None
    """None where it cannot be told."""
    tilt: Annotated[float, Field(ge=-45, le=45, allow_inf_nan=False)] = 0.0
    """By how many degrees clockwise its horizon leans; 0 where none is seen."""
    blank: tuple[Spot, Spot, Spot, Spot] | None = None
    """Corners of its blank four-sided place, clockwise from the top left."""
    colors: dict[ColorMeasure, Color] = Field(default_factory=dict)

    @property
    def focus(self) -> Spot:
        """What is to be kept in sight: the subject's centre, or the middle."""
        if self.subject is None:
            return self.width / 2, self.height / 2
        return self.subject.x, self.subject.y

    @property
    def box(self) -> Rect[float]:
        """The subject's box, or all of the photo."""
        if self.subject is None:
            return Rect(0.0, 0.0, float(self.width), float(self.height))
        return self.subject.box


class Measuring(Protocol):
    """Tells what words measure."""

    def __call__(self, words: Words, /) -> Measure | None:
        """Measure them; None where no font is at hand to set them in."""


def _unmeasured(_words: Words) -> None:
    """Set no words: nobody is there to measure them."""


class Known(NamedTuple):
    """All that is known when a plan is filled.

    `pairs` maps the pixels of one photo to those of another, (3, 3) float64, by their
    pictures; `matches` holds what brings a layer's tones to another's, by its id;
    `stays` the plan's own pictures, by what it calls them.
    """

    photos: Mapping[str, PhotoFacts]
    measure: Measuring = _unmeasured
    pairs: Mapping[tuple[str, str], MatrixF64] = {}
    matches: Mapping[str, MatchTone] = {}
    stays: Mapping[str, PhotoFacts] = {}
