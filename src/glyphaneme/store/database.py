"""Connections to PostgreSQL, and bringing its tables up to date."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from procrastinate.schema import SchemaManager
from sqlalchemy import Engine, create_engine, text
from sqlalchemy.orm import Session, sessionmaker

# Procrastinate's tables live in a schema of their own, out of Alembic's sight.
SEARCH_PATH = "-c search_path=public,procrastinate"
MIGRATION_LOCK = 7_116_021


def driver_url(url: str) -> str:
    """Return the same address for SQLAlchemy's psycopg dialect."""
    return url.replace("postgresql://", "postgresql+psycopg://", 1)


def open_database(url: str) -> Engine:
    """Return a pool of connections; none is made before the first use."""
    return create_engine(
        driver_url(url),
        connect_args={"options": SEARCH_PATH},
        pool_size=8,
        max_overflow=24,
        pool_pre_ping=True,
    )


def session_factory(engine: Engine) -> sessionmaker[Session]:
    """Return what makes sessions; rows stay readable after a commit."""
    return sessionmaker(engine, expire_on_commit=False)


def prepare_database(url: str) -> None:
    """Bring the tables up to date; safe to run by several processes at once."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("sqlalchemy.url", driver_url(url).replace("%", "%%"))
    engine = open_database(url)
    try:
        with engine.connect() as guard:
            guard.execute(
                text("SELECT pg_advisory_lock(:key)"), {"key": MIGRATION_LOCK}
            )
            guard.commit()
            command.upgrade(config, "head")
            _prepare_queue(engine)
    finally:
        engine.dispose()


def _prepare_queue(engine: Engine) -> None:
    with engine.begin() as connection:
        there = connection.scalar(
            text("SELECT to_regclass('procrastinate.procrastinate_jobs')")
        )
        if there is None:
            connection.execute(text("CREATE SCHEMA IF NOT EXISTS procrastinate"))
            connection.execute(text("SET LOCAL search_path = procrastinate"))
            connection.exec_driver_sql(SchemaManager.get_schema().replace("%", "%%"))
