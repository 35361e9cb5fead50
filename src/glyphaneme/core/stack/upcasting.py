"""Composites and edits as they are stored, and what earlier versions stored.

Each stored composite and edit says its version. What an earlier version wrote is
brought up to date when it is read, one step a version; `tests/golden` holds what each
released version wrote.

Version 1 let positions, lengths and names that followed from others grow beyond the
limits, and left open where a new layer lies and what a copy is called.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from glyphaneme.core.errors import NewerVersionError, NoCompositeError
from glyphaneme.core.place import kept_position
from glyphaneme.core.stack.deciding import decided, grouped_members
from glyphaneme.core.stack.edits import GroupLayers, parse_edit
from glyphaneme.core.stack.gradients import GREATEST_LENGTH
from glyphaneme.core.stack.model import LONGEST_NAME, SCHEMA_VERSION, Composite
from glyphaneme.core.stack.nesting import box_round
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.stack.edits import Edit

Stored = dict[str, Any]


def store_composite(composite: Composite) -> Stored:
    """Return a composite as it is stored.

    Parameters
    ----------
    composite : Composite
        Any state.

    Returns
    -------
    dict
        Its JSON, with the version in it.

    Examples
    --------
    >>> from glyphaneme.core.stack.model import Canvas
    >>> store_composite(Composite(canvas=Canvas(width=4, height=3)))["schema_version"]
    2
    """
    return composite.model_dump(mode="json")


def open_composite(stored: Stored) -> Composite:
    """Return a composite that this version or an earlier one stored.

    Parameters
    ----------
    stored : dict
        As `store_composite` wrote it.

    Returns
    -------
    Composite
        Brought up to date; pydantic's ValidationError where it is no composite.

    Raises
    ------
    NewerVersionError
        A later version wrote it.
    NoCompositeError
        It is nothing of the kind.
    """
    try:
        version = stored.get("schema_version", 1)
        _require_known(version)
        if version == 1:
            layers = [_layer_of_version_1(one) for one in stored.get("layers", ())]
            stored = {**stored, "layers": layers, "schema_version": SCHEMA_VERSION}
    except (AttributeError, KeyError, RecursionError, TypeError) as cause:
        raise NoCompositeError from cause
    return Composite.model_validate(stored)


def store_edit(edit: Edit) -> Stored:
    """Return a decided edit as it is stored.

    Parameters
    ----------
    edit : Edit
        As `decided` returned it.

    Returns
    -------
    dict
        Its JSON, with the version beside its fields.
    """
    return {**edit.model_dump(mode="json"), "version": SCHEMA_VERSION}


def open_edit(stored: Stored, before: Composite) -> Edit:
    """Return an edit that this version or an earlier one stored.

    Parameters
    ----------
    stored : dict
        As `store_edit` wrote it.
    before : Composite
        What it was applied to: version 1 decided some things from that.

    Returns
    -------
    Edit
        Decided; pydantic's ValidationError where it is no edit.

    Raises
    ------
    NewerVersionError
        A later version wrote it.
    """
    fields = {name: value for name, value in stored.items() if name != "version"}
    version = stored.get("version", 1)
    _require_known(version)
    edit = parse_edit(fields)
    if version == 1 and isinstance(edit, GroupLayers):
        members = grouped_members(before, edit)
        box = box_round(members, before.canvas, within=math.inf)
        return with_fields(edit, box=box)
    return decided(before, edit)


def says_the_same(stored: Stored, asked: Edit) -> bool:
    """Tell whether a stored edit is what is asked for now.

    Parameters
    ----------
    stored : dict
        As `store_edit` wrote it.
    asked : Edit
        Perhaps with things left open.

    Returns
    -------
    bool
        True where it says everything that is asked.
    """
    said = asked.model_dump(mode="json", exclude_none=True)
    return all(stored.get(name) == value for name, value in said.items())


def _require_known(version: object) -> None:
    # A list: a version that is no number is unknown, whatever it is.
    if version not in [*range(1, SCHEMA_VERSION + 1)]:
        raise NewerVersionError(version)


def _layer_of_version_1(layer: Stored) -> Stored:
    """Keep what followed from other values within the limits."""
    kept = {**layer, "name": layer["name"][:LONGEST_NAME]}
    if "placement" in layer:
        kept["placement"] = _placement_of_version_1(layer["placement"])
    if "gradient" in layer:
        kept["gradient"] = _gradient_of_version_1(layer["gradient"])
    if "layers" in layer:
        kept["layers"] = [_layer_of_version_1(one) for one in layer["layers"]]
    return kept


def _placement_of_version_1(placement: Stored) -> Stored:
    x, y = kept_position(placement["x"]), kept_position(placement["y"])
    return {**placement, "x": x, "y": y}


def _gradient_of_version_1(gradient: Stored) -> Stored:
    return {
        **gradient,
        "x": kept_position(gradient["x"]),
        "y": kept_position(gradient["y"]),
        "length": min(gradient["length"], GREATEST_LENGTH),
    }
