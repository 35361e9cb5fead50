"""What renders read: pictures, what strokes leave, and masks that are pixels."""

from __future__ import annotations

import uuid
from functools import partial
from typing import TYPE_CHECKING

from glyphaneme.core.mask import Raster
from glyphaneme.core.render import assets_needed, own_pyramid, source_of
from glyphaneme.core.values import with_fields
from glyphaneme.services.cutting import matte_of
from glyphaneme.services.errors import NotThereError
from glyphaneme.services.fonts import faces_of
from glyphaneme.services.mending import Filling, mended_pyramid, patch_laid
from glyphaneme.services.painting import painting_at
from glyphaneme.store.pictures import find_pictures

if TYPE_CHECKING:
    from collections.abc import Hashable, Iterable, Mapping

    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.core.mask.parts import Found, OfPicture
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.render import (
        Assets,
        Mended,
        MendedPlace,
        Needed,
        OwnColors,
        View,
    )
    from glyphaneme.services.studio import Visit

ON_THE_SHELF = "picture on the shelf"
QUICK_PIXELS = 1_000_000
"""So many pixels of a picture are read for a mask that is being changed."""


def assets_of(
    visit: Visit,
    composite: Composite,
    view: View | None = None,
    *,
    pile: tuple[Layer, ...] | None = None,
    quick: bool = False,
    filling: Filling | None = None,
) -> Assets:
    """Return all that rendering a view of a composite reads.

    Where it must be `quick`, masks that are not at hand are made of smaller pictures.
    `filling` says how much was filled already that layers mend.

    Raises
    ------
    NotThereError
        A picture is not on the shelf, or a stroke is not kept.
    """
    needed = assets_needed(composite, view, pile=pile)
    return assets_named(visit, needed, quick=quick, filling=filling)


def assets_named(
    visit: Visit,
    needed: Needed,
    *,
    quick: bool = False,
    filling: Filling | None = None,
) -> Assets:
    """Return all that was asked for, by its ids.

    Raises
    ------
    NotThereError
        A picture is not on the shelf, or a stroke is not kept.
    """
    pyramids = _pyramids(visit, needed.pictures)
    rasters = {
        part.raster: _raster(visit, part, pyramids, quick=quick)
        for part in needed.rasters
    }
    mattes = {part.raster: _matte(visit, part) for part in needed.mattes}
    paintings = {last: painting_at(visit, last) for last in needed.paintings}
    mended = {one.name: _mended(visit, one) for one in needed.mended}
    assets: Assets = {**pyramids, **mended, **rasters, **mattes, **paintings}
    own = {
        one.name: _own_colors(visit, one, assets, quick=quick)
        for one in needed.own_colors
    }
    filling = filling or Filling()
    read = partial(_beneath, visit, filling, quick=quick)
    filled = {
        one.name: patch_laid(visit, one, filling, read, quick=quick)
        for one in needed.mended_places
    }
    fonts = faces_of(visit, needed.fonts)
    return {**assets, **own, **filled, **fonts}


def _beneath(
    visit: Visit, filling: Filling, place: MendedPlace, *, quick: bool
) -> Assets:
    """Return all that filling a place reads."""
    return assets_of(
        visit,
        source_of(place),
        place.view,
        pile=place.others,
        quick=quick,
        filling=filling,
    )


def _mended(visit: Visit, one: Mended) -> Pyramid:
    digest = visit.studio.digests.get(uuid.UUID(one.picture))
    if digest is None:
        (row,) = find_pictures(visit.session, [uuid.UUID(one.picture)])
        digest = row.sha256
    return mended_pyramid(visit, one, digest)


def _raster(
    visit: Visit, part: OfPicture, pyramids: Mapping[str, Pyramid], *, quick: bool
) -> Raster:
    studio, name = visit.studio, part.raster
    found = studio.rasters.get(name)
    if found is None and quick:
        found = studio.quick_rasters.get(name)
    if found is not None:
        return found
    pyramid = pyramids[part.picture]
    if quick:
        return studio.quick_rasters.put(name, part.raster_of(pyramid, QUICK_PIXELS))
    return studio.rasters.put(name, part.raster_of(pyramid))


def _matte(visit: Visit, part: Found) -> Raster:
    """Return a matte as its part lays it.

    Raises
    ------
    NotThereError
        It is not kept.
    """
    studio = visit.studio
    found = studio.rasters.get(part.raster)
    if found is not None:
        return found
    matte = matte_of(visit, part.matte)
    return studio.rasters.put(part.raster, Raster(matte, part.share))


def _own_colors(
    visit: Visit, own: OwnColors, assets: Assets, *, quick: bool
) -> Pyramid:
    """Return a photo with own colours; where `quick`, perhaps not for its very mask.

    They take far longer to reckon than a frame may. While somebody paints, those of
    the mask before are shown, which differ along the new edge alone.
    """
    studio = visit.studio
    unpainted = _without_painting(own)
    found = studio.shelf.own_colors(own.name)
    if found is None and quick:
        found = studio.own_colors.get(unpainted)
    if found is None and quick:
        found = own_pyramid(own, assets, QUICK_PIXELS)
    if found is None:
        found = studio.shelf.keep_own_colors(own.name, own_pyramid(own, assets))
    return studio.own_colors.put(unpainted, found)


def _without_painting(own: OwnColors) -> Hashable:
    """Return what stays the same of a photo's own colours while a hand paints."""
    parts = tuple(part for part in own.mask.parts if not part.reads.paintings)
    return own.picture, own.strength, with_fields(own.mask, parts=parts)


def _pyramids(visit: Visit, wanted: Iterable[str]) -> dict[str, Pyramid]:
    """Return pictures by their ids.

    Raises
    ------
    NotThereError
        A picture is not on the shelf.
    """
    try:
        digests = {
            (one := uuid.UUID(name)): visit.studio.digests.get(one) for name in wanted
        }
    except ValueError as cause:
        raise NotThereError(ON_THE_SHELF) from cause
    unknown = [picture for picture, digest in digests.items() if digest is None]
    if unknown:
        for row in find_pictures(visit.session, unknown):
            digests[row.id] = visit.studio.digests.put(row.id, row.sha256)
    found = {}
    for picture, digest in digests.items():
        if digest is None:
            raise NotThereError(ON_THE_SHELF)
        found[str(picture)] = visit.studio.shelf.pyramid(visit.session, digest)
    return found
