"""Rows of long work: what people see of it while it runs and after."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from sqlalchemy import func, select, update

from glyphaneme.store.inserting import insert_once
from glyphaneme.store.rows import BlobRow, JobKind, JobRow

if TYPE_CHECKING:
    import uuid
    from collections.abc import Iterable, Sequence

    from sqlalchemy.orm import Session

OPEN_STATES = ("waiting", "running")


def add_job(session: Session, job: JobRow) -> tuple[JobRow, bool]:
    """Add a job, or return the one whose id it has; True if it was added."""
    added = insert_once(session, job)
    return session.get_one(JobRow, added or job.id), added is not None


def find_job(session: Session, job_id: uuid.UUID) -> JobRow | None:
    """Return one job as it is in the database now."""
    return session.get(JobRow, job_id, populate_existing=True)


def latest_job(
    session: Session, kind: JobKind, picture_id: uuid.UUID, request: dict[str, Any]
) -> JobRow | None:
    """Return the job that was asked last for just that of a picture."""
    statement = (
        select(JobRow)
        .where(
            JobRow.kind == kind,
            JobRow.picture_id == picture_id,
            JobRow.request == request,
        )
        .order_by(JobRow.created_at.desc())
        .limit(1)
    )
    return session.scalars(statement).one_or_none()


def open_jobs(session: Session) -> Sequence[JobRow]:
    """Return jobs that wait or run, oldest first."""
    statement = (
        select(JobRow).where(JobRow.state.in_(OPEN_STATES)).order_by(JobRow.created_at)
    )
    return session.scalars(statement).all()


def pictures_being_read(
    session: Session, picture_ids: Iterable[uuid.UUID]
) -> set[uuid.UUID]:
    """Return those of the pictures that are still being read in."""
    statement = select(JobRow.picture_id).where(
        JobRow.kind == JobKind.READ_PICTURE,
        JobRow.picture_id.in_(list(picture_ids)),
        JobRow.state.in_(OPEN_STATES),
    )
    return {picture for picture in session.scalars(statement) if picture is not None}


def begin_attempt(session: Session, job_id: uuid.UUID) -> JobRow | None:
    """Take a job that waits, or that another worker began; None where it is over."""
    return change_open_job(
        session, job_id, state="running", attempts=JobRow.attempts + 1, progress=0.0
    )


def finished_files(
    session: Session, project_id: uuid.UUID, *, most: int
) -> list[tuple[JobRow, int]]:
    """Return jobs of a project that left files, the newest first, and their sizes."""
    statement = (
        select(JobRow, BlobRow.size)
        .join(BlobRow, BlobRow.sha256 == JobRow.result_sha256)
        .where(
            JobRow.project_id == project_id,
            JobRow.kind == JobKind.EXPORT,
            JobRow.state == "done",
        )
        .order_by(JobRow.changed_at.desc())
        .limit(most)
    )
    return [(row, size) for row, size in session.execute(statement)]


def change_finished_file(
    session: Session, job_id: uuid.UUID, **changes: object
) -> JobRow | None:
    """Change a job that left a finished file; None where it did not."""
    return session.scalars(
        update(JobRow)
        .where(
            JobRow.id == job_id,
            JobRow.kind.in_((JobKind.EXPORT, JobKind.EXPORT_MANY, JobKind.BATCH)),
            JobRow.state == "done",
        )
        .values(**changes, changed_at=func.clock_timestamp())
        .returning(JobRow)
        .execution_options(populate_existing=True)
    ).one_or_none()


def change_open_job(
    session: Session,
    job_id: uuid.UUID,
    *,
    attempt: int | None = None,
    states: Sequence[str] = OPEN_STATES,
    **changes: Any,  # noqa: ANN401  # columns of all types
) -> JobRow | None:
    """Change a job that waits or runs, or is in another of `states`; None where not.

    With `attempt` also None where another attempt has begun since.
    """
    this_one = () if attempt is None else (JobRow.attempts == attempt,)
    return session.scalars(
        update(JobRow)
        .where(JobRow.id == job_id, JobRow.state.in_(states), *this_one)
        .values(**changes, changed_at=func.clock_timestamp())
        .returning(JobRow)
        .execution_options(populate_existing=True)
    ).one_or_none()
