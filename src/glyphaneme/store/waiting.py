"""Waits for work on a queue without anything that does it: some megabytes suffice."""

from __future__ import annotations

import time

import psycopg
from psycopg import sql

BEHIND = "behind"
"""The queue of work that nobody waits for."""
# A notice may be missed, where a dead worker's work is put back.
LOOK_EVERY_S = 10.0
WAITING = """
SELECT EXISTS (SELECT FROM procrastinate.procrastinate_jobs
    WHERE queue_name = %s AND status = 'todo' AND coalesce(scheduled_at <= now(), true))
"""


def wait_for_work(url: str, queue: str, *, within_s: float | None = None) -> bool:
    """Return whether work waits on a queue, as soon as it does or `within_s` is over.

    Raises
    ------
    psycopg.OperationalError
        The database cannot be reached.
    """
    ends = None if within_s is None else time.monotonic() + within_s
    channel = sql.Identifier(f"procrastinate_queue_v1#{queue}")
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(sql.SQL("LISTEN {}").format(channel))
        while True:
            waiting = connection.execute(WAITING, [queue]).fetchone()
            if waiting is not None and waiting[0]:
                return True
            left = LOOK_EVERY_S if ends is None else ends - time.monotonic()
            if left <= 0:
                return False
            _ = list(connection.notifies(timeout=min(left, LOOK_EVERY_S), stop_after=1))
