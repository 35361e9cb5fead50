"""Changing a layer's mask as a whole."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, Self

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.masks import linked_mask, mask_as_it_lies, unlinked_mask
from glyphaneme.core.document.model import LayerId, PlacedLayer
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.edits.mask_parts import MaskEdit
from glyphaneme.core.errors import NoSuchWorkError, WarpedError
from glyphaneme.core.mask import Mask
from glyphaneme.core.mask.recipe import Grown, Smoothed, Softened, Strength
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import percent

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


SETTLED = ("inverted", "strength", "softened", "grown", "smoothed", "cleaned")


class SettleMask(MaskEdit):
    """Set what is done with the whole of a mask."""

    kind: Literal["settle_mask"] = "settle_mask"
    inverted: bool
    strength: Strength
    softened: Softened = 0.0
    grown: Grown = 0.0
    smoothed: Smoothed = 0.0
    cleaned: Strength = 0.0

    def changed(self, mask: Mask, _layer: Layer) -> Mask:
        return with_fields(mask, **{name: getattr(self, name) for name in SETTLED})

    def rebased(self, made_on: Composite, now: Composite) -> Self:
        """Set of the mask as it is now those values alone that were set.

        Parameters
        ----------
        made_on : Composite
            The state that it was made on.
        now : Composite
            What others made of that meanwhile.

        Returns
        -------
        EditBase
            With all others as they are now.
        """
        before, after = (
            state.layer(self.layer_id).mask or Mask() for state in (made_on, now)
        )
        values = {
            name: getattr(after, name)
            for name in SETTLED
            if getattr(self, name) == getattr(before, name)
        }
        return with_fields(self, **values)

    def deed(self, _composite: Composite, layer: Layer) -> str:
        before = layer.mask or Mask()
        if before.inverted != self.inverted:
            return "cut: turned inside out"
        if before.strength != self.strength:
            return f"cut: at {percent(self.strength)}"
        if before.cleaned != self.cleaned:
            return f"cut: its edge cleaned, {percent(self.cleaned)}"
        return "cut: its edge changed"


class LinkMask(MaskEdit):
    """Let a mask move with its layer, or stay while the layer moves beneath it."""

    kind: Literal["link_mask"] = "link_mask"
    linked: bool

    def changed(self, mask: Mask, layer: Layer) -> Mask:
        """Measure it in other pixels; nothing shows otherwise for that.

        Raises
        ------
        NoSuchWorkError
            The layer lies everywhere.
        WarpedError
            Its own pixels and what it lies in are no straight maps of each other.
        """
        if not isinstance(layer, PlacedLayer):
            raise NoSuchWorkError(layer.kind, "has no place of its own to move")
        if mask.linked == self.linked:
            return mask
        if layer.placement.is_warped:
            raise WarpedError(layer.name)
        return linked_mask(mask, layer) if self.linked else unlinked_mask(mask, layer)

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "cut: moves with it" if self.linked else "cut: stays where it is"


class CopyMask(LayerEdit):
    """Give a layer the mask of another one, where that lies on the canvas."""

    kind: Literal["copy_mask"] = "copy_mask"
    from_id: LayerId
    mask: Mask | None = None

    def decided(self, composite: Composite) -> Self:
        return with_fields(self, mask=self._mask(composite))

    def applied(self, composite: Composite) -> Composite:
        require_unlocked(composite, self.layer_id)
        return with_layer_fields(composite, self.layer_id, mask=self._mask(composite))

    def deed(self, composite: Composite, _layer: Layer) -> str:
        return f"cut as {composite.layer(self.from_id).name}"

    def _mask(self, composite: Composite) -> Mask:
        """Return the mask that it gets.

        Raises
        ------
        NoSuchWorkError
            The other layer has none.
        """
        if self.mask is not None:
            return self.mask
        found = mask_as_it_lies(composite, self.from_id, self.layer_id)
        if found is None:
            kind = composite.layer(self.from_id).kind
            raise NoSuchWorkError(kind, "without a mask has none to give")
        return found


class DropMask(LayerEdit):
    """Take a layer's mask away: all of it shows."""

    kind: Literal["drop_mask"] = "drop_mask"

    def applied(self, composite: Composite) -> Composite:
        require_unlocked(composite, self.layer_id)
        return with_layer_fields(composite, self.layer_id, mask=None)

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "cut: all of it shown"
