"""Changes one place in a pile whose groups lie in one another."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.stack.model import GroupLayer, Layer

if TYPE_CHECKING:
    from collections.abc import Callable

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
                found.append(layer.model_copy(update={"layers": inner}))
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


def depth_of(layers: Layers) -> int:
    """Count how many groups lie in one another.

    Parameters
    ----------
    layers : tuple of Layer
        A pile.

    Returns
    -------
    int
        0 where there is no group.
    """
    groups = [one for one in layers if isinstance(one, GroupLayer)]
    return max((1 + depth_of(group.layers) for group in groups), default=0)
