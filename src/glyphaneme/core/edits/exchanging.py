"""Another photo at the same place, with all that was done to the one before."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.exchanging import exchanged
from glyphaneme.core.document.model import PhotoLayer, PictureId, Pixels
from glyphaneme.core.document.naming import Name
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.errors import NoSuchWorkError

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class ExchangePhoto(LayerEdit):
    """Show another photo in a layer's frame.

    The frame, what hides and fades of it, its blending and its name's place in the pile
    stay; what was found in the photo before, such as its backdrop, goes with that.
    """

    kind: Literal["exchange_photo"] = "exchange_photo"
    picture: PictureId
    name: Name
    width: Pixels
    height: Pixels

    def applied(self, composite: Composite) -> Composite:
        """Exchange the photo, unless the layer is locked or none.

        Raises
        ------
        NoSuchWorkError
            The layer shows no photo.
        """
        require_unlocked(composite, self.layer_id)
        layer = composite.layer(self.layer_id)
        if not isinstance(layer, PhotoLayer):
            raise NoSuchWorkError(layer.kind, "shows no photo")
        fields: dict[str, Any] = exchanged(layer, self.width, self.height)
        return with_layer_fields(
            composite, layer.id, picture=self.picture, name=self.name, **fields
        )

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return f"exchanged for {self.name}"
