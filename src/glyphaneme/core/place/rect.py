"""Rectangles by their sides: of whole pixels, or of positions."""

from __future__ import annotations

import math
from typing import Generic, NamedTuple, TypeVar, cast

Number = TypeVar("Number", bound=float, covariant=True)
Both = TypeVar("Both", bound=float)


class Rect(NamedTuple, Generic[Number]):
    """A rectangle by its sides, in pixels; right and bottom are exclusive."""

    left: Number
    top: Number
    right: Number
    bottom: Number

    @property
    def width(self) -> Number:
        """How far it reaches across; not above 0 where it is empty."""
        return cast("Number", self.right - self.left)

    @property
    def height(self) -> Number:
        """How far it reaches down; not above 0 where it is empty."""
        return cast("Number", self.bottom - self.top)

    @property
    def is_empty(self) -> bool:
        """Whether nothing lies in it."""
        return self.left >= self.right or self.top >= self.bottom

    @property
    def area(self) -> float:
        """Width times height; 0 where it is empty."""
        return 0 if self.is_empty else self.width * self.height

    @property
    def window(self) -> tuple[slice, slice]:
        """The rows and columns of an array that lie in it, where it is of pixels."""
        return (
            slice(math.floor(self.top), math.floor(self.bottom)),
            slice(math.floor(self.left), math.floor(self.right)),
        )

    def size(self, axis: int) -> Number:
        """Return how far it reaches along an axis.

        Parameters
        ----------
        axis : 0 or 1
            Across, or down.

        Returns
        -------
        int or float, pixels
            Width, or height.
        """
        return self.height if axis else self.width

    def at(self, axis: int, share: float) -> float:
        """Return a position between two opposite sides.

        Parameters
        ----------
        axis : 0 or 1
            Across, or down.
        share : float, 0..1
            0 for the left or upper side.

        Returns
        -------
        float, pixels
            Along the axis.
        """
        return self[axis] + share * self.size(axis)

    def meets(self, other: Rect[float]) -> bool:
        """Tell whether something lies in both.

        Parameters
        ----------
        other : Rect
            In the same pixels.

        Returns
        -------
        bool
            False where one of them is empty.

        Examples
        --------
        >>> Rect(0, 0, 4, 4).meets(Rect(3, 3, 9, 9))
        True
        """
        return not self.within(other).is_empty

    def within(self: Rect[Both], other: Rect[Both]) -> Rect[Both]:
        """Return what lies in both.

        Parameters
        ----------
        other : Rect
            In the same pixels.

        Returns
        -------
        Rect
            Empty where they do not meet.

        Examples
        --------
        >>> Rect(0, 0, 4, 4).within(Rect(2, -1, 9, 3))
        Rect(left=2, top=0, right=4, bottom=3)
        """
        return Rect(
            max(self.left, other.left),
            max(self.top, other.top),
            min(self.right, other.right),
            min(self.bottom, other.bottom),
        )

    def joined(self: Rect[Both], other: Rect[Both]) -> Rect[Both]:
        """Return the least one that both lie in.

        Parameters
        ----------
        other : Rect
            In the same pixels; where one is empty, the other is the answer.

        Returns
        -------
        Rect
            Empty where both are.

        Examples
        --------
        >>> Rect(1, 1, 4, 4).joined(Rect(3, 0, 9, 2))
        Rect(left=1, top=0, right=9, bottom=4)
        """
        if self.is_empty or other.is_empty:
            return other if self.is_empty else self
        return Rect(
            min(self.left, other.left),
            min(self.top, other.top),
            max(self.right, other.right),
            max(self.bottom, other.bottom),
        )

    def widened(self: Rect[Both], across: Both, down: Both) -> Rect[Both]:
        """Return it with some more on every side.

        Parameters
        ----------
        across, down : int or float, pixels
            How much.

        Returns
        -------
        Rect
            The larger one.

        Examples
        --------
        >>> Rect(0, 0, 4, 4).widened(1, 0)
        Rect(left=-1, top=0, right=5, bottom=4)
        """
        wider = Rect(
            self.left - across, self.top - down, self.right + across, self.bottom + down
        )
        return cast("Rect[Both]", wider)

    def snapped(self, step: int) -> Rect[int]:
        """Return the least one round it whose sides lie on every so many pixels.

        Parameters
        ----------
        step : int, pixels
            At least 1.

        Returns
        -------
        Rect of int
            With finite sides alone.

        Examples
        --------
        >>> Rect(-1, 0.5, 4, 9).snapped(4)
        Rect(left=-4, top=0, right=4, bottom=12)
        """
        low = (math.floor(one / step) * step for one in self[:2])
        high = (math.ceil(one / step) * step for one in self[2:])
        return Rect(*low, *high)
