"""Placing several layers as one, by hand or by rule."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.document.arranging import (
    Side,
    aligned,
    bounds_of,
    moved_on_canvas,
    spaced,
)
from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.model import MAX_LAYERS, LayerId
from glyphaneme.core.edits.base import EditBase
from glyphaneme.core.edits.placing import require_placeable
from glyphaneme.core.errors import TooFewLayersError
from glyphaneme.core.place import Placement, Rect
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.document.arranging import Move
    from glyphaneme.core.document.model import Composite

LayerIds = Annotated[tuple[LayerId, ...], Field(min_length=1, max_length=MAX_LAYERS)]
LEAST_SPACED = 3


class PlacedOne(BaseModel):
    """Where one of several layers comes to lie."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    layer_id: LayerId
    placement: Placement


Places = Annotated[tuple[PlacedOne, ...], Field(max_length=MAX_LAYERS)]


class PlaceLayers(EditBase):
    """Move, scale or turn several layers as one."""

    kind: Literal["place_layers"] = "place_layers"
    places: Annotated[Places, Field(min_length=1)]
    deed: Literal["moved", "scaled", "turned", "lined up", "placed"] = "moved"

    def applied(self, composite: Composite) -> Composite:
        return _placed(composite, self.places)

    def label(self, composite: Composite) -> str:
        return _said(composite, [one.layer_id for one in self.places], self.deed)


class _Arranging(EditBase):
    """An edit whose rule says where layers come to lie."""

    layer_ids: LayerIds
    places: Places | None = None
    """What comes of it."""

    def decided(self, composite: Composite) -> Self:
        return with_fields(self, places=self._places(composite))

    def applied(self, composite: Composite) -> Composite:
        return _placed(composite, self._places(composite))

    def moves(self, bounds: Sequence[Rect[float]], canvas: Rect[float]) -> list[Move]:
        """Return by how much each is moved.

        Parameters
        ----------
        bounds : sequence of Rect
            Of the layers.
        canvas : Rect
            Of the canvas.

        Returns
        -------
        list of (float, float)
            Across and down, in pixels.

        Raises
        ------
        NotImplementedError
            Each kind says for itself what its rule is.
        """
        raise NotImplementedError

    def _places(self, composite: Composite) -> tuple[PlacedOne, ...]:
        if self.places is not None:
            return self.places
        ids = tuple(dict.fromkeys(self.layer_ids))
        bounds = [bounds_of(composite, one) for one in ids]
        size = composite.canvas
        moves = self.moves(bounds, Rect(0, 0, size.width, size.height))
        return tuple(
            PlacedOne(layer_id=one, placement=moved_on_canvas(composite, one, move))
            for one, move in zip(ids, moves, strict=True)
        )


class AlignLayers(_Arranging):
    """Bring one side of several layers, or their middles, onto one line.

    `to` says whose: the canvas's, what all of them reach over together, or that of the
    first of them, which stays where it is.
    """

    kind: Literal["align_layers"] = "align_layers"
    side: Side
    to: Literal["canvas", "all", "first"] = "all"

    def moves(self, bounds: Sequence[Rect[float]], canvas: Rect[float]) -> list[Move]:
        """Bring each to the line."""
        if self.to == "canvas":
            whose = canvas
        elif self.to == "first":
            whose = bounds[0]
        else:
            left, top, right, bottom = zip(*bounds, strict=True)
            whose = Rect(min(left), min(top), max(right), max(bottom))
        return aligned(bounds, self.side, whose)

    def label(self, composite: Composite) -> str:
        return _said(composite, self.layer_ids, f"aligned: {self.side}")


class SpaceLayers(_Arranging):
    """Make the gaps between layers equal, the outermost staying where they are.

    Over the canvas, the gaps at its edges are as wide as those between.
    """

    kind: Literal["space_layers"] = "space_layers"
    axis: Literal["across", "down"] = "across"
    over: Literal["all", "canvas"] = "all"

    def moves(self, bounds: Sequence[Rect[float]], canvas: Rect[float]) -> list[Move]:
        """Share the room out.

        Raises
        ------
        TooFewLayersError
            There is no gap beside another one.
        """
        if self.over == "all" and len(bounds) < LEAST_SPACED:
            raise TooFewLayersError(LEAST_SPACED, len(bounds))
        axis = 0 if self.axis == "across" else 1
        return spaced(bounds, axis, canvas if self.over == "canvas" else None)

    def label(self, composite: Composite) -> str:
        return _said(composite, self.layer_ids, "spaced evenly")


def _placed(composite: Composite, places: Sequence[PlacedOne]) -> Composite:
    for one in places:
        require_unlocked(composite, one.layer_id)
        require_placeable(composite.layer(one.layer_id), one.placement)
        composite = with_layer_fields(composite, one.layer_id, placement=one.placement)
    return composite


def _said(composite: Composite, ids: Sequence[str], deed: str) -> str:
    if len(ids) == 1:
        return f"{composite.layer(ids[0]).name} {deed}"
    return f"{len(ids)} layers {deed}"
