"""What strokes leave, as pixels: how much they cover, and how much of that is shown."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels.masking import TILE, TILE_STRIDE
from glyphaneme.core.mask.planes import TILE_BYTES, Plane, address_of
from glyphaneme.core.mend import Area

if TYPE_CHECKING:
    from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.mask.strokes import Stroke

    Texels = NDArray[np.uint16]
    Covered = NDArray[np.float32]
    PointsF64 = NDArray[np.float64]

LEVELS = 6
WHOLE = 65535
LEAST_RADIUS = 0.5
SPARE = 4
BATCH = 32
"""How many tiles are painted at a time."""
STATION = TILE / 2
"""How far apart places on a brush's way are looked at."""
At = tuple[int, int]


class Channel(NamedTuple):
    """One of a tile's two channels, and what is known of it.

    `place` is the address of its (65, 65) uint16 pixels, or -1 - its value where it is
    even and has none; `least` and `most` are among 0..65535.
    """

    place: int
    least: int
    most: int
    pixels: Texels | None = None


class Tile(NamedTuple):
    """64 by 64 pixels, with the first row and column of the tiles beyond."""

    cover: Channel
    shown: Channel

    @property
    def texels(self) -> Texels:
        """Both channels as (2, 65, 65) uint16, made anew."""
        out = np.empty((2, TILE_STRIDE, TILE_STRIDE), np.uint16)
        for channel, into in zip(self, out, strict=True):
            into[:] = channel.least if channel.pixels is None else channel.pixels
        return out


NOTHING = Channel(-1, 0, 0)
NO_TILE = Tile(NOTHING, NOTHING)
NOTHING_PAINTED: Mapping[At, Tile] = {}


@dataclass(frozen=True)
class Level:
    """A painting at one size, as the kernel reads it.

    `left` and `top` say where the planes begin, in pixels of that size.
    """

    left: int
    top: int
    cover: Plane
    shown: Plane

    @property
    def reach(self) -> tuple[int, int, int, int]:
        """Left, top, right and bottom of the planes, in pixels of that size."""
        cover = self.cover
        return self.left, self.top, self.left + cover.columns, self.top + cover.rows

    @cached_property
    def shows(self) -> bool:
        """Whether anything is shown of what is covered; hiding strokes show nothing."""
        return bool(self.shown.extremes.any())

    def differs_from(self, other: Level) -> Area | None:
        """Return where it differs from another level of the same reach.

        Parameters
        ----------
        other : Level
            Of other strokes, at the same size.

        Returns
        -------
        Area or None
            In pixels of their planes; None where both are alike.

        Examples
        --------
        >>> from glyphaneme.core.mask.strokes import Stroke
        >>> dab = Stroke(points=((30, 30, 1),), size=20, softness=0)
        >>> once = painted_all(Painting(), [dab]).level_at(0)
        >>> once.differs_from(once) is None
        True
        """
        # Here, not above: loading a kernel takes a twentieth of a second at a start.
        from glyphaneme.core._kernels.painting import find_differences

        box = np.empty((2, 4), np.int64)
        find_differences(other.cover.tiles, self.cover.tiles, box[0])
        find_differences(other.shown.tiles, self.shown.tiles, box[1])
        tops, lefts, bottoms, rights = box.T.tolist()
        left, top, right, bottom = min(lefts), min(tops), max(rights), max(bottoms)
        if right < left:
            return None
        # Between the middles of two texels it is both: each reaches one further.
        return Area(left - 1, top - 1, right + 2, bottom + 2)


