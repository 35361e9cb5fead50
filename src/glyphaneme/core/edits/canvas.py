"""Changing the canvas."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glyphaneme.core.document.grouping import carried, shifted
from glyphaneme.core.document.model import Canvas
from glyphaneme.core.edits.base import EditBase
from glyphaneme.core.place import Placement
from glyphaneme.core.place.limits import Degrees, Position, Scale
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class SetCanvas(EditBase):
    """Change the canvas; nothing is cut off.

    All that lies on it is scaled and turned about the old canvas's top left corner, and
    that comes to lie at the shift.
    """

    kind: Literal["set_canvas"] = "set_canvas"
    canvas: Canvas
    shift_x: Position = 0.0
    shift_y: Position = 0.0
    scale: Scale = 1.0
    turn: Degrees = 0.0

    def applied(self, composite: Composite) -> Composite:
        """Exchange the canvas and carry what lies on it along."""
        layers = tuple(self._carried(layer) for layer in composite.layers)
        return with_fields(composite, canvas=self.canvas, layers=layers)

    def label(self, composite: Composite) -> str:
        before, after = composite.canvas, self.canvas
        size = f"{after.width} × {after.height} px"
        if self.turn:
            return f"Straightened, canvas {size}"
        if self.scale != 1:
            return f"Picture resized to {size}"
        if (before.width, before.height) == (after.width, after.height):
            return f"Prints at {after.ppi:.4g} ppi"
        return f"Canvas {size}"

    def _carried(self, layer: Layer) -> Layer:
        if self.scale == 1 and self.turn == 0:
            return shifted(layer, self.shift_x, self.shift_y)
        by = Placement(
            x=self.shift_x,
            y=self.shift_y,
            scale_x=self.scale,
            scale_y=self.scale,
            turn=self.turn,
        )
        return carried(layer, by)
