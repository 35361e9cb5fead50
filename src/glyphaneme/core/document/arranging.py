"""Several layers arranged by their edges and middles."""

from __future__ import annotations

from enum import StrEnum
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.document.grouping import lowered_through, on_canvas, outline_of
from glyphaneme.core.document.model import GroupLayer, PlacedLayer, WordsLayer
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.place import Placement, Rect, kept_position, source_to_canvas
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.arrays import PointsF64
    from glyphaneme.core.document.model import Composite

Move = tuple[float, float]


class Side(StrEnum):
    """What of layers comes to lie on one line."""

    LEFT = "left"
    CENTRE = "centre"
    RIGHT = "right"
    TOP = "top"
    MIDDLE = "middle"
    BOTTOM = "bottom"


ACROSS = (Side.LEFT, Side.CENTRE, Side.RIGHT)
SHARES = {
    Side.LEFT: 0.0,
    Side.CENTRE: 0.5,
    Side.RIGHT: 1.0,
    Side.TOP: 0.0,
    Side.MIDDLE: 0.5,
    Side.BOTTOM: 1.0,
}


def bounds_of(composite: Composite, layer_id: str) -> Rect[float]:
    """Return what a layer reaches over on the canvas.

    Parameters
    ----------
    composite : Composite
        In which it lies.
    layer_id : str
        Which layer; `LayerMissingError` where there is none.

    Returns
    -------
    Rect
        Of its frame, as it is turned and warped; of straight words from the height of
        their capitals to their last baseline, as the eye takes them.

    Raises
    ------
    NoSuchWorkError
        It lies everywhere.
    """
    lifted = on_canvas(composite.path_to(layer_id))
    if not isinstance(lifted, PlacedLayer):
        raise NoSuchWorkError(lifted.kind, "lies everywhere and has no place")
    points = _letters(lifted)
    if points is None:
        points = outline_of(lifted, composite.canvas)
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    return Rect(float(left), float(top), float(right), float(bottom))


def _letters(layer: PlacedLayer) -> PointsF64 | None:
    """Return the corners of what straight words are read by; None of all else."""
    if not isinstance(layer, WordsLayer) or layer.placement.is_warped:
        return None
    measure = layer.measure
    if not measure.baselines or layer.words.panel is not None:
        return None
    left, _, right, _ = measure.block
    top, bottom = measure.baselines[0] - measure.capital, measure.baselines[-1]
    size = {"width": layer.width, "height": layer.height}
    corners = np.array(
        [[left, top, 1], [right, top, 1], [right, bottom, 1], [left, bottom, 1]]
    )
    return np.asarray(corners @ source_to_canvas(layer.placement, **size).T)


def aligned(bounds: Sequence[Rect[float]], side: Side, to: Rect[float]) -> list[Move]:
    """Return by how much to move layers so that one side of each lies on one line.

    Parameters
    ----------
    bounds : sequence of Rect
        Of the layers.
    side : Side
        Which side, or their middles.
    to : Rect
        On whose side the line lies.

    Returns
    -------
    list of (float, float)
        Across and down, in pixels.

    Examples
    --------
    >>> aligned([Rect(10, 0, 30, 5)], Side.RIGHT, Rect(0, 0, 100, 50))
    [(70.0, 0.0)]
    """
    axis = 0 if side in ACROSS else 1
    share = SHARES[side]
    line = to.at(axis, share)
    return [_along(axis, line - one.at(axis, share)) for one in bounds]


def spaced(
    bounds: Sequence[Rect[float]], axis: int, within: Rect[float] | None
) -> list[Move]:
    """Return by how much to move layers so that all gaps between them are equal.

    Parameters
    ----------
    bounds : sequence of Rect
        Of the layers.
    axis : 0 or 1
        Across, or down.
    within : Rect or None
        What they share out, with gaps at its ends too; the outermost ones stay where
        that is not said.

    Returns
    -------
    list of (float, float)
        Across and down, in pixels; they keep their order. Gaps are negative where there
        is no room.

    Examples
    --------
    >>> row = [Rect(0, 0, 10, 9), Rect(15, 0, 25, 9), Rect(50, 0, 60, 9)]
    >>> spaced(row, 0, None)
    [(0.0, 0.0), (10.0, 0.0), (0.0, 0.0)]
    """
    order = sorted(range(len(bounds)), key=lambda place: bounds[place].at(axis, 0.5))
    filled = sum(one.size(axis) for one in bounds)
    if within is None:
        begin = bounds[order[0]].at(axis, 0)
        end = bounds[order[-1]].at(axis, 1)
        gap = (end - begin - filled) / max(len(bounds) - 1, 1)
        at = begin
    else:
        gap = (within.size(axis) - filled) / (len(bounds) + 1)
        at = within.at(axis, 0) + gap
    moves: list[Move] = [(0.0, 0.0)] * len(bounds)
    for place in order:
        moves[place] = _along(axis, at - bounds[place].at(axis, 0))
        at += bounds[place].size(axis) + gap
    return moves


def moved_on_canvas(composite: Composite, layer_id: str, move: Move) -> Placement:
    """Return the placement that moves a layer on the canvas, whatever group it is in.

    Parameters
    ----------
    composite : Composite
        In which it lies.
    layer_id : str
        Which layer.
    move : float, float, pixels
        Across and down.

    Returns
    -------
    Placement
        Within its group; positions kept within what a placement may hold.

    Raises
    ------
    NoSuchWorkError
        It lies everywhere.
    """
    path = composite.path_to(layer_id)
    lifted = on_canvas(path)
    if not isinstance(lifted, PlacedLayer):
        raise NoSuchWorkError(lifted.kind, "lies everywhere and has no place")
    place = lifted.placement
    x, y = kept_position(place.x + move[0]), kept_position(place.y + move[1])
    moved = with_fields(lifted, placement=with_fields(place, x=x, y=y))
    groups = [one for one in path[:-1] if isinstance(one, GroupLayer)]
    inside = lowered_through(moved, groups)
    return inside.placement if isinstance(inside, PlacedLayer) else place


def _along(axis: int, pixels: float) -> Move:
    return (float(pixels), 0.0) if axis == 0 else (0.0, float(pixels))
