"""Changes one place of a composite, checked as a whole."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.document.tree import Layers, replaced, require_sound
from glyphaneme.core.errors import LayerLockedError
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Callable

    from glyphaneme.core.document.model import Composite, GroupLayer, Layer


def with_layers(composite: Composite, layers: Layers) -> Composite:
    """Give a composite another pile.

    Parameters
    ----------
    composite : Composite
        It stays unchanged.
    layers : tuple of Layer
        From back to front.

    Returns
    -------
    Composite
        The new state; refused, as `require_sound` says, where it cannot be.
    """
    require_sound(layers)
    return with_fields(composite, layers=layers)


def with_members(
    composite: Composite, group: GroupLayer | None, members: Layers
) -> Composite:
    """Give a group, or the whole composite, other members.

    Parameters
    ----------
    composite : Composite
        It stays unchanged.
    group : GroupLayer or None
        None for the composite's own pile.
    members : tuple of Layer
        From back to front.

    Returns
    -------
    Composite
        The new state.
    """
    if group is None:
        return with_layers(composite, members)
    return with_layer_fields(composite, group.id, layers=members)


def with_instead(
    composite: Composite, layer_id: str, change: Callable[[Layer], Layers]
) -> Composite:
    """Put other layers in the place of one.

    Parameters
    ----------
    composite : Composite
        It stays unchanged.
    layer_id : str
        Which layer, at any depth.
    change : callable
        Takes the layer and returns what shall lie in its place.

    Returns
    -------
    Composite
        The new state; `LayerMissingError` where there is no such layer.
    """
    composite.layer(layer_id)
    return with_layers(composite, replaced(composite.layers, layer_id, change))


def with_layer_fields(
    composite: Composite, layer_id: str, **fields: object
) -> Composite:
    """Replace some fields of one layer.

    Parameters
    ----------
    composite : Composite
        It stays unchanged.
    layer_id : str
        Which layer, at any depth.
    **fields : object
        What to replace.

    Returns
    -------
    Composite
        The new state; `LayerMissingError` where there is no such layer.
    """
    return with_instead(
        composite, layer_id, lambda layer: (with_fields(layer, **fields),)
    )


def require_unlocked(composite: Composite, layer_id: str) -> None:
    """Require that neither a layer nor a group around it is locked.

    Parameters
    ----------
    composite : Composite
        Where it lies.
    layer_id : str
        Which layer.

    Raises
    ------
    LayerLockedError
        Names the one that is; `LayerMissingError` where there is no such layer.
    """
    for layer in composite.path_to(layer_id):
        if layer.locked:
            raise LayerLockedError(layer.name)
