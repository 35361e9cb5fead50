"""Finds what lies under a point, and shows each layer there by itself."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.grouping import lifted_through
from glyphaneme.core.document.model import Composite, GroupLayer, members_of
from glyphaneme.core.render.reaching import reach_of
from glyphaneme.core.render.rendering import render
from glyphaneme.core.render.views import View
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.render.assets import Assets

FINEST_SCALE = 4.0
"""A layer of a few pixels is not enlarged beyond this to fill its cut-out."""


class CutOut(NamedTuple):
    """A layer by itself: at full strength, on nothing."""

    layer_id: str
    pixels: PixelsU8


def layers_under(
    composite: Composite,
    assets: Assets,
    at: tuple[float, float],
    *,
    side: int,
    most: int,
) -> tuple[CutOut, ...]:
    """Return the layers that show something at a point, each cut out of the rest.

    Parameters
    ----------
    composite : Composite
        Hidden layers, and those in hidden groups, do not count.
    assets : mapping of id to what a render reads
        All that `assets_needed` names.
    at : float, float
        A position on the canvas.
    side : int, pixels
        How large the longer side of a cut-out is at most.
    most : int
        How many are returned at most.

    Returns
    -------
    tuple of CutOut
        Front to back, a group right before its members; colours and gradients too.
        Each (H, W, 4) uint8, straight RGBA: the layer as far as the canvas shows it.

    Raises
    ------
    PixelsMissingError
        A visible layer's picture is not there.
    """
    found: list[CutOut] = []
    spot = View(x=at[0] - 0.5, y=at[1] - 0.5, width=1, height=1, scale=1)
    for layer_id, lifted in _front_to_back(composite.layers, ()):
        alone = _alone(composite, lifted)
        if (
            len(found) < most
            and render(alone, assets, spot, pile=composite.layers)[0, 0, 3]
        ):
            view = _view_of(lifted, composite, side)
            shown = render(alone, assets, view, pile=composite.layers)
            found.append(CutOut(layer_id, shown))
    return tuple(found)


def _front_to_back(
    layers: tuple[Layer, ...], around: tuple[GroupLayer, ...]
) -> Iterator[tuple[str, Layer]]:
    """Yield visible layers as they lie on the canvas; `around`: the innermost first."""
    for layer in reversed(layers):
        if not layer.visible:
            continue
        yield layer.id, lifted_through(layer, around)
        if isinstance(layer, GroupLayer):
            yield from _front_to_back(members_of(layer), (layer, *around))


def _alone(composite: Composite, layer: Layer) -> Composite:
    # What its shape lays beneath it is not under a point: that counts as elsewhere.
    plain = with_fields(layer, blend=BlendMode.NORMAL, opacity=1.0, effects=())
    canvas = with_fields(composite.canvas, background=None)
    return Composite(canvas=canvas, layers=(plain,))


def _view_of(layer: Layer, composite: Composite, side: int) -> View:
    """Return a view of what the canvas shows of a layer, at most so large."""
    canvas = composite.canvas
    whole = View(x=0, y=0, width=canvas.width, height=canvas.height, scale=1)
    left, top, right, bottom = reach_of(layer, whole)
    width, height = max(right - left, 1), max(bottom - top, 1)
    scale = min(side / max(width, height), FINEST_SCALE)
    return View(
        x=left,
        y=top,
        width=max(1, round(width * scale)),
        height=max(1, round(height * scale)),
        scale=scale,
    )
