"""Hiding a layer and showing it again."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, ClassVar, Literal

from glyphaneme.core.edits.base import FieldEdit

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class ShowLayer(FieldEdit):
    """Show or hide a layer."""

    works_when_locked: ClassVar[bool] = True

    kind: Literal["show_layer"] = "show_layer"
    visible: bool

    def fields(self) -> dict[str, Any]:
        return {"visible": self.visible}

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "shown" if self.visible else "hidden"
