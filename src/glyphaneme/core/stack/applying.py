"""Applies one edit to a composite: a new composite, or a refusal with its reason."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Any, TypeVar

from pydantic import ValidationError

from glyphaneme.core.errors import (
    BeyondLimitsError,
    LayerLockedError,
    NoSuchWorkError,
)
from glyphaneme.core.stack.deciding import decided, grouped_members
from glyphaneme.core.stack.edits import (
    AddColor,
    AddGradient,
    AddLayer,
    BlendLayer,
    DissolveGroup,
    DuplicateLayer,
    GradeLayer,
    GroupLayers,
    LockLayer,
    MoveLayer,
    NameLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    ShowLayer,
    TintLayer,
)
from glyphaneme.core.stack.model import (
    ColorLayer,
    Composite,
    GradientLayer,
    GroupLayer,
    Layer,
    PhotoLayer,
    require_even_scale,
)
from glyphaneme.core.stack.nesting import (
    grouped,
    lifted,
    lifted_through,
    lowered_through,
    shifted,
)
from glyphaneme.core.stack.tree import Layers, inserted, replaced, require_sound
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Iterator

    from glyphaneme.core.stack.edits import Edit

ValueT = TypeVar("ValueT")


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
        The edit would change or remove a locked layer, or one in a locked group.
    LayerLimitError, DepthLimitError
        One layer too many, or groups too deep in one another.
    NoSuchWorkError
        The layer is of a kind that cannot be changed so.
    GroupStretchedError
        A group would lose its proportions.
    NotTogetherError
        Layers to be grouped lie in different groups.
    BeyondLimitsError
        What would come of it could not be stored and opened again.

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
    try:
        return _applied(composite, decided(composite, edit))
    except ValidationError as cause:
        raise BeyondLimitsError(_said_of(cause)) from cause


def _applied(composite: Composite, edit: Edit) -> Composite:
    match edit:
        case AddLayer() | AddColor() | AddGradient():
            return _added(composite, _new_layer(edit), edit.index)
        case DuplicateLayer():
            return _duplicate(composite, edit)
        case RemoveLayer():
            _require_unlocked(composite, edit.layer_id)
            return _put(composite, edit.layer_id, lambda _: ())
        case MoveLayer():
            return _move(composite, edit)
        case GroupLayers():
            return _group(composite, edit)
        case DissolveGroup():
            return _dissolve(composite, edit)
        case SetCanvas():
            return _set_canvas(composite, edit)
        case NameLayer() | ShowLayer() | LockLayer():
            return _change(composite, edit.layer_id, _changes(edit))
        case _:
            _require_unlocked(composite, edit.layer_id)
            _require_fitting(composite.layer(edit.layer_id), edit)
            return _change(composite, edit.layer_id, _changes(edit))


LayerChange = (
    PlaceLayer | BlendLayer | TintLayer | GradeLayer | NameLayer | ShowLayer | LockLayer
)


def _said(value: ValueT | None) -> ValueT:
    """Return what an edit says, once it is decided.

    Raises
    ------
    TypeError
        It was not decided: a fault of ours.
    """
    if value is None:
        message = "an edit must be decided before it is applied"
        raise TypeError(message)
    return value


def _said_of(cause: ValidationError) -> str:
    first = cause.errors(include_url=False, include_context=False)[0]
    return f"{'.'.join(map(str, first['loc']))}: {first['msg']}"


def _changes(edit: LayerChange) -> dict[str, Any]:
    match edit:
        case PlaceLayer():
            return {"placement": edit.placement}
        case BlendLayer():
            return {"blend": edit.mode, "opacity": edit.opacity}
        case TintLayer():
            return {"color": edit.color}
        case GradeLayer():
            return {"gradient": edit.gradient}
        case NameLayer():
            return {"name": edit.name}
        case ShowLayer():
            return {"visible": edit.visible}
        case LockLayer():
            return {"locked": edit.locked}


def _new_layer(edit: AddLayer | AddColor | AddGradient) -> Layer:
    if isinstance(edit, AddColor):
        return ColorLayer(id=edit.layer_id, name=edit.name, color=edit.color)
    if isinstance(edit, AddGradient):
        return GradientLayer(id=edit.layer_id, name=edit.name, gradient=edit.gradient)
    return PhotoLayer(
        id=edit.layer_id,
        name=edit.name,
        picture=edit.picture,
        width=edit.width,
        height=edit.height,
        placement=_said(edit.placement),
    )


def _added(composite: Composite, layer: Layer, index: int | None) -> Composite:
    place = len(composite.layers) if index is None else index
    return _with_layers(composite, inserted(composite.layers, layer, place))


def _duplicate(composite: Composite, edit: DuplicateLayer) -> Composite:
    original = composite.layer(edit.layer_id)
    copy = with_fields(
        shifted(original, *_said(edit.shift)),
        id=edit.copy_id,
        name=edit.name,
        locked=False,
    )
    if isinstance(copy, GroupLayer):
        copy = _with_new_ids(copy)
    return _put(composite, original.id, lambda _: (original, copy))


def _with_new_ids(group: GroupLayer) -> GroupLayer:
    """Give a copied group's members ids that follow from the copy's own."""
    members: list[Layer] = []
    for place, member in enumerate(group.layers):
        name = f"{group.id} {place}"
        renamed = with_fields(member, id=str(uuid.uuid5(uuid.NAMESPACE_OID, name)))
        if isinstance(renamed, GroupLayer):
            renamed = _with_new_ids(renamed)
        members.append(renamed)
    return with_fields(group, layers=tuple(members))


def _move(composite: Composite, edit: MoveLayer) -> Composite:
    *groups, layer = composite.path_to(edit.layer_id)
    target = composite.path_to(edit.into) if edit.into is not None else ()
    if any(one.id == layer.id for one in target):
        raise NoSuchWorkError("group", "cannot be put into itself")
    into = target[-1] if target else None
    if into is not None and not isinstance(into, GroupLayer):
        raise NoSuchWorkError(into.kind, "holds no other layers")
    if into is (groups[-1] if groups else None):
        others = tuple(
            one for one in composite.siblings_of(layer.id) if one.id != layer.id
        )
        return _refilled(composite, into, inserted(others, layer, edit.index))
    for around in (*groups, *target):
        if around.locked:
            raise LayerLockedError(around.name)
    outside = lifted_through(layer, _groups(reversed(groups)))
    inside = lowered_through(outside, _groups(target))
    without = _put(composite, layer.id, lambda _: ())
    home = without.layer(into.id) if into is not None else None
    members = home.layers if isinstance(home, GroupLayer) else without.layers
    return _refilled(without, into, inserted(members, inside, edit.index))


def _groups(path: Iterable[Layer]) -> Iterator[GroupLayer]:
    return (one for one in path if isinstance(one, GroupLayer))


def _refilled(
    composite: Composite, group: GroupLayer | None, members: Layers
) -> Composite:
    """Give a group, or the whole composite, other members."""
    if group is None:
        return _with_layers(composite, members)
    return _change(composite, group.id, {"layers": members})


def _group(composite: Composite, edit: GroupLayers) -> Composite:
    members = grouped_members(composite, edit)
    group = grouped(
        members, group_id=edit.group_id, name=edit.name, box=_said(edit.box)
    )
    group = with_fields(group, blend=edit.mode)
    front = members[-1].id
    for member in members[:-1]:
        composite = _put(composite, member.id, lambda _: ())
    return _put(composite, front, lambda _: (group,))


def _dissolve(composite: Composite, edit: DissolveGroup) -> Composite:
    _require_unlocked(composite, edit.layer_id)
    group = composite.layer(edit.layer_id)
    if not isinstance(group, GroupLayer):
        raise NoSuchWorkError(group.kind, "cannot be taken apart")
    members = tuple(lifted(member, group) for member in group.layers)
    return _put(composite, group.id, lambda _: members)


def _set_canvas(composite: Composite, edit: SetCanvas) -> Composite:
    layers = tuple(
        shifted(layer, edit.shift_x, edit.shift_y) for layer in composite.layers
    )
    return with_fields(composite, canvas=edit.canvas, layers=layers)


def _change(composite: Composite, layer_id: str, changes: dict[str, Any]) -> Composite:
    composite.layer(layer_id)
    return _put(composite, layer_id, lambda layer: (with_fields(layer, **changes),))


def _put(
    composite: Composite, layer_id: str, change: Callable[[Layer], Layers]
) -> Composite:
    return _with_layers(composite, replaced(composite.layers, layer_id, change))


def _with_layers(composite: Composite, layers: Layers) -> Composite:
    require_sound(layers)
    return with_fields(composite, layers=layers)


def _require_unlocked(composite: Composite, layer_id: str) -> None:
    for layer in composite.path_to(layer_id):
        if layer.locked:
            raise LayerLockedError(layer.name)


def _require_fitting(layer: Layer, edit: LayerChange) -> None:
    match edit:
        case PlaceLayer() if isinstance(layer, GroupLayer):
            require_even_scale(edit.placement)
        case PlaceLayer() if not isinstance(layer, PhotoLayer):
            raise NoSuchWorkError(layer.kind, "lies everywhere and has no place")
        case TintLayer() if not isinstance(layer, ColorLayer):
            raise NoSuchWorkError(layer.kind, "has no colour of its own")
        case GradeLayer() if not isinstance(layer, GradientLayer):
            raise NoSuchWorkError(layer.kind, "has no gradient of its own")
        case _:
            pass
