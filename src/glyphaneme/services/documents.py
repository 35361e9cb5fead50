"""The composite's own types, for those who may not reach into the core."""

from __future__ import annotations

from glyphaneme.core.blend import MODE_GROUPS, BlendMode
from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.document.gradients import Color
from glyphaneme.core.document.model import Name
from glyphaneme.core.edits import Edit
from glyphaneme.core.render import View

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