class Painting:
    """What strokes leave, at full, half, quarter … size; replaced whole, never changed.

    With c covered and s shown of that, what was m before is m (1 - c) + s after. Sizes
    are made when they are first asked for; what comes of another painting has those
    that the other had, with what differs made anew.

    Parameters
    ----------
    tiles : mapping of (row, column) to Tile
        By row and column of tiles at full size.
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
        """How much memory it takes."""
        pixels = {
            id(channel.pixels)
            for size in self._sizes.values()
            for tile in size.values()
            for channel in tile
            if channel.pixels is not None
        }
        return len(pixels) * TILE_BYTES

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
        return place, self.level_at(place)

    def level_at(self, place: int) -> Level:
        """Return a level by its place.

        Parameters
        ----------
        place : int
            How often it is halved; fewer than `LEVELS` times.

        Returns
        -------
        Level
            Made where it is not at hand.
        """
        if place not in self._levels:
            tiles = self._size(place)
            self._levels[place] = _level(tiles, None, tiles)
        return self._levels[place]

    @property
    def levels(self) -> Mapping[int, Level]:
        """Those that are at hand, by how often each is halved."""
        return self._levels

    def _size(self, place: int) -> Mapping[At, Tile]:
        if place not in self._sizes:
            finer = self._size(place - 1)
            self._sizes[place] = {at: _halved(finer, at) for at in _coarser(finer)}
        return self._sizes[place]

    def _take_over(self, before: Painting, dirty: set[At]) -> None:
        for place in sorted(before._sizes):
            if place:
                dirty = _coarser(dirty)
                finer = self._sizes[place - 1]
                changed = {at: _halved(finer, at) for at in dirty}
                self._sizes[place] = {**before._sizes[place], **changed}
            if place in before._levels:
                old = before._levels[place]
                self._levels[place] = _level(self._sizes[place], old, dirty)


NO_PAINTING = Painting()
"""What strokes are painted over where there are none yet."""


@dataclass(frozen=True)
class Underway:
    """A stroke that goes on: what it leaves, and what it covers for certain.

    `covered` holds, by tile, what all of it but its last segment covers: the hand may
    still move the last point.
    """

    stroke: Stroke
    under: Painting
    painting: Painting
    covered: Mapping[At, Covered] = field(repr=False)
    last: Collection[At] = field(repr=False)
    """Tiles that the last segment touches."""

    def goes_on(self, under: Painting, stroke: Stroke) -> bool:
        """Tell whether another stroke is this one with more points.

        Parameters
        ----------
        under : Painting
            What that one is painted over.
        stroke : Stroke
            The other one.

        Returns
        -------
        bool
            False where it begins otherwise, or is by another brush.
        """
        mine, other = self.stroke, stroke
        same = (mine.size, mine.softness, mine.strength, mine.shows)
        firm = mine.points[:-1]
        return (
            under is self.under
            and same == (other.size, other.softness, other.strength, other.shows)
            and len(other.points) >= len(mine.points)
            and other.points[: len(firm)] == firm
        )


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
    >>> painted_all(Painting(), [dab]).tiles[0, 0].texels[:, 30, 30].tolist()
    [65535, 65535]
    """
    tiles = dict(painting.tiles)
    touched: set[At] = set()
    for stroke in strokes:
        points = _brushed(stroke)
        changed = _laid(tiles, stroke, points, _tiles_near(points), {})
        tiles.update(changed)
        touched.update(changed)
    count = painting.strokes + len(strokes)
    return Painting(tiles, count, before=painting, touched=touched)


def painted_on(under: Painting, stroke: Stroke, before: Underway | None) -> Underway:
    """Paint a stroke that is under way, from where it was when last painted.

    Parameters
    ----------
    under : Painting
        What it is painted over; it stays unchanged.
    stroke : Stroke
        As far as it has come.
    before : Underway or None
        The same stroke earlier, or another one: that is passed over.

    Returns
    -------
    Underway
        Its painting is what `painted_all` makes of the stroke.
    """
    points = _brushed(stroke)
    firm, covered, known = points[:-1], {}, under
    redone: set[At] = set()
    if before is not None and before.goes_on(under, stroke):
        # Its last segment was not firm: the hand may have moved its end since.
        firm = points[max(len(before.stroke.points) - 2, 0) : -1]
        covered, known = dict(before.covered), before.painting
        redone = set(before.last)
    grown: set[At] = set()
    if len(firm) > 1:
        grown = _tiles_near(firm)
        covered.update(_covered(stroke, firm, grown, covered))
    last = points[-2:]
    ends = _tiles_near(last)
    redone |= grown | ends
    tiles = dict(known.tiles)
    for at in redone:
        tiles[at] = under.tiles.get(at, NO_TILE)
    tiles.update(_laid(tiles, stroke, last, redone, covered))
    painting = Painting(tiles, under.strokes + 1, before=known, touched=redone)
    return Underway(stroke, under, painting, covered, ends)


