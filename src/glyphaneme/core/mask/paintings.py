"""What strokes leave, as pixels: how much they cover, and how much of that is shown."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from threading import Lock
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core._kernels.masking import TILE
from glyphaneme.core.mask.brushing import brushed, tiles_near
from glyphaneme.core.mask.levels import NOTHING_PAINTED, SHAPE, Level

if TYPE_CHECKING:
    from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence

    from glyphaneme.core.mask.brushing import PointsF64
    from glyphaneme.core.mask.levels import Covered
    from glyphaneme.core.mask.strokes import Stroke
    from glyphaneme.core.mask.tiles import At

LEVELS = 6


class Painting:
    """What strokes leave, at full, half, quarter … size; replaced whole, never changed.

    Safe to use from several threads: a size that is made is made once.

    With c covered and s shown of that, what was m before is m (1 - c) + s after. Sizes
    are made when they are first asked for; what comes of another painting has those
    that the other had, with what differs made anew.

    Parameters
    ----------
    level : Level
        At full size.
    strokes : int
        How many it is made of.
    before : Painting, optional
        What most of it comes from.
    touched : collection of (row, column)
        Those of its tiles that do not.
    """

    def __init__(
        self,
        level: Level = NOTHING_PAINTED,
        strokes: int = 0,
        *,
        before: Painting | None = None,
        touched: Collection[At] = (),
    ) -> None:
        self.strokes = strokes
        self._levels = {0: level}
        self._lock = Lock()
        if before is not None:
            self._take_over(before, touched)

    @property
    def nbytes(self) -> int:
        """How much memory it takes at most, with all the sizes that may be asked for.

        A halved tile holds four, and borders of others: all take as much as the first.
        """
        finest, *coarser = self.levels.values()
        made = sum(level.nbytes for level in coarser)
        return finest.nbytes + max(made, finest.nbytes)

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
        with self._lock:
            while len(self._levels) <= place:
                finer = self._levels[len(self._levels) - 1]
                made = _halved(finer, NOTHING_PAINTED, _coarser(finer.tiles))
                self._levels[len(self._levels)] = made
            return self._levels[place]

    @property
    def levels(self) -> Mapping[int, Level]:
        """Those that are at hand now, by how often each is halved."""
        with self._lock:
            return dict(self._levels)

    def _take_over(self, before: Painting, touched: Collection[At]) -> None:
        for place, old in list(before.levels.items())[1:]:
            touched = _coarser(touched)
            self._levels[place] = _halved(self._levels[place - 1], old, touched)


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

    @property
    def nbytes(self) -> int:
        """How much memory it takes, with what it leaves."""
        covered = sum(one.nbytes for one in self.covered.values())
        return self.painting.nbytes + covered

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
    >>> painted_all(Painting(), [dab]).level_at(0).texels[0, 0][:, 30, 30].tolist()
    [65535, 65535]
    """
    draft = painting.level_at(0).drafted(())
    touched: set[At] = set()
    for stroke in strokes:
        points = brushed(stroke)
        wanted = tiles_near(points)
        draft.make_room(wanted)
        touched.update(draft.lay(stroke, points, wanted, {}))
    count = painting.strokes + len(strokes)
    return Painting(draft.level, count, before=painting, touched=touched)


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
    points = brushed(stroke)
    firm, covered, known = points[:-1], {}, under
    redone: set[At] = set()
    if before is not None and before.goes_on(under, stroke):
        # Its last segment was not firm: the hand may have moved its end since.
        firm = points[max(len(before.stroke.points) - 2, 0) : -1]
        covered, known = dict(before.covered), before.painting
        redone.update(before.last)
    if len(firm) > 1:
        grown = tiles_near(firm)
        covered.update(_covered(stroke, firm, grown, covered))
        redone |= grown
    last = points[-2:]
    ends = tiles_near(last)
    redone |= ends
    draft = known.level_at(0).drafted(redone)
    beneath = under.level_at(0)
    for at in redone:
        draft.put(at, *beneath.tile_at(at))
    draft.lay(stroke, last, redone, covered)
    painting = Painting(draft.level, under.strokes + 1, before=known, touched=redone)
    return Underway(stroke, under, painting, covered, ends)


def _covered(
    stroke: Stroke,
    points: PointsF64,
    wanted: Iterable[At],
    begun: Mapping[At, Covered],
) -> Iterator[tuple[At, Covered]]:
    """Yield what a stroke covers, tile by tile, from what it covered already."""
    # Here, not above: loading a kernel takes a twentieth of a second at a start.
    from glyphaneme.core._kernels.painting import cover_tile

    for at in wanted:
        here = begun[at].copy() if at in begun else np.zeros(SHAPE, np.float32)
        top, left = float(at[0] * TILE), float(at[1] * TILE)
        cover_tile(points, stroke.softness, left, top, here)
        yield at, here


def _coarser(tiles: Iterable[At]) -> set[At]:
    """Return the halved tiles that hold something of others: their own, and borders."""
    found: set[At] = set()
    for row, column in tiles:
        rows = (row // 2,) if row % 2 else (row // 2, row // 2 - 1)
        columns = (column // 2,) if column % 2 else (column // 2, column // 2 - 1)
        found.update((one, other) for one in rows for other in columns)
    return found


def _halved(finer: Level, old: Level, wanted: Collection[At]) -> Level:
    """Return a level as it was, with some tiles made of the finer one."""
    draft = old.drafted(wanted)
    draft.halve(finer, wanted)
    return draft.level
