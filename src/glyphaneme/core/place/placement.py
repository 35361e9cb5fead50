"""Placement of a layer: its middle, size, turn and mirroring."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

FARTHEST = 200_000.0
"""How far from the canvas's corner anything may lie, in pixels."""

LEAST_SCALE = 0.001
GREATEST_SCALE = 200.0

Position = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Scale = Annotated[float, Field(gt=0.0005, le=GREATEST_SCALE, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)]


class Placement(BaseModel):
    """Where a layer lies: canvas pixels, scale of the original, degrees clockwise.

    Mirroring happens before the turn: `flipped` exchanges left and right, `upended`
    top and bottom.

    Examples
    --------
    >>> Placement(x=400, y=300, scale_x=0.5, scale_y=0.5).turn
    0.0
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: Position
    y: Position
    scale_x: Scale
    scale_y: Scale
    turn: Degrees = 0.0
    flipped: bool = False
    upended: bool = False


def fit_placement(
    width: int, height: int, *, canvas_width: int, canvas_height: int
) -> Placement:
    """Place a picture whole in the middle of a canvas, never larger than life.

    Parameters
    ----------
    width, height : int, pixels
        Size of the picture.
    canvas_width, canvas_height : int, pixels
        Size of the canvas.

    Returns
    -------
    Placement
        Upright, in proportion, at most at scale 1, and never smaller than a placement
        may be.

    Examples
    --------
    >>> fit_placement(4000, 3000, canvas_width=2000, canvas_height=2000).scale_x
    0.5
    """
    scale = kept_scale(min(1.0, canvas_width / width, canvas_height / height))
    return Placement(
        x=canvas_width / 2, y=canvas_height / 2, scale_x=scale, scale_y=scale
    )


def kept_position(pixels: float) -> float:
    """Keep a position that follows from others within what a placement may hold.

    Parameters
    ----------
    pixels : float, pixels
        Any number.

    Returns
    -------
    float, -200000..200000
        The nearest that can be kept.

    Examples
    --------
    >>> kept_position(200_018.0)
    200000.0
    """
    return min(max(float(pixels), -FARTHEST), FARTHEST)


def kept_scale(scale: float) -> float:
    """Keep a scale that follows from others within what a placement may hold.

    Parameters
    ----------
    scale : float
        Any positive number.

    Returns
    -------
    float, 0.001..200
        The nearest that can be kept.

    Examples
    --------
    >>> kept_scale(1 / 30_000)
    0.001
    """
    return min(max(scale, LEAST_SCALE), GREATEST_SCALE)
