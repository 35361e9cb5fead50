"""Laying a layer on with all that it is, as a plan made it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, Self

from pydantic import model_validator

from glyphaneme.core.document.model import Layer  # pydantic reads it
from glyphaneme.core.edits.adding import Adding

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite


class AddWhole(Adding):
    """Lay a layer on as it is: placed, cut, toned, with all that lies in it."""

    kind: Literal["add_whole"] = "add_whole"
    layer: Layer

    @model_validator(mode="after")
    def _names_it(self) -> Self:
        if (self.layer.id, self.layer.name) != (self.layer_id, self.name):
            message = "a layer that is laid on is called as it is"
            raise ValueError(message)
        return self

    def new_layer(self, _composite: Composite) -> Layer:
        return self.layer
