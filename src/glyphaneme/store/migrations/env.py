"""Lets Alembic reach the database that the caller names."""

from __future__ import annotations

from alembic import context
from sqlalchemy import create_engine

from glyphaneme.store.rows import Base


def run_migrations() -> None:
    """Run the wanted steps in one transaction."""
    engine = create_engine(context.config.get_main_option("sqlalchemy.url") or "")
    with engine.connect() as connection:
        context.configure(connection=connection, target_metadata=Base.metadata)
        with context.begin_transaction():
            context.run_migrations()
    engine.dispose()


run_migrations()
