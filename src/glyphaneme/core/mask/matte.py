"""Parts that are backdrops which were found: what a matte of the picture says."""

from __future__ import annotations

from dataclasses import replace
from enum import StrEnum
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.mask.parts import Join, PartId, Reads
from glyphaneme.core.mask.rasters import RasterPart
from glyphaneme.core.place.limits import Position

if TYPE_CHECKING:
    from glyphaneme.core.mask.parts import Seeing
    from glyphaneme.core.mask.steps import Step

MAX_STROKES = 200
MAX_POINTS = 400
MAX_CORNERS = 400
MAX_LEVEL = 12
WIDEST = 20_000.0

Point = tuple[Position, Position]


class CutWay(StrEnum):
    """How the subject is told from its backdrop."""

    ITSELF = "itself"
    """As the network sees it."""
    FINER = "finer"
    """The network at a larger size: finer edges, thin parts."""
    GAPS = "gaps"
    """What has the backdrop's colours counts as backdrop: inner gaps open up."""
    BLOCK = "block"
    """In one piece with a hard edge."""
    COLOR = "color"
    """Everything but the backdrop's colour, whatever the network sees."""


WAY_WORDS = {
    CutWay.ITSELF: "its backdrop, found by itself",
    CutWay.FINER: "its backdrop, with finer edges",
    CutWay.GAPS: "its backdrop, inner gaps too",
    CutWay.BLOCK: "its backdrop, as one block",
    CutWay.COLOR: "its backdrop's colour",
}


class RoughStroke(BaseModel):
    """A stroke that says roughly what belongs; in the picture's own pixels."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    keeps: bool
    """Whether what lies under it is subject, or else backdrop."""
    size: Annotated[float, Field(gt=0, le=WIDEST, allow_inf_nan=False)]
    points: Annotated[tuple[Point, ...], Field(min_length=1, max_length=MAX_POINTS)]


class Hints(BaseModel):
    """What a person says of where the subject is; in the picture's own pixels.

    `around` is a ring: nothing outside it is subject. Which of several subjects is
    meant, from 0, the largest, on, says `subject`.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    around: (
        Annotated[tuple[Point, ...], Field(min_length=3, max_length=MAX_CORNERS)] | None
    ) = None
    strokes: Annotated[tuple[RoughStroke, ...], Field(max_length=MAX_STROKES)] = ()
    subject: Annotated[int, Field(ge=0, le=7)] | None = None


NO_HINTS = Hints()


class MattePart(RasterPart):
    """The backdrop of a picture, as a matte that was found for it leaves it.

    The matte is named by the SHA-256 of its file; one of its pixels covers 2^`level`
    by 2^`level` of the picture's. How it was found is kept to be changed.
    """

    is_of_photo: ClassVar[bool] = True
    kind: Literal["matte"] = "matte"
    join: Join = Join.TAKE
    matte: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    level: Annotated[int, Field(ge=0, le=MAX_LEVEL)] = 0
    way: CutWay = CutWay.ITSELF
    hints: Hints = NO_HINTS
    network: PartId | None = None
    """Which network was asked, by its name; the usual one where none is named."""

    def steps(self, seeing: Seeing) -> tuple[Step, ...]:
        """Read what the matte leaves: 1 less how much is subject."""
        (step,) = super().steps(seeing)
        return (replace(step, inverted=not self.inverted),)

    @property
    def reads(self) -> Reads:
        """The matte; the picture too, since it can be found anew in it."""
        return Reads(pictures=(self.picture,), mattes=(self,))

    @property
    def raster(self) -> str:
        """Named by the matte and its size."""
        return f"matte-{self.matte}-{self.level}"

    @property
    def share(self) -> float:
        """How many of its pixels lie on one of the picture, along a side."""
        return 0.5**self.level

    @property
    def words(self) -> str:
        count = len(self.hints.strokes)
        said = WAY_WORDS[self.way]
        if count == 0:
            return said
        return f"{said}, {count} rough stroke{'s' if count > 1 else ''}"
