"""How one picture lies over another of the same place, for plans that line up."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Any, Final

import numpy as np

from glyphaneme.core.align import MapKind
from glyphaneme.core.errors import NotAlikeError
from glyphaneme.services.aligning import CONTENT_WORDS, LOCK, aligned
from glyphaneme.services.errors import NotAlignedError, NotThereError
from glyphaneme.services.working import begin_job
from glyphaneme.store.jobs import latest_job
from glyphaneme.store.pictures import find_picture
from glyphaneme.store.rows import JobKind, JobRow

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Job, Progress

Pair = tuple[str, str]
"""Two pictures, the moving one first."""
KIND: Final = MapKind.SIMILAR


def found_pairs(visit: Visit, pairs: Iterable[Pair]) -> dict[Pair, MatrixF64]:
    """Return how pictures lie over others, of those for which that was found."""
    found = {}
    for pair in pairs:
        job = asked_before(visit, pair)
        if job is not None and job.state == "done" and job.found is not None:
            found[pair] = np.array(job.found["matrix"], np.float64)
    return found


def asked_before(visit: Visit, pair: Pair) -> JobRow | None:
    """Return the work that two pictures were compared by, if it was asked for."""
    moving, fixed = pair
    picture = uuid.UUID(moving)
    return latest_job(visit.session, JobKind.PAIR, picture, _request(fixed))


def start_pairing(visit: Visit, pair: Pair) -> Job:
    """Have two pictures compared."""
    moving, fixed = pair
    job = JobRow(
        id=uuid.uuid4(),
        kind=JobKind.PAIR,
        picture_id=uuid.UUID(moving),
        request=_request(fixed),
    )
    return begin_job(visit, job, lock=LOCK)


def pair_pictures(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Find how one picture lies over another.

    Raises
    ------
    NotAlignedError
        They show too little that is alike.
    """
    if job.picture_id is None or job.request is None:
        return
    pair = (str(job.picture_id), str(job.request["fixed"]))
    matrix = paired_now(studio, pair, progress)
    progress.finish(found={"matrix": matrix.tolist()})


def paired_now(studio: Studio, pair: Pair, progress: Reporting) -> MatrixF64:
    """Return how one picture lies over another, found on the spot.

    Raises
    ------
    NotThereError
        One of them is not there.
    NotAlignedError
        They show too little that is alike.
    """
    pyramids = []
    with studio.sessions() as session:
        for one in pair:
            row = find_picture(session, uuid.UUID(one))
            if row is None:
                raise NotThereError("picture")
            pyramids.append(studio.shelf.pyramid(session, row.sha256))
    try:
        return aligned(pyramids[0], pyramids[1], KIND, progress).matrix
    except NotAlikeError as cause:
        raise NotAlignedError(CONTENT_WORDS) from cause


def _request(fixed: str) -> dict[str, Any]:
    return {"fixed": fixed, "kind": KIND.value}
