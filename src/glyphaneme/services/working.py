"""Long work: watching it, stopping it, and the steps that a worker runs."""

from __future__ import annotations

import logging
import time
import uuid
from datetime import datetime
from typing import TYPE_CHECKING, Any, Literal

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import PictureRefusedError
from glyphaneme.services.errors import (
    DATABASE_AWAY,
    JobCancelledError,
    KeyReusedError,
    NotThereError,
    ServiceError,
)
from glyphaneme.services.room import NO_ROOM, is_no_room
from glyphaneme.store import jobs as jobs_store
from glyphaneme.store.blobs import keep_blob
from glyphaneme.store.notices import notify
from glyphaneme.store.queue import WAITED_FOR, enqueue
from glyphaneme.store.rows import JobKind

if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import BinaryIO

    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.store.database import Session
    from glyphaneme.store.rows import JobRow

log = logging.getLogger(__name__)
WORK_QUEUE = WAITED_FOR
"""Which queue a worker of what somebody waits for listens to."""
STOPPABLE = (*jobs_store.OPEN_STATES, "paused")
REPORT_EVERY_S = 0.15
MAX_ATTEMPTS = 3
MOST_ATTEMPTS = {JobKind.BATCH: 100_000}
"""Of work that counts its attempts by itself, picture by picture."""
WORN_OUT = (
    f"This was begun {MAX_ATTEMPTS} times, and each time it was cut off: the process "
    "that worked on it died, or the database went away. It may be too large for this "
    "machine: try a smaller size. Nothing you made is lost."
)
OUR_FAULT = "Something went wrong on our side. Nothing you made is lost; try again."

JobState = Literal["waiting", "running", "paused", "done", "failed", "cancelled"]


class Job(BaseModel):
    """Long work as people see it."""

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    kind: JobKind
    state: JobState
    progress: float
    picture_id: uuid.UUID | None
    project_id: uuid.UUID | None
    found: dict[str, Any] | None
    """What it has found so far, where that is more than a file."""
    file_name: str | None
    error: str | None
    changed_at: datetime


def get_job(visit: Visit, job_id: uuid.UUID) -> Job:
    """Return one job.

    Raises
    ------
    NotThereError
        There is none.
    """
    row = jobs_store.find_job(visit.session, job_id)
    if row is None:
        raise NotThereError("piece of work")
    return job_of(row)


def list_open_jobs(visit: Visit) -> list[Job]:
    """Return what waits or runs."""
    return [job_of(row) for row in jobs_store.open_jobs(visit.session)]


def begin_job(
    visit: Visit,
    job: JobRow,
    *,
    lock: str | None = None,
    priority: int = 0,
    queue: str = WAITED_FOR,
) -> Job:
    """Have work done; asked for again with the same id, it is done once.

    Raises
    ------
    KeyReusedError
        The id came before with another request.
    """
    wanted = job.request, job.project_id, job.picture_id
    row, added = jobs_store.add_job(visit.session, job)
    if added:
        enqueue(
            visit.session, row.kind, row.id, lock=lock, priority=priority, queue=queue
        )
    elif (row.request, row.project_id, row.picture_id) != wanted:
        raise KeyReusedError
    return job_of(row)


def cancel_job(visit: Visit, job_id: uuid.UUID) -> Job:
    """Stop a job; one that is over stays as it ended, unless it left a file.

    What it had found is let go of, a finished file too: so goes what was made only to
    know how large it would be.
    """
    gone: dict[str, Any] = {"state": "cancelled", "found": None, "result_sha256": None}
    row = jobs_store.change_open_job(
        visit.session, job_id, states=STOPPABLE, **gone
    ) or jobs_store.change_finished_file(visit.session, job_id, **gone)
    if row is not None:
        _announce(visit.session, row)
    return get_job(visit, job_id)


def job_of(row: JobRow) -> Job:
    """Return what may leave the services of a job's row."""
    return Job.model_validate({name: getattr(row, name) for name in Job.model_fields})


def pause_job(visit: Visit, job_id: uuid.UUID) -> Job:
    """Let a job rest: what it is at is begun anew when it goes on."""
    row = jobs_store.change_open_job(visit.session, job_id, state="paused")
    if row is not None:
        _announce(visit.session, row)
    return get_job(visit, job_id)


