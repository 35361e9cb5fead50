"""How large a finished picture shall be, said without knowing the picture."""

from __future__ import annotations

from typing import Annotated, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

LONGEST_SIDE = 30_000
MM_PER_INCH = 25.4

Pixels = Annotated[int, Field(ge=1, le=LONGEST_SIDE)]
Millimetres = Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]
Ppi = Annotated[float, Field(ge=1, le=4800, allow_inf_nan=False)]


class ShareSize(BaseModel):
    """So many times the sheet."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    by: Literal["share"] = "share"
    share: Annotated[float, Field(ge=0.001, le=64, allow_inf_nan=False)] = 1.0


class WidthSize(BaseModel):
    """So many pixels wide."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    by: Literal["width"] = "width"
    width: Pixels


class LongestSize(BaseModel):
    """At most so many pixels on the longer side; nothing is enlarged."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    by: Literal["longest"] = "longest"
    longest: Pixels


class LeastSize(BaseModel):
    """At least so many pixels on the longer side; what is smaller is enlarged."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    by: Literal["least"] = "least"
    least: Pixels


class PaperSize(BaseModel):
    """So wide on paper, at so many pixels an inch.

    Without a width it is the sheet's own; without pixels an inch, as many as the sheet
    has there.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    by: Literal["paper"] = "paper"
    width_mm: Millimetres | None = None
    ppi: Ppi | None = None


Size: TypeAlias = Annotated[
    ShareSize | WidthSize | LongestSize | LeastSize | PaperSize,
    Field(discriminator="by"),
]


def width_for(size: Size, width: float, height: float, ppi: float) -> float:
    """Return how many pixels wide a picture shall be.

    Parameters
    ----------
    size : Size
        What is asked for.
    width, height : float
        What is shown of the sheet, in its pixels.
    ppi : float
        The sheet's pixels an inch.

    Returns
    -------
    float
        Not rounded.

    Examples
    --------
    >>> width_for(LongestSize(longest=100), 400, 200, 240)
    100.0
    >>> width_for(LongestSize(longest=1000), 400, 200, 240)
    400.0
    >>> width_for(PaperSize(ppi=120), 400, 200, 240)
    200.0
    """
    longer = max(width, height)
    match size:
        case ShareSize():
            return width * size.share
        case WidthSize():
            return float(size.width)
        case LongestSize():
            return width * min(1.0, size.longest / longer)
        case LeastSize():
            return width * max(1.0, size.least / longer)
        case PaperSize():
            pass
    inches = width / ppi if size.width_mm is None else size.width_mm / MM_PER_INCH
    return width if size.ppi is None else inches * size.ppi


def paper_width_for(size: Size, width: float, ppi: float) -> float:
    """Return how wide a picture shall be on paper.

    Parameters
    ----------
    size : Size
        What is asked for.
    width : float
        What is shown of the sheet, in its pixels.
    ppi : float
        The sheet's pixels an inch.

    Returns
    -------
    float, mm
        The sheet's own, where nothing else is asked for: more pixels are finer ones.
    """
    if isinstance(size, PaperSize) and size.width_mm is not None:
        return size.width_mm
    return width / ppi * MM_PER_INCH
