"""Affine maps between a picture's own pixels and the canvas."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PointsF64
    from glyphaneme.core.place.placement import Placement


def source_to_canvas(placement: Placement, *, width: float, height: float) -> MatrixF64:
    """Map positions in the picture to positions on the canvas.

    Parameters
    ----------
    placement : Placement
        Where the picture's middle lies, how it is mirrored, scaled, then turned.
    width, height : float, pixels
        Size of the picture.

    Returns
    -------
    (2, 3) float64
        Upper rows of the homogeneous matrix; columns map x, y and 1.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> half = Placement(x=50, y=40, scale_x=0.5, scale_y=0.5)
    >>> source_to_canvas(half, width=100, height=80) @ (100, 80, 1)
    array([75., 60.])
    """
    angle = math.radians(placement.turn)
    cosine, sine = _exact_turn(angle)
    across = -placement.scale_x if placement.flipped else placement.scale_x
    down = -placement.scale_y if placement.upended else placement.scale_y
    linear = np.array([[cosine * across, -sine * down], [sine * across, cosine * down]])
    middle = np.array([width / 2, height / 2])
    shift = np.array([placement.x, placement.y]) - linear @ middle
    return np.column_stack([linear, shift])


def canvas_to_source(placement: Placement, *, width: float, height: float) -> MatrixF64:
    """Map positions on the canvas to positions in the picture.

    Parameters
    ----------
    placement : Placement
        As for `source_to_canvas`, of which this is the inverse.
    width, height : float, pixels
        Size of the picture.

    Returns
    -------
    (2, 3) float64
        Upper rows of the homogeneous matrix.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> half = Placement(x=50, y=40, scale_x=0.5, scale_y=0.5)
    >>> canvas_to_source(half, width=100, height=80) @ (75, 60, 1)
    array([100.,  80.])
    """
    forward = source_to_canvas(placement, width=width, height=height)
    linear = np.linalg.inv(forward[:, :2])
    return np.column_stack([linear, -linear @ forward[:, 2]])


def corners_on_canvas(
    placement: Placement, *, width: float, height: float
) -> PointsF64:
    """Return where the picture's four corners lie on the canvas.

    Parameters
    ----------
    placement : Placement
        Where the picture lies.
    width, height : float, pixels
        Size of the picture.

    Returns
    -------
    (4, 2) float64
        The picture's own top left, top right, bottom right and bottom left.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> plain = Placement(x=5, y=5, scale_x=1, scale_y=1)
    >>> corners_on_canvas(plain, width=10, height=10)[2]
    array([10., 10.])
    """
    corners = np.array(
        [[0, 0, 1], [width, 0, 1], [width, height, 1], [0, height, 1]], np.float64
    )
    return corners @ source_to_canvas(placement, width=width, height=height).T


def _exact_turn(angle: float) -> tuple[float, float]:
    """Return cosine and sine, exact at right angles so that edges stay crisp."""
    cosine, sine = math.cos(angle), math.sin(angle)
    if min(abs(cosine), abs(sine)) < 1e-12:  # well below one pixel
        return float(round(cosine)), float(round(sine))
    return cosine, sine
