"""Several pictures in one file: where they lie on a sheet of them."""

from __future__ import annotations

from typing import Annotated, Literal, NamedTuple, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

Gathered: TypeAlias = Literal["zip", "pages", "contact"]
GAP_MM = 6.0
NAME_MM = 6.0
"""How high the line is that a picture's name stands on."""


class ContactSheet(BaseModel):
    """Sheets with small pictures in rows, their names beneath; millimetres."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    columns: Annotated[int, Field(ge=1, le=20)] = 3
    rows: Annotated[int, Field(ge=1, le=20)] = 4
    width_mm: Annotated[float, Field(ge=50, le=2000, allow_inf_nan=False)] = 210.0
    height_mm: Annotated[float, Field(ge=50, le=2000, allow_inf_nan=False)] = 297.0
    margin_mm: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 15.0


class Cell(NamedTuple):
    """Where one picture lies on a sheet, and its name; millimetres."""

    left: float
    top: float
    width: float
    height: float
    name_top: float


def cell_of(sheet: ContactSheet, place: int, proportion: float) -> Cell:
    """Return where a picture lies on its sheet.

    Parameters
    ----------
    sheet : ContactSheet
        Rows and columns.
    place : int
        Which of the sheet's pictures, from 0, row by row.
    proportion : float
        The picture's width for its height.

    Returns
    -------
    Cell
        As large as its place lets it, in the middle of that.

    Examples
    --------
    >>> plain = ContactSheet(columns=2, rows=1, width_mm=106, height_mm=62, margin_mm=0)
    >>> cell_of(plain, 1, 1.0)
    Cell(left=56.0, top=3.0, width=50.0, height=50.0, name_top=56.0)
    """
    row, column = divmod(place, sheet.columns)
    room_wide = _share(sheet.width_mm, sheet.margin_mm, sheet.columns)
    room_high = _share(sheet.height_mm, sheet.margin_mm, sheet.rows)
    picture_high = max(room_high - NAME_MM, 1.0)
    width = min(room_wide, picture_high * proportion)
    height = width / proportion
    left = sheet.margin_mm + column * (room_wide + GAP_MM)
    top = sheet.margin_mm + row * (room_high + GAP_MM)
    return Cell(
        left + (room_wide - width) / 2,
        top + (picture_high - height) / 2,
        width,
        height,
        top + picture_high,
    )


def _share(whole: float, margin: float, count: int) -> float:
    return max((whole - 2 * margin - (count - 1) * GAP_MM) / count, 1.0)
