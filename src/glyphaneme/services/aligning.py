"""Lining up two photos of the same place."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Annotated, Literal, Self

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.align import (
    Aligned,
    MapKind,
    aligned_by_content,
    aligned_by_map,
    aligned_by_points,
)
from glyphaneme.core.document.lining_up import lined_up, photo_of
from glyphaneme.core.document.model import LayerId
from glyphaneme.core.errors import NotAlikeError
from glyphaneme.core.mask.rasters import size_within
from glyphaneme.core.place import Placement
from glyphaneme.services.errors import NotAlignedError, NotThereError
from glyphaneme.services.showing import Draft, drafted
from glyphaneme.services.studio import Visit
from glyphaneme.services.working import Job, begin_job
from glyphaneme.store.pictures import find_picture
from glyphaneme.store.rows import JobKind, JobRow

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Composite
    from glyphaneme.core.place import Pyramid
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio
    from glyphaneme.services.working import Progress
    from glyphaneme.store.database import Session
    from glyphaneme.store.rows import PictureRow

FINEST_PIXELS = 12_000_000
LOCK = "aligning"
MAP_WORDS = (
    "The files of these two do not say in the same way where on a map they lie. Line "
    "them up by what they show, or by points."
)
CONTENT_WORDS = (
    "These two have too little in common to be lined up by what they show. Match some "
    "points by hand instead; nothing was moved."
)
POINT_WORDS = (
    "These points do not say how one lies over the other: they lie on one another or "
    "on one line. Move one of them; nothing was moved."
)
Coordinate = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
Point = tuple[Coordinate, Coordinate]


class Pair(BaseModel):
    """The same thing in both photos, in the own pixels of each."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    moving: Point
    fixed: Point


class AlignRequest(BaseModel):
    """Which photo is to be moved onto which, and by what."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    moving: LayerId
    fixed: LayerId
    by: Literal["map", "content", "points"] = "content"
    kind: MapKind = MapKind.SIMILAR
    pairs: Annotated[tuple[Pair, ...], Field(max_length=4)] = ()

    @model_validator(mode="after")
    def _names_two(self) -> Self:
        if self.moving == self.fixed:
            message = "two different layers must be named"
            raise ValueError(message)
        if self.by == "points" and len(self.pairs) < 2:
            message = "two pairs of points must be named at least"
            raise ValueError(message)
        return self


class AlignFound(BaseModel):
    """Where the photo comes to lie, and how sure that is."""

    model_config = ConfigDict(frozen=True)

    layer_id: LayerId
    placement: Placement
    certainty: float
    """0..1."""
    error: float
    """What is left between what was matched, in pixels of the one that stays."""


class AlignAnswer(BaseModel):
    """What was found at once, or the work that finds it."""

    model_config = ConfigDict(frozen=True)

    found: AlignFound | None = None
    job: Job | None = None


class _Asked(BaseModel):
    """What a job works from."""

    model_config = ConfigDict(frozen=True)

    draft: Draft
    request: AlignRequest


def start_align(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    key: uuid.UUID,
    draft: Draft,
    request: AlignRequest,
) -> AlignAnswer:
    """Line two photos up: at once by numbers, by work where pictures are looked at.

    Raises
    ------
    NotThereError
        There is no such project, state or picture.
    NotAlignedError
        They do not say how one lies over the other.
    """
    composite = drafted(visit, project_id, draft)
    rows = [
        _picture(visit.session, photo_of(composite, one).picture)
        for one in (request.moving, request.fixed)
    ]
    if request.by == "content":
        asked = _Asked(draft=draft, request=request).model_dump(mode="json")
        job = JobRow(id=key, kind=JobKind.LINE_UP, project_id=project_id, request=asked)
        return AlignAnswer(job=begin_job(visit, job, lock=LOCK))
    try:
        if request.by == "map":
            maps = [row.map_tags or {} for row in rows]
            found = aligned_by_map(maps[0], maps[1])
        else:
            moving, fixed = (
                np.array([getattr(pair, which) for pair in request.pairs])
                for which in ("moving", "fixed")
            )
            found = aligned_by_points(moving, fixed, request.kind)
        return AlignAnswer(found=_placed(composite, request, found))
    except NotAlikeError as cause:
        words = MAP_WORDS if request.by == "map" else POINT_WORDS
        raise NotAlignedError(words) from cause


def line_up(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Line two photos up by what they show.

    Raises
    ------
    NotAlignedError
        They show too little that is alike.
    """
    if job.project_id is None:
        return
    asked = _Asked.model_validate(job.request)
    with studio.sessions() as session:
        visit = Visit("worker", session, studio)
        composite = drafted(visit, job.project_id, asked.draft)
        photos = [
            photo_of(composite, one)
            for one in (asked.request.moving, asked.request.fixed)
        ]
        pyramids = [
            studio.shelf.pyramid(
                visit.session, _picture(visit.session, photo.picture).sha256
            )
            for photo in photos
        ]
    try:
        found = aligned(pyramids[0], pyramids[1], asked.request.kind, progress)
        placed = _placed(composite, asked.request, found)
    except NotAlikeError as cause:
        raise NotAlignedError(CONTENT_WORDS) from cause
    progress.finish(found=placed.model_dump(mode="json"))


def aligned(
    moving: Pyramid, fixed: Pyramid, kind: MapKind, progress: Reporting
) -> Aligned:
    """Return the map that lays one picture over another by what both show.

    It is between the pictures' own pixels.

    Raises
    ------
    NotAlikeError
        They show too little that is alike.
    """
    (first, finer), (second, other) = _look(moving), _look(fixed)
    found = aligned_by_content(first, second, kind, report=progress.report)
    return Aligned(
        _between(found.matrix, finer, other), found.certainty, found.error / other
    )


def _placed(composite: Composite, request: AlignRequest, found: Aligned) -> AlignFound:
    placement = lined_up(composite, request.moving, request.fixed, found.matrix)
    return AlignFound(
        layer_id=request.moving,
        placement=placement,
        certainty=found.certainty,
        error=found.error,
    )


def _look(pyramid: Pyramid) -> tuple[PixelsU8, float]:
    """Return a picture at a size that is large enough, and that size's scale."""
    level = size_within(pyramid, FINEST_PIXELS)
    return np.ascontiguousarray(pyramid.levels[level]), 0.5**level


def _between(matrix: np.ndarray, moving: float, fixed: float) -> np.ndarray:
    """Return a map between pictures' own pixels from one between smaller ones."""
    whole = np.diag([1 / fixed, 1 / fixed, 1]) @ matrix @ np.diag([moving, moving, 1])
    return np.asarray(whole / whole[2, 2])


def _picture(session: Session, name: str) -> PictureRow:
    try:
        row = find_picture(session, uuid.UUID(name))
    except ValueError:
        row = None
    if row is None:
        what = "picture on the shelf"
        raise NotThereError(what)
    return row
