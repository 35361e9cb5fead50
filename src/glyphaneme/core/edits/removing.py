"""Taking a layer away."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glyphaneme.core.document.changing import require_unlocked, with_instead
from glyphaneme.core.edits.base import LayerEdit

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class RemoveLayer(LayerEdit):
    """Take a layer away; its picture stays on the shelf."""

    kind: Literal["remove_layer"] = "remove_layer"

    def applied(self, composite: Composite) -> Composite:
        """Take it away; a group that is left empty goes too."""
        require_unlocked(composite, self.layer_id)
        return with_instead(composite, self.layer_id, lambda _: ())

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "removed"
