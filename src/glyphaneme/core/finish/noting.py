"""What people should know of a file before it is printed."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import PhotoLayer, members_of
from glyphaneme.core.place import corners_on_canvas
from glyphaneme.core.render.texels import texels_of

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.core.finish.dimensions import Dimensions

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


def soft_layers(composite: Composite, dimensions: Dimensions) -> list[SoftLayer]:
    """Return the photos that a file enlarges too much.

    Parameters
    ----------
    composite : Composite
        What is rendered.
    dimensions : Dimensions
        How large.

    Returns
    -------
    list of SoftLayer
        Those that show, the most enlarged first.
    """
    found = []
    for layer in _shown_photos(composite):
        enlarged = enlarged_by(layer) * dimensions.scale
        if enlarged > MOST_ENLARGED:
            own = dimensions.ppi / enlarged
            found.append(SoftLayer(layer.id, layer.name, own, enlarged))
    return sorted(found, key=lambda soft: soft.own_ppi)


def enlargements(composite: Composite, scale: float) -> dict[str, float]:
    """Return how much each photo is enlarged, where it is most so.

    Parameters
    ----------
    composite : Composite
        What is rendered.
    scale : float
        Shown pixels for one of the canvas.

    Returns
    -------
    dict of str to float
        By what a photo is read from: shown pixels for one of its own, along a side.
    """
    found: dict[str, float] = {}
    for layer in _shown_photos(composite):
        name = texels_of(layer)
        found[name] = max(found.get(name, 0.0), enlarged_by(layer) * scale)
    return found


def enlarged_by(layer: PhotoLayer) -> float:
    """Return how much a photo is enlarged on the canvas.

    Parameters
    ----------
    layer : PhotoLayer
        Placed on the canvas itself.

    Returns
    -------
    float
        How many canvas pixels, along a side, come for one of its own.
    """
    placement = layer.placement
    corners = corners_on_canvas(placement, width=layer.width, height=layer.height)
    across, down = corners.T
    area = abs(np.dot(across, np.roll(down, -1)) - np.dot(down, np.roll(across, -1)))
    crop = placement.crop
    frame = layer.width * layer.height if crop is None else crop.width * crop.height
    return float(np.sqrt(area / 2 / frame))


def _shown_photos(composite: Composite) -> Iterator[PhotoLayer]:
    """Yield photos that show, placed on the canvas itself."""

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

    for path in within(composite.layers, ()):
        layer = on_canvas(path)
        if isinstance(layer, PhotoLayer):
            yield layer
