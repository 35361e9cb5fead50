"""Plans filled with pictures of the shelf: what is known of these, and what comes."""

from __future__ import annotations

import uuid
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.plans import FoundCut, Known, filled
from glyphaneme.core.plans.completing import AskedPhoto, asked_of, completed
from glyphaneme.core.render import render
from glyphaneme.services.assets import assets_of
from glyphaneme.services.cutting import known_matte, matte_of
from glyphaneme.services.fonts import measured_words
from glyphaneme.services.matching import LOOKED_AT
from glyphaneme.services.matting import CutRequest
from glyphaneme.services.photo_facts import Photo, facts_of
from glyphaneme.services.plans.pairing import found_pairs
from glyphaneme.services.showing import whole_view
from glyphaneme.store.pictures import find_pictures, pictures_of_files

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.cutout import MatteU8
    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.core.plans import Filled, Filling, Plan
    from glyphaneme.core.plans.facts import PhotoFacts
    from glyphaneme.core.words.values import Measure, Words
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.rows import PictureRow


class Result(NamedTuple):
    """What came of a plan, and what it came from."""

    filled: Filled
    known: Known

    @property
    def composite(self) -> Composite:
        """The picture as far as it can be made by now."""
        return self.filled.composite


def fill(
    visit: Visit,
    plan: Plan,
    filling: Filling,
    *,
    pairs: Mapping[tuple[str, str], MatrixF64] | None = None,
) -> Result:
    """Fill a plan with pictures of the shelf, as far as all is found that it needs.

    What is not on the shelf counts nothing. `pairs` are known besides those that were
    found before.

    Raises
    ------
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """
    asked = asked_of(plan, filling)
    rows = find_pictures(visit.session, [one for one in map(_id, asked) if one])
    photos = {str(row.id): _facts(visit, row, asked[str(row.id)]) for row in rows}
    known = Known(
        photos, partial(_measured, visit), stays=_staying(visit, plan, photos)
    )
    wanted = filled(plan, filling, known).wanted.pairs
    if wanted:
        found = {**found_pairs(visit, wanted), **(pairs or {})}
        known = known._replace(
            pairs={pair: np.asarray(found[pair]) for pair in wanted if pair in found}
        )
    return Result(completed(plan, filling, known, seeing(visit)), known)


def _staying(
    visit: Visit, plan: Plan, photos: Mapping[str, PhotoFacts]
) -> dict[str, PhotoFacts]:
    """Return what is known of the pictures that stay in a plan, by its names."""
    rows = {
        row.sha256: row
        for row in pictures_of_files(visit.session, plan.pictures.values())
    }
    return {
        name: photos.get(str(rows[sha256].id))
        or _facts(visit, rows[sha256], AskedPhoto())
        for name, sha256 in plan.pictures.items()
        if sha256 in rows
    }


def seeing(visit: Visit) -> Callable[[Composite, tuple[Layer, ...]], PixelsU8]:
    """Return what renders small pictures, for tones to be compared."""

    def seen(part: Composite, pile: tuple[Layer, ...]) -> PixelsU8:
        view = whole_view(part, LOOKED_AT, tallest=LOOKED_AT)
        return render(part, assets_of(visit, part, view, pile=pile), view, pile=pile)

    return seen


def _id(name: str) -> uuid.UUID | None:
    try:
        return uuid.UUID(name)
    except ValueError:
        return None


def _facts(visit: Visit, row: PictureRow, asked: AskedPhoto) -> PhotoFacts:
    pyramid = visit.studio.shelf.pyramid(visit.session, row.sha256)
    photo = Photo(str(row.id), row.sha256, row.name, pyramid)
    return facts_of(photo, asked, visit.studio.glances, _cut(visit, row, asked))


def _cut(
    visit: Visit, row: PictureRow, asked: AskedPhoto
) -> tuple[FoundCut, Callable[[], MatteU8]] | None:
    if asked.way is None:
        return None
    found = known_matte(visit, row.sha256, CutRequest(way=asked.way))
    if found is None:
        return None
    cut = FoundCut(matte=found.matte, level=found.level)
    return cut, partial(matte_of, visit, found.matte)


def _measured(visit: Visit, words: Words) -> Measure | None:
    """Return what words measure; None where no font is at hand."""
    return measured_words(visit, words)[1]
