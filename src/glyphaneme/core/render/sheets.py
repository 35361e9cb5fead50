"""What was rendered beforehand, such as flat sheets, kept while it does not change."""

from __future__ import annotations

import operator
from collections import OrderedDict
from threading import Lock
from typing import TYPE_CHECKING, NamedTuple, Protocol, TypeVar, cast

if TYPE_CHECKING:
    from collections.abc import Callable, Hashable

BUDGET = 192 * 2**20


class Sized(Protocol):
    """Whatever knows how much memory it takes."""

    @property
    def nbytes(self) -> int:
        """How many bytes."""


Made = TypeVar("Made", bound=Sized)


class Kept(NamedTuple):
    """A sheet, and what it was rendered from, which is held so that it stays itself."""

    sheet: Sized
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
        self, key: Hashable, read: tuple[object, ...], make: Callable[[], Made]
    ) -> Made:
        """Return a sheet, made where it is not at hand.

        Parameters
        ----------
        key : hashable
            All that it follows from, but for pixels, and what it is.
        read : tuple
            Pictures and masks that it is rendered from, the same only if they are the
            very same: what is made quickly is made again where time is.
        make : callable
            Renders it.

        Returns
        -------
        Made
            The very one that was made.
        """
        with self._lock:
            kept = self._kept.get(key)
            if kept is not None and _are_same(kept.read, read):
                self._kept.move_to_end(key)
                return cast("Made", kept.sheet)
        sheet = make()
        with self._lock:
            self._kept[key] = Kept(sheet, read)
            self._kept.move_to_end(key)
            size = sum(one.sheet.nbytes for one in self._kept.values())
            while size > self._budget and len(self._kept) > 1:
                size -= self._kept.popitem(last=False)[1].sheet.nbytes
        return sheet


def _are_same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return len(one) == len(other) and all(map(operator.is_, one, other))
