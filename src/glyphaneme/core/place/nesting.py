"""Placements within a group, seen from outside it, and the other way round.

A group is scaled in proportion only, so that one placement can always say what two
of them do one after the other.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glyphaneme.core.place.affine import canvas_to_source, source_to_canvas
from glyphaneme.core.place.limits import kept_position, kept_scale
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.place.placement import Placement


def placed_outside(
    inner: Placement, *, group: Placement, width: float, height: float
) -> Placement:
    """Return where something that lies in a group lies outside it.

    Parameters
    ----------
    inner : Placement
        Within the group.
    group : Placement
        The group's own, `scale_x` and `scale_y` equal.
    width, height : float, pixels
        Size of the group.

    Returns
    -------
    Placement
        What shows the same without the group; positions and scales kept within
        what a placement may hold.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> inner = Placement(x=10, y=5, scale_x=1, scale_y=1, turn=30)
    >>> group = Placement(x=100, y=50, scale_x=2, scale_y=2, flipped=True)
    >>> outer = placed_outside(inner, group=group, width=20, height=20)
    >>> outer.x, outer.y, outer.turn, outer.flipped
    (100.0, 40.0, -30.0, True)
    """
    there = source_to_canvas(group, width=width, height=height)
    x, y = there @ (inner.x, inner.y, 1)
    return _changed(
        inner,
        group,
        at=(float(x), float(y)),
        scale=group.scale_x,
        turn=group.turn + _sense(group) * inner.turn,
    )


def placed_inside(
    outer: Placement, *, group: Placement, width: float, height: float
) -> Placement:
    """Return the placement within a group that shows where `outer` lies.

    Parameters
    ----------
    outer : Placement
        Outside the group.
    group : Placement
        The group's own, `scale_x` and `scale_y` equal.
    width, height : float, pixels
        Size of the group.

    Returns
    -------
    Placement
        The inverse of `placed_outside`; positions and scales kept within
        what a placement may hold.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> group = Placement(x=100, y=50, scale_x=2, scale_y=2)
    >>> outer = Placement(x=100, y=40, scale_x=3, scale_y=3)
    >>> placed_inside(outer, group=group, width=20, height=20).y
    5.0
    """
    back = canvas_to_source(group, width=width, height=height)
    x, y = back @ (outer.x, outer.y, 1)
    return _changed(
        outer,
        group,
        at=(float(x), float(y)),
        scale=1 / group.scale_x,
        turn=_sense(group) * (outer.turn - group.turn),
    )


def wrapped_turn(degrees: float) -> float:
    """Keep an angle within half a turn either way.

    Parameters
    ----------
    degrees : float
        Any angle.

    Returns
    -------
    float, -180..180
        The same direction.

    Examples
    --------
    >>> wrapped_turn(270)
    -90.0
    """
    return math.remainder(degrees, 360.0)


def _sense(group: Placement) -> int:
    """Return -1 where the group is mirrored: turns within it run the other way."""
    return -1 if group.flipped != group.upended else 1


def _changed(
    placement: Placement,
    group: Placement,
    *,
    at: tuple[float, float],
    scale: float,
    turn: float,
) -> Placement:
    return with_fields(
        placement,
        x=kept_position(at[0]),
        y=kept_position(at[1]),
        scale_x=kept_scale(placement.scale_x * scale),
        scale_y=kept_scale(placement.scale_y * scale),
        turn=wrapped_turn(turn),
        flipped=placement.flipped != group.flipped,
        upended=placement.upended != group.upended,
    )
