"""Strokes of a brush: values that name the one before, so that histories share them."""

from __future__ import annotations

import hashlib
import json
import math
from itertools import pairwise
from typing import TYPE_CHECKING, Annotated

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core._kernels.masking import TILE
from glyphaneme.core.errors import StrokeLimitError, StrokeMissingError

if TYPE_CHECKING:
    from collections.abc import Sequence

MAX_STROKES = 5000
MAX_POINTS = 2000
MAX_AREA = 200_000_000
"""Pixels that a stroke may go over, each as often as it does."""

LEAST_SIZE = 1.0
GREATEST_SIZE = 4000.0
FARTHEST_POINT = 60_000.0

StrokeId = Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
Coordinate = Annotated[
    float, Field(ge=-FARTHEST_POINT, le=FARTHEST_POINT, allow_inf_nan=False)
]
Pressure = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Point = tuple[Coordinate, Coordinate, Pressure]
BrushSize = Annotated[
    float, Field(ge=LEAST_SIZE, le=GREATEST_SIZE, allow_inf_nan=False)
]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Stroke(BaseModel):
    """One stroke: points of x, y and pressure in the mask's own pixels.

    The brush is `size` pixels wide at full pressure; the outer share `softness` of its
    radius falls off. It covers by `strength`, and what it covers is then shown, where
    `shows`, or hidden.

    Examples
    --------
    >>> Stroke(points=((5, 5, 1),), size=20, shows=False).softness
    0.5
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    points: Annotated[tuple[Point, ...], Field(min_length=1, max_length=MAX_POINTS)]
    size: BrushSize
    softness: Share = 0.5
    strength: Share = 1.0
    shows: bool = False

    @model_validator(mode="after")
    def _can_be_painted(self) -> Stroke:
        if self.area > MAX_AREA:
            raise StrokeLimitError(MAX_AREA)
        return self

    @property
    def area(self) -> float:
        """About how many pixels the brush goes over, each as often as it does.

        They are kept in tiles: it counts as being as wide as one at least.
        """
        steps = sum(math.dist(one[:2], two[:2]) for one, two in pairwise(self.points))
        wide = max(self.size, TILE)
        return (steps + len(self.points) * wide) * wide


def stroke_id(previous: str | None, stroke: Stroke) -> str:
    """Name a stroke by what it is and which one lies before it.

    Parameters
    ----------
    previous : str or None
        Id of the stroke before it; None for the first.
    stroke : Stroke
        The stroke.

    Returns
    -------
    str
        SHA-256 of both, in hexadecimal digits.

    Examples
    --------
    >>> dab = Stroke(points=((5, 5, 1),), size=20)
    >>> stroke_id(None, dab) == stroke_id(None, dab) != stroke_id("0" * 64, dab)
    True
    """
    said = json.dumps([previous, stroke.model_dump(mode="json")], sort_keys=True)
    return hashlib.sha256(said.encode()).hexdigest()


class NamedStroke(BaseModel):
    """A stroke with its name, and that of the one before it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: StrokeId
    previous: StrokeId | None
    stroke: Stroke


def require_strokes_named(strokes: Sequence[NamedStroke]) -> None:
    """Require strokes that are what their names say, each after the one before it.

    Parameters
    ----------
    strokes : sequence of NamedStroke
        Such as another machine wrote them.

    Raises
    ------
    StrokeMissingError
        One is not what it is called, or the one before it is not there.
    """
    known: set[str | None] = {None}
    for named in strokes:
        same = stroke_id(named.previous, named.stroke) == named.id
        if not same or named.previous not in known:
            raise StrokeMissingError
        known.add(named.id)


def thinned(stroke: Stroke) -> Stroke:
    """Leave out points that change nothing to be seen.

    Parameters
    ----------
    stroke : Stroke
        As the hand gave it.

    Returns
    -------
    Stroke
        Points nearer to the one before than a hundredth of the brush are left out, but
        for the last; positions are rounded to a hundredth of a pixel.

    Examples
    --------
    >>> near = Stroke(points=((5, 5, 1), (5.001, 5, 1), (9, 5, 1)), size=20)
    >>> len(thinned(near).points)
    2
    """
    least = stroke.size / 100
    kept = [stroke.points[0]]
    for point in stroke.points[1:]:
        if math.hypot(point[0] - kept[-1][0], point[1] - kept[-1][1]) >= least:
            kept.append(point)
    if kept[-1] != stroke.points[-1] and len(kept) > 1:
        kept[-1] = stroke.points[-1]
    points = tuple((round(x, 2), round(y, 2), round(p, 3)) for x, y, p in kept)
    return stroke.model_copy(update={"points": points})
