"""Sheets that were rendered flat, kept while they do not change."""

from __future__ import annotations

from collections import OrderedDict
from threading import Lock
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Callable, Hashable

    from glyphaneme.core.place import Pyramid

BUDGET = 192 * 2**20


class Sheets:
    """Keeps sheets by what they are rendered from. Safe to use from several threads.

    Parameters
    ----------
    budget : int, bytes
        How much to keep; the least lately used goes first, the last one stays.
    """

    def __init__(self, budget: int = BUDGET) -> None:
        self._budget = budget
        self._kept: OrderedDict[Hashable, Pyramid] = OrderedDict()
        self._lock = Lock()

    def get(self, key: Hashable, make: Callable[[], Pyramid]) -> Pyramid:
        """Return a sheet, made where it is not at hand.

        Parameters
        ----------
        key : hashable
            All that it follows from.
        make : callable
            Renders it.

        Returns
        -------
        Pyramid
            At its size and smaller ones.
        """
        with self._lock:
            found = self._kept.get(key)
            if found is not None:
                self._kept.move_to_end(key)
                return found
        found = make()
        with self._lock:
            self._kept[key] = found
            size = sum(_bytes_of(one) for one in self._kept.values())
            while size > self._budget and len(self._kept) > 1:
                size -= _bytes_of(self._kept.popitem(last=False)[1])
        return found


def _bytes_of(pyramid: Pyramid) -> int:
    return sum(level.nbytes for level in pyramid.levels)
