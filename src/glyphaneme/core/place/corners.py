"""Four corners, each pulled by itself: a picture as a plane at an angle shows it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, TypeAlias

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.errors import FoldedError

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PointsF64

FARTHEST_PULL = 20.0
LEAST_AREA = 1e-4
"""Of the triangle at each corner, in frames: thinner ones cannot be told from folds."""

Pull = Annotated[float, Field(ge=-FARTHEST_PULL, le=FARTHEST_PULL, allow_inf_nan=False)]
Pulled: TypeAlias = tuple[Pull, Pull]
SQUARE = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], np.float64)


class Corners(BaseModel):
    """How far each corner is pulled away, in widths and heights of the layer's frame.

    The corners are the layer's own, before it is mirrored and turned.

    Examples
    --------
    >>> Corners(top_right=(0.1, 0.2)).top_left
    (0.0, 0.0)
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    top_left: Pulled = (0.0, 0.0)
    top_right: Pulled = (0.0, 0.0)
    bottom_right: Pulled = (0.0, 0.0)
    bottom_left: Pulled = (0.0, 0.0)

    @model_validator(mode="after")
    def _spans_a_plane(self) -> Corners:
        points = self.points
        ahead = np.roll(points, -1, axis=0) - points
        behind = np.roll(points, 1, axis=0) - points
        areas = ahead[:, 0] * behind[:, 1] - ahead[:, 1] * behind[:, 0]
        if areas.min() < LEAST_AREA:
            raise FoldedError
        return self

    @property
    def points(self) -> PointsF64:
        """Where the corners lie, in frames: (4, 2), clockwise from the top left."""
        pulls = (self.top_left, self.top_right, self.bottom_right, self.bottom_left)
        return np.asarray(SQUARE + np.array(pulls), np.float64)

    @property
    def matrix(self) -> MatrixF64:
        """Map the unit square onto the corners: a (3, 3) float64 homography.

        P. S. Heckbert, "Fundamentals of Texture Mapping and Image Warping", University
        of California, Berkeley, 1989, section 2.2.3.
        """
        first, second, third, fourth = self.points
        one, other = second - third, fourth - third
        rest = first - second + third - fourth
        area = one[0] * other[1] - one[1] * other[0]
        g = (rest[0] * other[1] - rest[1] * other[0]) / area
        h = (one[0] * rest[1] - one[1] * rest[0]) / area
        across = second - first + g * second
        down = fourth - first + h * fourth
        return np.array(
            [[*pair] for pair in zip(across, down, first, strict=True)] + [[g, h, 1.0]]
        )


def corners_between(points: PointsF64) -> Corners:
    """Return the corners that lie at four points.

    Parameters
    ----------
    points : (4, 2) float64
        In frames, clockwise from the top left.

    Returns
    -------
    Corners
        pydantic's ValidationError where no plane can be seen so.

    Examples
    --------
    >>> corners_between(SQUARE).bottom_left
    (0.0, 0.0)
    """
    names = ("top_left", "top_right", "bottom_right", "bottom_left")
    pulls = (np.asarray(points) - SQUARE).tolist()
    return Corners(**dict(zip(names, map(tuple, pulls), strict=True)))
