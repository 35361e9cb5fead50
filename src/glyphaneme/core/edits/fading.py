"""Fading layers out."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

from pydantic import Field

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.fades import scaled_fades
from glyphaneme.core.document.model import LayerId
from glyphaneme.core.edits.base import LayerEdit, LinesEdit
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.mask import MAX_FADES, Fade
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import fading_words

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer

Fades = Annotated[tuple[Fade, ...], Field(max_length=MAX_FADES)]


class FadeLayer(LinesEdit):
    """Give a layer other fades; several multiply."""

    kind: Literal["fade_layer"] = "fade_layer"
    listed: ClassVar[str] = "fades"
    fades: Fades

    def deed(self, _composite: Composite, layer: Layer) -> str:
        if not self.fades:
            return "no longer fading"
        return fading_words(with_fields(layer, fades=self.fades))


class CopyFades(LayerEdit):
    """Give a layer the fades of another one, in proportion to its own size."""

    kind: Literal["copy_fades"] = "copy_fades"
    from_id: LayerId
    fades: Fades | None = None

    def decided(self, composite: Composite) -> Self:
        return with_fields(self, fades=self._fades(composite))

    def applied(self, composite: Composite) -> Composite:
        require_unlocked(composite, self.layer_id)
        return with_layer_fields(composite, self.layer_id, fades=self._fades(composite))

    def deed(self, composite: Composite, _layer: Layer) -> str:
        return f"fading as {composite.layer(self.from_id).name}"

    def _fades(self, composite: Composite) -> tuple[Fade, ...]:
        """Return the fades that it gets.

        Raises
        ------
        NoSuchWorkError
            The other layer has none.
        """
        if self.fades is not None:
            return self.fades
        source, target = composite.layer(self.from_id), composite.layer(self.layer_id)
        if not source.fades:
            raise NoSuchWorkError(source.kind, "without fades has none to give")
        return scaled_fades(source, target, composite.canvas)
