"""Giving a layer another name."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, ClassVar, Literal

from glyphaneme.core.document.naming import Name
from glyphaneme.core.edits.base import FieldEdit

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class NameLayer(FieldEdit):
    """Give a layer another name."""

    works_when_locked: ClassVar[bool] = True

    kind: Literal["name_layer"] = "name_layer"
    name: Name

    def fields(self) -> dict[str, Any]:
        return {"name": self.name}

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return f"renamed {self.name}"
