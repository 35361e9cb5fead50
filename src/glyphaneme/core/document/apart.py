"""One layer by itself, and what lies beneath it, in the frame of the whole."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import (
    NEUTRAL,
    ChangingLayer,
    GroupLayer,
    TonedLayer,
    ToningLayer,
    members_of,
)
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Collection

    from glyphaneme.core.document.model import Composite, Layer


def alone(composite: Composite, layer_id: str) -> Composite:
    """Return a composite with one of its layers alone on the same sheet.

    Parameters
    ----------
    composite : Composite
        Any state.
    layer_id : str
        Which layer, in whatever groups.

    Returns
    -------
    Composite
        The layer lies where it lies, with its mask and shadows; how it joins those
        beneath it, by blend mode, opacity and fades, does not count, and it is shown
        if it was hidden.

    Raises
    ------
    LayerMissingError
        There is no such layer.
    NoSuchWorkError
        It only changes others, and has no pixels of its own.
    """
    layer = with_fields(_in_full(composite, layer_id), fades=())
    return with_fields(composite, layers=(layer,))


def piece(composite: Composite, layer_id: str) -> Composite:
    """Return a composite with one of its layers alone, on nothing.

    Parameters
    ----------
    composite : Composite
        Any state.
    layer_id : str
        Which layer, in whatever groups.

    Returns
    -------
    Composite
        As large as the sheet, and see-through wherever the layer is not. It lies where
        it lies, with its mask, its fades and its shadows; its blend mode and its
        opacity do not count, and it is shown if it was hidden.

    Raises
    ------
    LayerMissingError
        There is no such layer.
    NoSuchWorkError
        It only changes others, and has no pixels of its own.
    """
    layer = _in_full(composite, layer_id)
    clear = with_fields(composite.canvas, background=None)
    return with_fields(composite, canvas=clear, layers=(layer,))


def only(composite: Composite, layer_ids: Collection[str]) -> Composite:
    """Return a composite that shows some of its layers, as they are, and no others.

    Parameters
    ----------
    composite : Composite
        Any state.
    layer_ids : collection of str
        Which layers, in whatever groups; of a group all of it.

    Returns
    -------
    Composite
        On the same sheet, in the same order; those that were hidden are shown.

    Raises
    ------
    LayerMissingError
        One of them is not there.
    """
    kept = {layer.id for one in layer_ids for layer in composite.path_to(one)}

    def within(layers: tuple[Layer, ...]) -> tuple[Layer, ...]:
        found = []
        for layer in layers:
            if layer.id not in kept:
                continue
            shown = with_fields(layer, visible=True)
            if isinstance(shown, GroupLayer) and layer.id not in layer_ids:
                shown = with_fields(shown, layers=within(shown.layers))
            found.append(shown)
        return tuple(found)

    return with_fields(composite, layers=within(composite.layers))


def _in_full(composite: Composite, layer_id: str) -> Layer:
    path = composite.path_to(layer_id)
    layer = path[-1]
    if isinstance(layer, ChangingLayer):
        raise NoSuchWorkError(layer.kind, "has no pixels of its own")
    plain = NEUTRAL | {"name": layer.name, "effects": layer.effects}
    return with_fields(on_canvas(path), **plain)


def beneath(composite: Composite, layer_id: str) -> Composite:
    """Return a composite with only what lies beneath a layer, at any depth.

    Parameters
    ----------
    composite : Composite
        Any state.
    layer_id : str
        Which layer, in whatever groups; `LayerMissingError` where there is none.

    Returns
    -------
    Composite
        On the same sheet; what lies in the layer's own groups is out of them.
    """
    path = composite.path_to(layer_id)
    piles = [composite.layers, *(members_of(group) for group in path[:-1])]
    layers = tuple(
        on_canvas((*path[:depth], sibling))
        for depth, (pile, one) in enumerate(zip(piles, path, strict=True))
        for sibling in pile[: pile.index(one)]
    )
    return with_fields(composite, layers=layers)


def before_tone(composite: Composite, layer_id: str, place: int) -> Composite:
    """Return a layer by itself as one of its tones finds it.

    Parameters
    ----------
    composite : Composite
        Any state.
    layer_id : str
        Which layer, in whatever groups; `LayerMissingError` where there is none.
    place : int
        How many of its tones are at work; those from there on are left out.

    Returns
    -------
    Composite
        Of a layer that tones what lies beneath: that, in its own group.

    Raises
    ------
    NoSuchWorkError
        The layer has no tones.
    """
    path = composite.path_to(layer_id)
    layer = path[-1]
    if not isinstance(layer, TonedLayer):
        raise NoSuchWorkError(layer.kind, "has colours of its own, and no tones")
    earlier = with_fields(on_canvas(path), tones=layer.tones[:place])
    clear = with_fields(composite.canvas, background=None)
    if not isinstance(layer, ToningLayer):
        plain = with_fields(earlier, **NEUTRAL | {"name": layer.name})
        return with_fields(composite, canvas=clear, layers=(plain,))
    pile: tuple[Layer, ...] = composite.siblings_of(layer_id)
    below = (on_canvas((*path[:-1], one)) for one in pile[: pile.index(layer)])
    whole = with_fields(earlier, **NEUTRAL | {"name": layer.name}, mask=None, fades=())
    canvas = composite.canvas if len(path) == 1 else clear
    return with_fields(composite, canvas=canvas, layers=(*below, whole))
