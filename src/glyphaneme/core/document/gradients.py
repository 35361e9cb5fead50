"""Gradients of two colours, straight or round."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.place import kept_position, wrapped_turn
from glyphaneme.core.place.placement import Degrees, Position
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

Color = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]
Opacity = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
LEAST_LENGTH = 1.0
GREATEST_LENGTH = 200_000.0
Length = Annotated[
    float, Field(ge=LEAST_LENGTH, le=GREATEST_LENGTH, allow_inf_nan=False)
]


class Stop(BaseModel):
    """One end of a gradient; `opacity` 0 is clear."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    color: Color
    opacity: Opacity = 1.0


class Gradient(BaseModel):
    """Two colours that run into one another.

    A linear one runs for `length` pixels in the direction of `angle` (0 to the
    right, clockwise), with its middle at `x`, `y`; a round one from `x`, `y` outwards.
    Beyond its ends the end's colour goes on. Colours are mixed premultiplied, on
    sRGB-encoded values, so that an end that is clear adds no colour of its own.

    Examples
    --------
    >>> dusk = Gradient(
    ...     x=50, y=50, length=100, start=Stop(color="#ff8000"),
    ...     end=Stop(color="#000040", opacity=0),
    ... )
    >>> dusk.shape
    'linear'
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    shape: Literal["linear", "round"] = "linear"
    x: Position
    y: Position
    length: Length
    angle: Degrees = 0.0
    start: Stop
    end: Stop


def way_along(gradient: Gradient) -> MatrixF64:
    """Map positions to how far along a gradient they lie.

    Parameters
    ----------
    gradient : Gradient
        Where it lies.

    Returns
    -------
    (2, 3) float64
        Columns map x, y and 1. Linear: the first row gives 0 at the start and 1 at
        the end. Round: the length of the two rows' vector does.

    Examples
    --------
    >>> ends = {"start": Stop(color="#000000"), "end": Stop(color="#ffffff")}
    >>> way = way_along(Gradient(x=50, y=0, length=100, **ends))
    >>> way @ (75, 20, 1)
    array([0.75, 0.  ])
    """
    share = 1 / gradient.length
    if gradient.shape == "round":
        return np.array(
            [[share, 0, -gradient.x * share], [0, share, -gradient.y * share]]
        )
    angle = math.radians(gradient.angle)
    across, down = math.cos(angle) * share, math.sin(angle) * share
    middle = 0.5 - across * gradient.x - down * gradient.y
    return np.array([[across, down, middle], [0, 0, 0]])


def moved_gradient(gradient: Gradient, way: MatrixF64) -> Gradient:
    """Return a gradient as it lies after everything round it has moved.

    Parameters
    ----------
    gradient : Gradient
        Where it lay.
    way : (2, 3) float64
        Columns map x, y and 1 to where that point lies now; scales in proportion.

    Returns
    -------
    Gradient
        Its place and length kept within what a gradient may hold.

    Examples
    --------
    >>> black, white = Stop(color="#000000"), Stop(color="#ffffff")
    >>> glow = Gradient(x=50, y=0, length=100, start=black, end=white)
    >>> moved_gradient(glow, np.array([[2, 0, 10], [0, 2, 0]])).x
    110.0
    """
    x, y = way @ (gradient.x, gradient.y, 1)
    angle = math.radians(gradient.angle)
    across, down = way[:, :2] @ (math.cos(angle), math.sin(angle))
    length = gradient.length * math.hypot(across, down)
    return with_fields(
        gradient,
        x=kept_position(x),
        y=kept_position(y),
        length=min(max(length, LEAST_LENGTH), GREATEST_LENGTH),
        angle=wrapped_turn(math.degrees(math.atan2(down, across))),
    )
