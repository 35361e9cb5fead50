"""Changing the recipe of a layer's mask, part by part."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.errors import PartExistsError, PartLimitError, PartMissingError
from glyphaneme.core.mask import MAX_PARTS, Mask, MaskPart, PartId
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import JOIN_WORDS

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer

PartIndex = Annotated[int, Field(ge=0, le=MAX_PARTS)]
Parts = tuple[MaskPart, ...]


class MaskEdit(LayerEdit):
    """An edit of a layer's mask; a layer without one has an empty recipe."""

    def applied(self, composite: Composite) -> Composite:
        """Exchange the mask, unless the layer is locked."""
        require_unlocked(composite, self.layer_id)
        layer = composite.layer(self.layer_id)
        before = layer.mask or Mask()
        mask = self.changed(before, layer)
        for layer_id in _layers_read(mask) - _layers_read(before):
            composite.layer(layer_id)
        # An empty recipe hides nothing, however it is settled: there is no mask then.
        kept = mask if mask.parts else None
        return with_layer_fields(composite, self.layer_id, mask=kept)

    def changed(self, mask: Mask, layer: Layer) -> Mask:
        """Return the mask as it is after the edit.

        Parameters
        ----------
        mask : Mask
            As it is before.
        layer : Layer
            Whose it is.

        Returns
        -------
        Mask
            One without parts is none.

        Raises
        ------
        NotImplementedError
            Each kind says for itself what it does.
        """
        raise NotImplementedError


class AddPart(MaskEdit):
    """Add a part to a layer's recipe, as its last line unless told where."""

    kind: Literal["add_part"] = "add_part"
    part: MaskPart
    index: PartIndex | None = None

    def changed(self, mask: Mask, _layer: Layer) -> Mask:
        """Put it in.

        Raises
        ------
        PartExistsError
            Its id is taken.
        PartLimitError
            There are as many parts as there may be.
        """
        if any(part.id == self.part.id for part in mask.parts):
            raise PartExistsError(self.part.id)
        if len(mask.parts) >= MAX_PARTS:
            raise PartLimitError(MAX_PARTS)
        index = len(mask.parts) if self.index is None else self.index
        return with_parts(mask, (*mask.parts[:index], self.part, *mask.parts[index:]))

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return f"cut: {JOIN_WORDS[self.part.join]} {self.part.words}"


class ChangePart(MaskEdit):
    """Put another part in the place of the one with its id."""

    kind: Literal["change_part"] = "change_part"
    part: MaskPart

    def changed(self, mask: Mask, _layer: Layer) -> Mask:
        """Exchange it; `PartMissingError` where there is none with that id."""
        place = place_of(mask, self.part.id)
        parts = (*mask.parts[:place], self.part, *mask.parts[place + 1 :])
        return with_parts(mask, parts)

    def deed(self, _composite: Composite, layer: Layer) -> str:
        mask = layer.mask or Mask()
        before = mask.parts[place_of(mask, self.part.id)]
        if before.works != self.part.works:
            return f"cut: {self.part.words} {'on' if self.part.works else 'off'} again"
        if before.inverted != self.part.inverted:
            return f"cut: {self.part.words} turned inside out"
        if before.join != self.part.join:
            return f"cut: now {JOIN_WORDS[self.part.join]} {self.part.words}"
        return f"cut: {self.part.words} changed"


class RemovePart(MaskEdit):
    """Take a part out of a layer's recipe."""

    kind: Literal["remove_part"] = "remove_part"
    part_id: PartId

    def changed(self, mask: Mask, _layer: Layer) -> Mask:
        """Leave it out; `PartMissingError` where there is none with that id."""
        place = place_of(mask, self.part_id)
        return with_parts(mask, (*mask.parts[:place], *mask.parts[place + 1 :]))

    def deed(self, _composite: Composite, layer: Layer) -> str:
        mask = layer.mask or Mask()
        return f"cut: {mask.parts[place_of(mask, self.part_id)].words} removed"


class MovePart(MaskEdit):
    """Put a part at another line of the recipe."""

    kind: Literal["move_part"] = "move_part"
    part_id: PartId
    index: PartIndex

    def changed(self, mask: Mask, _layer: Layer) -> Mask:
        """Take it out and put it in; `PartMissingError` where there is none."""
        part = mask.parts[place_of(mask, self.part_id)]
        others = tuple(one for one in mask.parts if one.id != part.id)
        return with_parts(mask, (*others[: self.index], part, *others[self.index :]))

    def deed(self, _composite: Composite, layer: Layer) -> str:
        mask = layer.mask or Mask()
        place = place_of(mask, self.part_id)
        when = "later" if self.index > place else "earlier"
        return f"cut: {mask.parts[place].words} {when}"


def place_of(mask: Mask, part_id: str) -> int:
    """Return at which line of a recipe a part stands.

    Parameters
    ----------
    mask : Mask
        The recipe.
    part_id : str
        Id of a part.

    Returns
    -------
    int
        From 0.

    Raises
    ------
    PartMissingError
        There is none.

    Examples
    --------
    >>> from glyphaneme.core.mask import EllipsePart
    >>> round_one = EllipsePart(id="r", x=5, y=5, width=4, height=4)
    >>> place_of(Mask(parts=(round_one,)), "r")
    0
    """
    for place, part in enumerate(mask.parts):
        if part.id == part_id:
            return place
    raise PartMissingError(part_id)


def with_parts(mask: Mask, parts: Parts) -> Mask:
    """Return a mask with other parts.

    Parameters
    ----------
    mask : Mask
        It stays unchanged.
    parts : tuple of MaskPart
        In their order.

    Returns
    -------
    Mask
        The same but for its parts.

    Examples
    --------
    >>> with_parts(Mask(inverted=True), ()).inverted
    True
    """
    return with_fields(mask, parts=parts)


def _layers_read(mask: Mask) -> set[str]:
    return {layer_id for part in mask.parts for layer_id in part.reads.layers}
