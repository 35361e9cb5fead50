"""Sheets that were rendered flat, kept while they do not change."""

from __future__ import annotations

import operator
from collections import OrderedDict
from threading import Lock
from typing import TYPE_CHECKING, NamedTuple

if TYPE_CHECKING:
    from collections.abc import Callable, Hashable

    from glyphaneme.core.place import Pyramid

BUDGET = 192 * 2**20


class Kept(NamedTuple):
    """A sheet, and what it was rendered from, which is held so that it stays itself."""

    sheet: Pyramid
    read: tuple[object, ...]


class Sheets:
    """Keeps sheets by what they are rendered from. Safe to use from several threads.

    Parameters
    ----------
    budget : int, bytes
        How much to keep; the least lately used goes first, the last one stays.
    """

    def __init__(self, budget: int = BUDGET) -> None:
        self._budget = budget
        self._kept: OrderedDict[Hashable, Kept] = OrderedDict()
        self._lock = Lock()

    def get(
        self, key: Hashable, read: tuple[object, ...], make: Callable[[], Pyramid]
    ) -> Pyramid:
        """Return a sheet, made where it is not at hand.

        Parameters
        ----------
        key : hashable
            All that it follows from, but for pixels.
        read : tuple
            Pictures and masks that it is rendered from, the same only if they are the
            very same: what is made quickly is made again where time is.
        make : callable
            Renders it.

        Returns
        -------
        Pyramid
            At its size and smaller ones.
        """
        with self._lock:
            kept = self._kept.get(key)
            if kept is not None and _are_same(kept.read, read):
                self._kept.move_to_end(key)
                return kept.sheet
        sheet = make()
        with self._lock:
            self._kept[key] = Kept(sheet, read)
            self._kept.move_to_end(key)
            size = sum(_bytes_of(one.sheet) for one in self._kept.values())
            while size > self._budget and len(self._kept) > 1:
                size -= _bytes_of(self._kept.popitem(last=False)[1].sheet)
        return sheet


def _are_same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return len(one) == len(other) and all(map(operator.is_, one, other))


def _bytes_of(pyramid: Pyramid) -> int:
    return sum(level.nbytes for level in pyramid.levels)
