"""Where pictures that come together lie, so that none hides another."""

from __future__ import annotations

import math
from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.place.limits import kept_scale
from glyphaneme.core.place.placement import Placement

MOST_TOGETHER = 500
MOST_APART = 24
"""More would be too small side by side: they lie shifted, one over another."""
USUAL_SHAPE = 4 / 3
"""Width to height of most photos: cells of a grid come near to it."""
GAP = 0.02
"""Between pictures side by side, of the sheet's shorter side."""
SHIFTED_SHARE = 0.6
"""Of the sheet's sides, what a picture covers at most among many."""
SHIFTS = 12
"""So many steps from the upper left to the lower right, then from the beginning."""


class Beside(BaseModel):
    """Which of how many pictures that come together one is."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    place: Annotated[int, Field(ge=0, lt=MOST_TOGETHER)]
    count: Annotated[int, Field(ge=1, le=MOST_TOGETHER)]

    @model_validator(mode="after")
    def _is_one_of_them(self) -> Self:
        if self.place >= self.count:
            raise ValueError("A place among several lies below their count")
        return self


def side_by_side(
    width: int, height: int, beside: Beside, *, canvas_width: int, canvas_height: int
) -> Placement:
    """Place one of several pictures so that each of them is seen.

    Up to `MOST_APART` of them share the canvas as cells of a grid, in reading order, a
    last row that is not full in the middle; each lies whole in the middle of its cell.
    More of them lie shifted, from the upper left to the lower right.

    Parameters
    ----------
    width, height : int, pixels
        Size of the picture.
    beside : Beside
        Which of how many it is.
    canvas_width, canvas_height : int, pixels
        Size of the canvas.

    Returns
    -------
    Placement
        Upright, in proportion, and at most at scale 1.

    Examples
    --------
    >>> beside = Beside(place=1, count=2)
    >>> place = side_by_side(400, 300, beside, canvas_width=800, canvas_height=300)
    >>> place.x, place.y, round(place.scale_x, 3)
    (600.0, 150.0, 0.98)
    """
    place, count = beside.place, beside.count
    if count > MOST_APART:
        start, step = SHIFTED_SHARE / 2, (1 - SHIFTED_SHARE) / (SHIFTS - 1)
        along = start + place % SHIFTS * step
        middle, room = (along, along), (SHIFTED_SHARE, SHIFTED_SHARE)
    else:
        columns = columns_for(count, canvas_width / canvas_height, USUAL_SHAPE)
        rows = math.ceil(count / columns)
        row, column = divmod(place, columns)
        in_row = columns if row < rows - 1 else count - row * columns
        left = (columns - in_row) / 2
        middle = (left + column + 0.5) / columns, (row + 0.5) / rows
        room = 1 / columns, 1 / rows
    gap = GAP * min(canvas_width, canvas_height) if count > 1 else 0
    scale = min(
        1.0,
        max(room[0] * canvas_width - gap, 1) / width,
        max(room[1] * canvas_height - gap, 1) / height,
    )
    return Placement(
        x=middle[0] * canvas_width,
        y=middle[1] * canvas_height,
        scale_x=kept_scale(scale),
        scale_y=kept_scale(scale),
    )


def columns_for(count: int, proportion: float, cell: float = 1.0) -> int:
    """Return in how many columns the cells of a grid come nearest to a shape.

    Parameters
    ----------
    count : int, 1..
        How many cells.
    proportion : float
        The grid's width by its height.
    cell : float
        The wanted one of a cell; square unless said.

    Returns
    -------
    int, 1..count
        The last row may not be full.

    Examples
    --------
    >>> columns_for(9, 1.0), columns_for(4, 1.0), columns_for(3, 3.0)
    (3, 2, 3)
    """

    def unlike(columns: int) -> float:
        rows = math.ceil(count / columns)
        return abs(math.log(proportion * rows / columns / cell))

    return min(range(1, count + 1), key=unlike)
