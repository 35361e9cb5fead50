"""What strokes leave at one size: two planes of tiles, and how they are written."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cache, cached_property
from typing import TYPE_CHECKING, Final

import numpy as np

from glyphaneme.core._kernels.masking import TILE, TILE_STRIDE
from glyphaneme.core.mask.planes import TILE_BYTES, Plane, address_of
from glyphaneme.core.mask.tiles import Tiles
from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from collections.abc import Collection, Mapping
    from types import ModuleType

    from numpy.typing import NDArray

    from glyphaneme.core.mask.brushing import PointsF64
    from glyphaneme.core.mask.strokes import Stroke
    from glyphaneme.core.mask.tiles import At, Channel, Tile

    Covered = NDArray[np.float32]
    Texels = NDArray[np.uint16]
    Extremes = NDArray[np.uint16]

COVER, SHOWN = 0, 1
NOTHING: Final = (0, 0)
SHAPE = (TILE_STRIDE, TILE_STRIDE)
WHOLE = 65535
SPARE = 4
"""Tiles of room on every side, so that the next stroke has it."""
ENTRY = 256
"""Bytes of a tile's place among others."""
BATCH = 64
"""How many tiles are written at a time."""


@cache
def _kernels() -> ModuleType:
    # Here, not above: loading them takes a twentieth of a second at a start.
    from glyphaneme.core._kernels import painting

    return painting


@dataclass(frozen=True, eq=False)
class Level:
    """How much strokes cover at one size, and how much of that is shown.

    `top` and `left` say where both planes begin, in tiles. `places`, (2, rows, columns)
    int64, are the addresses of the pixels of tiles, or -1 - the value of what is even
    and has none; `extremes`, (2, rows, columns, 2) uint16, least and greatest values.
    `tiles` are those that something was painted on, by row and column: both channels,
    each its value, or its pixels, (65, 65) uint16, with the first row and column of the
    tiles beyond. All round lies a tile of nothing at least. `shows` tells whether
    anything may be shown of what is covered: hiding strokes show nothing.
    """

    top: int
    left: int
    places: NDArray[np.int64] = field(repr=False)
    extremes: NDArray[np.uint16] = field(repr=False)
    tiles: Tiles = field(repr=False)
    shows: bool

    @cached_property
    def cover(self) -> Plane:
        """How much is covered."""
        return self._plane(COVER)

    @cached_property
    def shown(self) -> Plane:
        """How much of that is shown."""
        return self._plane(SHOWN)

    def _plane(self, channel: int) -> Plane:
        places, extremes = self.places[channel], self.extremes[channel]
        rows, columns = places.shape
        return Plane(rows * TILE, columns * TILE, places, extremes, self.tiles)

    @property
    def nbytes(self) -> int:
        """How much memory it takes: the pixels of its tiles, and what finds them."""
        pixels = int(np.count_nonzero(self.places >= 0)) * TILE_BYTES
        finding = self.places.nbytes + self.extremes.nbytes + ENTRY * len(self.tiles)
        return pixels + finding

    @property
    def reach(self) -> Rect[int]:
        """Where its planes lie, in pixels of that size."""
        _, rows, columns = self.places.shape
        ends = self.left + columns, self.top + rows
        return Rect(*(TILE * each for each in (self.left, self.top, *ends)))

    def tile_at(self, at: At) -> tuple[Tile, Extremes]:
        """Return a tile, with least and greatest value of both its channels.

        Parameters
        ----------
        at : (row, column)
            Any: where nothing is painted, there is nothing.

        Returns
        -------
        tile : pair of int or (65, 65) uint16
            Its channels.
        extremes : (2, 2) uint16
            Of each.
        """
        tile = self.tiles.get(at)
        if tile is None:
            return NOTHING, np.zeros((2, 2), np.uint16)
        return tile, self.extremes[:, at[0] - self.top, at[1] - self.left]

    @property
    def texels(self) -> dict[At, Texels]:
        """Both channels of its tiles, as (2, 65, 65) uint16, made anew."""
        return {
            at: np.stack([np.broadcast_to(np.uint16(each), SHAPE) for each in tile])
            for at, tile in self.tiles.items()
        }

    def differs_from(self, other: Level) -> Rect[int] | None:
        """Return where it differs from another level of the same reach.

        Parameters
        ----------
        other : Level
            Of other strokes, at the same size.

        Returns
        -------
        Rect or None
            In pixels of their planes; None where both are alike.

        Examples
        --------
        >>> NOTHING_PAINTED.differs_from(NOTHING_PAINTED) is None
        True
        """
        apart = self.tiles.rows_apart(other.tiles)
        if not apart:
            return None
        first, end = min(apart) - self.top, max(apart) + 1 - self.top
        box = np.empty(4, np.int64)
        _kernels().find_differences(other.places, self.places, first, end, box)
        top, left, bottom, right = box.tolist()
        if right < left:
            return None
        # Between the middles of two texels it is both: each reaches one further.
        return Rect(left - 1, top - 1, right + 2, bottom + 2)

    def drafted(self, wanted: Collection[At]) -> Draft:
        """Return what some of its tiles are written in; it stays unchanged itself.

        Parameters
        ----------
        wanted : collection of (row, column)
            Which may be written.

        Returns
        -------
        Draft
            As large as this level, where that has room for them.
        """
        draft = Draft(
            self.top,
            self.left,
            self.places.copy(),
            self.extremes.copy(),
            Tiles(self.tiles),
            self.shows,
        )
        draft.make_room(wanted)
        return draft


