"""Where masks lie: with their layers, or in what those lie in."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.grouping import lowered_through, on_canvas
from glyphaneme.core.document.model import (
    ChangingLayer,
    ColorLayer,
    GroupLayer,
    PlacedLayer,
)
from glyphaneme.core.mask import Mask
from glyphaneme.core.mask.layer_part import LayerPart
from glyphaneme.core.place import canvas_to_source, source_to_canvas
from glyphaneme.core.place.transform import followed_by, matrix_of, transform_of
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Composite, Layer


NO_PIXELS = "#808080"
"""What stands for the pixels of a layer that has none of its own."""


def unlinked_mask(mask: Mask, layer: PlacedLayer) -> Mask:
    """Measure a mask in what its layer lies in, where it moved with the layer.

    Parameters
    ----------
    mask : Mask
        Measured in the layer's own pixels.
    layer : PhotoLayer or GroupLayer
        Where it lies now.

    Returns
    -------
    Mask
        It lies where it lay.
    """
    size = {"width": layer.width, "height": layer.height}
    to_layer = canvas_to_source(layer.placement, **size)
    to_mask = followed_by(to_layer, matrix_of(mask.to_mask))
    return with_fields(mask, linked=False, to_mask=transform_of(to_mask))


def linked_mask(mask: Mask, layer: PlacedLayer) -> Mask:
    """Measure a mask in its layer's own pixels, where it stayed while that moved.

    Parameters
    ----------
    mask : Mask
        Measured in what the layer lies in.
    layer : PhotoLayer or GroupLayer
        Where it lies now.

    Returns
    -------
    Mask
        It lies where it lay.
    """
    size = {"width": layer.width, "height": layer.height}
    to_pile = source_to_canvas(layer.placement, **size)
    to_mask = followed_by(to_pile, matrix_of(mask.to_mask))
    return with_fields(mask, linked=True, to_mask=transform_of(to_mask))


def mask_as_it_lies(composite: Composite, from_id: str, to_id: str) -> Mask | None:
    """Return one layer's mask as another must have it to show it at the same place.

    Parameters
    ----------
    composite : Composite
        In which both lie.
    from_id, to_id : str
        Ids of layers; `LayerMissingError` where there is none.

    Returns
    -------
    Mask or None
        It moves with the other layer, where that has a place; None where there is none.
    """
    *into, target = composite.path_to(to_id)
    lifted = on_canvas(composite.path_to(from_id))
    if lifted.mask is None:
        return None
    mask = lifted.mask
    if mask.linked and isinstance(lifted, PlacedLayer):
        mask = unlinked_mask(mask, lifted)
    # What lies everywhere has no place of its own: a carrier for the mask alone.
    bare = with_fields(lifted, mask=with_fields(mask, linked=False))
    carried = lowered_through(bare, _groups(into)).mask
    if carried is None or not isinstance(target, PlacedLayer):
        return carried
    return linked_mask(carried, target)


def to_mask_of(composite: Composite, layer_id: str) -> MatrixF64:
    """Return how canvas positions map to those of a layer's mask.

    Parameters
    ----------
    composite : Composite
        In which the layer lies.
    layer_id : str
        Which layer; `LayerMissingError` where there is none.

    Returns
    -------
    (2, 3) float64
        To the layer's own pixels, or the canvas's, where it has no mask.
    """
    lifted = on_canvas(composite.path_to(layer_id))
    mask = lifted.mask or Mask()
    to_mask = matrix_of(mask.to_mask)
    if not mask.linked or not isinstance(lifted, PlacedLayer):
        return to_mask
    size = {"width": lifted.width, "height": lifted.height}
    return followed_by(canvas_to_source(lifted.placement, **size), to_mask)


def hidden_part(composite: Composite, layer_id: str) -> Composite:
    """Return a composite of what one layer's mask hides of it.

    Parameters
    ----------
    composite : Composite
        In which the layer lies.
    layer_id : str
        Which layer; `LayerMissingError` where there is none.

    Returns
    -------
    Composite
        That layer alone, inside out and plainly blended, on a clear canvas; without
        any layers where it has no mask, or is not visible. Of one that changes others,
        grey: it has no pixels of its own.
    """
    *groups, layer = composite.path_to(layer_id)
    canvas = with_fields(composite.canvas, background=None)
    bare = with_fields(composite, canvas=canvas, layers=())
    mask = layer.mask
    if mask is None or not all(one.visible for one in (*groups, layer)):
        return bare
    if isinstance(layer, ChangingLayer):
        layer = ColorLayer(id=layer.id, name=layer.name, color=NO_PIXELS, mask=mask)
    turned = with_fields(mask, inverted=not mask.inverted, strength=1.0)
    plain = with_fields(layer, fades=(), effects=(), blend=BlendMode.NORMAL)
    alone = with_fields(plain, mask=turned, opacity=mask.strength)
    return with_fields(bare, layers=(on_canvas((*groups, alone)),))


def mask_alone(composite: Composite, layer_id: str) -> Composite:
    """Return a composite of one layer's mask: white where it shows, on black.

    Parameters
    ----------
    composite : Composite
        In which the layer lies.
    layer_id : str
        Which layer; `LayerMissingError` where there is none.

    Returns
    -------
    Composite
        A white wash with the mask as it lies on the canvas; all white without a mask.
    """
    lifted = on_canvas(composite.path_to(layer_id))
    mask = lifted.mask
    if mask is not None and mask.linked and isinstance(lifted, PlacedLayer):
        mask = _seen_mask(mask, lifted)
    white = ColorLayer(id=lifted.id, name=lifted.name, color="#ffffff", mask=mask)
    canvas = with_fields(composite.canvas, background="#000000")
    return with_fields(composite, canvas=canvas, layers=(white,))


def _seen_mask(mask: Mask, layer: PlacedLayer) -> Mask:
    """Return a mask as it lies on the canvas: by the layer itself if that is warped."""
    if not layer.placement.is_warped:
        return unlinked_mask(mask, layer)
    return Mask(parts=(LayerPart(id="itself", layer_id=layer.id),), linked=False)


def _groups(path: Iterable[Layer]) -> Iterator[GroupLayer]:
    return (one for one in path if isinstance(one, GroupLayer))
