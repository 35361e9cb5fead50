"""Mended photos: what fills each place is found once, and kept as a file."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.codecs import drop_oldest, load_patch, save_patch
from glyphaneme.core.mend import Patch, lay_patch, patch_for

if TYPE_CHECKING:
    from glyphaneme.core.mend import Mend
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.render import Assets, Mended
    from glyphaneme.services.studio import Visit

MOST_KEPT = 2000
MOST_AT_ONCE = 6000
"""So many pixels, or one place, are filled for one frame; that takes below a second."""


def mended_pyramid(visit: Visit, mended: Mended, digest: str) -> Pyramid:
    """Return a picture, named by its file's SHA-256, with all its places mended.

    Where somebody waits for it, places beyond some are filled roughly at first: asked
    again, more of them are filled as they should be.
    """
    studio = visit.studio
    found = studio.mended.get(mended.name)
    if found is not None:
        return found
    pyramid = studio.shelf.pyramid_to_change(visit.session, digest)
    filled = 0
    is_whole = True
    for mend, name in zip(mended.mends, mended.patches, strict=True):
        patch = load_patch(visit.studio.shelf.patches / f"{name}.npz")
        if patch is None and studio.is_waited_for and filled >= MOST_AT_ONCE:
            is_whole = False
            patch = patch_for(pyramid.levels[0], mend, roughly=True)
        elif patch is None:
            patch = _found(visit, name, mend, pyramid)
            filled += len(patch.rows)
        lay_patch(pyramid.levels, patch)
    studio.rough.put(mended.name, not is_whole)
    return studio.mended.put(mended.name, pyramid) if is_whole else pyramid


def is_rough(visit: Visit, assets: Assets) -> bool:
    """Tell whether some places of what is shown are filled roughly as yet."""
    return any(visit.studio.rough.get(name) for name in assets)


def _found(visit: Visit, name: str, mend: Mend, pyramid: Pyramid) -> Patch:
    place = visit.studio.shelf.patches / f"{name}.npz"
    found = patch_for(pyramid.levels[0], mend)
    save_patch(place, found)
    drop_oldest(place.parent, most=MOST_KEPT)
    return found