@dataclass
class Draft:
    """A level that is being written, as `Level` has it."""

    top: int
    left: int
    places: NDArray[np.int64]
    extremes: NDArray[np.uint16]
    tiles: Tiles
    shows: bool

    @property
    def level(self) -> Level:
        """What was written; nothing more may be."""
        return Level(
            self.top, self.left, self.places, self.extremes, self.tiles, self.shows
        )

    def make_room(self, wanted: Collection[At]) -> None:
        """Widen it where it does not have some tiles and one more all round.

        Parameters
        ----------
        wanted : collection of (row, column)
            Which may be written.
        """
        if not wanted:
            return
        _, down, across = self.places.shape
        rows, columns = zip(*wanted, strict=True)
        top, left, bottom, right = min(rows), min(columns), max(rows), max(columns)
        if (
            self.top < top
            and bottom < self.top + down - 1
            and self.left < left
            and right < self.left + across - 1
        ):
            return
        before = self.level
        top, left = top - 1 - SPARE, left - 1 - SPARE
        bottom, right = bottom + 2 + SPARE, right + 2 + SPARE
        if before.tiles:
            top, left = min(top, before.top), min(left, before.left)
            bottom = max(bottom, before.top + down)
            right = max(right, before.left + across)
        self.top, self.left = top, left
        self.places, self.extremes = _planes(bottom - top, right - left)
        if before.tiles:
            rest = before.top - top, before.left - left
            inner = np.s_[:, rest[0] : rest[0] + down, rest[1] : rest[1] + across]
            self.places[inner], self.extremes[inner] = before.places, before.extremes

    def put(self, at: At, tile: Tile, extremes: Extremes) -> None:
        """Write a tile.

        Parameters
        ----------
        at : (row, column)
            Where; there is room for it.
        tile : pair of int or (65, 65) uint16
            Its channels, as `Level` has them.
        extremes : (2, 2) uint16
            Least and greatest value of each.
        """
        row, column = at[0] - self.top, at[1] - self.left
        self.tiles.put(at, tile)
        self.shows |= bool(extremes[SHOWN, 1])
        self.places[:, row, column] = [
            -1 - each if isinstance(each, int) else address_of(each) for each in tile
        ]
        self.extremes[:, row, column] = extremes

    def lay(
        self,
        stroke: Stroke,
        points: PointsF64,
        wanted: Collection[At],
        covered: Mapping[At, Covered],
    ) -> list[At]:
        """Lay a stroke over tiles.

        Parameters
        ----------
        stroke : Stroke
            Its softness, its strength and what it does count.
        points : (n, 3) float64
            Where it goes, as `brushed` returns it.
        wanted : collection of (row, column)
            Tiles that it may touch; there is room for them.
        covered : mapping of (row, column) to (65, 65) float32
            What it covers of some of them already, 0..1.

        Returns
        -------
        list of (row, column)
            Tiles that the stroke changes.
        """
        added = WHOLE, WHOLE if stroke.shows else 0
        self.shows |= stroke.shows
        changed: list[At] = []
        for batch in _batches(wanted):
            room = _Room(
                [
                    tuple(map(_room_over, self.tiles.get(at, NOTHING), added))
                    for at in batch
                ]
            )
            starts = [address_of(covered[at]) if at in covered else 0 for at in batch]
            rows = room.rows(batch, starts)
            _kernels().lay_stroke(
                points,
                stroke.softness,
                stroke.strength,
                stroke.shows,
                rows,
                self.top,
                self.left,
                self.places,
                self.extremes,
            )
            changed += self._take(room, rows)
        return changed

    def halve(self, finer: Level, wanted: Collection[At]) -> None:
        """Average the four tiles below each, and the first pixels of those beyond.

        Parameters
        ----------
        finer : Level
            At twice the size.
        wanted : collection of (row, column)
            Which are written; there is room for them.
        """
        for batch in _batches(wanted):
            room = _Room([(_room(), _room()) for _ in batch])
            rows = room.rows(batch, [0] * len(batch))
            _kernels().halve_tiles(
                finer.places,
                finer.top,
                finer.left,
                rows,
                self.top,
                self.left,
                self.places,
                self.extremes,
            )
            self._take(room, rows)
        self.shows |= finer.shows

    def _take(self, room: _Room, rows: NDArray[np.int64]) -> list[At]:
        taken = room.taken(rows)
        for at, tile in taken:
            self.tiles.put(at, tile)
        return [at for at, _ in taken]


