"""What a render reads besides the composite itself."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, NamedTuple, TypeAlias

import numpy as np

from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import (
    GroupLayer,
    PhotoLayer,
    PlacedLayer,
    ToningLayer,
    members_of,
    path_in,
)
from glyphaneme.core.mask import Raster
from glyphaneme.core.mask.paintings import Painting
from glyphaneme.core.place import Pyramid, canvas_to_source
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.render.texels import mended_in, own_colors_in
from glyphaneme.core.render.warped import reach_in
from glyphaneme.core.tone import spread_of

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Composite, Layer
    from glyphaneme.core.mask import MattePart, RasterPart, Reads
    from glyphaneme.core.render.texels import Mended, OwnColors
    from glyphaneme.core.render.views import View

Assets: TypeAlias = Mapping[str, Pyramid | Painting | Raster]
"""Pictures, paintings and rasters, by the ids that `assets_needed` gives."""


class Needed(NamedTuple):
    """Ids of all that a render reads, each once."""

    pictures: frozenset[str]
    paintings: frozenset[str] = frozenset()
    """By the last stroke of each."""
    rasters: tuple[RasterPart, ...] = ()
    """Parts that are pixels, each raster once; it has the part's `raster` as its id."""
    mattes: tuple[MattePart, ...] = ()
    """The same for those whose pixels were found before, and kept."""
    mended: tuple[Mended, ...] = ()
    """Photos that show with places mended."""
    own_colors: tuple[OwnColors, ...] = ()
    """Photos that show with their subject's own colours."""

    @property
    def names(self) -> frozenset[str]:
        """Ids of all of them."""
        parts = (*self.rasters, *self.mattes)
        return self.pictures.union(
            self.paintings,
            (part.raster for part in parts),
            (one.name for one in self.mended),
            (own.name for own in self.own_colors),
        )


def assets_needed(
    composite: Composite,
    view: View | None = None,
    *,
    pile: tuple[Layer, ...] | None = None,
) -> Needed:
    """Return what rendering a view of a composite reads.

    Parameters
    ----------
    composite : Composite
        What is shown.
    view : View, optional
        Which part of it; the whole where it is not said.
    pile : tuple of Layer, optional
        Where masks by other layers find those, where the composite has not all of them.

    Returns
    -------
    Needed
        Of all layers that are visible and touch the view.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas, Composite
    >>> assets_needed(Composite(canvas=Canvas(width=4, height=4))).pictures
    frozenset()
    """
    if any(map(_spreads, composite.all_layers())):
        view = None
    shown = list(_shown(composite.layers, view, view and view.to_canvas))
    around = composite.layers if pile is None else pile
    others = [one for layer in shown for one in others_read(layer, around)]
    return needed_by([*shown, *(inner for one in others for inner in all_of(one))])


def _spreads(layer: Layer) -> bool:
    """Tell whether what lies beyond a view counts in it."""
    if layer.effects:
        return True
    return isinstance(layer, GroupLayer | ToningLayer) and spread_of(layer.tones) > 0


def needed_by(layers: list[Layer]) -> Needed:
    """Return what rendering some layers reads.

    Parameters
    ----------
    layers : list of Layer
        Members of groups, and layers that masks read, count only if they are named.

    Returns
    -------
    Needed
        Of parts that work.
    """
    reads = [part.reads for one in layers if one.mask for part in one.mask.working]
    photos = [one.picture for one in layers if isinstance(one, PhotoLayer)]
    return _needed(photos, reads, layers)


def others_read(layer: Layer, pile: tuple[Layer, ...]) -> tuple[Layer, ...]:
    """Return the layers that a layer's masks read, and those that theirs do.

    Parameters
    ----------
    layer : Layer
        A group's members count too.
    pile : tuple of Layer
        All layers of the composite.

    Returns
    -------
    tuple of Layer
        As they lie on the canvas; a layer that is gone is none.
    """
    if layer.mask is None and not members_of(layer):
        return ()
    wanted = [
        layer_id
        for one in all_of(layer)
        if one.mask
        for part in one.mask.working
        for layer_id in part.reads.layers
    ]
    found: list[Layer] = []
    for layer_id in wanted:
        path = path_in(pile, layer_id)
        if path is None:
            continue
        found.append(on_canvas(path))
        found += others_read(path[-1], pile)
    return tuple(found)


def all_of(layer: Layer) -> Iterator[Layer]:
    """Go through a layer and all that lies in it.

    Parameters
    ----------
    layer : Layer
        Any layer.

    Yields
    ------
    Layer
        A group right before its members.
    """
    yield layer
    for member in members_of(layer):
        yield from all_of(member)


def all_needed(composite: Composite) -> Needed:
    """Return what rendering any of a composite's layers reads, hidden ones too.

    Parameters
    ----------
    composite : Composite
        Any state.

    Returns
    -------
    Needed
        Parts that are switched off count too.
    """
    layers = list(composite.all_layers())
    masks = [layer.mask for layer in layers if layer.mask]
    reads = [part.reads for mask in masks for part in mask.parts]
    return _needed(composite.pictures(), reads, layers)


def _needed(pictures: Iterable[str], reads: list[Reads], layers: list[Layer]) -> Needed:
    """Return pictures, and what parts of masks read besides."""
    rasters = {part.raster: part for one in reads for part in one.rasters}
    mattes = {part.raster: part for one in reads for part in one.mattes}
    return Needed(
        pictures=frozenset(pictures).union(*(one.pictures for one in reads)),
        paintings=frozenset(last for one in reads for last in one.paintings),
        rasters=tuple(rasters.values()),
        mattes=tuple(mattes.values()),
        mended=mended_in(layers),
        own_colors=own_colors_in(layers),
    )


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
    a, b, c, d, e, f = to_layer.ravel().tolist()
    # A pixel at the edge also shows a part of what lies right beside it.
    corners = [(x, y) for x in (-1, view.width + 1) for y in (-1, view.height + 1)]
    across = [a * x + b * y + c for x, y in corners]
    down = [d * x + e * y + f for x, y in corners]
    touches = (
        max(across) > 0
        and min(across) < layer.width
        and max(down) > 0
        and min(down) < layer.height
    )
    return to_layer if touches else None


def _shown(
    layers: tuple[Layer, ...], view: View | None, to_pile: MatrixF64 | None
) -> Iterator[Layer]:
    """Yield visible layers that touch the view, with their groups."""
    for layer in layers:
        if not (layer.visible and layer.opacity):
            continue
        inner = None
        if view is not None and to_pile is not None and isinstance(layer, PlacedLayer):
            to_layer = seen_from(layer, to_pile, view)
            if to_layer is None:
                continue
            inner = np.vstack([to_layer, (0, 0, 1)])
        yield layer
        yield from _shown(members_of(layer), view, inner)


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
