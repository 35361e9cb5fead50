"""Applies one edit to a composite: a new composite, or a refusal with its reason."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glyphaneme.core.errors import (
    LayerExistsError,
    LayerLimitError,
    LayerLockedError,
)
from glyphaneme.core.place import fit_placement
from glyphaneme.core.stack.edits import (
    AddLayer,
    BlendLayer,
    DuplicateLayer,
    LockLayer,
    MoveLayer,
    NameLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    ShowLayer,
)
from glyphaneme.core.stack.model import MAX_LAYERS, Composite, Layer

if TYPE_CHECKING:
    from glyphaneme.core.stack.edits import Edit

COPY_OFFSET = 0.02
"""How far a copy is laid beside its original, as a share of the canvas."""


def apply(composite: Composite, edit: Edit) -> Composite:
    """Return the composite as it is after an edit.

    Parameters
    ----------
    composite : Composite
        The state before; it stays unchanged.
    edit : Edit
        What was done.

    Returns
    -------
    Composite
        The state after.

    Raises
    ------
    LayerMissingError
        The edit names a layer that is not there.
    LayerExistsError
        A new layer's id is taken.
    LayerLockedError
        The edit would change or remove a locked layer.
    LayerLimitError
        One layer too many.

    Examples
    --------
    >>> from glyphaneme.core.stack.model import Canvas
    >>> bare = Composite(canvas=Canvas(width=400, height=300))
    >>> edit = AddLayer(
    ...     layer_id="a", picture="p", name="Moths", width=800, height=600
    ... )
    >>> apply(bare, edit).layers[0].placement.scale_x
    0.5
    """
    match edit:
        case AddLayer():
            return _add(composite, edit)
        case DuplicateLayer():
            return _duplicate(composite, edit)
        case RemoveLayer():
            _require_unlocked(composite, edit.layer_id)
            return _without(composite, edit.layer_id)
        case MoveLayer():
            layer = composite.layer(edit.layer_id)
            return _inserted(_without(composite, layer.id), layer, edit.index)
        case SetCanvas():
            return _set_canvas(composite, edit)
        case PlaceLayer() | BlendLayer():
            _require_unlocked(composite, edit.layer_id)
            return _changed(composite, edit.layer_id, _changes(edit))
        case NameLayer() | ShowLayer() | LockLayer():
            return _changed(composite, edit.layer_id, _changes(edit))


def _changes(
    edit: PlaceLayer | BlendLayer | NameLayer | ShowLayer | LockLayer,
) -> dict[str, Any]:
    match edit:
        case PlaceLayer():
            return {"placement": edit.placement}
        case BlendLayer():
            return {"blend": edit.mode, "opacity": edit.opacity}
        case NameLayer():
            return {"name": edit.name}
        case ShowLayer():
            return {"visible": edit.visible}
        case LockLayer():
            return {"locked": edit.locked}


def _add(composite: Composite, edit: AddLayer) -> Composite:
    placement = fit_placement(
        edit.width,
        edit.height,
        canvas_width=composite.canvas.width,
        canvas_height=composite.canvas.height,
    )
    if edit.at is not None:
        placement = placement.model_copy(update={"x": edit.at[0], "y": edit.at[1]})
    layer = Layer(
        id=edit.layer_id,
        name=edit.name,
        picture=edit.picture,
        width=edit.width,
        height=edit.height,
        placement=placement,
    )
    _require_room(composite, layer.id)
    index = len(composite.layers) if edit.index is None else edit.index
    return _inserted(composite, layer, index)


def _duplicate(composite: Composite, edit: DuplicateLayer) -> Composite:
    original = composite.layer(edit.layer_id)
    _require_room(composite, edit.copy_id)
    offset = COPY_OFFSET * min(composite.canvas.width, composite.canvas.height)
    copy = original.model_copy(
        update={
            "id": edit.copy_id,
            "name": _copy_name(composite, original.name),
            "locked": False,
            "placement": original.placement.model_copy(
                update={
                    "x": original.placement.x + offset,
                    "y": original.placement.y + offset,
                }
            ),
        }
    )
    return _inserted(composite, copy, composite.index_of(original.id) + 1)


def _copy_name(composite: Composite, name: str) -> str:
    """Return "Moths 2" for a copy of Moths, counting past names that are taken."""
    stem, _, number = name.rpartition(" ")
    base, count = (stem, int(number)) if stem and number.isdecimal() else (name, 1)
    taken = {layer.name for layer in composite.layers}
    while f"{base} {count + 1}" in taken:
        count += 1
    return f"{base[:110]} {count + 1}"


def _set_canvas(composite: Composite, edit: SetCanvas) -> Composite:
    layers = tuple(
        layer.model_copy(
            update={
                "placement": layer.placement.model_copy(
                    update={
                        "x": layer.placement.x + edit.shift_x,
                        "y": layer.placement.y + edit.shift_y,
                    }
                )
            }
        )
        for layer in composite.layers
    )
    return composite.model_copy(update={"canvas": edit.canvas, "layers": layers})


def _changed(composite: Composite, layer_id: str, changes: dict[str, Any]) -> Composite:
    index = composite.index_of(layer_id)
    changed = composite.layers[index].model_copy(update=changes)
    return _with_layers(
        composite, (*composite.layers[:index], changed, *composite.layers[index + 1 :])
    )


def _without(composite: Composite, layer_id: str) -> Composite:
    index = composite.index_of(layer_id)
    return _with_layers(
        composite, composite.layers[:index] + composite.layers[index + 1 :]
    )


def _inserted(composite: Composite, layer: Layer, index: int) -> Composite:
    return _with_layers(
        composite, (*composite.layers[:index], layer, *composite.layers[index:])
    )


def _with_layers(composite: Composite, layers: tuple[Layer, ...]) -> Composite:
    return composite.model_copy(update={"layers": layers})


def _require_unlocked(composite: Composite, layer_id: str) -> None:
    layer = composite.layer(layer_id)
    if layer.locked:
        raise LayerLockedError(layer.name)


def _require_room(composite: Composite, layer_id: str) -> None:
    if any(layer.id == layer_id for layer in composite.layers):
        raise LayerExistsError(layer_id)
    if len(composite.layers) >= MAX_LAYERS:
        raise LayerLimitError(MAX_LAYERS)
