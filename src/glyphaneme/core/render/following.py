"""What the pixels of layers follow from: the one place that says it.

Whatever is kept of rendered pixels is kept by this: by layers and others that their
masks read, which are values, and by pictures, paintings, rasters and patches, which
are the same only if they are the very same.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.document.reading import all_of, others_read
from glyphaneme.core.render.assets import needed_by
from glyphaneme.core.render.mended_places import mended_places_in
from glyphaneme.core.render.visibility import NOTHING, Ground

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glyphaneme.core.document.model import Layer


class Followed(NamedTuple):
    """All that the pixels of some layers follow from, besides where they are seen."""

    layers: tuple[Layer, ...]
    others: tuple[Layer, ...]
    """Those that masks of these read, as they lie on the canvas, each once."""


def followed(layers: tuple[Layer, ...], pile: tuple[Layer, ...]) -> Followed:
    """Return what the pixels of some layers follow from.

    Parameters
    ----------
    layers : tuple of Layer
        From back to front; hidden ones count for nothing unless masks read them.
    pile : tuple of Layer
        All layers of the composite.

    Returns
    -------
    Followed
        The same only where their pixels are, if those that they read are too.
    """
    shown = tuple(one for one in layers if one.visible and one.opacity)
    others = {other.id: other for one in shown for other in others_read(one, pile)}
    return Followed(shown, tuple(others.values()))


def pixels_read(
    followed: Followed,
    pile: tuple[Layer, ...],
    assets: Mapping[str, object],
    on: Ground = NOTHING,
) -> tuple[object, ...]:
    """Return the pixels that layers are rendered from.

    Parameters
    ----------
    followed : Followed
        What they follow from besides.
    pile : tuple of Layer
        All layers of the composite.
    assets : mapping of id to what a render reads
        Those that are at hand.
    on : Ground
        What the layers lie on.

    Returns
    -------
    tuple
        In one order always; None for what is not at hand.
    """
    layers, others = followed
    inside = [inner for one in (*layers, *others) for inner in all_of(one)]
    names = set(needed_by(inside).names)
    names.update(one.name for one in mended_places_in(layers, pile, on))
    for other in others:
        names.update(one.name for one in mended_places_in((other,), pile))
    return tuple(assets.get(name) for name in sorted(names))
