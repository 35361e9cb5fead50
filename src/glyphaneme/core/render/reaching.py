"""Which part of a view a layer may touch."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.document.model import FlatLayer, Layer
from glyphaneme.core.place import Rect, corners_on_canvas
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.render.warped import reach_in

if TYPE_CHECKING:
    from glyphaneme.core.render.views import View


def reach_of(layer: Layer, view: View) -> Rect[int]:
    """Return the part of a view that a layer may touch.

    Parameters
    ----------
    layer : Layer
        Placed on the canvas itself.
    view : View
        What is shown.

    Returns
    -------
    Rect
        In the view's pixels; empty where nothing is touched. Groups, colours and
        gradients may touch all of it.

    Examples
    --------
    >>> from glyphaneme.core.document.model import ColorLayer
    >>> from glyphaneme.core.render.views import View
    >>> wash = ColorLayer(id="w", name="Wash", color="#ff8000")
    >>> reach_of(wash, View(x=0, y=0, width=4, height=3, scale=1))
    Rect(left=0, top=0, right=4, bottom=3)
    """
    whole = Rect(0, 0, view.width, view.height)
    if not isinstance(layer, FlatLayer):
        return whole
    if layer.placement.is_warped:
        warp = warp_of(layer.placement, width=layer.width, height=layer.height)
        return reach_in(warp, view.to_canvas, view) or Rect(0, 0, 0, 0)
    corners = corners_on_canvas(layer.placement, width=layer.width, height=layer.height)
    points = (corners - (view.x, view.y)) * view.scale
    left, top = np.floor(points.min(axis=0)).astype(int) - 1
    right, bottom = np.ceil(points.max(axis=0)).astype(int) + 1
    return Rect(int(left), int(top), int(right), int(bottom)).within(whole)
