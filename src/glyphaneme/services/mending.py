"""Mended places: what fills each of them is found once, and kept as a file."""

from __future__ import annotations

import mmap
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.codecs import drop_oldest, load_patch, save_patch
from glyphaneme.core.mend import lay_patch, patch_for
from glyphaneme.core.render import Laid, filled_patch, laid
from glyphaneme.services.room import keeping_if_there_is_room
from glyphaneme.services.studio import MendedPhoto

if TYPE_CHECKING:
    from collections.abc import Callable
    from pathlib import Path

    from glyphaneme.core.mend import Mend, Patch
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.render import Assets, Mended, MendedPlace
    from glyphaneme.services.studio import Studio, Visit

MOST_KEPT = 2000
RGBA_BYTES = 4
MOST_AT_ONCE = 6000
"""So many pixels, or one place, are filled for one frame; that takes below a second."""
ROUGHLY_AT_ONCE = 12
"""So many places more are filled roughly for it."""


@dataclass
class Filling:
    """How much of what layers mend was filled for one answer already."""

    pixels: int = 0
    places: int = 0
    """Those that were filled roughly."""


def mended_pyramid(visit: Visit, mended: Mended, digest: str) -> Pyramid:
    """Return a picture, named by its file's SHA-256, with all its places mended.

    Where somebody waits for it, places beyond some are filled roughly at first: asked
    again, more of them are filled as they should be.
    """
    studio = visit.studio
    found = studio.mended.get(mended.name)
    if found is not None:
        return found.pyramid
    pyramid = studio.shelf.pyramid_to_change(visit.session, digest)
    filled = changed = 0
    is_whole = True
    for mend, name in zip(mended.mends, mended.patches, strict=True):
        patch = load_patch(_file_of(visit, name))
        if patch is None and studio.is_waited_for and filled >= MOST_AT_ONCE:
            is_whole = False
            patch = _rough(studio, name, mend, pyramid)
        elif patch is None:
            patch = _found(visit, name, mend, pyramid)
            filled += len(patch.rows)
        lay_patch(pyramid.levels, patch)
        changed += _changed_by(patch)
    studio.rough.put(mended.name, not is_whole)
    if is_whole:
        studio.mended.put(mended.name, MendedPhoto(pyramid, changed))
    return pyramid


def patch_laid(
    visit: Visit,
    place: MendedPlace,
    filling: Filling,
    read: Callable[[MendedPlace], Assets],
    *,
    quick: bool,
) -> Laid:
    """Return what fills a place that a layer mends; `read` gives what that reads.

    Where somebody waits for it, or it must be `quick`, it may be filled roughly at
    first, or not at all.
    """
    studio, name = visit.studio, place.name
    file = _file_of(visit, name)
    found = studio.filled_places.get(name)
    if found is None and (kept := load_patch(file)) is not None:
        found = studio.filled_places.put(name, laid(place, kept))
    if found is not None:
        return found
    is_full = studio.is_waited_for and filling.pixels >= MOST_AT_ONCE
    rough = studio.rough_patches.get(name) if quick or is_full else None
    if rough is not None:
        return rough
    if (quick or is_full) and filling.places >= ROUGHLY_AT_ONCE:
        return Laid((), is_rough=True)
    assets = read(place)
    if quick or is_full or is_rough(visit, assets):
        filling.places += 1
        patch = filled_patch(place, assets, roughly=True)
        return studio.rough_patches.put(name, laid(place, patch, is_rough=True))
    patch = filled_patch(place, assets)
    filling.pixels += len(patch.rows)
    _keep(file, patch)
    return studio.filled_places.put(name, laid(place, patch))


def is_rough(visit: Visit, assets: Assets) -> bool:
    """Tell whether some places of what is shown are filled roughly as yet."""
    return any(
        one.is_rough if isinstance(one, Laid) else visit.studio.rough.get(name)
        for name, one in assets.items()
    )


def _changed_by(patch: Patch) -> int:
    """Return how many bytes of a mapped picture are no longer those of its file.

    They count by pages, of each row that is changed at full size; the smaller sizes
    have as many rows together.
    """
    if not len(patch.rows):
        return 0
    wide = int(np.ptp(patch.columns)) * RGBA_BYTES
    rows = len(np.unique(patch.rows))
    return 2 * rows * (wide // mmap.PAGESIZE + 2) * mmap.PAGESIZE


def _rough(studio: Studio, name: str, mend: Mend, pyramid: Pyramid) -> Patch:
    kept = studio.rough_fills.get(name)
    if kept is not None:
        return kept
    found = patch_for(pyramid.levels[0], mend, roughly=True)
    return studio.rough_fills.put(name, found)


def _found(visit: Visit, name: str, mend: Mend, pyramid: Pyramid) -> Patch:
    found = patch_for(pyramid.levels[0], mend)
    _keep(_file_of(visit, name), found)
    return found


def _file_of(visit: Visit, name: str) -> Path:
    return visit.studio.shelf.patches / f"{name}.npz"


def _keep(place: Path, patch: Patch) -> None:
    with keeping_if_there_is_room():
        save_patch(place, patch)
        drop_oldest(place.parent, most=MOST_KEPT)
