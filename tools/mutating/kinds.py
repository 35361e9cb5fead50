"""What a mutation is."""

from __future__ import annotations

from typing import NamedTuple


class Mutation(NamedTuple):
    """One place that is broken: `was` stands there once."""

    file: str
    was: str
    becomes: str
    tests: tuple[str, ...]


def of(
    file: str, tests: str, *changes: tuple[str, str], root: str = ""
) -> list[Mutation]:
    """Return the mutations of one file; `tests` are several names with spaces."""
    names = tuple(tests.split())
    return [Mutation(root + file, was, becomes, names) for was, becomes in changes]
