"""Lets go of what is not needed any more, and of nothing else."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import column, delete, select, table, text

from glyphaneme.store.jobs import OPEN_STATES
from glyphaneme.store.rows import BlobRow, JobRow, StandingRow

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy import ColumnElement
    from sqlalchemy.orm import Session

BLOBS_AT_ONCE = 200


def drop_ended_jobs(session: Session, *, before: datetime) -> None:
    """Delete records of work that ended long ago; its files go with the next sweep."""
    session.execute(
        delete(JobRow).where(
            JobRow.state.not_in((*OPEN_STATES, "paused")),
            JobRow.changed_at < before,
        )
    )


def drop_standings(session: Session, *, before: datetime) -> None:
    """Forget moves through history that no client will send again."""
    session.execute(delete(StandingRow).where(StandingRow.created_at < before))


def drop_unneeded_blobs(session: Session) -> int:
    """Delete some blobs that nothing refers to; return how many.

    What refers to a blob says so by a foreign key, in whatever table: the database is
    asked which those are. Blobs that an upload is about to refer to are locked by it,
    and left alone.
    """
    unneeded = _unneeded(session)
    locked = session.scalars(
        select(BlobRow.sha256)
        .where(*unneeded)
        .limit(BLOBS_AT_ONCE)
        .with_for_update(skip_locked=True)
    ).all()
    # Asked again now that no one can begin to refer to them: in between, one may have.
    dropped = session.scalars(
        delete(BlobRow)
        .where(BlobRow.sha256.in_(locked), *unneeded)
        .returning(BlobRow.sha256)
        .execution_options(synchronize_session=False)
    ).all()
    return len(dropped)


def _unneeded(session: Session) -> Sequence[ColumnElement[bool]]:
    """Return the conditions that no table refers to a blob."""
    referring = session.execute(
        text(
            "SELECT nspname, relname, attname FROM pg_constraint"
            " JOIN pg_class ON pg_class.oid = conrelid"
            " JOIN pg_namespace ON pg_namespace.oid = relnamespace"
            " JOIN pg_attribute ON attrelid = conrelid AND attnum = conkey[1]"
            " WHERE contype = 'f' AND confdeltype <> 'c'"
            " AND confrelid = 'blob'::regclass"
        )
    )
    conditions = []
    for schema, name, key in referring:
        holder = table(name, column(key), schema=schema)
        refers = select(1).where(holder.c[key] == BlobRow.sha256)
        conditions.append(~refers.correlate(BlobRow).exists())
    return conditions
