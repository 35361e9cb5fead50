"""What of a photo is left in sight: a frame that the photo lies in."""

from __future__ import annotations

import math
from enum import StrEnum
from typing import TYPE_CHECKING, Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.place.limits import Degrees, Position, Scale

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

LEAST_FRAME = 1.0
GREATEST_FRAME = 200_000.0
FrameSide = Annotated[
    float, Field(ge=LEAST_FRAME, le=GREATEST_FRAME, allow_inf_nan=False)
]


class FrameShape(StrEnum):
    """Which outline a frame has."""

    RECTANGLE = "rectangle"
    ELLIPSE = "ellipse"


class Crop(BaseModel):
    """A frame, and how the photo lies in it; what lies beyond the frame is not seen.

    The photo's pixel `x`, `y` lies in the frame's middle, `zoom` pixels of the frame
    show one of the photo, which is turned in it by `turn` degrees clockwise. `corner`
    is the radius of a rectangle's corners, in the frame's pixels.

    Examples
    --------
    >>> Crop(x=300, y=200, width=200, height=200).zoom
    1.0
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: Position
    y: Position
    width: FrameSide
    height: FrameSide
    zoom: Scale = 1.0
    turn: Degrees = 0.0
    shape: FrameShape = FrameShape.RECTANGLE
    corner: Annotated[float, Field(ge=0, le=1e5, allow_inf_nan=False)] = 0.0

    @property
    def radius(self) -> float:
        """Radius of the frame's corners, at most half its shorter side."""
        return min(self.corner, self.width / 2, self.height / 2)

    @property
    def to_frame(self) -> MatrixF64:
        """Map the photo's pixels to the frame's, as a (2, 3) float64 matrix."""
        angle = math.radians(self.turn)
        cosine, sine = self.zoom * math.cos(angle), self.zoom * math.sin(angle)
        return _about(
            np.array([[cosine, -sine], [sine, cosine]]),
            (self.x, self.y),
            (self.width / 2, self.height / 2),
        )

    @property
    def to_photo(self) -> MatrixF64:
        """Map the frame's pixels to the photo's, as a (2, 3) float64 matrix."""
        angle = math.radians(self.turn)
        cosine, sine = math.cos(angle) / self.zoom, math.sin(angle) / self.zoom
        return _about(
            np.array([[cosine, sine], [-sine, cosine]]),
            (self.width / 2, self.height / 2),
            (self.x, self.y),
        )


def _about(
    linear: MatrixF64, middle: tuple[float, float], onto: tuple[float, float]
) -> MatrixF64:
    return np.column_stack([linear, np.array(onto) - linear @ middle])
