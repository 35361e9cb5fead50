"""Locking a layer against changes."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, ClassVar, Literal

from glyphaneme.core.edits.base import FieldEdit

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class LockLayer(FieldEdit):
    """Lock a layer against changes, or unlock it."""

    works_when_locked: ClassVar[bool] = True

    kind: Literal["lock_layer"] = "lock_layer"
    locked: bool

    def fields(self) -> dict[str, Any]:
        return {"locked": self.locked}

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "locked" if self.locked else "unlocked"
