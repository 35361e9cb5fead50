"""Where something runs: from one end to the other, or outwards."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, TypeVar

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.place.limits import Degrees, Position, kept_position
from glyphaneme.core.place.nesting import wrapped_turn
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

LEAST_LENGTH = 1.0
GREATEST_LENGTH = 200_000.0
Length = Annotated[
    float, Field(ge=LEAST_LENGTH, le=GREATEST_LENGTH, allow_inf_nan=False)
]


class Span(BaseModel):
    """A length in a direction: pixels, degrees clockwise from the right.

    What is straight has its middle at `x`, `y`; what is round runs from there outwards.

    Examples
    --------
    >>> Span(x=50, y=50, length=100).angle
    0.0
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: Position
    y: Position
    length: Length
    angle: Degrees = 0.0


SpanT = TypeVar("SpanT", bound=Span)


def moved_span(span: SpanT, move: MatrixF64) -> SpanT:
    """Return a span as it lies after everything round it has moved.

    Parameters
    ----------
    span : Span
        Where it lay.
    move : (2, 3) float64
        Columns map x, y and 1 to where that point lies now; scales in proportion.

    Returns
    -------
    Span
        Of the same class, its place and length kept within what a span may hold.

    Examples
    --------
    >>> moved_span(Span(x=50, y=0, length=100), np.array([[2, 0, 10], [0, 2, 0]])).x
    110.0
    """
    x, y = move @ (span.x, span.y, 1)
    angle = math.radians(span.angle)
    across, down = move[:, :2] @ (math.cos(angle), math.sin(angle))
    length = span.length * math.hypot(across, down)
    return with_fields(
        span,
        x=kept_position(x),
        y=kept_position(y),
        length=min(max(length, LEAST_LENGTH), GREATEST_LENGTH),
        angle=wrapped_turn(math.degrees(math.atan2(down, across))),
    )


def axes_of(span: Span) -> MatrixF64:
    """Map positions to the span's own axes, which begin at its point.

    Parameters
    ----------
    span : Span
        Where it lies.

    Returns
    -------
    (2, 3) float64
        Columns map x, y and 1 to how far along the span's direction a position lies
        and how far beside it, clockwise, both in lengths of the span.

    Examples
    --------
    >>> axes_of(Span(x=50, y=0, length=100)) @ (75, 20, 1)
    array([0.25, 0.2 ])
    """
    angle = math.radians(span.angle)
    across, down = math.cos(angle) / span.length, math.sin(angle) / span.length
    return np.array(
        [
            [across, down, -across * span.x - down * span.y],
            [-down, across, down * span.x - across * span.y],
        ]
    )
