"""A table of layers in which strokes alone have changed, and where that is seen."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.document.model import FlatLayer, Layer, members_of
from glyphaneme.core.document.reading import all_of
from glyphaneme.core.mask import PaintedPart
from glyphaneme.core.place import Rect
from glyphaneme.core.render.visibility import looks_around

if TYPE_CHECKING:
    from collections.abc import Callable, Container, Iterator, Sequence

    from pydantic import BaseModel

    from glyphaneme.core.mask import Mask
    from glyphaneme.core.mask.levels import Level
    from glyphaneme.core.mask.paintings import Painting
    from glyphaneme.core.mask.planes import Plane
    from glyphaneme.core.render.rows import Table
    from glyphaneme.core.render.views import View

UNCHANGED = Rect(0, 0, 0, 0)
STROKES = {"last", "strokes"}
INNER = {"mask", "layers"}
"""What of a layer may have strokes in it."""


class Repainted(NamedTuple):
    """A table, and the part of the view where it shows something else than before."""

    table: Table
    stale: Rect[int]


class Strokes(NamedTuple):
    """The last stroke of one part of a mask, before and after."""

    before: str
    after: str


def repainted(
    table: Table,
    strokes: tuple[Strokes, ...],
    painting_of: Callable[[str], Painting | None],
    view: View,
) -> Repainted | None:
    """Write other strokes into a table.

    Parameters
    ----------
    table : Table
        Of what was shown before; it stays unchanged.
    strokes : tuple of Strokes
        Those that differ, as `strokes_between` says.
    painting_of : callable
        Gives what strokes leave by the last one's id; None where it is not at hand.
    view : View
        What is shown.

    Returns
    -------
    Repainted or None
        None where the table must be written anew.
    """
    steps, stale = table.steps.copy(), UNCHANGED
    tiles, maps = steps["tiles"].tolist(), steps["to_step"].tolist()
    alive = {id(one): one for one in table.alive}
    for one in strokes:
        old, new = painting_of(one.before), painting_of(one.after)
        if old is None or new is None:
            return None
        levels = [
            (level, new.level_at(place))
            for place, level in old.levels.items()
            if id(level.cover) in alive
        ]
        # Where there is none, it is in pixels that were made before, or kept.
        if not levels or any(not _fits(*pair) for pair in levels):
            return None
        for level, now in levels:
            differs = now.differs_from(level)
            for was, plane in _planes_read(level, now):
                alive.pop(id(was), None)
                alive[id(plane)] = plane
                (address, _), found = was.addresses, plane.addresses
                for row in [row for row, at in enumerate(tiles) if at == address]:
                    steps["tiles"][row], steps["extremes"][row] = found
                    seen = _seen(differs, maps[row], view)
                    if seen is None:
                        return None
                    stale = stale.joined(seen)
    return Repainted(table._replace(steps=steps, alive=tuple(alive.values())), stale)


def _fits(level: Level, now: Level) -> bool:
    """Tell whether another level is read by the same steps, but for its tiles."""
    return now.reach == level.reach and now.shows == level.shows


def _planes_read(level: Level, now: Level) -> Iterator[tuple[Plane, Plane]]:
    yield level.cover, now.cover
    if level.shows:
        yield level.shown, now.shown


def strokes_between(
    before: tuple[Layer, ...], after: tuple[Layer, ...]
) -> tuple[Strokes, ...] | None:
    """Return which strokes differ between two piles.

    Parameters
    ----------
    before, after : tuple of Layer
        What shows of each, from back to front.

    Returns
    -------
    tuple of Strokes, or None
        None where more than strokes differs, or what differs counts for other pixels.
    """
    found = _between(before, after)
    if not found:
        return None if found is None else ()
    names = [
        part.last
        for layer in before
        for one in all_of(layer)
        if one.mask
        for part in one.mask.parts
        if isinstance(part, PaintedPart)
    ]
    alone = all(names.count(one.before) == 1 for one in found)
    return tuple(found) if alone else None


def _seen(
    differs: Rect[int] | None, to_plane: Sequence[float], view: View
) -> Rect[int] | None:
    """Return where some texels are seen in a view; None where none can tell."""
    a, b, c, d, e, f = to_plane
    flattened = a * e - b * d
    if not flattened:
        return None
    if differs is None:
        return UNCHANGED
    corners = [(x - c, y - f) for x in differs[::2] for y in differs[1::2]]
    across = [(e * x - b * y) / flattened for x, y in corners]
    down = [(a * y - d * x) / flattened for x, y in corners]
    seen = Rect(
        math.floor(min(across)) - 1,
        math.floor(min(down)) - 1,
        math.ceil(max(across)) + 1,
        math.ceil(max(down)) + 1,
    )
    return seen.within(Rect(0, 0, view.width, view.height))


def _between(
    before: tuple[Layer, ...], after: tuple[Layer, ...]
) -> list[Strokes] | None:
    if len(before) != len(after):
        return None
    found: list[Strokes] = []
    for one, other in zip(before, after, strict=True):
        if found and looks_around(other):
            return None
        if one is other:
            continue
        inner = _of_layer(one, other)
        if inner is None:
            return None
        found += inner
    return found


def _of_layer(one: Layer, other: Layer) -> list[Strokes] | None:
    if not _differing(one, other, besides=INNER) <= INNER:
        return None
    inner = _between(members_of(one), members_of(other))
    own = _of_mask(one.mask, other.mask)
    if inner is None or own is None:
        return None
    # An effect, or a frame that is bent, has its shape somewhere else.
    bent = isinstance(other, FlatLayer) and other.placement.is_warped
    return None if (inner or own) and (other.effects or bent) else inner + own


def _of_mask(one: Mask | None, other: Mask | None) -> list[Strokes] | None:
    if one is other:
        return []
    if one is None or other is None:
        return None
    alike = _differing(one, other, besides={"parts"}) <= {"parts"}
    if not alike or len(one.parts) != len(other.parts):
        return None
    found = []
    for before, after in zip(one.parts, other.parts, strict=True):
        differing = _differing(before, after)
        if not differing:
            continue
        if not (
            isinstance(before, PaintedPart)
            and isinstance(after, PaintedPart)
            and differing <= STROKES
            and before.last is not None
            and after.last is not None
        ):
            return None
        found.append(Strokes(before.last, after.last))
    # A photo's own colours follow from its whole mask.
    return None if found and other.cleaned else found


def _differing(
    one: BaseModel, other: BaseModel, *, besides: Container[str] = ()
) -> set[str]:
    """Return the names of the fields that differ; their kinds are one of them.

    Of some nothing but being the very same counts: what is in them is looked at later.
    """
    if one is other:
        return set()
    if type(one) is not type(other):
        return {"kind"}
    mine, others = one.__dict__, other.__dict__
    return {
        name
        for name, value in mine.items()
        if value is not others[name] and (name in besides or value != others[name])
    }
