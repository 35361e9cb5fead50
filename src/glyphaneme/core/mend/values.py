"""Places of a photo that are mended: what was brushed over is filled from around."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, NamedTuple

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.errors import MendLimitError

if TYPE_CHECKING:
    from numpy.typing import NDArray

MAX_MENDS = 200
MAX_POINTS = 400
MAX_AREA = 12_000
"""Pixels that one of them may go over, each as often as it does."""
THINNEST = 4.0
"""Pixels: what is thinner takes as much time to fill."""
LEAST_SIZE = 1.0
GREATEST_SIZE = 100.0
FARTHEST = 60_000.0
AROUND = 160
"""So far round it, in pixels, a mend looks for what it is filled from."""
SPECK = 2.0
"""Of its width: what is longer is no speck."""
SQUARE = 512
"""Pixels along a side of the squares that are filled one by one."""

MendId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,40}$")]
Position = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Size = Annotated[float, Field(ge=LEAST_SIZE, le=GREATEST_SIZE, allow_inf_nan=False)]


class Area(NamedTuple):
    """Whole pixels, the latter two exclusive."""

    left: int
    top: int
    right: int
    bottom: int

    def meets(self, other: Area) -> bool:
        """Tell whether some pixels lie in both.

        Parameters
        ----------
        other : Area
            Of the same picture.

        Returns
        -------
        bool
            False where one of them is empty.

        Examples
        --------
        >>> Area(0, 0, 4, 4).meets(Area(3, 3, 9, 9))
        True
        """
        return max(self.left, other.left) < min(self.right, other.right) and max(
            self.top, other.top
        ) < min(self.bottom, other.bottom)


class Mend(BaseModel):
    """One place: a brush of `size` pixels led through points, in the photo's pixels.

    Examples
    --------
    >>> Mend(id="m", points=((5, 5),), size=12).words
    'a speck, 12 px'
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: MendId
    points: Annotated[
        tuple[tuple[Position, Position], ...],
        Field(min_length=1, max_length=MAX_POINTS),
    ]
    size: Size
    works: bool = True

    @model_validator(mode="after")
    def _can_be_filled(self) -> Mend:
        if (self.length + self.size) * max(self.size, THINNEST) > MAX_AREA:
            raise MendLimitError(MAX_AREA)
        return self

    @property
    def length(self) -> float:
        """How long the way through its points is, in pixels."""
        return float(np.hypot(*np.diff(np.array(self.points), axis=0).T).sum())

    @property
    def words(self) -> str:
        """What it seems to have been, and how wide it is."""
        kind = "a speck" if self.length < SPECK * self.size else "a scratch"
        return f"{kind}, {self.size:.3g} px"

    def area(self, width: int, height: int, margin: int = 0) -> Area:
        """Return where in a picture it lies.

        Parameters
        ----------
        width, height : int, pixels
            The picture's.
        margin : int, pixels
            How much round it counts too.

        Returns
        -------
        Area
            Empty where it lies beside the picture.

        Examples
        --------
        >>> Mend(id="m", points=((5, 5),), size=4).area(100, 6)
        Area(left=2, top=2, right=8, bottom=6)
        """
        points = np.array(self.points)
        reach = self.size / 2 + margin
        left, top = np.floor(points.min(axis=0) - reach).astype(int).tolist()
        right, bottom = np.ceil(points.max(axis=0) + reach).astype(int).tolist()
        bounds = min(right + 1, width), min(bottom + 1, height)
        return Area(max(left - (left > 0), 0), max(top - (top > 0), 0), *bounds)

    def hole(self, area: Area) -> NDArray[np.bool_]:
        """Return what of a part of the picture it covers.

        Parameters
        ----------
        area : Area
            The part.

        Returns
        -------
        (H, W) bool
            As large as that.
        """
        free = np.ones((area.bottom - area.top, area.right - area.left), np.uint8)
        # From corners, where positions count from, to the middles of pixels.
        points = np.array([*self.points, self.points[-1]])
        points -= (area.left + 0.5, area.top + 0.5)
        way = np.round(points).astype(np.int32)
        # A pixel of the way may lie just beyond the part, and reach into it.
        reach = math.ceil(self.size / 2) + 1
        free = np.pad(free, reach, constant_values=1)
        cv2.polylines(free, [way.reshape(-1, 1, 2) + reach], isClosed=False, color=0)
        far = cv2.distanceTransform(free, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
        covered = np.asarray(far <= self.size / 2)
        # Where nothing of the way lies near, no distance means anything.
        covered &= not free.all()
        return covered[reach:-reach, reach:-reach]

    def squares(self, width: int, height: int) -> tuple[Area, ...]:
        """Return the squares of a picture that it may touch.

        Parameters
        ----------
        width, height : int, pixels
            The picture's.

        Returns
        -------
        tuple of Area
            In the order of its way, each once and within the picture.
        """
        found: dict[tuple[int, int], None] = {}
        reach = self.size / 2 + 1
        points = np.array(self.points)
        for start, end in zip(points, [*points[1:], points[-1]], strict=True):
            steps = math.ceil(float(np.hypot(*(end - start))) / (SQUARE / 4)) + 1
            for at in np.linspace(start, end, steps):
                (left, top), (right, bottom) = (
                    np.floor((at + side) / SQUARE).astype(int).tolist()
                    for side in (-reach - SQUARE / 8, reach + SQUARE / 8)
                )
                for row in range(top, bottom + 1):
                    found |= dict.fromkeys((row, at) for at in range(left, right + 1))
        return tuple(
            Area(
                column * SQUARE,
                row * SQUARE,
                min((column + 1) * SQUARE, width),
                min((row + 1) * SQUARE, height),
            )
            for row, column in found
            if 0 <= row * SQUARE < height and 0 <= column * SQUARE < width
        )
