"""Toning layers: their tones, in order, set anew, taken over or taken apart."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal, Self

from pydantic import Field

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.grouping import pixel_scale
from glyphaneme.core.document.model import LayerId, TonedLayer
from glyphaneme.core.edits.base import LayerEdit, LinesEdit
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.tone import MAX_TONES, MatchTone, Tone, Tones, scaled
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import tone_words, toning_words

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class ToneLayer(LinesEdit):
    """Give a layer other tones, in this order."""

    kind: Literal["tone_layer"] = "tone_layer"
    listed: ClassVar[str] = "tones"
    tones: Tones

    def require_fitting(self, layer: Layer) -> None:
        """Refuse colours and gradients.

        Raises
        ------
        NoSuchWorkError
            It is of such a kind.
        """
        if not isinstance(layer, TonedLayer):
            raise NoSuchWorkError(layer.kind, "has colours of its own, and no tones")

    def deed(self, _composite: Composite, layer: Layer) -> str:
        before = layer.tones if isinstance(layer, TonedLayer) else ()
        new = tuple(one for one in self.tones if one not in before)
        said = toning_words(new)
        if not said and new:
            return f"with {tone_words(new[-1])}"
        return said or toning_words(self.tones) or "without tones"


class CopyTones(LayerEdit):
    """Give a layer the tones of another one instead of its own, to look as there."""

    kind: Literal["copy_tones"] = "copy_tones"
    from_id: LayerId
    tones: Tones | None = None

    def decided(self, composite: Composite) -> Self:
        return with_fields(self, tones=self._tones(composite))

    def applied(self, composite: Composite) -> Composite:
        require_unlocked(composite, self.layer_id)
        tones = self._tones(composite)
        setting = ToneLayer(layer_id=self.layer_id, tones=tones)
        setting.require_fitting(composite.layer(self.layer_id))
        return with_layer_fields(composite, self.layer_id, tones=tones)

    def deed(self, composite: Composite, _layer: Layer) -> str:
        return f"toned as {composite.layer(self.from_id).name}"

    def _tones(self, composite: Composite) -> tuple[Tone, ...]:
        """Return the tones that it gets.

        Raises
        ------
        NoSuchWorkError
            The other layer has none.
        """
        if self.tones is not None:
            return self.tones
        source = composite.layer(self.from_id)
        if not isinstance(source, TonedLayer) or not source.tones:
            raise NoSuchWorkError(source.kind, "without tones has none to give")
        sizes = (composite.path_to(one) for one in (self.from_id, self.layer_id))
        before, after = map(pixel_scale, sizes)
        return scaled(source.tones, before / after)


class PartMatch(LayerEdit):
    """Take a match apart into a change of colour and curves, which do the same."""

    kind: Literal["part_match"] = "part_match"
    place: Annotated[int, Field(ge=0, lt=MAX_TONES)]

    def applied(self, composite: Composite) -> Composite:
        """Put both in its place.

        Raises
        ------
        NoSuchWorkError
            There is no match at that place, or no room for one tone more.
        """
        require_unlocked(composite, self.layer_id)
        layer = composite.layer(self.layer_id)
        tones = layer.tones if isinstance(layer, TonedLayer) else ()
        match = tones[self.place] if self.place < len(tones) else None
        if not isinstance(match, MatchTone):
            raise NoSuchWorkError(layer.kind, "has no match there to be taken apart")
        if len(tones) >= MAX_TONES:
            raise NoSuchWorkError(layer.kind, "has as many tones as it may have")
        parts = tuple(with_fields(one, works=match.works) for one in match.parts())
        tones = (*tones[: self.place], *parts, *tones[self.place + 1 :])
        return with_layer_fields(composite, self.layer_id, tones=tones)

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "its match taken apart"