@dataclass(frozen=True)
class _Room:
    """Pixels that tiles may take; none for channels that are even and stay so."""

    pixels: list[tuple[Texels | None, ...]]

    def rows(self, tiles: list[At], starts: list[int]) -> NDArray[np.int64]:
        """Return what the kernels take of each tile."""
        return np.array(
            [
                (*at, *(0 if one is None else address_of(one) for one in both), start)
                for at, both, start in zip(tiles, self.pixels, starts, strict=True)
            ]
        )

    def taken(self, rows: NDArray[np.int64]) -> list[tuple[At, Tile]]:
        """Return the tiles that were changed, by what kernels made of the rows."""
        return [
            (
                (row, column),
                (
                    -1 - cover if cover < 0 or one is None else one,
                    -1 - shown if shown < 0 or other is None else other,
                ),
            )
            for (row, column, cover, shown, changed), (one, other) in zip(
                rows.tolist(), self.pixels, strict=True
            )
            if changed
        ]


def _room() -> Texels:
    return np.empty(SHAPE, np.uint16)


def _room_over(channel: Channel, added: int) -> Texels | None:
    return None if isinstance(channel, int) and channel == added else _room()


def _batches(tiles: Collection[At]) -> list[list[At]]:
    ordered = list(tiles)
    return [ordered[at : at + BATCH] for at in range(0, len(ordered), BATCH)]


def _planes(rows: int, columns: int) -> tuple[NDArray[np.int64], NDArray[np.uint16]]:
    shape = (2, rows, columns)
    return np.full(shape, -1), np.zeros((*shape, 2), np.uint16)


NOTHING_PAINTED = Level(0, 0, *_planes(1, 1), Tiles(), shows=False)


def level_from(
    corners: NDArray[np.int64], evens: NDArray[np.int64], stacked: Texels
) -> Level:
    """Return a level whose tiles were kept somewhere.

    Parameters
    ----------
    corners : (n, 2) int64
        Rows and columns of tiles.
    evens : (n, 2) int64
        The value of each channel, 0..65535; less than 0 where it is not even.
    stacked : (m, 65, 65) uint16
        The pixels of those, in their order.

    Returns
    -------
    Level
        The pixels of its tiles are those that were given.

    Raises
    ------
    ValueError
        There are more or fewer pixels than channels that are not even, or others.
    """
    uneven = evens < 0
    alike = stacked.dtype == np.uint16 and stacked.shape[1:] == SHAPE
    if len(stacked) != np.count_nonzero(uneven) or (len(stacked) and not alike):
        raise ValueError(stacked.shape)
    pixels = iter(np.ascontiguousarray(stacked))
    tiles: dict[At, Tile] = {
        (row, column): (
            next(pixels) if cover < 0 else cover,
            next(pixels) if shown < 0 else shown,
        )
        for (row, column), (cover, shown) in zip(
            corners.tolist(), evens.tolist(), strict=True
        )
    }
    draft = NOTHING_PAINTED.drafted(tiles)
    for at, tile in tiles.items():
        extremes = [(np.min(each), np.max(each)) for each in tile]
        draft.put(at, tile, np.array(extremes, np.uint16))
    return draft.level
