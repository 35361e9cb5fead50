"""Laying a copy of a layer right over it."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Literal, Self

from glyphaneme.core.document.changing import with_instead
from glyphaneme.core.document.grouping import shifted
from glyphaneme.core.document.model import ChangingLayer, GroupLayer, LayerId
from glyphaneme.core.document.naming import LONGEST_NAME, Name
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.place.limits import Position
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer

COPY_OFFSET = 0.02
"""How far a copy is laid beside its original, as a share of the canvas."""

LONGEST_STEM = 110
"""How much of a name a copy keeps, so that its number has room."""


class DuplicateLayer(LayerEdit):
    """Lay a copy of a layer right over it, a little beside it."""

    kind: Literal["duplicate_layer"] = "duplicate_layer"
    copy_id: LayerId
    name: Name | None = None
    shift: tuple[Position, Position] | None = None

    def decided(self, composite: Composite) -> Self:
        """Say what the copy is called and how far beside the original it lies."""
        original = composite.layer(self.layer_id)
        name, shift = self._name(composite, original), self._shift(composite)
        return with_fields(self, name=name, shift=shift)

    def applied(self, composite: Composite) -> Composite:
        """Lay the copy on; it is not locked, whatever its original is."""
        original = composite.layer(self.layer_id)
        copy = with_fields(
            shifted(original, *self._shift(composite)),
            id=self.copy_id,
            name=self._name(composite, original),
            locked=False,
        )
        if isinstance(copy, GroupLayer):
            copy = _with_new_ids(copy)
        return with_instead(composite, original.id, lambda _: (original, copy))

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "duplicated"

    def _shift(self, composite: Composite) -> tuple[float, float]:
        if self.shift is not None:
            return self.shift
        # One that only changes others stays where it works.
        if isinstance(composite.layer(self.layer_id), ChangingLayer):
            return 0.0, 0.0
        offset = COPY_OFFSET * min(composite.canvas.width, composite.canvas.height)
        return offset, offset

    def _name(self, composite: Composite, original: Layer) -> str:
        return self.name or _copy_name(composite, original.name)


def _with_new_ids(group: GroupLayer) -> GroupLayer:
    """Give a copied group's members ids that follow from the copy's own."""
    members: list[Layer] = []
    for place, member in enumerate(group.layers):
        name = f"{group.id} {place}"
        renamed = with_fields(member, id=str(uuid.uuid5(uuid.NAMESPACE_OID, name)))
        if isinstance(renamed, GroupLayer):
            renamed = _with_new_ids(renamed)
        members.append(renamed)
    return with_fields(group, layers=tuple(members))


def _copy_name(composite: Composite, name: str) -> str:
    """Return "Moths 2" for a copy of Moths, counting past names that are taken."""
    stem, _, number = name.rpartition(" ")
    base, count = (stem, int(number)) if stem and number.isdecimal() else (name, 1)
    taken = {layer.name for layer in composite.all_layers()}
    while f"{base} {count + 1}" in taken:
        count += 1
    return f"{base[:LONGEST_STEM]} {count + 1}"[:LONGEST_NAME]
