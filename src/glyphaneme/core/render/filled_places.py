"""Fills the places that layers mend of what lies beneath them."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.document.model import Canvas, Composite
from glyphaneme.core.mend import patch_for
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.render.composing import compose
from glyphaneme.core.render.mended_places import Laid, Tile
from glyphaneme.core.render.passes import CLEAR, Passes
from glyphaneme.core.render.reading import Reading
from glyphaneme.core.render.rendering import render
from glyphaneme.core.render.tables import build_table

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.mend import Patch
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.mended_places import MendedPlace
    from glyphaneme.core.render.views import View
    from glyphaneme.core.render.visibility import Ground

MARGIN = 16
"""Clear pixels round a tile, so that there are smaller sizes of the smallest."""
LARGEST_TILE = 1024
"""Pixels along a side; what reaches farther is laid in several tiles."""
OVERLAP = 16
"""So far each lies over those before it, that no seam shows."""


def source_of(place: MendedPlace) -> Composite:
    """Return what a place is filled from, in a composite of its own.

    Parameters
    ----------
    place : MendedPlace
        The place.

    Returns
    -------
    Composite
        On which the place's `view` is looked at.
    """
    on = place.on
    clear = Canvas(width=1, height=1, background=None)
    return Composite(canvas=on.canvas or clear, layers=on.layers)


def filled_patch(place: MendedPlace, assets: Assets, *, roughly: bool = False) -> Patch:
    """Fill one place.

    Parameters
    ----------
    place : MendedPlace
        The place.
    assets : mapping of id to what a render reads
        All that `assets_needed` names for its source and view.
    roughly : bool
        Whether it must be quick: smooth, with neither structure nor grain.

    Returns
    -------
    Patch
        Its rows and columns count from the corner of the view.
    """
    view = place.view
    shown = render(source_of(place), assets, view, pile=place.others)
    move = np.array([[1.0, 0, -view.x], [0, 1, -view.y]])
    return patch_for(shown, place.mend.carried(move), roughly=roughly)


def laid(place: MendedPlace, patch: Patch, *, is_rough: bool = False) -> Laid:
    """Return a patch as it is laid.

    Parameters
    ----------
    place : MendedPlace
        The place.
    patch : Patch
        As `filled_patch` returns it.
    is_rough : bool
        Whether it was filled roughly.

    Returns
    -------
    Laid
        No tile where the patch is empty.
    """
    return Laid(tuple(_tiles(place, patch)), is_rough)


def _tiles(place: MendedPlace, patch: Patch) -> Iterator[Tile]:
    if not len(patch.rows):
        return
    view = place.view
    places = np.column_stack([patch.rows, patch.columns])
    squares = np.unique(places // LARGEST_TILE, axis=0) * LARGEST_TILE
    for corner in squares:
        both = (places >= corner - OVERLAP) & (places < corner + LARGEST_TILE)
        inside = both.all(axis=1)
        here = places[inside]
        first, last = here.min(axis=0) - MARGIN, here.max(axis=0) + MARGIN + 1
        pixels = np.zeros((*(last - first).tolist(), 4), np.uint8)
        pixels[tuple((here - first).T)] = patch.colors[inside]
        top, left = first.tolist()
        yield Tile(int(view.x) + left, int(view.y) + top, build_pyramid(pixels))


def laid_patches(places: Iterable[MendedPlace], assets: Assets) -> dict[str, Laid]:
    """Fill all places.

    Parameters
    ----------
    places : iterable of MendedPlace
        Lower ones first.
    assets : mapping of id to what a render reads
        All that filling them reads, but for patches.

    Returns
    -------
    dict of str to Laid
        By their names.
    """
    found: dict[str, Laid] = {}
    for one in places:
        found[one.name] = laid(one, filled_patch(one, {**assets, **found}))
    return found


def render_alone(
    layer: Layer, on: Ground, assets: Assets, view: View, pile: tuple[Layer, ...]
) -> PixelsU8:
    """Render a layer without what it lies on, though it may follow from that.

    Parameters
    ----------
    layer : Layer
        Such as one that mends.
    on : Ground
        What it lies on.
    assets : mapping of id to what a render reads
        All that `assets_needed` names for the whole.
    view : View
        Which part of the canvas, at what size.
    pile : tuple of Layer
        All layers of the composite.

    Returns
    -------
    (view.height, view.width, 4) uint8
        Straight RGBA.
    """
    reading = Reading(assets, view, Passes(pile, assets, view))
    return compose(build_table((layer,), reading, on=on), CLEAR, view)
