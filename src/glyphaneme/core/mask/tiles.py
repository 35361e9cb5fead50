"""Tiles by row and column, of which copies share all rows but those that they write."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, TypeAlias

if TYPE_CHECKING:
    from collections.abc import Iterator

    import numpy as np
    from numpy.typing import NDArray

At: TypeAlias = tuple[int, int]
Channel: TypeAlias = "NDArray[np.uint16] | int"
Tile: TypeAlias = tuple[Channel, Channel]


class Tiles(Mapping[At, Tile]):
    """Tiles by row and column.

    Thousands of them are copied with every stroke: only rows that are written are.

    Parameters
    ----------
    before : Tiles, optional
        What they begin with; it must not be written to any more.

    Examples
    --------
    >>> one = Tiles()
    >>> one.put((2, 3), (9, 0))
    >>> other = Tiles(one)
    >>> other.put((2, 4), (7, 7))
    >>> sorted(one), sorted(other)
    ([(2, 3)], [(2, 3), (2, 4)])
    """

    def __init__(self, before: Tiles | None = None) -> None:
        self._rows: dict[int, dict[int, Tile]] = {} if before is None else before.rows
        self._own: set[int] = set()

    @property
    def rows(self) -> dict[int, dict[int, Tile]]:
        """The tiles of each row, by column; the outer one is a copy."""
        return self._rows.copy()

    def put(self, at: At, tile: Tile) -> None:
        """Write a tile.

        Parameters
        ----------
        at : (row, column)
            Where.
        tile : pair of int or array
            What stands there from now on.
        """
        row, column = at
        if row not in self._own:
            self._own.add(row)
            self._rows[row] = self._rows.get(row, {}).copy()
        self._rows[row][column] = tile

    def rows_apart(self, other: Tiles) -> list[int]:
        """Return the rows that it does not share with others; no other row differs.

        Parameters
        ----------
        other : Tiles
            Any.

        Returns
        -------
        list of int
            In no order.

        Examples
        --------
        >>> one, other = Tiles(), Tiles()
        >>> one.put((2, 3), (9, 0))
        >>> one.rows_apart(other), one.rows_apart(Tiles(one))
        ([2], [])
        """
        mine, others = self._rows, other._rows
        rows = mine.keys() | others.keys()
        return [row for row in rows if mine.get(row) is not others.get(row)]

    def __getitem__(self, at: At) -> Tile:
        """Return a tile."""
        return self._rows[at[0]][at[1]]

    def __iter__(self) -> Iterator[At]:
        """Go through where tiles are, row by row."""
        for row, columns in self._rows.items():
            for column in columns:
                yield row, column

    def __len__(self) -> int:
        """Count the tiles."""
        return sum(map(len, self._rows.values()))
