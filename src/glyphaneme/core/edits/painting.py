"""Painting what of a layer shows."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, Literal, Self

from pydantic import Field

from glyphaneme.core.edits.mask_parts import MaskEdit, place_of, with_parts
from glyphaneme.core.errors import (
    NoSuchWorkError,
    PartLimitError,
    StrokeMissingError,
    StrokesLimitError,
)
from glyphaneme.core.mask import MAX_PARTS, Mask, PartId
from glyphaneme.core.mask.painted import PaintedPart
from glyphaneme.core.mask.strokes import (
    MAX_STROKES,
    Stroke,
    StrokeId,
    stroke_id,
    thinned,
)
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class PaintStroke(MaskEdit):
    """Paint a stroke in a painted part; one that is not there yet is added.

    What is stored names the stroke and the one before it; its points are kept once,
    wherever strokes are kept.
    """

    kind: Literal["paint_stroke"] = "paint_stroke"
    part_id: PartId
    stroke: Stroke | None = None
    previous: StrokeId | None = None
    last: StrokeId | None = None
    shows: Annotated[bool | None, Field(description="As the stroke says.")] = None

    def decided(self, composite: Composite) -> Self:
        """Name the stroke, and leave its points to whoever keeps strokes."""
        if self.last is not None:
            return self
        return self.naming(*self.painted_now(composite))

    def naming(self, previous: str | None, named: str, stroke: Stroke) -> Self:
        """Return the edit with a stroke's name in place of its points.

        Parameters
        ----------
        previous : str or None
            Id of the stroke before it.
        named : str
            Id of the stroke.
        stroke : Stroke
            What is kept elsewhere.

        Returns
        -------
        PaintStroke
            As it is stored.
        """
        shows = stroke.shows
        return with_fields(
            self, stroke=None, previous=previous, last=named, shows=shows
        )

    def says(self, stored: dict[str, Any]) -> bool:
        """Tell whether that is the stroke that was stored."""
        if self.stroke is None:
            return super().says(stored)
        named = stroke_id(stored.get("previous"), self._stroke())
        same = {"kind": self.kind, "layer_id": self.layer_id, "part_id": self.part_id}
        return stored.get("last") == named and same.items() <= stored.items()

    def changed(self, mask: Mask, _layer: Layer) -> Mask:
        """Name the new stroke as the part's last one.

        Raises
        ------
        StrokesLimitError
            The part has as many strokes as it may have.
        PartLimitError
            The mask has as many parts as it may have.
        """
        previous = self._before(mask)
        last = self.last or stroke_id(previous, self._stroke())
        if all(part.id != self.part_id for part in mask.parts):
            if len(mask.parts) >= MAX_PARTS:
                raise PartLimitError(MAX_PARTS)
            part = PaintedPart(id=self.part_id, last=last, strokes=1)
            return with_parts(mask, (*mask.parts, part))
        place = place_of(mask, self.part_id)
        part = self._painted(mask)
        if part.strokes >= MAX_STROKES:
            raise StrokesLimitError(MAX_STROKES)
        part = with_fields(part, last=last, strokes=part.strokes + 1)
        parts = (*mask.parts[:place], part, *mask.parts[place + 1 :])
        return with_parts(mask, parts)

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        shows = self.stroke.shows if self.stroke else self.shows
        return "shown by brush" if shows else "hidden by brush"

    def painted_now(self, composite: Composite) -> tuple[str | None, str, Stroke]:
        """Return the stroke before, the new one's id, and the stroke as it is kept.

        Parameters
        ----------
        composite : Composite
            What it is applied to.

        Returns
        -------
        str or None, str, Stroke
            None for the first stroke of its part.
        """
        previous = self._before(composite.layer(self.layer_id).mask or Mask())
        stroke = self._stroke()
        return previous, stroke_id(previous, stroke), stroke

    def _stroke(self) -> Stroke:
        """Return the stroke without what changes nothing.

        Raises
        ------
        StrokeMissingError
            The edit has none.
        """
        if self.stroke is None:
            raise StrokeMissingError
        return thinned(self.stroke)

    def _before(self, mask: Mask) -> str | None:
        if all(part.id != self.part_id for part in mask.parts):
            return None
        return self._painted(mask).last

    def _painted(self, mask: Mask) -> PaintedPart:
        """Return the part that is painted.

        Raises
        ------
        NoSuchWorkError
            It is a shape, or the like.
        """
        part = mask.parts[place_of(mask, self.part_id)]
        if not isinstance(part, PaintedPart):
            raise NoSuchWorkError(part.kind, "cannot be painted on")
        return part
