"""Letting a fade move with its layer, or stay where it is."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.fades import relinked_fade
from glyphaneme.core.document.model import PlacedLayer
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.errors import NoSuchWorkError, WarpedError
from glyphaneme.core.mask import MAX_FADES

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class LinkFade(LayerEdit):
    """Let one of a layer's fades move with it, or stay while the layer moves."""

    kind: Literal["link_fade"] = "link_fade"
    place: Annotated[int, Field(ge=0, lt=MAX_FADES)]
    linked: bool

    def applied(self, composite: Composite) -> Composite:
        """Measure it in other pixels; nothing shows otherwise for that.

        Raises
        ------
        NoSuchWorkError
            The layer lies everywhere, or has no such fade.
        WarpedError
            Its own pixels and what it lies in are no straight maps of each other.
        """
        require_unlocked(composite, self.layer_id)
        layer = composite.layer(self.layer_id)
        if not isinstance(layer, PlacedLayer):
            raise NoSuchWorkError(layer.kind, "has no place of its own to move")
        if self.place >= len(layer.fades):
            raise NoSuchWorkError(layer.kind, "has no such fade")
        if layer.placement.is_warped:
            raise WarpedError(layer.name)
        fade = relinked_fade(layer.fades[self.place], layer, linked=self.linked)
        before, after = layer.fades[: self.place], layer.fades[self.place + 1 :]
        return with_layer_fields(
            composite, self.layer_id, fades=(*before, fade, *after)
        )

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "its fade moves with it" if self.linked else "its fade stays where it is"
