"""Changing the canvas."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glyphaneme.core.document.grouping import shifted
from glyphaneme.core.document.model import Canvas
from glyphaneme.core.edits.base import EditBase
from glyphaneme.core.place.placement import Position
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite


class SetCanvas(EditBase):
    """Change the canvas; every layer moves by the shift, nothing is cut off."""

    kind: Literal["set_canvas"] = "set_canvas"
    canvas: Canvas
    shift_x: Position = 0.0
    shift_y: Position = 0.0

    def applied(self, composite: Composite) -> Composite:
        """Exchange the canvas and shift what lies on it."""
        layers = tuple(
            shifted(layer, self.shift_x, self.shift_y) for layer in composite.layers
        )
        return with_fields(composite, canvas=self.canvas, layers=layers)

    def label(self, _composite: Composite) -> str:
        """Say the new size."""
        return f"Canvas {self.canvas.width} × {self.canvas.height} px"
