"""What a render reads besides the composite itself."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, NamedTuple, TypeAlias

import numpy as np

from glyphaneme.core.document.model import (
    PlacedLayer,
    WordsLayer,
    members_of,
    shown_by,
)
from glyphaneme.core.document.reading import all_of, others_read
from glyphaneme.core.mask import Raster
from glyphaneme.core.mask.paintings import Painting
from glyphaneme.core.place import Pyramid
from glyphaneme.core.render.mended_places import Laid, mended_places_in
from glyphaneme.core.render.texels import mended_in, own_colors_in
from glyphaneme.core.render.visibility import Ground, seen_from, spreads
from glyphaneme.core.words.faces import Face

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Composite, Layer
    from glyphaneme.core.mask import Reads
    from glyphaneme.core.mask.parts import Found, OfPicture
    from glyphaneme.core.render.mended_places import MendedPlace
    from glyphaneme.core.render.texels import Mended, OwnColors
    from glyphaneme.core.render.views import View

Assets: TypeAlias = Mapping[str, Pyramid | Painting | Raster | Laid | Face]
"""Pictures, paintings, rasters, patches and fonts, by the ids that `assets_needed`
gives."""


class Needed(NamedTuple):
    """Ids of all that a render reads, each once."""

    pictures: frozenset[str]
    paintings: frozenset[str] = frozenset()
    """By the last stroke of each."""
    rasters: tuple[OfPicture, ...] = ()
    """Parts that are pixels, each raster once; it has the part's `raster` as its id."""
    mattes: tuple[Found, ...] = ()
    """The same for those whose pixels were found before, and kept."""
    mended: tuple[Mended, ...] = ()
    """Photos that show with places mended."""
    own_colors: tuple[OwnColors, ...] = ()
    """Photos that show with their subject's own colours."""
    mended_places: tuple[MendedPlace, ...] = ()
    """Places of what lies beneath layers that are mended, lower ones first."""
    fonts: frozenset[str] = frozenset()
    """Of words; some may be missing."""

    @property
    def names(self) -> frozenset[str]:
        """Ids of all of them."""
        return self.pictures.union(
            self.paintings,
            (part.raster for part in self.rasters),
            (part.raster for part in self.mattes),
            (one.name for one in self.mended),
            (own.name for own in self.own_colors),
            (one.name for one in self.mended_places),
            self.fonts,
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
        Of all layers that are visible and touch the view, or a pixel around it.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas, Composite
    >>> assets_needed(Composite(canvas=Canvas(width=4, height=4))).pictures
    frozenset()
    """
    if any(map(spreads, composite.all_layers())):
        view = None
    elif view is not None:
        # Frames at rest are made of whole pixels of the canvas, at the edges too.
        view = view.widened(1)
    shown = list(_shown(composite.layers, view, view and view.to_canvas))
    around = composite.layers if pile is None else pile
    others = [one for layer in shown for one in others_read(layer, around)]
    needed = needed_by([*shown, *(inner for one in others for inner in all_of(one))])
    sheet = Ground(canvas=composite.canvas)
    places = [
        *mended_places_in(composite.layers, around, sheet, view),
        *(found for one in others for found in mended_places_in((one,), around)),
    ]
    return _with_places(needed, places)


def _with_places(needed: Needed, places: Iterable[MendedPlace]) -> Needed:
    """Return what is needed, with places that layers mend besides, each once."""
    return needed._replace(
        mended_places=tuple({one.name: one for one in places}.values())
    )


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
    photos = [name for one in layers for name in shown_by(one)]
    return _needed(photos, reads, layers)


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
    needed = _needed(composite.pictures(), reads, layers)
    sheet = Ground(canvas=composite.canvas)
    pile = composite.layers
    return _with_places(needed, mended_places_in(pile, pile, sheet, hidden=True))


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
        fonts=frozenset(
            font.id
            for one in layers
            if isinstance(one, WordsLayer)
            for font in one.words.setting.fonts
        ),
    )


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
