"""Edits: small validated values, each one thing a person did to a composite."""

from __future__ import annotations

from typing import Annotated, Any, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.place import Placement
from glyphaneme.core.place.placement import Position
from glyphaneme.core.stack.model import (
    MAX_LAYERS,
    Canvas,
    LayerId,
    Name,
    Opacity,
    PictureId,
)

LayerIndex = Annotated[int, Field(ge=0, le=MAX_LAYERS)]


class _EditBase(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class AddLayer(_EditBase):
    """Lay a picture over the others, whole in the middle unless told where."""

    kind: Literal["add_layer"] = "add_layer"
    layer_id: LayerId
    picture: PictureId
    name: Name
    width: Annotated[int, Field(ge=1)]
    height: Annotated[int, Field(ge=1)]
    index: LayerIndex | None = None
    at: tuple[Position, Position] | None = None


class RemoveLayer(_EditBase):
    """Take a layer away; its picture stays on the shelf."""

    kind: Literal["remove_layer"] = "remove_layer"
    layer_id: LayerId


class DuplicateLayer(_EditBase):
    """Lay a copy of a layer right over it."""

    kind: Literal["duplicate_layer"] = "duplicate_layer"
    layer_id: LayerId
    copy_id: LayerId


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
    """Put a layer at another place in the pile, counted from the back."""

    kind: Literal["move_layer"] = "move_layer"
    layer_id: LayerId
    index: LayerIndex


class SetCanvas(_EditBase):
    """Change the canvas; every layer moves by the shift, nothing is cut off."""

    kind: Literal["set_canvas"] = "set_canvas"
    canvas: Canvas
    shift_x: Position = 0.0
    shift_y: Position = 0.0


Edit: TypeAlias = Annotated[
    AddLayer
    | RemoveLayer
    | DuplicateLayer
    | PlaceLayer
    | BlendLayer
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
