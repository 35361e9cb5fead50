"""Moving, scaling, turning and mirroring a layer."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from glyphaneme.core.document.model import GroupLayer, PlacedLayer, require_plain_group
from glyphaneme.core.edits.base import FieldEdit
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.place import Placement

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


SHAPED = (
    ("crop", "cropped", "shown whole"),
    ("corners", "set into four corners", "set straight"),
    ("bend", "bent", "no longer bent"),
)
"""What of a placement, what it is called to change that, and to take it back."""


def require_placeable(layer: Layer, placement: Placement) -> None:
    """Require that a layer can be placed so.

    Parameters
    ----------
    layer : Layer
        As it is.
    placement : Placement
        Where it shall lie.

    Raises
    ------
    NoSuchWorkError
        It lies everywhere, or is a group that would be cropped or warped.
    GroupStretchedError
        It is a group that would lose its proportions.
    """
    if isinstance(layer, GroupLayer):
        require_plain_group(placement)
    elif not isinstance(layer, PlacedLayer):
        raise NoSuchWorkError(layer.kind, "lies everywhere and has no place")


class PlaceLayer(FieldEdit):
    """Move, scale, turn or mirror a layer."""

    kind: Literal["place_layer"] = "place_layer"
    placement: Placement

    def fields(self) -> dict[str, Any]:
        return {"placement": self.placement}

    def require_fitting(self, layer: Layer) -> None:
        """Refuse what `require_placeable` does."""
        require_placeable(layer, self.placement)

    def deed(self, _composite: Composite, layer: Layer) -> str:
        if not isinstance(layer, PlacedLayer):
            return "moved"
        before, after = layer.placement, self.placement
        for name, made, undone in SHAPED:
            if getattr(before, name) != getattr(after, name):
                return undone if getattr(after, name) is None else made
        if (before.flipped, before.upended) != (after.flipped, after.upended):
            return "flipped"
        if before.turn != after.turn:
            return "turned"
        if (before.scale_x, before.scale_y) != (after.scale_x, after.scale_y):
            return "scaled"
        return "moved"
