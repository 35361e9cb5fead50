"""Rows of long work: what people see of it while it runs and after."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import delete, func, select, text, update

from glyphaneme.store.inserting import insert_once
from glyphaneme.store.rows import JobRow

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
        JobRow.picture_id.in_(list(picture_ids)), JobRow.state.in_(OPEN_STATES)
    )
    return {picture for picture in session.scalars(statement) if picture is not None}


def change_open_job(
    session: Session, job_id: uuid.UUID, **changes: object
) -> JobRow | None:
    """Change a job that waits or runs; None where it is over already."""
    return session.scalars(
        update(JobRow)
        .where(JobRow.id == job_id, JobRow.state.in_(OPEN_STATES))
        .values(**changes, changed_at=func.clock_timestamp())
        .returning(JobRow)
    ).one_or_none()


def drop_old_exports(session: Session, *, days: int) -> None:
    """Delete records of exports that ended long ago, and their files."""
    session.execute(
        delete(JobRow).where(
            JobRow.kind == "export",
            JobRow.state.not_in(OPEN_STATES),
            JobRow.changed_at < func.now() - text(f"interval '{int(days)} days'"),
        )
    )
    session.execute(
        text(
            "DELETE FROM blob WHERE NOT EXISTS"
            " (SELECT 1 FROM job WHERE job.result_sha256 = blob.sha256)"
            " AND NOT EXISTS (SELECT 1 FROM picture WHERE picture.sha256 = blob.sha256)"
        )
    )
