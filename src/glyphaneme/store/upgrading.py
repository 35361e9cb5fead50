"""Brings the tables up to date."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from procrastinate.schema import SchemaManager
from sqlalchemy import Engine, text

from glyphaneme.store.database import driver_url, open_database

MIGRATION_LOCK = 7_116_021


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
