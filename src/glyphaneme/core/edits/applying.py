"""Applies one edit to a composite: a new composite, or a refusal with its reason."""

from __future__ import annotations

from typing import TYPE_CHECKING

from pydantic import ValidationError

from glyphaneme.core.errors import BeyondLimitsError

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite
    from glyphaneme.core.edits.kinds import Edit


def decided(composite: Composite, edit: Edit) -> Edit:
    """Return the edit with everything said that it left open.

    What is stored is decided, so that replaying a history never depends on the rules
    of the day. Whoever changes such a rule keeps the old one for the edits of version
    1 (see `upcasting`).

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
    CoreError
        It does not fit, in one of the ways that `apply` names.

    Examples
    --------
    >>> from glyphaneme.core.document import Canvas, Composite
    >>> from glyphaneme.core.edits import AddLayer
    >>> bare = Composite(canvas=Canvas(width=400, height=300))
    >>> edit = AddLayer(
    ...     layer_id="a", picture="p", name="Moths", width=800, height=600
    ... )
    >>> decided(bare, edit).placement.scale_x
    0.5
    """
    return edit.decided(composite)


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
    >>> from glyphaneme.core.document import Canvas, Composite
    >>> from glyphaneme.core.edits import AddLayer
    >>> bare = Composite(canvas=Canvas(width=400, height=300))
    >>> edit = AddLayer(
    ...     layer_id="a", picture="p", name="Moths", width=800, height=600
    ... )
    >>> apply(bare, edit).layers[0].placement.scale_x
    0.5
    """
    try:
        return edit.applied(composite)
    except ValidationError as cause:
        raise BeyondLimitsError(_said_of(cause)) from cause


def describe_edit(composite: Composite, edit: Edit) -> str:
    """Say in a few words what an edit does, for the history.

    Parameters
    ----------
    composite : Composite
        The state before the edit.
    edit : Edit
        An edit that applies to it.

    Returns
    -------
    str
        Such as "Moths moved".

    Examples
    --------
    >>> from glyphaneme.core.document import Canvas, Composite
    >>> from glyphaneme.core.edits import SetCanvas
    >>> bare = Composite(canvas=Canvas(width=30, height=20))
    >>> describe_edit(bare, SetCanvas(canvas=Canvas(width=40, height=20)))
    'Canvas 40 × 20 px'
    """
    return edit.label(composite)


def _said_of(cause: ValidationError) -> str:
    first = cause.errors(include_url=False, include_context=False)[0]
    return f"{'.'.join(map(str, first['loc']))}: {first['msg']}"
