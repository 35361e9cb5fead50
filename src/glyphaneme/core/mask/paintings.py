"""What strokes leave, as pixels: how much they cover, and how much of that is shown."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels.masking import TILE, TILE_STRIDE
from glyphaneme.core.mask.planes import Plane

if TYPE_CHECKING:
    from collections.abc import Collection, Iterator, Mapping, Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.mask.strokes import Stroke

    Tile = NDArray[np.uint16]
    Bytes = NDArray[np.uint8]

LEVELS = 6
WHOLE = 65535
LEAST_RADIUS = 0.5
SPARE = 4
At = tuple[int, int]
NO_TILE = np.zeros((2, TILE, TILE), np.uint16)
NO_TILE.setflags(write=False)
NOTHING_PAINTED: Mapping[At, Tile] = {}
BORDERED_BYTES = 2 * TILE_STRIDE * TILE_STRIDE


class Bordered(NamedTuple):
    """A tile as the kernel reads it, (2, 65, 65) uint8, and what is known of it.

    The first row and column of its neighbours lie round it. `entries` holds, for what
    is covered and what is shown, its place in a plane and its least and greatest value.
    """

    pixels: Bytes
    entries: tuple[tuple[int, int, int], tuple[int, int, int]]


@dataclass(frozen=True)
class Level:
    """A painting at one size: its tiles with borders, and both planes for the kernel.

    `left` and `top` say where the planes begin, in pixels of that size.
    """

    bordered: Mapping[At, Bordered]
    left: int
    top: int
    cover: Plane
    shown: Plane


class Painting:
    """What strokes leave, at full, half, quarter … size; replaced whole, never changed.

    With c covered and s shown of that, what was m before is m (1 - c) + s after. Sizes
    are made when they are first asked for; what comes of another painting has those
    that the other had, with what differs made anew.

    Parameters
    ----------
    tiles : mapping of (row, column) to (2, 64, 64) uint16
        By row and column of tiles at full size: covered and shown, 0..65535.
    strokes : int
        How many it is made of.
    before : Painting, optional
        What most of the tiles come from.
    touched : collection of (row, column)
        Which of them do not.
    """

    def __init__(
        self,
        tiles: Mapping[At, Tile] = NOTHING_PAINTED,
        strokes: int = 0,
        *,
        before: Painting | None = None,
        touched: Collection[At] = (),
    ) -> None:
        self.tiles = tiles
        self.strokes = strokes
        self._sizes: dict[int, Mapping[At, Tile]] = {0: tiles}
        self._levels: dict[int, Level] = {}
        if before is not None:
            self._take_over(before, set(touched))

    @property
    def nbytes(self) -> int:
        """How much memory it takes; tiles that are even are shared by all."""
        tiles = {id(tile) for size in self._sizes.values() for tile in size.values()}
        borders = {
            id(tile.pixels)
            for level in self._levels.values()
            for tile in level.bordered.values()
        }
        return len(tiles) * NO_TILE.nbytes + len(borders) * BORDERED_BYTES

    def level_for(self, pixel: float) -> tuple[int, Level]:
        """Choose the level that is not blown up.

        Parameters
        ----------
        pixel : float
            How many of the painting's pixels a shown one covers.

        Returns
        -------
        int, Level
            Its place, and the level.
        """
        wanted = math.floor(math.log2(pixel) + 1e-9) if pixel > 1 else 0
        place = min(wanted, LEVELS - 1)
        if place not in self._levels:
            tiles = self._size(place)
            around = _with_neighbours_before(set(tiles))
            self._levels[place] = _level(tiles, None, around)
        return place, self._levels[place]

    def _size(self, place: int) -> Mapping[At, Tile]:
        if place not in self._sizes:
            finer = self._size(place - 1)
            wanted = {(row // 2, column // 2) for row, column in finer}
            self._sizes[place] = {at: _halved(finer, at) for at in wanted}
        return self._sizes[place]

    def _take_over(self, before: Painting, dirty: set[At]) -> None:
        for place in sorted(before._sizes):
            if place:
                dirty = {(row // 2, column // 2) for row, column in dirty}
                finer = self._sizes[place - 1]
                changed = {at: _halved(finer, at) for at in dirty}
                self._sizes[place] = {**before._sizes[place], **changed}
            if place in before._levels:
                around = _with_neighbours_before(dirty)
                old = before._levels[place]
                self._levels[place] = _level(self._sizes[place], old, around)


def painted_all(painting: Painting, strokes: Sequence[Stroke]) -> Painting:
    """Paint strokes over what is there, one after the other.

    Parameters
    ----------
    painting : Painting
        It stays unchanged.
    strokes : sequence of Stroke
        The oldest first.

    Returns
    -------
    Painting
        Only tiles that the strokes touch are new.

    Examples
    --------
    >>> from glyphaneme.core.mask.strokes import Stroke
    >>> dab = Stroke(points=((30, 30, 1),), size=20, softness=0, shows=True)
    >>> painted_all(Painting(), [dab]).tiles[0, 0][:, 30, 30].tolist()
    [65535, 65535]
    """
    tiles = dict(painting.tiles)
    touched = set()
    for stroke in strokes:
        for at, covered in _covered_tiles(stroke):
            tiles[at] = _joined(tiles.get(at, NO_TILE), covered, shows=stroke.shows)
            touched.add(at)
    count = painting.strokes + len(strokes)
    return Painting(tiles, count, before=painting, touched=touched)


def _covered_tiles(stroke: Stroke) -> Iterator[tuple[At, NDArray[np.float32]]]:
    """Yield what a stroke covers, tile by tile, where that is anything."""
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core._kernels.painting import paint_stroke_into

    points = np.array(stroke.points, np.float64)
    points[:, 2] = np.maximum(points[:, 2] * stroke.size / 2, LEAST_RADIUS)
    reach = points[:, 2].max() + 1
    first = np.floor((points[:, :2].min(axis=0) - reach) / TILE).astype(int)
    last = np.floor((points[:, :2].max(axis=0) + reach) / TILE).astype(int) + 1
    wanted = _tiles_near(points, reach)
    for row, column in sorted(wanted):
        if not (first[1] <= row < last[1] and first[0] <= column < last[0]):
            continue
        covered = np.zeros((TILE, TILE), np.float32)
        left, top = float(column * TILE), float(row * TILE)
        near = _points_near(points, left, top, reach)
        for run in near:
            paint_stroke_into(run, stroke.softness, left, top, covered)
        covered *= np.float32(stroke.strength)
        if covered.any():
            yield (row, column), covered


def _tiles_near(points: NDArray[np.float64], reach: float) -> set[At]:
    """Return all tiles that a brush of that reach may touch on its way."""
    found: set[At] = set()
    ends = np.vstack([points[1:], points[-1:]])
    for (x, y, _), (to_x, to_y, _) in zip(points, ends, strict=True):
        steps = max(math.ceil(math.hypot(to_x - x, to_y - y) / TILE), 1)
        for step in range(steps + 1):
            share = step / steps
            across, down = x + share * (to_x - x), y + share * (to_y - y)
            wide = reach + TILE
            columns = range(
                math.floor((across - wide) / TILE),
                math.floor((across + wide) / TILE) + 1,
            )
            rows = range(
                math.floor((down - wide) / TILE), math.floor((down + wide) / TILE) + 1
            )
            found.update((row, column) for row in rows for column in columns)
    return found


def _points_near(
    points: NDArray[np.float64], left: float, top: float, reach: float
) -> list[NDArray[np.float64]]:
    """Return the runs of points whose segments may touch a tile."""
    if len(points) == 1:
        return [points]
    low = np.minimum(points[:-1, :2], points[1:, :2]) - reach
    high = np.maximum(points[:-1, :2], points[1:, :2]) + reach
    corner = np.array([left, top])
    near = ((low < corner + TILE) & (high > corner)).all(axis=1)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], near.astype(int), [0]])))
    return [
        np.ascontiguousarray(points[begin : end + 1])
        for begin, end in zip(edges[::2], edges[1::2], strict=True)
    ]


def _joined(before: Tile, covered: NDArray[np.float32], *, shows: bool) -> Tile:
    left = 1 - covered
    cover = before[0] * left + covered * WHOLE
    shown = before[1] * left + (covered * WHOLE if shows else 0)
    return _shared((np.stack([cover, shown]) + 0.5).astype(np.uint16))


_EVEN: dict[tuple[int, int], Tile] = {}
"""Tiles that are all hidden, or all shown, by what they are."""


def _shared(tile: Tile) -> Tile:
    """Return the one tile of its kind where it is even at either end, or the tile."""
    cover, shown = int(tile[0, 0, 0]), int(tile[1, 0, 0])
    if cover not in (0, WHOLE) or shown not in (0, WHOLE):
        return tile
    if (tile[0] != cover).any() or (tile[1] != shown).any():
        return tile
    return _EVEN.setdefault((cover, shown), tile)


def _halved(finer: Mapping[At, Tile], at: At) -> Tile:
    """Average four tiles into one."""
    row, column = 2 * at[0], 2 * at[1]
    both = [
        np.concatenate(
            [finer.get((row + down, column + across), NO_TILE) for across in (0, 1)],
            axis=2,
        )
        for down in (0, 1)
    ]
    whole = np.concatenate(both, axis=1).astype(np.uint32)
    total = (
        whole[:, ::2, ::2]
        + whole[:, 1::2, ::2]
        + whole[:, ::2, 1::2]
        + whole[:, 1::2, 1::2]
    )
    return _shared(((total + 2) // 4).astype(np.uint16))


def _with_neighbours_before(dirty: set[At]) -> set[At]:
    """Return tiles and those that hold their first rows and columns."""
    return {
        (row - down, column - across)
        for row, column in dirty
        for down in (0, 1)
        for across in (0, 1)
    }


def _bordered(tiles: Mapping[At, Tile], at: At) -> Bordered:
    row, column = at
    here = tiles.get(at, NO_TILE)
    right, below = tiles.get((row, column + 1)), tiles.get((row + 1, column))
    beyond = tiles.get((row + 1, column + 1))
    key = id(here)
    if right is below is beyond is here and key in _BORDERED_EVEN:
        return _BORDERED_EVEN[key]
    out = np.empty((2, TILE_STRIDE, TILE_STRIDE), np.uint16)
    out[:, :TILE, :TILE] = here
    out[:, :TILE, TILE] = (NO_TILE if right is None else right)[:, :, 0]
    out[:, TILE, :TILE] = (NO_TILE if below is None else below)[:, 0]
    out[:, TILE, TILE] = (NO_TILE if beyond is None else beyond)[:, 0, 0]
    pixels = ((out.astype(np.uint32) * 255 + WHOLE // 2) // WHOLE).astype(np.uint8)
    found = Bordered(pixels, (_entry(pixels[0]), _entry(pixels[1])))
    if right is below is beyond is here and any(
        here is even for even in _EVEN.values()
    ):
        _BORDERED_EVEN[key] = found
    return found


_BORDERED_EVEN: dict[int, Bordered] = {}
"""The same for tiles whose neighbours are the same, by the identity of the tile."""


def _entry(pixels: Bytes) -> tuple[int, int, int]:
    least, most = int(pixels.min()), int(pixels.max())
    place = -1 - least if least == most else pixels.ctypes.data
    return place, least, most


NOTHING = (-1, 0, 0)


def _level(
    tiles: Mapping[At, Tile],
    old: Level | None,
    changed: set[At],
) -> Level:
    """Lay the tiles of a level out, with a row and column of nothing all round.

    Where the old level has room for them, only what has changed is written anew.
    """
    bordered = dict(old.bordered) if old else {}
    for at in changed:
        tile = _bordered(tiles, at)
        if any(most for _, _, most in tile.entries):
            bordered[at] = tile
        else:
            bordered.pop(at, None)
    room = _room_of(old)
    if room is None or not all(_lies_in(at, room) for at in changed):
        places = np.array(list(bordered) or [(0, 0)], np.int64)
        # Some more room, so that the next stroke has it.
        first, last = places.min(axis=0) - 1 - SPARE, places.max(axis=0) + 2 + SPARE
        room = (int(first[0]), int(first[1]), int(last[0]), int(last[1]))
        old, changed = None, set(bordered)
    planes = [
        _plane_of_tiles(room, bordered, changed, channel, old) for channel in (0, 1)
    ]
    return Level(
        bordered=bordered,
        left=room[1] * TILE,
        top=room[0] * TILE,
        cover=planes[0],
        shown=planes[1],
    )


Room = tuple[int, int, int, int]


def _room_of(level: Level | None) -> Room | None:
    """Return a level's first row and column of tiles, and those beyond its last."""
    if level is None:
        return None
    top, left = level.top // TILE, level.left // TILE
    down, across = level.cover.tiles.shape
    return top, left, top + down, left + across


def _lies_in(at: At, room: Room) -> bool:
    """Tell whether a tile has a neighbour on every side."""
    return room[0] < at[0] < room[2] - 1 and room[1] < at[1] < room[3] - 1


def _plane_of_tiles(
    room: Room,
    bordered: Mapping[At, Bordered],
    changed: set[At],
    channel: int,
    old: Level | None,
) -> Plane:
    shape = room[2] - room[0], room[3] - room[1]
    if old is None:
        addresses = np.full(shape, -1, np.int64)
        extremes = np.zeros((*shape, 2), np.uint8)
    else:
        before = old.shown if channel else old.cover
        addresses, extremes = before.tiles.copy(), before.extremes.copy()
    for at in changed:
        tile = bordered.get(at)
        place, least, most = tile.entries[channel] if tile else NOTHING
        inside = at[0] - room[0], at[1] - room[1]
        addresses[inside] = place
        extremes[inside] = least, most
    rows, columns = shape[0] * TILE, shape[1] * TILE
    return Plane(rows, columns, addresses, extremes, bordered)
