"""Joins what was changed of a list with what others changed of it meanwhile."""

from __future__ import annotations

from difflib import SequenceMatcher
from typing import TYPE_CHECKING, TypeVar

from glyphaneme.core.errors import ChangedElsewhereError

if TYPE_CHECKING:
    from collections.abc import Hashable, Iterator, Sequence

    Change = tuple[str, int, int, int, int]

LineT = TypeVar("LineT", bound="Hashable")


def merged(
    before: tuple[LineT, ...], wanted: tuple[LineT, ...], now: tuple[LineT, ...]
) -> tuple[LineT, ...]:
    """Change of a list as it is now those lines alone that were changed before.

    Parameters
    ----------
    before : tuple
        What was changed.
    wanted : tuple
        What it was changed to.
    now : tuple
        What others made of `before` meanwhile.

    Returns
    -------
    tuple
        A line that both changed is as it was wanted.

    Raises
    ------
    ChangedElsewhereError
        A line that was changed is not there any more, or lies among others.

    Examples
    --------
    >>> merged(("a", "b"), ("a", "B"), ("A", "b", "c"))
    ('A', 'B', 'c')
    >>> merged(("a", "b"), ("b",), ("a", "B", "c"))
    ('B', 'c')
    """
    if before in (now, wanted):
        return wanted if before == now else now
    places = dict(_places(before, now))
    found = list(now)
    for kind, first, end, begins, ends in reversed(_changes(before, wanted)):
        if kind == "insert":
            at = _place_for(first, before, places, len(now))
            found[at:at] = wanted[begins:ends]
        elif kind != "equal":
            lying = [places.get(line) for line in range(first, end)]
            start = lying[0]
            if start is None or lying != list(range(start, start + len(lying))):
                raise ChangedElsewhereError
            found[start : start + len(lying)] = wanted[begins:ends]
    return tuple(found)


def _changes(one: tuple[LineT, ...], other: tuple[LineT, ...]) -> Sequence[Change]:
    """Return what leads from one list to the other: kind, and lines of both."""
    return SequenceMatcher(None, one, other, autojunk=False).get_opcodes()


def _places(
    before: tuple[LineT, ...], now: tuple[LineT, ...]
) -> Iterator[tuple[int, int]]:
    """Yield where each line of a list lies now, as it was or changed."""
    for kind, first, end, begins, ends in _changes(before, now):
        if kind == "equal" or (kind == "replace" and end - first == ends - begins):
            yield from zip(range(first, end), range(begins, ends), strict=True)


def _place_for(
    line: int, before: tuple[LineT, ...], places: dict[int, int], length: int
) -> int:
    """Return where a line goes that was added: after its neighbour, or at the end."""
    if line == len(before):
        return length
    neighbour = places.get(line - 1)
    return places.get(line, length) if neighbour is None else neighbour + 1
