"""Edits as they are stored, and what earlier versions stored.

Each stored edit says its version. Version 1 left open where a new layer lies, what a
copy is called, and how large a group's own sheet is.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glyphaneme.core.document.grouping import box_round
from glyphaneme.core.document.model import SCHEMA_VERSION
from glyphaneme.core.document.upcasting import Stored, require_known
from glyphaneme.core.edits.grouping import GroupLayers
from glyphaneme.core.edits.kinds import parse_edit
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite
    from glyphaneme.core.edits.kinds import Edit


BESIDE = {"version", "asked"}
"""What is stored of an edit besides its fields."""


def store_edit(edit: Edit, asked: Edit | None = None) -> Stored:
    """Return a decided edit as it is stored.

    Parameters
    ----------
    edit : Edit
        As `decided` returned it.
    asked : Edit, optional
        As it was asked for, where it was brought to another state than that.

    Returns
    -------
    dict
        Its JSON, with the version beside its fields.
    """
    stored: Stored = {**edit.model_dump(mode="json"), "version": SCHEMA_VERSION}
    if asked is not None:
        stored["asked"] = asked.model_dump(mode="json", exclude_none=True)
    return stored


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
    fields = {name: value for name, value in stored.items() if name not in BESIDE}
    version = stored.get("version", 1)
    require_known(version)
    edit = parse_edit(fields)
    if version == 1 and isinstance(edit, GroupLayers):
        box = box_round(edit.members(before), before.canvas, within=math.inf)
        return with_fields(edit, box=box)
    return edit.decided(before)


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
    return asked.says(stored.get("asked", stored))
