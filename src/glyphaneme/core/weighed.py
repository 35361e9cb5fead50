"""A cache that weighs what it holds, for whatever is kept between requests."""

from __future__ import annotations

from threading import Lock
from typing import TYPE_CHECKING, Generic, TypeVar

from cachetools import LRUCache

if TYPE_CHECKING:
    from collections.abc import Callable

KeyT = TypeVar("KeyT")
ValueT = TypeVar("ValueT")
ENTRY = 2**16
"""Bytes that an entry may count as besides its pixels: a key may hold many layers."""


class WeighedCache(Generic[KeyT, ValueT]):
    """Values by their keys; those least lately used are let go. Safe between threads.

    Parameters
    ----------
    limit : int
        How much all of them may weigh together. One that weighs more by itself is
        kept alone.
    weigh : callable, optional
        Tells how much a value weighs, asked once when it comes in: by then it must
        count what the value will come to hold. Without it each weighs 1.

    Examples
    --------
    >>> kept = WeighedCache(10, len)
    >>> kept.put("one", b"123456"), kept.put("two", b"12345")
    (b'123456', b'12345')
    >>> kept.get("one"), kept.get("two"), kept.weight
    (None, b'12345', 5)
    """

    def __init__(
        self, limit: int, weigh: Callable[[ValueT], int] = lambda _value: 1
    ) -> None:
        self._values: LRUCache[KeyT, ValueT] = LRUCache(
            limit, lambda value: min(weigh(value), limit)
        )
        self._lock = Lock()

    def __len__(self) -> int:
        """Count the values that are kept.

        Returns
        -------
        int
            However much they weigh.
        """
        with self._lock:
            return len(self._values)

    @property
    def weight(self) -> int:
        """How much is kept; a value over the limit counts as the limit.

        Returns
        -------
        int
            As the values were weighed.
        """
        with self._lock:
            return int(self._values.currsize)

    def get(self, key: KeyT) -> ValueT | None:
        """Return a value that is kept.

        Parameters
        ----------
        key : hashable
            Under which it was put.

        Returns
        -------
        value or None
            None where there is none, or it was let go.
        """
        with self._lock:
            return self._values.get(key)

    def put(self, key: KeyT, value: ValueT) -> ValueT:
        """Keep a value, in place of one that was kept under the same key.

        Parameters
        ----------
        key : hashable
            All that the value follows from.
        value : value
            Immutable, or safe between threads.

        Returns
        -------
        value
            The same.
        """
        with self._lock:
            self._values[key] = value
        return value

    def drop(self, is_gone: Callable[[KeyT], bool]) -> None:
        """Let go of some values.

        Parameters
        ----------
        is_gone : callable
            Tells by a key whether its value goes.
        """
        with self._lock:
            for key in [one for one in self._values if is_gone(one)]:
                del self._values[key]

    def clear(self) -> None:
        """Let go of everything."""
        with self._lock:
            self._values.clear()
