"""Moving, scaling, turning and mirroring a layer."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from glyphaneme.core.document.model import GroupLayer, PlacedLayer, require_even_scale
from glyphaneme.core.edits.base import FieldEdit
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.place import Placement

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class PlaceLayer(FieldEdit):
    """Move, scale, turn or mirror a layer."""

    kind: Literal["place_layer"] = "place_layer"
    placement: Placement

    def fields(self) -> dict[str, Any]:
        """Give it another place."""
        return {"placement": self.placement}

    def require_fitting(self, layer: Layer) -> None:
        """Refuse what has no place, and a group that would lose its proportions.

        Raises
        ------
        NoSuchWorkError
            It lies everywhere.
        """
        if isinstance(layer, GroupLayer):
            require_even_scale(self.placement)
        elif not isinstance(layer, PlacedLayer):
            raise NoSuchWorkError(layer.kind, "lies everywhere and has no place")

    def deed(self, _composite: Composite, layer: Layer) -> str:
        """Say what changed most."""
        if not isinstance(layer, PlacedLayer):
            return "moved"
        before, after = layer.placement, self.placement
        if (before.flipped, before.upended) != (after.flipped, after.upended):
            return "flipped"
        if before.turn != after.turn:
            return "turned"
        if (before.scale_x, before.scale_y) != (after.scale_x, after.scale_y):
            return "scaled"
        return "moved"
