"""Which projects show which pictures."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import PictureRow, PictureUseRow, ProjectRow

if TYPE_CHECKING:
    import uuid
    from collections.abc import Set as AbstractSet

    from sqlalchemy.orm import Session


class Use(NamedTuple):
    """A picture, and a project that shows it."""

    picture_id: uuid.UUID
    project_id: uuid.UUID
    project_name: str


def replace_uses(
    session: Session, project_id: uuid.UUID, pictures: AbstractSet[uuid.UUID]
) -> None:
    """Note all pictures that a project shows; those that are not kept are left out."""
    gone = delete(PictureUseRow).where(
        PictureUseRow.project_id == project_id,
        PictureUseRow.picture_id.not_in(pictures),
    )
    session.execute(gone)
    known = session.scalars(select(PictureRow.id).where(PictureRow.id.in_(pictures)))
    rows = [{"project_id": project_id, "picture_id": one} for one in known]
    if rows:
        session.execute(insert(PictureUseRow).values(rows).on_conflict_do_nothing())


def list_uses(session: Session, picture: uuid.UUID | None = None) -> list[Use]:
    """Return uses by projects that are on the wall, last changed first.

    They are those of one picture, or of all.
    """
    uses = (
        select(PictureUseRow.picture_id, ProjectRow.id, ProjectRow.name)
        .join(ProjectRow, ProjectRow.id == PictureUseRow.project_id)
        .where(ProjectRow.removed_at.is_(None))
        .order_by(ProjectRow.changed_at.desc(), ProjectRow.id)
    )
    if picture is not None:
        uses = uses.where(PictureUseRow.picture_id == picture)
    return [Use(*row) for row in session.execute(uses)]
