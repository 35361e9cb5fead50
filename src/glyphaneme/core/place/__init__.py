"""Where a layer lies on the canvas, and its picture at ever smaller sizes."""

from __future__ import annotations

from glyphaneme.core.place.affine import (
    canvas_to_source,
    corners_on_canvas,
    frame_size,
    source_to_canvas,
)
from glyphaneme.core.place.bend import Bend
from glyphaneme.core.place.beside import Beside, columns_for, side_by_side
from glyphaneme.core.place.corners import Corners
from glyphaneme.core.place.crop import Crop
from glyphaneme.core.place.limits import kept_position, kept_scale
from glyphaneme.core.place.nesting import (
    placed_inside,
    placed_outside,
    wrapped_turn,
)
from glyphaneme.core.place.placement import Placement, fit_placement
from glyphaneme.core.place.pyramid import Pyramid, build_pyramid, halved
from glyphaneme.core.place.rect import Rect

__all__ = [
    "Bend",
    "Beside",
    "Corners",
    "Crop",
    "Placement",
    "Pyramid",
    "Rect",
    "build_pyramid",
    "canvas_to_source",
    "columns_for",
    "corners_on_canvas",
    "fit_placement",
    "frame_size",
    "halved",
    "kept_position",
    "kept_scale",
    "placed_inside",
    "placed_outside",
    "side_by_side",
    "source_to_canvas",
    "wrapped_turn",
]
