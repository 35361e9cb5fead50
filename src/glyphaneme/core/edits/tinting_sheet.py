"""Giving the sheet another colour."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glyphaneme.core.color import Color, color_name
from glyphaneme.core.edits.base import EditBase
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite


class TintSheet(EditBase):
    """Give the sheet another colour, or none; its size and its ppi stay."""

    kind: Literal["tint_sheet"] = "tint_sheet"
    background: Color | None

    def applied(self, composite: Composite) -> Composite:
        canvas = with_fields(composite.canvas, background=self.background)
        return with_fields(composite, canvas=canvas)

    def label(self, _composite: Composite) -> str:
        word = "clear" if self.background is None else color_name(self.background)
        return f"Sheet made {word}"
