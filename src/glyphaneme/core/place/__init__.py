"""Where a layer lies on the canvas, and its picture at ever smaller sizes."""

from __future__ import annotations

from glyphaneme.core.place.affine import (
    canvas_to_source,
    corners_on_canvas,
    source_to_canvas,
)
from glyphaneme.core.place.nesting import (
    placed_inside,
    placed_outside,
    wrapped_turn,
)
from glyphaneme.core.place.placement import (
    Placement,
    fit_placement,
    kept_position,
    kept_scale,
)
from glyphaneme.core.place.pyramid import Pyramid, build_pyramid, halved

__all__ = [
    "Placement",
    "Pyramid",
    "build_pyramid",
    "canvas_to_source",
    "corners_on_canvas",
    "fit_placement",
    "halved",
    "kept_position",
    "kept_scale",
    "placed_inside",
    "placed_outside",
    "source_to_canvas",
    "wrapped_turn",
]
