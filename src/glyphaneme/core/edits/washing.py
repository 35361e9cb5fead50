"""Changing the colours of what lies over everything."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from glyphaneme.core.color import Color
from glyphaneme.core.document.gradients import Gradient
from glyphaneme.core.document.model import ColorLayer, GradientLayer
from glyphaneme.core.edits.base import FieldEdit
from glyphaneme.core.errors import NoSuchWorkError

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class TintLayer(FieldEdit):
    """Give a colour layer another colour."""

    kind: Literal["tint_layer"] = "tint_layer"
    color: Color

    def fields(self) -> dict[str, Any]:
        return {"color": self.color}

    def require_fitting(self, layer: Layer) -> None:
        """Refuse all but colour layers.

        Raises
        ------
        NoSuchWorkError
            It is of another kind.
        """
        if not isinstance(layer, ColorLayer):
            raise NoSuchWorkError(layer.kind, "has no colour of its own")

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "in another colour"


class GradeLayer(FieldEdit):
    """Change a gradient layer's gradient."""

    kind: Literal["grade_layer"] = "grade_layer"
    gradient: Gradient

    def fields(self) -> dict[str, Any]:
        return {"gradient": self.gradient}

    def require_fitting(self, layer: Layer) -> None:
        """Refuse all but gradient layers.

        Raises
        ------
        NoSuchWorkError
            It is of another kind.
        """
        if not isinstance(layer, GradientLayer):
            raise NoSuchWorkError(layer.kind, "has no gradient of its own")

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "with another gradient"
