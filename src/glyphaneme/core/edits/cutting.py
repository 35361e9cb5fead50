"""Taking a photo's backdrop away, by what was found of it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glyphaneme.core.edits.mask_parts import MaskEdit, place_of, with_parts
from glyphaneme.core.errors import NoSuchWorkError, PartLimitError
from glyphaneme.core.mask import MAX_PARTS, Mask, MattePart
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import JOIN_WORDS

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class CutOut(MaskEdit):
    """Put a part in that was found, or put it in the place of the one with its id.

    With the first one of a mask its edge is cleaned too.
    """

    kind: Literal["cut_out"] = "cut_out"
    part: MattePart

    def changed(self, mask: Mask, layer: Layer) -> Mask:
        """Put it in.

        Raises
        ------
        NoSuchWorkError
            The layer is no photo.
        PartLimitError
            There are as many parts as there may be.
        """
        if layer.kind != "photo":
            raise NoSuchWorkError(layer.kind, "has no backdrop to be found")
        parts = mask.parts
        if any(one.id == self.part.id for one in parts):
            place = place_of(mask, self.part.id)
            return with_parts(mask, (*parts[:place], self.part, *parts[place + 1 :]))
        if len(parts) >= MAX_PARTS:
            raise PartLimitError(MAX_PARTS)
        first = not any(isinstance(one, MattePart) for one in parts)
        cleaned = with_fields(mask, cleaned=1.0) if first else mask
        return with_parts(cleaned, (*parts, self.part))

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return f"cut: {JOIN_WORDS[self.part.join]} {self.part.words}"
