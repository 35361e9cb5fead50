"""Moments of projects that have names."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import VersionRow

if TYPE_CHECKING:
    import uuid
    from collections.abc import Sequence

    from sqlalchemy.orm import Session


def put_version(
    session: Session, *, project_id: uuid.UUID, revision_id: uuid.UUID, name: str
) -> None:
    """Give a moment a name, or another one."""
    row = insert(VersionRow).values(
        revision_id=revision_id, project_id=project_id, name=name
    )
    renamed = {"name": row.excluded.name}
    session.execute(
        row.on_conflict_do_update(index_elements=["revision_id"], set_=renamed)
    )


def drop_version(session: Session, revision_id: uuid.UUID) -> None:
    """Take a moment's name away; the moment stays."""
    session.execute(delete(VersionRow).where(VersionRow.revision_id == revision_id))


def find_version(session: Session, revision_id: uuid.UUID) -> VersionRow | None:
    """Return what a moment is called, if it has a name."""
    return session.get(VersionRow, revision_id, populate_existing=True)


def list_versions(
    session: Session, project_id: uuid.UUID | None = None
) -> Sequence[VersionRow]:
    """Return the named moments of one project, or of all, newest first."""
    named = select(VersionRow)
    if project_id is not None:
        named = named.where(VersionRow.project_id == project_id)
    newest_first = named.order_by(VersionRow.created_at.desc(), VersionRow.revision_id)
    return session.scalars(newest_first).all()


def count_versions(session: Session, project_id: uuid.UUID) -> int:
    """Return how many named moments a project has."""
    counted = select(func.count()).select_from(VersionRow)
    return session.scalar(counted.where(VersionRow.project_id == project_id)) or 0
