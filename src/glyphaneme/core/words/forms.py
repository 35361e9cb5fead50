"""Lays lines along their form: each cluster is moved and turned as one."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.words.values import Arc, Circle, Fitted, Straight, Wave

if TYPE_CHECKING:
    from glyphaneme.core.words.values import Form

NEARLY_STRAIGHT = 0.01
"""Degrees by which a line is bent too little to tell."""


class Spot(NamedTuple):
    """Where the middle of a cluster comes to lie, and how it is turned."""

    x: float
    y: float
    turn: float
    """Radians, clockwise."""


class Ground(NamedTuple):
    """The straight block that a form bends; pixels."""

    middle: float
    """Across."""
    baseline: float
    """Of the first line."""
    width: float
    size: float
    """Of the em."""


def spot_along(form: Form, ground: Ground, x: float, baseline: float) -> Spot:
    """Lay a place of a straight block along a form.

    Parameters
    ----------
    form : Form
        Whichever.
    ground : Ground
        The block.
    x, baseline : float, pixels
        The place: across, and the baseline that it stands on.

    Returns
    -------
    Spot
        On an arc of radius r, what lies s along a baseline turns by s / r; further
        lines have other radii and the same angles.
    """
    match form:
        case Straight() | Fitted():
            return Spot(x, baseline, 0.0)
        case Arc(angle=angle):
            if abs(angle) < NEARLY_STRAIGHT:
                return Spot(x, baseline, 0.0)
            radius = max(ground.width, ground.size / 4) / math.radians(angle)
            return _round(ground, radius, 0.0, x, baseline)
        case Circle():
            radius = -form.radius if form.inside else form.radius
            begin = math.radians(form.start) - (math.pi if form.inside else 0.0)
            return _round(ground, radius, begin, x, baseline)
        case Wave():
            length = form.length * ground.size
            rise = form.height * ground.size
            phase = 2 * math.pi * ((x - ground.middle) / length + form.shift)
            slope = -rise * math.cos(phase) * 2 * math.pi / length
            return Spot(x, baseline - rise * math.sin(phase), math.atan(slope))


def _round(
    ground: Ground, radius: float, begin: float, x: float, baseline: float
) -> Spot:
    angle = begin + (x - ground.middle) / radius
    away = radius + (ground.baseline - baseline)
    return Spot(
        ground.middle + away * math.sin(angle),
        ground.baseline + radius - away * math.cos(angle),
        angle,
    )
