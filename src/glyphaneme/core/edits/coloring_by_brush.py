"""Colour that is painted on a photo, and keeps its light and shade."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, Self

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.color import Color
from glyphaneme.core.document.changing import require_unlocked, with_instead
from glyphaneme.core.document.grouping import box_round, grouped
from glyphaneme.core.document.model import Box, ColorLayer, LayerId, PlacedLayer
from glyphaneme.core.document.naming import Name
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.mask import Join, LayerPart, Mask, PaintedPart, PartId
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer

HELD = "held"
"""What the part is called that holds the colour inside of the photo's shape."""


class ColorByBrush(LayerEdit):
    """Lay a colour over a photo that shows only where the brush will paint it.

    The first one makes a group of both, so that they are moved as one; others come
    into that, over those before.
    """

    kind: Literal["color_by_brush"] = "color_by_brush"
    color_id: LayerId
    group_id: LayerId
    part_id: PartId
    name: Name
    color: Color
    box: Box | None = None
    """The new group's own sheet: as large as the photo lies."""

    def decided(self, composite: Composite) -> Self:
        """Say where the group's own sheet lies."""
        return with_fields(self, box=self._box(composite))

    def applied(self, composite: Composite) -> Composite:
        """Lay the colour right over the photo, or over those that colour it already."""
        require_unlocked(composite, self.layer_id)
        photo = self._photo(composite)
        color = self._color(photo)
        over = [one for one in composite.siblings_of(photo.id) if _colors(one, photo)]
        if over:
            last = over[-1]
            return with_instead(composite, last.id, lambda _: (last, color))
        joining = {"blend": photo.blend, "opacity": photo.opacity}
        plain = with_fields(photo, blend=BlendMode.NORMAL, opacity=1.0)
        group = grouped(
            (plain, color),
            group_id=self.group_id,
            name=photo.name,
            box=self._box(composite),
        )
        whole = with_fields(group, **joining)
        return with_instead(composite, photo.id, lambda _: (whole,))

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return f"to be painted with {self.name}"

    def _photo(self, composite: Composite) -> PlacedLayer:
        """Return what is painted on.

        Raises
        ------
        NoSuchWorkError
            It is a colour, or the like.
        """
        layer = composite.layer(self.layer_id)
        if not isinstance(layer, PlacedLayer):
            raise NoSuchWorkError(layer.kind, "shows no photo to be painted on")
        return layer

    def _color(self, photo: PlacedLayer) -> ColorLayer:
        painted = PaintedPart(id=self.part_id, join=Join.ADD)
        held = LayerPart(id=HELD, layer_id=photo.id, join=Join.KEEP)
        return ColorLayer(
            id=self.color_id,
            name=self.name,
            color=self.color,
            blend=BlendMode.COLOR,
            mask=Mask(parts=(painted, held)),
        )

    def _box(self, composite: Composite) -> Box:
        return self.box or box_round((self._photo(composite),), composite.canvas)


def _colors(layer: Layer, photo: PlacedLayer) -> bool:
    """Tell whether a layer colours a photo already: one held in its shape may not."""
    if not isinstance(layer, ColorLayer) or layer.blend is not BlendMode.COLOR:
        return False
    parts = layer.mask.parts if layer.mask else ()
    return any(photo.id in part.reads.layers for part in parts)
