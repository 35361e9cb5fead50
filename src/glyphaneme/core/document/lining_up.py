"""Where a photo comes to lie that is lined up with another."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np
from pydantic import ValidationError

from glyphaneme.core.align.fitting import mapped
from glyphaneme.core.document.grouping import lowered_through, on_canvas
from glyphaneme.core.document.model import Composite, GroupLayer, PhotoLayer
from glyphaneme.core.errors import NoSuchWorkError, NotAlikeError, WarpedError
from glyphaneme.core.place import (
    Placement,
    frame_size,
    kept_position,
    kept_scale,
    source_to_canvas,
    wrapped_turn,
)
from glyphaneme.core.place.affine import canvas_to_frame
from glyphaneme.core.place.corners import SQUARE, corners_between
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64

STRAIGHT = 1e-6
"""Of a frame's side: smaller pulls of corners are none."""
BESIDE = 0.5
"""Pixels about a photo's middle in which its scale and turn are measured."""


def photo_of(composite: Composite, layer_id: str) -> PhotoLayer:
    """Return a photo as it lies on the canvas.

    Parameters
    ----------
    composite : Composite
        In which it lies.
    layer_id : str
        Which layer; `LayerMissingError` where there is none.

    Returns
    -------
    PhotoLayer
        Out of all groups.

    Raises
    ------
    NoSuchWorkError
        It is no photo.
    """
    lifted = on_canvas(composite.path_to(layer_id))
    if not isinstance(lifted, PhotoLayer):
        raise NoSuchWorkError(lifted.kind, "shows no photo to line up")
    return lifted


def lined_up(
    composite: Composite, moving_id: str, fixed_id: str, matrix: MatrixF64
) -> Placement:
    """Return the placement at which a photo's pixels lie over another's.

    Parameters
    ----------
    composite : Composite
        In which both lie.
    moving_id, fixed_id : str
        Ids of photos.
    matrix : (3, 3) float64
        Maps the moving photo's pixels to those of the one that stays.

    Returns
    -------
    Placement
        Within the moving photo's group; with four corners where shift, scale and turn
        do not say all of the map.

    Raises
    ------
    NoSuchWorkError
        One of them is no photo.
    WarpedError
        The one that stays is not straight.
    NotAlikeError
        The photo would be folded, or lie beyond all limits.
    """
    moving, fixed = photo_of(composite, moving_id), photo_of(composite, fixed_id)
    if fixed.placement.is_warped:
        raise WarpedError(fixed.name)
    size = {"width": fixed.width, "height": fixed.height}
    to_canvas = np.vstack([source_to_canvas(fixed.placement, **size), (0, 0, 1)])
    whole = to_canvas @ matrix
    crop = moving.placement.crop
    to_photo = np.eye(3) if crop is None else np.vstack([crop.to_photo, (0, 0, 1)])
    wide, high = frame_size(moving.placement, width=moving.width, height=moving.height)
    try:
        placement = _placed(moving.placement, whole @ to_photo, (wide, high))
    except ValidationError as cause:
        raise NotAlikeError("pictures") from cause
    path = composite.path_to(moving_id)
    groups = [one for one in path[:-1] if isinstance(one, GroupLayer)]
    inside = lowered_through(with_fields(moving, placement=placement), groups)
    return inside.placement if isinstance(inside, PhotoLayer) else placement


def _placed(
    before: Placement, whole: MatrixF64, frame: tuple[float, float]
) -> Placement:
    """Return the placement of a frame by the map that takes it to the canvas."""
    middle = np.array([[frame[0] / 2, frame[1] / 2]])
    at = mapped(whole, middle)[0]
    aside, along = np.array([BESIDE, 0]), np.array([0, BESIDE])
    across = (mapped(whole, middle + aside) - mapped(whole, middle - aside))[0]
    down = (mapped(whole, middle + along) - mapped(whole, middle - along))[0]
    area = float(across[0] * down[1] - across[1] * down[0])
    flipped = area < 0
    scale = kept_scale(math.sqrt(abs(area)))
    lean = -across if flipped else across
    placement = with_fields(
        before,
        x=kept_position(at[0]),
        y=kept_position(at[1]),
        scale_x=scale,
        scale_y=scale,
        turn=wrapped_turn(math.degrees(math.atan2(lean[1], lean[0]))),
        flipped=flipped,
        upended=False,
        corners=None,
        bend=None,
    )
    corners = mapped(whole, SQUARE * frame)
    back = canvas_to_frame(placement, width=frame[0], height=frame[1])
    points = (np.column_stack([corners, np.ones(4)]) @ back.T) / frame
    if np.abs(points - SQUARE).max() < STRAIGHT:
        return placement
    return with_fields(placement, corners=corners_between(points))
