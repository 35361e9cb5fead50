"""What was rendered beforehand, such as flat sheets, kept while it does not change."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple, Protocol, TypeVar, cast
from weakref import ReferenceType, ref

from glyphaneme.core.weighed import ENTRY, WeighedCache

if TYPE_CHECKING:
    from collections.abc import Callable, Hashable

BUDGET = 192 * 2**20


class Sized(Protocol):
    """Whatever knows how much memory it takes."""

    @property
    def nbytes(self) -> int:
        """How many bytes."""


Made = TypeVar("Made", bound=Sized)


class Sheet(NamedTuple):
    """What was rendered, and from which pixels; it keeps none of those alive."""

    made: Sized
    read: tuple[ReferenceType[object] | None, ...]

    @property
    def nbytes(self) -> int:
        """How many bytes it holds."""
        return self.made.nbytes + ENTRY

    def is_of(self, read: tuple[object, ...]) -> bool:
        """Tell whether it was rendered from the very same.

        Parameters
        ----------
        read : tuple
            Pictures and masks, or None.

        Returns
        -------
        bool
            False where one of those of before is gone.
        """
        return len(read) == len(self.read) and all(map(_is_one, read, self.read))


def _is_one(read: object, before: ReferenceType[object] | None) -> bool:
    """Tell whether pixels are those before; what is gone is none that can be read."""
    if read is None or before is None:
        return read is before
    return before() is read


class Sheets:
    """Keeps sheets by what they are rendered from. Safe to use from several threads.

    Parameters
    ----------
    budget : int, bytes
        How much to keep; the least lately used goes first, the last one stays.
    """

    def __init__(self, budget: int = BUDGET) -> None:
        self._kept: WeighedCache[Hashable, Sheet] = WeighedCache(
            budget, lambda one: one.nbytes
        )

    @property
    def size(self) -> int:
        """How many bytes are kept."""
        return self._kept.weight

    def get(
        self, key: Hashable, read: tuple[object, ...], make: Callable[[], Made]
    ) -> Made:
        """Return a sheet, made where it is not at hand.

        Parameters
        ----------
        key : hashable
            All that it follows from, but for pixels, and what it is.
        read : tuple
            Pictures and masks that it is rendered from, or None; the same only if they
            are the very same: what is made quickly is made again where time is.
        make : callable
            Renders it.

        Returns
        -------
        Made
            The very one that was made.
        """
        kept = self._kept.get(key)
        if kept is not None and kept.is_of(read):
            return cast("Made", kept.made)
        made = make()
        weak = tuple(None if one is None else ref(one) for one in read)
        self._kept.put(key, Sheet(made, weak))
        return made

    def clear(self) -> None:
        """Let go of everything."""
        self._kept.clear()
