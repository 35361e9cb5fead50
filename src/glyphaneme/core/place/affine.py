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
    cosine, sine = _exact_turn(math.radians(placement.turn))
    across, down = _scales(placement)
    return _mapping(
        (cosine * across, -sine * down, sine * across, cosine * down),
        (width / 2, height / 2),
        (placement.x, placement.y),
    )


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
    cosine, sine = _exact_turn(math.radians(placement.turn))
    across, down = _scales(placement)
    return _mapping(
        (cosine / across, sine / across, -sine / down, cosine / down),
        (placement.x, placement.y),
        (width / 2, height / 2),
    )


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


def _scales(placement: Placement) -> tuple[float, float]:
    """Return the scales across and down, negative where it is mirrored."""
    across = -placement.scale_x if placement.flipped else placement.scale_x
    down = -placement.scale_y if placement.upended else placement.scale_y
    return across, down


def _mapping(
    linear: tuple[float, float, float, float],
    middle: tuple[float, float],
    onto: tuple[float, float],
) -> MatrixF64:
    """Return the map with that linear part that takes one point onto another."""
    a, b, c, d = linear
    x, y = middle
    return np.array([[a, b, onto[0] - a * x - b * y], [c, d, onto[1] - c * x - d * y]])


def _exact_turn(angle: float) -> tuple[float, float]:
    """Return cosine and sine, exact at right angles so that edges stay crisp."""
    cosine, sine = math.cos(angle), math.sin(angle)
    if min(abs(cosine), abs(sine)) < 1e-12:  # well below one pixel
        return float(round(cosine)), float(round(sine))
    return cosine, sine
