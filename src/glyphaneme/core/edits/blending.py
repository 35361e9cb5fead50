"""Setting how a layer joins those beneath it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.gradients import Opacity
from glyphaneme.core.edits.base import FieldEdit
from glyphaneme.core.wording import MODE_WORDS, percent

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class BlendLayer(FieldEdit):
    """Set how a layer's colours join those beneath, and how strongly."""

    kind: Literal["blend_layer"] = "blend_layer"
    mode: BlendMode
    opacity: Opacity

    def fields(self) -> dict[str, Any]:
        return {"blend": self.mode, "opacity": self.opacity}

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return f"{MODE_WORDS[self.mode]} at {percent(self.opacity)}"
