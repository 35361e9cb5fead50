"""Puts work on the queue in the same transaction as the rows that it is about."""

from __future__ import annotations

from typing import TYPE_CHECKING

from procrastinate.jobs import Job
from procrastinate.manager import JobManager
from procrastinate.sync_psycopg_connector import SyncPsycopgConnector

if TYPE_CHECKING:
    import uuid

    from sqlalchemy.orm import Session

# Never opened: each call hands it the session's own connection.
_MANAGER = JobManager(SyncPsycopgConnector())
WAITED_FOR = "work"
"""The queue of all that somebody waits for, or may soon look at."""


def enqueue(
    session: Session,
    task: str,
    job_id: uuid.UUID,
    *,
    lock: str | None = None,
    priority: int = 0,
    queue: str = WAITED_FOR,
) -> None:
    """Have a worker run a task for a job, once this transaction is committed.

    Of those with one `lock` never two run at a time; those of a higher `priority` go
    first.
    """
    job = Job(
        id=None,
        queue=queue,
        lock=lock,
        priority=priority,
        queueing_lock=None,
        task_name=task,
        task_kwargs={"job_id": str(job_id)},
    )
    _MANAGER.defer_job(
        job, connection=session.connection().connection.driver_connection
    )