def _brushed(stroke: Stroke) -> PointsF64:
    """Return a stroke's points as x, y and radius."""
    points = np.array(stroke.points, np.float64)
    points[:, 2] = np.maximum(points[:, 2] * (stroke.size / 2), LEAST_RADIUS)
    return points


def _laid(
    tiles: Mapping[At, Tile],
    stroke: Stroke,
    points: PointsF64,
    wanted: Iterable[At],
    covered: Mapping[At, Covered],
) -> dict[At, Tile]:
    """Return the tiles that a stroke changes, as it leaves them."""
    # Here, not above: loading a kernel takes a twentieth of a second at every start.
    from glyphaneme.core._kernels.painting import lay_stroke

    kept = WHOLE if stroke.shows else 0
    changed = {}
    ordered = list(wanted)
    for first in range(0, len(ordered), BATCH):
        batch = ordered[first : first + BATCH]
        before = [tiles.get(at, NO_TILE) for at in batch]
        begun = [covered.get(at) for at in batch]
        fresh = [(_fresh(cover, WHOLE), _fresh(shown, kept)) for cover, shown in before]
        rows = [
            (
                *at,
                cover.place,
                shown.place,
                0 if start is None else address_of(start),
                one.place,
                other.place,
            )
            for at, (cover, shown), start, (one, other) in zip(
                batch, before, begun, fresh, strict=True
            )
        ]
        extremes = np.empty((len(rows), 2, 2), np.int64)
        lay_stroke(
            points,
            stroke.softness,
            stroke.strength,
            stroke.shows,
            np.array(rows, np.int64),
            extremes,
        )
        for at, (one, other), found in zip(
            batch, fresh, extremes.tolist(), strict=True
        ):
            (low, high), (least, most) = found
            if low <= high:
                changed[at] = Tile(
                    _laid_in(one, low, high), _laid_in(other, least, most)
                )
    return changed


def _covered(
    stroke: Stroke,
    points: PointsF64,
    wanted: Iterable[At],
    begun: Mapping[At, Covered],
) -> Iterator[tuple[At, Covered]]:
    """Yield what a stroke covers, tile by tile, from what it covered already."""
    from glyphaneme.core._kernels.painting import cover_tile

    for at in wanted:
        before = begun.get(at)
        here = _no_cover() if before is None else before.copy()
        cover_tile(
            points, stroke.softness, float(at[1] * TILE), float(at[0] * TILE), here
        )
        yield at, here


def _no_cover() -> Covered:
    return np.zeros((TILE_STRIDE, TILE_STRIDE), np.float32)


def _fresh(before: Channel, added: int) -> Channel:
    """Return room for what a stroke leaves of a channel; none where that stays even."""
    if before.place == -1 - added:
        return before
    texels = np.empty((TILE_STRIDE, TILE_STRIDE), np.uint16)
    return Channel(address_of(texels), 0, WHOLE, texels)


def _laid_in(room: Channel, least: int, most: int) -> Channel:
    """Return a channel with its pixels where they are not even."""
    if least == most:
        return Channel(-1 - least, least, most)
    return Channel(room.place, least, most, room.pixels)


def _channel(texels: Texels, least: int, most: int) -> Channel:
    return _laid_in(Channel(address_of(texels), least, most, texels), least, most)


def tile_from(cover: Texels | int, shown: Texels | int) -> Tile:
    """Return a tile that was kept somewhere.

    Parameters
    ----------
    cover, shown : (65, 65) uint16 or int
        Its channels, 0..65535; one value where a channel is even.

    Returns
    -------
    Tile
        Its pixels are those that were given.
    """
    return Tile(_kept(cover), _kept(shown))


def _kept(texels: Texels | int) -> Channel:
    if isinstance(texels, int):
        return Channel(-1 - texels, texels, texels)
    least, most = int(texels.min()), int(texels.max())
    return Channel(texels.ctypes.data, least, most, texels)


