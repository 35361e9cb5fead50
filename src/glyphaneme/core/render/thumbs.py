"""Shows what a layer's mask hides of it, small and as the layer lies by itself."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core.document.changing import with_layer_fields
from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.masks import mask_alone
from glyphaneme.core.document.model import PlacedLayer
from glyphaneme.core.place import source_to_canvas
from glyphaneme.core.render.rendering import render
from glyphaneme.core.render.views import View
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Composite
    from glyphaneme.core.render.assets import Assets

LONGEST = 4
"""Longer sides are at most so many times the shorter one's; the rest is left out."""
FINER = 2.0


def mask_view(composite: Composite, layer_id: str, side: int) -> View:
    """Return the view of the canvas in which a layer's mask is looked at.

    Parameters
    ----------
    composite : Composite
        In which the layer lies.
    layer_id : str
        Which layer; `LayerMissingError` where there is none.
    side : int, pixels
        How long the thumb's shorter side is.

    Returns
    -------
    View
        All of the layer, however far out it lies.
    """
    to_canvas, (width, height) = _lying(_straightened(composite, layer_id), layer_id)
    corners = np.array([[0, 0, 1], [width, 0, 1], [width, height, 1], [0, height, 1]])
    points = corners @ to_canvas[:2].T
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    longest = FINER * LONGEST * side
    scale = float(longest / max(right - left, bottom - top, 1e-6))
    scale = min(scale, 64.0)
    return View(
        float(left),
        float(top),
        max(math.ceil((right - left) * scale), 1),
        max(math.ceil((bottom - top) * scale), 1),
        scale,
    )


def hidden_share(
    composite: Composite, assets: Assets, layer_id: str, side: int
) -> NDArray[np.uint8]:
    """Return how much of a layer its mask hides, in the layer's own directions.

    Parameters
    ----------
    composite : Composite
        In which the layer lies.
    assets : mapping of id to what a render reads
        All that rendering its mask alone needs.
    layer_id : str
        Which layer; `LayerMissingError` where there is none.
    side : int, pixels
        How long the shorter side is to be.

    Returns
    -------
    (H, W) uint8
        0 where all of it shows, 255 where nothing does.
    """
    composite = _straightened(composite, layer_id)
    to_canvas, (width, height) = _lying(composite, layer_id)
    view = mask_view(composite, layer_id, side)
    alone = mask_alone(composite, layer_id)
    shown = render(alone, assets, view, pile=composite.layers)[..., 0]
    step = min(width, height) / side
    longest = LONGEST * side
    size = [min(max(round(one / step), 1), longest) for one in (width, height)]
    # From the thumb's pixels over the layer's and the canvas's to the view's.
    linear, beginning = to_canvas[:, :2], to_canvas[:, 2] - (view.x, view.y)
    start = linear @ (step / 2, step / 2) + beginning
    matrix = view.scale * np.column_stack([step * linear, start])
    matrix[:, 2] -= 0.5
    small = cv2.warpAffine(
        np.ascontiguousarray(shown),
        matrix,
        size,
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(255 - small, np.uint8)


def _straightened(composite: Composite, layer_id: str) -> Composite:
    """Return a composite in which a layer lies straight, as its thumb shows it."""
    layer = composite.layer(layer_id)
    if not isinstance(layer, PlacedLayer) or not layer.placement.is_warped:
        return composite
    straight = with_fields(layer.placement, corners=None, bend=None)
    return with_layer_fields(composite, layer_id, placement=straight)


def _lying(
    composite: Composite, layer_id: str
) -> tuple[MatrixF64, tuple[float, float]]:
    """Return how a layer's own pixels map to the canvas, and how large it is."""
    lifted = on_canvas(composite.path_to(layer_id))
    if not isinstance(lifted, PlacedLayer):
        return np.eye(2, 3), (composite.canvas.width, composite.canvas.height)
    size = {"width": lifted.width, "height": lifted.height}
    to_canvas = source_to_canvas(lifted.placement, **size)
    return to_canvas, (lifted.width, lifted.height)
