"""Affine maps between a picture's own pixels, its frame's, and the canvas.

Of a warped layer they say where it would lie if it were straight: `warping` says the
rest.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.place.corners import SQUARE
from glyphaneme.core.place.transform import followed_by

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PointsF64
    from glyphaneme.core.place.placement import Placement

    Size = tuple[float, float]


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
    crop = placement.crop
    if crop is None:
        return frame_to_canvas(placement, width=width, height=height)
    framed = frame_to_canvas(placement, width=crop.width, height=crop.height)
    return followed_by(crop.to_frame, framed)


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
    crop = placement.crop
    if crop is None:
        return canvas_to_frame(placement, width=width, height=height)
    framed = canvas_to_frame(placement, width=crop.width, height=crop.height)
    return followed_by(framed, crop.to_photo)


def frame_size(placement: Placement, *, width: float, height: float) -> Size:
    """Return how large the frame is that a placement places.

    Parameters
    ----------
    placement : Placement
        Where the picture lies.
    width, height : float, pixels
        Size of the picture.

    Returns
    -------
    float, float, pixels
        The crop's size, or the picture's.
    """
    crop = placement.crop
    return (width, height) if crop is None else (crop.width, crop.height)


def frame_to_canvas(placement: Placement, *, width: float, height: float) -> MatrixF64:
    """Map positions in a frame to positions on the canvas.

    Parameters
    ----------
    placement : Placement
        Where the frame's middle lies, how it is mirrored, scaled, then turned.
    width, height : float, pixels
        Size of the frame.

    Returns
    -------
    (2, 3) float64
        Upper rows of the homogeneous matrix.
    """
    cosine, sine = _exact_turn(math.radians(placement.turn))
    across, down = _scales(placement)
    return _mapping(
        (cosine * across, -sine * down, sine * across, cosine * down),
        (width / 2, height / 2),
        (placement.x, placement.y),
    )


def canvas_to_frame(placement: Placement, *, width: float, height: float) -> MatrixF64:
    """Map positions on the canvas to positions in a frame.

    Parameters
    ----------
    placement : Placement
        As for `frame_to_canvas`, of which this is the inverse.
    width, height : float, pixels
        Size of the frame.

    Returns
    -------
    (2, 3) float64
        Upper rows of the homogeneous matrix.
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
    """Return where the four corners of what is placed lie on the canvas.

    Parameters
    ----------
    placement : Placement
        Where the picture lies.
    width, height : float, pixels
        Size of the picture.

    Returns
    -------
    (4, 2) float64
        Its own top left, top right, bottom right and bottom left: the frame's where
        the picture is cropped, as they are pulled where they are.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> plain = Placement(x=5, y=5, scale_x=1, scale_y=1)
    >>> corners_on_canvas(plain, width=10, height=10)[2]
    array([10., 10.])
    """
    wide, high = frame_size(placement, width=width, height=height)
    points = SQUARE if placement.corners is None else placement.corners.points
    corners = np.column_stack([points * (wide, high), np.ones(4)])
    return corners @ frame_to_canvas(placement, width=wide, height=high).T


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