def _tiles_near(points: PointsF64) -> set[At]:
    """Return all tiles that a brush may touch on its way."""
    reach = float(points[:, 2].max()) + 1
    if len(points) > 1:
        reach += STATION / 2
    found: set[At] = set()
    for x, y in _stations(points):
        # A tile begins a pixel before its own: it has its neighbours' first ones.
        rows = range(
            math.floor((y - reach - 1) / TILE), math.floor((y + reach) / TILE) + 1
        )
        columns = range(
            math.floor((x - reach - 1) / TILE), math.floor((x + reach) / TILE) + 1
        )
        found.update((row, column) for row in rows for column in columns)
    return found


def _stations(points: PointsF64) -> Iterable[tuple[float, float]]:
    """Return points on the way that lie near one another, for a brush of some reach."""
    places = points[:, :2]
    if len(points) == 1:
        return [(float(places[0, 0]), float(places[0, 1]))]
    steps = np.hypot(*np.diff(places, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    wanted = np.linspace(0, along[-1], max(math.ceil(along[-1] / STATION), 1) + 1)
    xs = np.interp(wanted, along, places[:, 0])
    ys = np.interp(wanted, along, places[:, 1])
    return zip(xs.tolist(), ys.tolist(), strict=True)


def _coarser(dirty: Iterable[At]) -> set[At]:
    """Return the halved tiles that hold something of others: their own, and borders."""
    found: set[At] = set()
    for row, column in dirty:
        rows = (row // 2,) if row % 2 else (row // 2, row // 2 - 1)
        columns = (column // 2,) if column % 2 else (column // 2, column // 2 - 1)
        found.update((one, other) for one in rows for other in columns)
    return found


def _halved(finer: Mapping[At, Tile], at: At) -> Tile:
    """Average the four tiles below one, and the first pixels of those beyond."""
    from glyphaneme.core._kernels.painting import AROUND, halve_tiles

    row, column = 2 * at[0], 2 * at[1]
    around = [
        finer.get((row + down, column + across), NO_TILE)
        for down in range(AROUND)
        for across in range(AROUND)
    ]
    places = np.array(
        [[tile.cover.place for tile in around], [tile.shown.place for tile in around]],
        np.int64,
    )
    out = np.empty((2, TILE_STRIDE, TILE_STRIDE), np.uint16)
    extremes = np.empty((2, 2), np.int64)
    halve_tiles(places.reshape(2, AROUND, AROUND), out, extremes)
    (low, high), (least, most) = extremes.tolist()
    cover, shown = out
    return Tile(_channel(cover.copy(), low, high), _channel(shown.copy(), least, most))


def _level(
    tiles: Mapping[At, Tile], old: Level | None, changed: Collection[At]
) -> Level:
    """Lay the tiles of a level out, with a row and column of nothing all round.

    Where the old level has room for them, only what has changed is written anew.
    """
    room = _room_of(old)
    if room is None or not all(_lies_in(at, room) for at in changed):
        places = np.array(list(tiles) or [(0, 0)], np.int64)
        # Some more room, so that the next stroke has it.
        first, last = places.min(axis=0) - 1 - SPARE, places.max(axis=0) + 2 + SPARE
        room = (int(first[0]), int(first[1]), int(last[0]), int(last[1]))
        old, changed = None, tiles
    known = ((at, tiles.get(at, NO_TILE)) for at in changed)
    found = [(*at, *cover[:3], *shown[:3]) for at, (cover, shown) in known]
    written = np.array(found, np.int64).reshape(-1, 8)
    rows, columns = written[:, 0] - room[0], written[:, 1] - room[1]

    def plane(before: Plane | None, values: NDArray[np.int64]) -> Plane:
        shape = room[2] - room[0], room[3] - room[1]
        if before is None:
            addresses = np.full(shape, -1, np.int64)
            extremes = np.zeros((*shape, 2), np.uint16)
        else:
            addresses, extremes = before.tiles.copy(), before.extremes.copy()
        addresses[rows, columns] = values[:, 0]
        extremes[rows, columns] = values[:, 1:]
        return Plane(shape[0] * TILE, shape[1] * TILE, addresses, extremes, tiles)

    return Level(
        left=room[1] * TILE,
        top=room[0] * TILE,
        cover=plane(None if old is None else old.cover, written[:, 2:5]),
        shown=plane(None if old is None else old.shown, written[:, 5:]),
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
