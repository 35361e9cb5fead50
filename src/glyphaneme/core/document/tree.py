"""Changes one place in a pile whose groups lie in one another, within its limits."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.document.model import (
    MAX_DEPTH,
    MAX_LAYERS,
    GroupLayer,
    Layer,
    members_of,
)
from glyphaneme.core.document.reading import require_readable
from glyphaneme.core.errors import (
    DepthLimitError,
    LayerExistsError,
    LayerLimitError,
)
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

Layers = tuple[Layer, ...]


def replaced(
    layers: Layers, layer_id: str, change: Callable[[Layer], Layers]
) -> Layers:
    """Put other layers in the place of one; a group that is left empty goes too.

    Parameters
    ----------
    layers : tuple of Layer
        A pile in which the layer lies, at any depth.
    layer_id : str
        Which one.
    change : callable
        Takes the layer and returns what shall lie in its place.

    Returns
    -------
    tuple of Layer
        The new pile; the same where no layer has that id.
    """
    found: list[Layer] = []
    for layer in layers:
        if layer.id == layer_id:
            found += change(layer)
        elif isinstance(layer, GroupLayer):
            inner = replaced(layer.layers, layer_id, change)
            if inner:
                found.append(with_fields(layer, layers=inner))
        else:
            found.append(layer)
    return tuple(found)


def inserted(layers: Layers, layer: Layer, index: int) -> Layers:
    """Put a layer into a pile.

    Parameters
    ----------
    layers : tuple of Layer
        From back to front.
    layer : Layer
        The new one.
    index : int
        Its place from the back; past the end counts as the front.

    Returns
    -------
    tuple of Layer
        The new pile.
    """
    return (*layers[:index], layer, *layers[index:])


def require_sound(layers: Layers) -> None:
    """Require what the layers' own values cannot say each for itself.

    Parameters
    ----------
    layers : tuple of Layer
        All layers of a composite.

    Raises
    ------
    LayerExistsError
        Two of them have the same id.
    LayerLimitError
        There are too many.
    DepthLimitError
        Groups lie too deep in one another.
    LayerPartLimitError, MaskCircleError
        As `require_readable` says.
    """
    ids = list(_ids_in(layers))
    if len(ids) > MAX_LAYERS:
        raise LayerLimitError(MAX_LAYERS)
    if len(set(ids)) < len(ids):
        raise LayerExistsError(next(one for one in ids if ids.count(one) > 1))
    if _depth_of(layers) > MAX_DEPTH:
        raise DepthLimitError(MAX_DEPTH)
    require_readable(_each_of(layers))


def _ids_in(layers: Layers) -> Iterator[str]:
    for layer in layers:
        yield layer.id
        yield from _ids_in(members_of(layer))


def _depth_of(layers: Layers) -> int:
    """Count how many groups lie in one another; 0 where there is none."""
    groups = [one for one in layers if isinstance(one, GroupLayer)]
    return max((1 + _depth_of(group.layers) for group in groups), default=0)


def _each_of(layers: Layers) -> Iterator[Layer]:
    for layer in layers:
        yield layer
        yield from _each_of(members_of(layer))
