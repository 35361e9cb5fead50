"""Inserts that count once, also when two processes make them at the same moment."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import inspect
from sqlalchemy.dialects.postgresql import insert

if TYPE_CHECKING:
    import uuid

    from sqlalchemy.orm import Session

    from glyphaneme.store.rows import Base


def insert_once(
    session: Session, row: Base, *, named_by: str = "id"
) -> uuid.UUID | None:
    """Insert a row and return its id; None where `named_by` has that value already.

    Where another transaction is about to insert the same, this waits for its end.
    The row itself stays outside of the session: read it anew.
    """
    columns = inspect(type(row)).columns
    values = {column.name: getattr(row, column.name) for column in columns}
    added = session.execute(
        insert(type(row))
        .values({name: value for name, value in values.items() if value is not None})
        .on_conflict_do_nothing(index_elements=[named_by])
        .returning(columns["id"])
    )
    return added.scalar_one_or_none()
