"""Decides what an edit leaves open: where a new layer lies, what a copy is called.

What is stored is decided, so that replaying a history never depends on these rules.
Whoever changes one keeps the old one for the edits of version 1 (see `upcasting`).
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.errors import NotTogetherError
from glyphaneme.core.place import fit_placement
from glyphaneme.core.stack.edits import AddLayer, DuplicateLayer, Edit, GroupLayers
from glyphaneme.core.stack.model import LONGEST_NAME
from glyphaneme.core.stack.nesting import box_round
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.place import Placement
    from glyphaneme.core.stack.model import Composite, Layer

COPY_OFFSET = 0.02
"""How far a copy is laid beside its original, as a share of the canvas."""

LONGEST_STEM = 110
"""How much of a name a copy keeps, so that its number has room."""


def decided(composite: Composite, edit: Edit) -> Edit:
    """Return the edit with everything said that it left open.

    Parameters
    ----------
    composite : Composite
        What it is applied to.
    edit : Edit
        As it was asked for.

    Returns
    -------
    Edit
        The same where it left nothing open.

    Raises
    ------
    LayerMissingError
        It names a layer that is not there.
    NotTogetherError
        Layers to be grouped lie in different groups.

    Examples
    --------
    >>> from glyphaneme.core.stack.model import Canvas, Composite
    >>> bare = Composite(canvas=Canvas(width=400, height=300))
    >>> edit = AddLayer(
    ...     layer_id="a", picture="p", name="Moths", width=800, height=600
    ... )
    >>> decided(bare, edit).placement.scale_x
    0.5
    """
    match edit:
        case AddLayer(placement=None):
            return with_fields(edit, placement=_fitted(composite, edit))
        case DuplicateLayer():
            return _decided_copy(composite, edit)
        case GroupLayers(box=None):
            members = grouped_members(composite, edit)
            return with_fields(edit, box=box_round(members, composite.canvas))
        case _:
            return edit


def grouped_members(composite: Composite, edit: GroupLayers) -> tuple[Layer, ...]:
    """Return the layers that an edit groups, from back to front.

    Parameters
    ----------
    composite : Composite
        What it is applied to.
    edit : GroupLayers
        Names the layers in any order.

    Returns
    -------
    tuple of Layer
        Siblings of one another.

    Raises
    ------
    LayerMissingError
        One of them is not there.
    NotTogetherError
        They lie in different groups.
    """
    wanted = set(edit.layer_ids)
    siblings = composite.siblings_of(edit.layer_ids[0])
    members = tuple(layer for layer in siblings if layer.id in wanted)
    if len(members) < len(wanted):
        for layer_id in edit.layer_ids:
            composite.layer(layer_id)
        raise NotTogetherError
    return members


def _fitted(composite: Composite, edit: AddLayer) -> Placement:
    placement = fit_placement(
        edit.width,
        edit.height,
        canvas_width=composite.canvas.width,
        canvas_height=composite.canvas.height,
    )
    if edit.at is None:
        return placement
    return with_fields(placement, x=edit.at[0], y=edit.at[1])


def _decided_copy(composite: Composite, edit: DuplicateLayer) -> DuplicateLayer:
    name, shift = edit.name, edit.shift
    if name is None:
        name = _copy_name(composite, composite.layer(edit.layer_id).name)
    if shift is None:
        offset = COPY_OFFSET * min(composite.canvas.width, composite.canvas.height)
        shift = (offset, offset)
    return with_fields(edit, name=name, shift=shift)


def _copy_name(composite: Composite, name: str) -> str:
    """Return "Moths 2" for a copy of Moths, counting past names that are taken."""
    stem, _, number = name.rpartition(" ")
    base, count = (stem, int(number)) if stem and number.isdecimal() else (name, 1)
    taken = {layer.name for layer in composite.all_layers()}
    while f"{base} {count + 1}" in taken:
        count += 1
    return f"{base[:LONGEST_STEM]} {count + 1}"[:LONGEST_NAME]
