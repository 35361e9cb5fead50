"""The composite's own types, for those who may not reach into the core."""

from __future__ import annotations

from glyphaneme.core.blend import MODE_GROUPS, BlendMode
from glyphaneme.core.stack import Canvas, Composite, Edit, View
from glyphaneme.core.stack.gradients import Color
from glyphaneme.core.stack.model import Name

__all__ = [
    "MODE_GROUPS",
    "BlendMode",
    "Canvas",
    "Color",
    "Composite",
    "Edit",
    "Name",
    "View",
]
