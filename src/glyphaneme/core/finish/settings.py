"""What a file shall be like, whatever picture it is made of: what a purpose sets."""

from __future__ import annotations

from typing import Annotated, Final, Literal, Self, TypeAlias

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.color import Color
from glyphaneme.core.finish.formats import FileFormat
from glyphaneme.core.finish.sizes import ShareSize, Size

LAYERED: Final = "openraster"
FORMATS: Final[tuple[str, ...]] = (*FileFormat, LAYERED)

LEAST_NEW_MM: Final = 10.0

ColorSpace: TypeAlias = Literal["srgb", "display_p3", "gray", "ink"]
Intent: TypeAlias = Literal["perceptual", "relative", "saturation", "absolute"]
ProfileId = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class Ground(BaseModel):
    """What a picture is laid on, in the middle, so that the file has that shape."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    across: Annotated[int, Field(ge=1, le=100)] = 1
    down: Annotated[int, Field(ge=1, le=100)] = 1
    color: Color = "#ffffff"


class Paper(BaseModel):
    """The paper of a printed page around and beneath the picture, in millimetres."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    bleed_mm: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 0.0
    bleed_from: Literal["enlarged", "beyond"] = "enlarged"
    """What fills the bleed: the picture, a little larger, or what lies beyond the
    sheet's edge."""
    marks: bool = False
    """Where the page is to be cut."""
    bar: bool = False
    """Patches of the inks, to measure the print by."""


class Tiling(BaseModel):
    """Sheets of paper that a poster is put together of, in millimetres."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    width_mm: Annotated[float, Field(ge=40, le=2000, allow_inf_nan=False)] = 210.0
    height_mm: Annotated[float, Field(ge=40, le=2000, allow_inf_nan=False)] = 297.0
    margin_mm: Annotated[float, Field(ge=0, le=15, allow_inf_nan=False)] = 6.0
    """What a printer cannot reach along the edges."""
    overlap_mm: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 10.0

    @model_validator(mode="after")
    def _goes_on(self) -> Self:
        new = min(self.width_mm, self.height_mm) - 2 * self.margin_mm - self.overlap_mm
        if new < LEAST_NEW_MM:
            message = (
                "each sheet must show at least 10 mm that its neighbour does not; "
                f"got {new:g} mm: take less overlap, narrower margins, larger paper"
            )
            raise ValueError(message)
        return self


class Coloring(BaseModel):
    """Which colours a file speaks of, and how they are reached."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    space: ColorSpace = "srgb"
    profile: ProfileId | None = None
    """The printer's, by its file; None is the one that ships."""
    intent: Intent = "relative"
    black_point: bool = True
    """Whether the darkest of one becomes the darkest of the other."""


class FileSettings(BaseModel):
    """What a file shall be like; what a format has no use for counts nothing."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    format: FileFormat | Literal["openraster"] = FileFormat.PNG
    size: Size = ShareSize()
    quality: Annotated[int, Field(ge=1, le=100)] = 90
    exact: bool = False
    """Whether WebP and PDF keep every pixel as it is."""
    fine_color: bool | None = None
    """Whether JPEG and AVIF keep colours as fine as lightness; None: from 90 on."""
    progressive: bool = False
    """Whether a JPEG comes into sight whole, and then sharper."""
    bits: Literal[8, 16] = 8
    packing: Literal["deflate", "lzw"] = "deflate"
    """Of a TIFF."""
    matte: Color = "#ffffff"
    """What lies behind see-through places, where a format has none."""
    coloring: Coloring = Coloring()
    ground: Ground | None = None
    paper: Paper = Paper()
    tiling: Tiling | None = None
    letters: Literal["letters", "lines", "pixels"] = "letters"
    """How a PDF holds words: to be selected and searched, as outlines, or as seen."""
    most_bytes: Annotated[int, Field(ge=1000, le=10**12)] | None = None
    """How large the file may be; quality, and then size, give way."""
    signed: bool = True
    """Whether the file says who made the picture and what it shows."""

    @model_validator(mode="after")
    def _holds_what_is_asked(self) -> Self:
        if self.format == LAYERED:
            return self
        facts = self.format.facts
        if self.bits == 16 and not facts.has_deep:
            message = f"16 bits a channel need a PNG or a TIFF; got {self.format}"
            raise ValueError(message)
        if self.coloring.space == "ink" and not facts.has_ink:
            message = (
                f"a printer's colours need a PDF, a TIFF or a JPEG; got {self.format}"
            )
            raise ValueError(message)
        if self.tiling is not None and self.format is not FileFormat.PDF:
            message = f"a poster over several sheets is a PDF; got {self.format}"
            raise ValueError(message)
        return self
