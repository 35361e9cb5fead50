"""What people should know of a file before it is printed."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import PhotoLayer, members_of
from glyphaneme.core.place import corners_on_canvas

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.core.finish.planning import Plan

MOST_ENLARGED = 1.5
"""How many pixels of a file may come for one of a photo before it looks soft."""


class SoftLayer(NamedTuple):
    """A photo that is enlarged beyond what its pixels can show."""

    layer_id: str
    name: str
    own_ppi: float
    """How many of its own pixels an inch of paper has."""
    enlarged: float
    """How many of the file's pixels come for one of its own."""


def soft_layers(composite: Composite, plan: Plan) -> list[SoftLayer]:
    """Return the photos that a file enlarges too much.

    Parameters
    ----------
    composite : Composite
        What is rendered.
    plan : Plan
        How large.

    Returns
    -------
    list of SoftLayer
        Those that show, the most enlarged first.
    """
    found = []
    for path in _shown_photos(composite):
        layer = on_canvas(path)
        if not isinstance(layer, PhotoLayer):
            continue
        enlarged = _enlarged(layer) * plan.scale
        if enlarged > MOST_ENLARGED:
            own = plan.ppi / enlarged
            found.append(SoftLayer(layer.id, layer.name, own, enlarged))
    return sorted(found, key=lambda soft: soft.own_ppi)


def _enlarged(layer: PhotoLayer) -> float:
    """Return how many canvas pixels, along a side, come for one of a photo's."""
    placement = layer.placement
    corners = corners_on_canvas(placement, width=layer.width, height=layer.height)
    across, down = corners.T
    area = abs(np.dot(across, np.roll(down, -1)) - np.dot(down, np.roll(across, -1)))
    crop = placement.crop
    frame = layer.width * layer.height if crop is None else crop.width * crop.height
    return float(np.sqrt(area / 2 / frame))


def _shown_photos(composite: Composite) -> Iterator[tuple[Layer, ...]]:
    def within(
        layers: tuple[Layer, ...], above: tuple[Layer, ...]
    ) -> Iterator[tuple[Layer, ...]]:
        for layer in layers:
            if not layer.visible or layer.opacity == 0:
                continue
            path = (*above, layer)
            if isinstance(layer, PhotoLayer):
                yield path
            yield from within(members_of(layer), path)

    yield from within(composite.layers, ())
