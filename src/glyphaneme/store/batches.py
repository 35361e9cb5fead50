"""Pictures of batches: what is to be made, what was made, and what was not."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from sqlalchemy import case, func, select, update
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import BatchItemRow, JobKind, JobRow

if TYPE_CHECKING:
    import uuid
    from collections.abc import Iterable, Sequence

    from sqlalchemy.orm import Session

AT_ONCE = 500


def add_items(session: Session, items: Sequence[dict[str, Any]]) -> None:
    """Add pictures that are to be made."""
    for start in range(0, len(items), AT_ONCE):
        session.execute(insert(BatchItemRow), items[start : start + AT_ONCE])


def begin_next(session: Session, job_id: uuid.UUID) -> BatchItemRow | None:
    """Return the picture that is made next, one more try counted; None at the end."""
    number = (
        select(func.min(BatchItemRow.number))
        .where(BatchItemRow.job_id == job_id, BatchItemRow.state == "waiting")
        .scalar_subquery()
    )
    return session.scalars(
        update(BatchItemRow)
        .where(BatchItemRow.job_id == job_id, BatchItemRow.number == number)
        .values(tries=BatchItemRow.tries + 1)
        .returning(BatchItemRow)
        .execution_options(populate_existing=True)
    ).one_or_none()


def end_item(
    session: Session, job_id: uuid.UUID, number: int, **changes: object
) -> None:
    """Say what became of a picture."""
    session.execute(
        update(BatchItemRow)
        .where(BatchItemRow.job_id == job_id, BatchItemRow.number == number)
        .values(**changes)
    )


def count_items(session: Session, job_id: uuid.UUID) -> dict[str, int]:
    """Return how many pictures there are of each state."""
    counted = (
        select(BatchItemRow.state, func.count())
        .where(BatchItemRow.job_id == job_id)
        .group_by(BatchItemRow.state)
    )
    return dict(list(session.execute(counted)))


def count_doubtful(session: Session, job_id: uuid.UUID, *, beyond: float) -> int:
    """Return how many pictures were made that are worth a look."""
    counted = select(func.count()).where(
        BatchItemRow.job_id == job_id,
        BatchItemRow.state == "made",
        BatchItemRow.doubt > beyond,
    )
    return session.scalar(counted) or 0


def list_items(
    session: Session, job_id: uuid.UUID, *, beyond: float, start: int, most: int
) -> Sequence[BatchItemRow]:
    """Return some pictures: what failed, what is doubtful, what was made, the rest."""
    urgency = case(
        (BatchItemRow.state == "failed", 0),
        (BatchItemRow.doubt > beyond, 1),
        (BatchItemRow.state == "made", 2),
        else_=3,
    )
    doubtful = case((BatchItemRow.doubt > beyond, -BatchItemRow.doubt), else_=0)
    statement = (
        select(BatchItemRow)
        .where(BatchItemRow.job_id == job_id)
        .order_by(urgency, doubtful, BatchItemRow.number)
        .offset(start)
        .limit(most)
    )
    return session.scalars(statement).all()


def made_files(session: Session, job_id: uuid.UUID) -> Iterable[tuple[str, str]]:
    """Return what files of a batch are called, and their SHA-256, in their order."""
    statement = (
        select(BatchItemRow.name, BatchItemRow.file_sha256)
        .where(BatchItemRow.job_id == job_id, BatchItemRow.file_sha256.is_not(None))
        .order_by(BatchItemRow.number)
    )
    return [(name, sha256) for name, sha256 in session.execute(statement) if sha256]


def let_files_go(session: Session, job_id: uuid.UUID) -> None:
    """Forget the single files of a batch, once they lie in one."""
    session.execute(
        update(BatchItemRow)
        .where(BatchItemRow.job_id == job_id)
        .values(file_sha256=None)
    )


def list_batches(session: Session, *, most: int) -> Sequence[JobRow]:
    """Return the newest batches."""
    newest_first = (
        select(JobRow)
        .where(JobRow.kind == JobKind.BATCH)
        .order_by(JobRow.created_at.desc())
        .limit(most)
    )
    return session.scalars(newest_first).all()
