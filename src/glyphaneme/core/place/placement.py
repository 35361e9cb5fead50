"""Placement of a layer: its middle, size, turn and mirroring, and its shape."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.place.bend import Bend
from glyphaneme.core.place.corners import Corners
from glyphaneme.core.place.crop import Crop
from glyphaneme.core.place.limits import Degrees, Position, Scale, kept_scale


class Placement(BaseModel):
    """Where a layer lies: canvas pixels, scale of the original, degrees clockwise.

    What is placed is the layer's frame: its `crop`'s, or all of it. The frame is bent,
    then its corners are pulled, then it is mirrored (`flipped` exchanges left and
    right, `upended` top and bottom), scaled, turned, and its middle put at `x`, `y`.

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
    crop: Crop | None = None
    corners: Corners | None = None
    bend: Bend | None = None

    @property
    def is_warped(self) -> bool:
        """Whether straight lines, or equal distances, do not stay so."""
        return self.corners is not None or self.bend is not None

    @property
    def is_shaped(self) -> bool:
        """Whether it is cropped, warped, or both."""
        return self.crop is not None or self.is_warped


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
