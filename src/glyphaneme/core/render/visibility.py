"""Where layers lie in a view, and how far round them they look."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.document.model import (
    GroupLayer,
    MendingLayer,
    ToningLayer,
)
from glyphaneme.core.place import Rect, canvas_to_source
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.render.warped import reach_in
from glyphaneme.core.tone import split, spread_of

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Canvas, Layer, PlacedLayer
    from glyphaneme.core.render.views import View


class Ground(NamedTuple):
    """What some layers of a pile lie on."""

    layers: tuple[Layer, ...] = ()
    """Those beneath them in the pile."""
    canvas: Canvas | None = None
    """The canvas, where it is that which all of the pile lies on."""

    def with_layers(self, layers: tuple[Layer, ...]) -> Ground:
        """Return it with more layers on it.

        Parameters
        ----------
        layers : tuple of Layer
            From back to front.

        Returns
        -------
        Ground
            On the same canvas.
        """
        return self._replace(layers=(*self.layers, *layers))


NOTHING = Ground()


def seen_from(layer: PlacedLayer, to_pile: MatrixF64, view: View) -> MatrixF64 | None:
    """Map a view's pixels to a layer's own, where the layer may touch the view.

    Parameters
    ----------
    layer : PhotoLayer or GroupLayer
        A group reaches as far as its members do, so that it may touch any.
    to_pile : (3, 3) float64
        Maps the view's pixels to what the layer lies in.
    view : View
        What is shown.

    Returns
    -------
    (2, 3) float64 or None
        None where it lies beyond the view for certain. Of a warped layer, as if it were
        straight.
    """
    to_layer = source_map(layer) @ to_pile
    if isinstance(layer, GroupLayer):
        return to_layer
    if layer.placement.is_warped:
        warp = warp_of(layer.placement, width=layer.width, height=layer.height)
        return None if reach_in(warp, to_pile, view) is None else to_layer
    box = Rect(0, 0, layer.width, layer.height)
    return to_layer if touches(to_layer, box, view) else None


def touches(to_box: MatrixF64, box: Rect[int], view: View) -> bool:
    """Tell whether a view may show something of a box.

    Parameters
    ----------
    to_box : (2, 3) float64
        Maps the view's pixels to what the box is measured in.
    box : Rect
        Whole pixels.
    view : View
        What is shown.

    Returns
    -------
    bool
        False where it shows nothing for certain.
    """
    a, b, c, d, e, f = to_box.ravel().tolist()
    # A pixel at the edge also shows a part of what lies right beside it.
    corners = [(x, y) for x in (-1, view.width + 1) for y in (-1, view.height + 1)]
    across = [a * x + b * y + c for x, y in corners]
    down = [d * x + e * y + f for x, y in corners]
    return (
        max(across) > box.left
        and min(across) < box.right
        and max(down) > box.top
        and min(down) < box.bottom
    )


def source_map(layer: PlacedLayer) -> MatrixF64:
    """Map positions where a layer lies to its own pixels.

    Parameters
    ----------
    layer : PhotoLayer or GroupLayer
        Where it lies.

    Returns
    -------
    (2, 3) float64
        Columns map x, y and 1.
    """
    return canvas_to_source(layer.placement, width=layer.width, height=layer.height)


def spreads(layer: Layer) -> bool:
    """Tell whether what lies beyond a view counts in it.

    Parameters
    ----------
    layer : Layer
        Whichever.

    Returns
    -------
    bool
        True where it has a shadow, or tones of many layers need neighbours.
    """
    if layer.effects:
        return True
    return isinstance(layer, GroupLayer | ToningLayer) and spread_of(layer.tones) > 0


def looks_around(layer: Layer) -> bool:
    """Tell whether a layer reads more of what lies beneath it than it covers.

    Parameters
    ----------
    layer : Layer
        Whichever.

    Returns
    -------
    bool
        True where it mends that, or tones it with regard to neighbours.
    """
    if isinstance(layer, ToningLayer):
        return bool(split(layer.tones).first)
    return isinstance(layer, MendingLayer)
