"""Having found what plans still want: cut-outs, and how photos lie over others."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict

from glyphaneme.services.cutting import start_cut
from glyphaneme.services.errors import NetworkMissingError
from glyphaneme.services.matting import CutRequest
from glyphaneme.services.plans.pairing import asked_before, start_pairing
from glyphaneme.services.working import Job, job_of
from glyphaneme.store.jobs import OPEN_STATES, latest_job
from glyphaneme.store.rows import JobKind

if TYPE_CHECKING:
    from glyphaneme.core.plans.making import Wanted, WantedCut
    from glyphaneme.services.plans.pairing import Pair
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.rows import JobRow


class Sought(BaseModel):
    """Something that is still to be found of a photo, and the work that finds it."""

    model_config = ConfigDict(frozen=True)

    what: Literal["outline", "pair"]
    picture: str
    job: Job | None = None
    """None where it cannot be found."""
    error: str | None = None
    """Why not."""


def seek(visit: Visit, wanted: Wanted) -> list[Sought]:
    """Have found what a plan wants, unless that is under way or was tried in vain."""
    cuts = [_seek_cut(visit, one) for one in wanted.cuts]
    return cuts + [_seek_pair(visit, one) for one in wanted.pairs]


def _seek_cut(visit: Visit, wanted: WantedCut) -> Sought:
    request = CutRequest(way=wanted.way)
    picture = uuid.UUID(wanted.picture)
    stored = request.model_dump(mode="json")
    before = latest_job(visit.session, JobKind.CUT_OUT, picture, stored)
    if before is not None and _counts(before):
        return Sought(what="outline", picture=wanted.picture, **_of(before))
    try:
        answer = start_cut(visit, picture, key=uuid.uuid4(), request=request)
    except NetworkMissingError as cause:
        return Sought(what="outline", picture=wanted.picture, error=str(cause))
    return Sought(what="outline", picture=wanted.picture, job=answer.job)


def _seek_pair(visit: Visit, pair: Pair) -> Sought:
    before = asked_before(visit, pair)
    if before is not None and _counts(before):
        return Sought(what="pair", picture=pair[0], **_of(before))
    return Sought(what="pair", picture=pair[0], job=start_pairing(visit, pair))


def _counts(job: JobRow) -> bool:
    """Tell whether work goes on, or was in vain; what was stopped is begun again."""
    return job.state in OPEN_STATES or job.state == "failed"


def _of(job: JobRow) -> dict[str, Job | str | None]:
    if job.state == "failed":
        return {"error": job.error}
    return {"job": job_of(job)}
