"""Shadows and outlines of a layer, in order from back to front."""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar, Literal

from glyphaneme.core.document.model import ChangingLayer, PlacedLayer
from glyphaneme.core.edits.base import LinesEdit
from glyphaneme.core.effect import Effects
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.wording import effects_words

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class ShadeLayer(LinesEdit):
    """Give a layer other shadows and outlines, the first of them farthest back."""

    kind: Literal["shade_layer"] = "shade_layer"
    listed: ClassVar[str] = "effects"
    effects: Effects

    def require_fitting(self, layer: Layer) -> None:
        """Refuse layers without a shape, or without a place to stand at.

        Raises
        ------
        NoSuchWorkError
            It is of such a kind.
        """
        if isinstance(layer, ChangingLayer):
            raise NoSuchWorkError(layer.kind, "has no shape that throws a shadow")
        stands = any(effect.stands for effect in self.effects)
        if stands and not isinstance(layer, PlacedLayer):
            raise NoSuchWorkError(layer.kind, "has no place of its own to stand at")

    def deed(self, _composite: Composite, layer: Layer) -> str:
        new = tuple(one for one in self.effects if one not in layer.effects)
        said = effects_words(new) or effects_words(self.effects)
        return said or "without a shadow"
