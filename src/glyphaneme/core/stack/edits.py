"""Edits: small validated values, each one thing a person did to a composite.

Some of their fields may be left open, as None: `deciding` fills those in, once, before
an edit is applied or stored.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.place import Placement
from glyphaneme.core.place.placement import Position
from glyphaneme.core.stack.gradients import Color, Gradient, Opacity
from glyphaneme.core.stack.model import (
    MAX_LAYERS,
    Box,
    Canvas,
    LayerId,
    Name,
    PictureId,
    Pixels,
)

LayerIndex = Annotated[int, Field(ge=0, le=MAX_LAYERS)]


class _EditBase(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class AddLayer(_EditBase):
    """Lay a picture over the others, whole in the middle unless told where.

    With `at` alone its middle comes to lie there; `placement` says all.
    """

    kind: Literal["add_layer"] = "add_layer"
    layer_id: LayerId
    picture: PictureId
    name: Name
    width: Pixels
    height: Pixels
    index: LayerIndex | None = None
    at: tuple[Position, Position] | None = None
    placement: Placement | None = None


class AddColor(_EditBase):
    """Lay one colour over everything."""

    kind: Literal["add_color"] = "add_color"
    layer_id: LayerId
    name: Name
    color: Color
    index: LayerIndex | None = None


class AddGradient(_EditBase):
    """Lay a gradient over everything."""

    kind: Literal["add_gradient"] = "add_gradient"
    layer_id: LayerId
    name: Name
    gradient: Gradient
    index: LayerIndex | None = None


class RemoveLayer(_EditBase):
    """Take a layer away; its picture stays on the shelf."""

    kind: Literal["remove_layer"] = "remove_layer"
    layer_id: LayerId


class DuplicateLayer(_EditBase):
    """Lay a copy of a layer right over it, a little beside it."""

    kind: Literal["duplicate_layer"] = "duplicate_layer"
    layer_id: LayerId
    copy_id: LayerId
    name: Name | None = None
    shift: tuple[Position, Position] | None = None


class PlaceLayer(_EditBase):
    """Move, scale, turn or mirror a layer."""

    kind: Literal["place_layer"] = "place_layer"
    layer_id: LayerId
    placement: Placement


class BlendLayer(_EditBase):
    """Set how a layer's colours join those beneath, and how strongly."""

    kind: Literal["blend_layer"] = "blend_layer"
    layer_id: LayerId
    mode: BlendMode
    opacity: Opacity


class TintLayer(_EditBase):
    """Give a colour layer another colour."""

    kind: Literal["tint_layer"] = "tint_layer"
    layer_id: LayerId
    color: Color


class GradeLayer(_EditBase):
    """Change a gradient layer's gradient."""

    kind: Literal["grade_layer"] = "grade_layer"
    layer_id: LayerId
    gradient: Gradient


class GroupLayers(_EditBase):
    """Put layers of one group into a new one, at the front one's place."""

    kind: Literal["group_layers"] = "group_layers"
    group_id: LayerId
    name: Name
    layer_ids: tuple[LayerId, ...] = Field(min_length=1, max_length=MAX_LAYERS)
    mode: BlendMode = BlendMode.NORMAL
    """How the group blends: with the mode that its members share, modes such as
    multiply or lighten show the same as before."""
    box: Box | None = None
    """The group's own sheet: as large as all of them together."""


class DissolveGroup(_EditBase):
    """Take a group apart; its members stay where they show."""

    kind: Literal["dissolve_group"] = "dissolve_group"
    layer_id: LayerId


class NameLayer(_EditBase):
    """Give a layer another name."""

    kind: Literal["name_layer"] = "name_layer"
    layer_id: LayerId
    name: Name


class ShowLayer(_EditBase):
    """Show or hide a layer."""

    kind: Literal["show_layer"] = "show_layer"
    layer_id: LayerId
    visible: bool


class LockLayer(_EditBase):
    """Lock a layer against changes, or unlock it."""

    kind: Literal["lock_layer"] = "lock_layer"
    layer_id: LayerId
    locked: bool


class MoveLayer(_EditBase):
    """Put a layer at another place, counted from the back of the group `into`.

    Without `into` that is the whole pile. The layer stays where it shows.
    """

    kind: Literal["move_layer"] = "move_layer"
    layer_id: LayerId
    index: LayerIndex
    into: LayerId | None = None


class SetCanvas(_EditBase):
    """Change the canvas; every layer moves by the shift, nothing is cut off."""

    kind: Literal["set_canvas"] = "set_canvas"
    canvas: Canvas
    shift_x: Position = 0.0
    shift_y: Position = 0.0


Edit: TypeAlias = Annotated[
    AddLayer
    | AddColor
    | AddGradient
    | RemoveLayer
    | DuplicateLayer
    | PlaceLayer
    | BlendLayer
    | TintLayer
    | GradeLayer
    | GroupLayers
    | DissolveGroup
    | NameLayer
    | ShowLayer
    | LockLayer
    | MoveLayer
    | SetCanvas,
    Field(discriminator="kind"),
]

_ADAPTER: TypeAdapter[Edit] = TypeAdapter(Edit)


def parse_edit(value: dict[str, Any]) -> Edit:
    """Read an edit from its JSON form.

    Parameters
    ----------
    value : dict
        As `model_dump(mode="json")` of an edit wrote it.

    Returns
    -------
    Edit
        One of the edit classes, chosen by `kind`; pydantic's ValidationError where
        the value is none.

    Examples
    --------
    >>> parse_edit({"kind": "remove_layer", "layer_id": "moths"})
    RemoveLayer(kind='remove_layer', layer_id='moths')
    """
    return _ADAPTER.validate_python(value)
