"""Tells all processes that something changed, through PostgreSQL's LISTEN/NOTIFY."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any

import psycopg
from sqlalchemy import text

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy.orm import Session

CHANNEL = "glyphaneme"
CATCH_UP = {"kind": "catch_up"}
"""Notices may have been missed: whoever hears this asks for everything anew."""


def notify(session: Session, notice: dict[str, Any]) -> None:
    """Send a notice to all listeners when this transaction is committed."""
    session.execute(
        text("SELECT pg_notify(:channel, :payload)"),
        {"channel": CHANNEL, "payload": json.dumps(notice)},
    )


def listen(url: str) -> Iterator[dict[str, Any]]:
    """Yield notices as they come, for ever; first one that says all before was missed.

    Raises
    ------
    ConnectionError
        The server is gone; it is an OSError.
    """
    try:
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute(f"LISTEN {CHANNEL}")
            yield CATCH_UP
            for notice in connection.notifies():
                yield json.loads(notice.payload)
    except psycopg.OperationalError as cause:
        raise ConnectionError(str(cause)) from cause
