"""Placement of a layer: its middle, size, turn and mirroring."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Position = Annotated[float, Field(ge=-200_000, le=200_000, allow_inf_nan=False)]
Scale = Annotated[float, Field(gt=0.0005, le=200, allow_inf_nan=False)]
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
        Upright, in proportion, at most at scale 1.

    Examples
    --------
    >>> fit_placement(4000, 3000, canvas_width=2000, canvas_height=2000).scale_x
    0.5
    """
    scale = min(1.0, canvas_width / width, canvas_height / height)
    return Placement(
        x=canvas_width / 2, y=canvas_height / 2, scale_x=scale, scale_y=scale
    )
