"""Numbers that places are made of, and how far they reach."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

FARTHEST = 200_000.0
"""How far from the canvas's corner anything may lie, in pixels."""

LEAST_SCALE = 0.001
GREATEST_SCALE = 200.0

Position = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Scale = Annotated[float, Field(gt=0.0005, le=GREATEST_SCALE, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)]


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