def resume_job(
    visit: Visit, job_id: uuid.UUID, *, lock: str | None = None, queue: str = WAITED_FOR
) -> Job:
    """Let a job that rests go on."""
    row = jobs_store.change_open_job(
        visit.session, job_id, states=("paused",), state="waiting"
    )
    if row is not None:
        enqueue(visit.session, row.kind, row.id, lock=lock, queue=queue)
        _announce(visit.session, row)
    return get_job(visit, job_id)


class Progress:
    """Reports from inside a job; each report is committed and pushed to the page.

    They count for as long as no other worker has begun the same job, so that however
    often it is delivered, one result comes of it.
    """

    def __init__(self, studio: Studio, job_id: uuid.UUID, attempt: int) -> None:
        self._studio = studio
        self._job_id = job_id
        self._attempt = attempt
        self._reported_at = time.monotonic()

    def report(self, share: float) -> None:
        """Say how far the work is, 0..1; stops it here if someone cancelled it.

        May be called as often as one likes: what comes too soon is passed over.
        """
        now = time.monotonic()
        if now - self._reported_at < REPORT_EVERY_S:
            return
        self._reported_at = now
        with self._studio.sessions.begin() as session:
            self._change(session, progress=share)

    def tell(self, share: float, found: dict[str, Any]) -> None:
        """Say how far the work is, and what it has found so far."""
        with self._studio.sessions.begin() as session:
            self._change(session, progress=share, found=found)

    def show(self, file: BinaryIO, found: Callable[[str], dict[str, Any]]) -> None:
        """Say what has been found so far; its file is kept as long as the job is.

        `found` hears how the file is named, and returns what was found.
        """
        with self._studio.sessions.begin() as session:
            sha256 = keep_blob(session, file)
            self._change(session, found=found(sha256), result_sha256=sha256)

    def finish(
        self,
        result: BinaryIO | None = None,
        *,
        found: dict[str, Any] | None = None,
        kept: Callable[[Session, str], dict[str, Any]] | None = None,
    ) -> None:
        """Say that the work is done, and keep the file that came of it, if any.

        `kept` hears in the same transaction how the file is named, and returns what
        was found.
        """
        with self._studio.sessions.begin() as session:
            sha256 = None if result is None else keep_blob(session, result)
            if kept is not None and sha256 is not None:
                found = kept(session, sha256)
            self._change(
                session,
                progress=1.0,
                state="done",
                result_sha256=sha256,
                **({} if found is None else {"found": found}),
            )

    def _change(
        self,
        session: Session,
        **changes: Any,  # noqa: ANN401  # columns of all types
    ) -> None:
        row = jobs_store.change_open_job(
            session, self._job_id, attempt=self._attempt, **changes
        )
        if row is None:
            raise JobCancelledError
        _announce(session, row)


def run_job(
    studio: Studio,
    job_id: uuid.UUID,
    work: Callable[[Studio, JobRow, Progress], None],
) -> None:
    """Run a job's work from start to end, and record how it ended.

    A job that was cut off half done is run again, some times: by a dead worker, or by
    the database.

    Raises
    ------
    DATABASE_AWAY
        It is to be run again.
    Exception
        Whatever else went wrong.
    """
    with studio.sessions.begin() as session:
        row = jobs_store.begin_attempt(session, job_id)
        if row is None:
            return
        _announce(session, row)
    attempt = row.attempts
    if attempt > MOST_ATTEMPTS.get(row.kind, MAX_ATTEMPTS):
        _fail(studio, job_id, attempt, WORN_OUT)
        return
    try:
        with studio.activity.going_on():
            work(studio, row, Progress(studio, job_id, attempt))
    except JobCancelledError:
        log.info("job stopped", extra={"action": "job_stopped", "job": str(job_id)})
    except (ServiceError, PictureRefusedError) as cause:
        _fail(studio, job_id, attempt, str(cause))
    except DATABASE_AWAY as cause:
        if is_no_room(cause):
            _fail(studio, job_id, attempt, NO_ROOM)
            return
        log.warning("job cut off", extra={"action": "job_cut_off", "job": str(job_id)})
        raise
    except Exception as cause:
        _fail(studio, job_id, attempt, NO_ROOM if is_no_room(cause) else OUR_FAULT)
        raise


def _fail(studio: Studio, job_id: uuid.UUID, attempt: int, message: str) -> None:
    with studio.sessions.begin() as session:
        row = jobs_store.change_open_job(
            session, job_id, attempt=attempt, state="failed", error=message
        )
        if row is not None:
            _announce(session, row)


def _announce(session: Session, row: JobRow) -> None:
    notify(session, {"kind": "job", "job": job_of(row).model_dump(mode="json")})
