"""Applies one edit to a composite: a new composite, or a refusal with its reason."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Any

from glyphaneme.core.errors import (
    DepthLimitError,
    LayerExistsError,
    LayerLimitError,
    LayerLockedError,
    NoSuchWorkError,
    NotTogetherError,
)
from glyphaneme.core.place import fit_placement
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
    MAX_DEPTH,
    MAX_LAYERS,
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
from glyphaneme.core.stack.tree import Layers, depth_of, inserted, replaced

if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Iterator

    from glyphaneme.core.stack.edits import Edit

COPY_OFFSET = 0.02
"""How far a copy is laid beside its original, as a share of the canvas."""

LONGEST_STEM = 110
"""How much of a name a copy keeps, so that its number has room."""


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
        case AddLayer() | AddColor() | AddGradient():
            return _added(composite, _new_layer(composite, edit), edit.index)
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


def _new_layer(composite: Composite, edit: AddLayer | AddColor | AddGradient) -> Layer:
    if isinstance(edit, AddColor):
        return ColorLayer(id=edit.layer_id, name=edit.name, color=edit.color)
    if isinstance(edit, AddGradient):
        return GradientLayer(id=edit.layer_id, name=edit.name, gradient=edit.gradient)
    placement = fit_placement(
        edit.width,
        edit.height,
        canvas_width=composite.canvas.width,
        canvas_height=composite.canvas.height,
    )
    if edit.at is not None:
        placement = placement.model_copy(update={"x": edit.at[0], "y": edit.at[1]})
    return PhotoLayer(
        id=edit.layer_id,
        name=edit.name,
        picture=edit.picture,
        width=edit.width,
        height=edit.height,
        placement=placement,
    )


def _added(composite: Composite, layer: Layer, index: int | None) -> Composite:
    place = len(composite.layers) if index is None else index
    return _with_layers(composite, inserted(composite.layers, layer, place))


def _duplicate(composite: Composite, edit: DuplicateLayer) -> Composite:
    original = composite.layer(edit.layer_id)
    offset = COPY_OFFSET * min(composite.canvas.width, composite.canvas.height)
    copy = shifted(original, offset, offset).model_copy(
        update={
            "id": edit.copy_id,
            "name": _copy_name(composite, original.name),
            "locked": False,
        }
    )
    if isinstance(copy, GroupLayer):
        copy = _with_new_ids(copy)
    return _put(composite, original.id, lambda _: (original, copy))


def _with_new_ids(group: GroupLayer) -> GroupLayer:
    """Give a copied group's members ids that follow from the copy's own."""
    members: list[Layer] = []
    for place, member in enumerate(group.layers):
        name = f"{group.id} {place}"
        renamed = member.model_copy(
            update={"id": str(uuid.uuid5(uuid.NAMESPACE_OID, name))}
        )
        if isinstance(renamed, GroupLayer):
            renamed = _with_new_ids(renamed)
        members.append(renamed)
    return group.model_copy(update={"layers": tuple(members)})


def _copy_name(composite: Composite, name: str) -> str:
    """Return "Moths 2" for a copy of Moths, counting past names that are taken."""
    stem, _, number = name.rpartition(" ")
    base, count = (stem, int(number)) if stem and number.isdecimal() else (name, 1)
    taken = {layer.name for layer in composite.all_layers()}
    while f"{base} {count + 1}" in taken:
        count += 1
    return f"{base[:LONGEST_STEM]} {count + 1}"


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
    wanted = set(edit.layer_ids)
    siblings = composite.siblings_of(edit.layer_ids[0])
    members = tuple(layer for layer in siblings if layer.id in wanted)
    if len(members) < len(wanted):
        for layer_id in edit.layer_ids:
            composite.layer(layer_id)
        raise NotTogetherError
    group = grouped(
        members, group_id=edit.group_id, name=edit.name, canvas=composite.canvas
    ).model_copy(update={"blend": edit.mode})
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
    return composite.model_copy(update={"canvas": edit.canvas, "layers": layers})


def _change(composite: Composite, layer_id: str, changes: dict[str, Any]) -> Composite:
    composite.layer(layer_id)
    return _put(composite, layer_id, lambda layer: (layer.model_copy(update=changes),))


def _put(
    composite: Composite, layer_id: str, change: Callable[[Layer], Layers]
) -> Composite:
    return _with_layers(composite, replaced(composite.layers, layer_id, change))


def _with_layers(composite: Composite, layers: Layers) -> Composite:
    after = composite.model_copy(update={"layers": layers})
    ids = [layer.id for layer in after.all_layers()]
    if len(set(ids)) < len(ids):
        raise LayerExistsError(next(one for one in ids if ids.count(one) > 1))
    if len(ids) > MAX_LAYERS:
        raise LayerLimitError(MAX_LAYERS)
    if depth_of(layers) > MAX_DEPTH:
        raise DepthLimitError(MAX_DEPTH)
    return after


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
