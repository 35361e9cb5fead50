"""Connections to PostgreSQL."""

from __future__ import annotations

from sqlalchemy import Engine, create_engine, text
from sqlalchemy.exc import InterfaceError, OperationalError
from sqlalchemy.exc import TimeoutError as NoConnectionFreeError
from sqlalchemy.orm import Session, sessionmaker

__all__ = [
    "DATABASE_AWAY",
    "Session",
    "Sessions",
    "ask_database",
    "driver_url",
    "open_database",
    "session_factory",
]

Sessions = sessionmaker[Session]
"""What makes sessions: those who only pass them on import no SQL."""

# Procrastinate's tables live in a schema of their own, out of Alembic's sight.
SEARCH_PATH = "-c search_path=public,procrastinate"
CONNECT_WITHIN_S = 5

DATABASE_AWAY = (OperationalError, InterfaceError, NoConnectionFreeError)
"""What is raised while the server is away, starting, or has no room."""


def driver_url(url: str) -> str:
    """Return the same address for SQLAlchemy's psycopg dialect."""
    return url.replace("postgresql://", "postgresql+psycopg://", 1)


def open_database(url: str) -> Engine:
    """Return a pool of connections; none is made before the first use."""
    return create_engine(
        driver_url(url),
        connect_args={"options": SEARCH_PATH, "connect_timeout": CONNECT_WITHIN_S},
        pool_size=8,
        max_overflow=24,
        pool_pre_ping=True,
    )


def session_factory(engine: Engine) -> Sessions:
    """Return what makes sessions; rows stay readable after a commit."""
    return sessionmaker(engine, expire_on_commit=False)


def ask_database(session: Session) -> None:
    """Make sure that the database answers."""
    session.execute(text("SELECT 1"))
