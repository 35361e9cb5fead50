"""Places that are mended: what was brushed over is filled from around."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.errors import MendLimitError
from glyphaneme.core.place import Rect
from glyphaneme.core.place.transform import pixel_size
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PointsF64

MAX_MENDS = 200
MAX_POINTS = 400
MAX_AREA = 12_000
"""Pixels that one of them may go over, each as often as it does."""
THINNEST = 4.0
"""Pixels: what is thinner takes as much time to fill."""
SAFELY = 1 - 1e-9
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


class Mend(BaseModel):
    """One place: a brush of `size` pixels led through points.

    Both are in the pixels of what is mended: a photo's own, or those of what a layer
    that mends lies in.

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

    def area(self, width: int, height: int, margin: int = 0) -> Rect[int]:
        """Return where in a picture it lies.

        Parameters
        ----------
        width, height : int, pixels
            The picture's.
        margin : int, pixels
            How much round it counts too.

        Returns
        -------
        Rect
            Empty where it lies beside the picture.

        Examples
        --------
        >>> Mend(id="m", points=((5, 5),), size=4).area(100, 6)
        Rect(left=2, top=2, right=8, bottom=6)
        """
        return self.box(margin).within(Rect(0, 0, width, height))

    def box(self, margin: int = 0) -> Rect[int]:
        """Return where it lies, however large what it lies in is.

        Parameters
        ----------
        margin : int, pixels
            How much round it counts too.

        Returns
        -------
        Rect
            Perhaps below 0.

        Examples
        --------
        >>> Mend(id="m", points=((1, 5),), size=4).box()
        Rect(left=-2, top=2, right=4, bottom=8)
        """
        points = np.array(self.points)
        reach = self.size / 2 + margin
        left, top = np.floor(points.min(axis=0) - reach).astype(int).tolist()
        right, bottom = np.ceil(points.max(axis=0) + reach).astype(int).tolist()
        return Rect(left - 1, top - 1, right + 1, bottom + 1)

    def carried(self, move: MatrixF64) -> Mend:
        """Return it as all that it lies in is moved, scaled and turned.

        Parameters
        ----------
        move : (2, 3) float64
            Maps positions; it scales alike across and down.

        Returns
        -------
        Mend
            Within its limits: narrower, and at last shorter, where it grew too large.

        Examples
        --------
        >>> twice = np.array([[2.0, 0, 1], [0, 2.0, 0]])
        >>> Mend(id="m", points=((5, 5),), size=4).carried(twice)
        Mend(id='m', points=((11.0, 10.0),), size=8.0, works=True)
        """
        points = np.column_stack([self.points, np.ones(len(self.points))]) @ move.T
        points = np.clip(points, -FARTHEST, FARTHEST)
        length = float(np.hypot(*np.diff(points, axis=0).T).sum())
        # The root of (length + size) size = MAX_AREA.
        widest = math.sqrt(length**2 / 4 + MAX_AREA) - length / 2
        size = min(self.size * pixel_size(move), max(widest * SAFELY, THINNEST))
        size = min(max(size, LEAST_SIZE), GREATEST_SIZE)
        kept = _cut(points, (MAX_AREA / max(size, THINNEST) - size) * SAFELY)
        places = tuple((x, y) for x, y in kept.tolist())
        return with_fields(self, points=places, size=size)

    @property
    def surroundings(self) -> Rect[int]:
        """Where all lies that it is filled from, perhaps below 0."""
        return self.box(AROUND)

    def hole(self, area: Rect[int]) -> NDArray[np.bool_]:
        """Return what of a part of the picture it covers.

        Parameters
        ----------
        area : Rect
            The part.

        Returns
        -------
        (H, W) bool
            As large as that.
        """
        free = np.ones((area.height, area.width), np.uint8)
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

    def squares(self, width: int, height: int) -> tuple[Rect[int], ...]:
        """Return the squares of a picture that it may touch.

        Parameters
        ----------
        width, height : int, pixels
            The picture's.

        Returns
        -------
        tuple of Rect
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
        whole = Rect(0, 0, width, height)
        squares = (
            Rect(left, top, left + SQUARE, top + SQUARE).within(whole)
            for top, left in ((row * SQUARE, column * SQUARE) for row, column in found)
        )
        return tuple(square for square in squares if not square.is_empty)


def _cut(points: PointsF64, longest: float) -> PointsF64:
    """Return a way up to some length."""
    steps = np.hypot(*np.diff(points, axis=0).T)
    far = np.concatenate([[0], np.cumsum(steps)])
    if far[-1] <= longest:
        return points
    last = int(np.searchsorted(far, longest))
    share = (longest - far[last - 1]) / steps[last - 1]
    end = points[last - 1] + share * (points[last] - points[last - 1])
    return np.vstack([points[:last], end])
