"""Pictures on the shelf."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import PictureRow

if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence

    from sqlalchemy.orm import Session


def add_picture(session: Session, picture: PictureRow) -> tuple[PictureRow, bool]:
    """Add a picture, or return the one with the same bytes; True if it was added."""
    added = session.execute(
        insert(PictureRow)
        .values(
            id=uuid.uuid4(),
            sha256=picture.sha256,
            name=picture.name,
            format=picture.format,
            width=picture.width,
            height=picture.height,
        )
        .on_conflict_do_nothing(index_elements=["sha256"])
        .returning(PictureRow.id)
    ).scalar()
    row = session.scalars(
        select(PictureRow).where(PictureRow.sha256 == picture.sha256)
    ).one()
    return row, added is not None


def find_picture(session: Session, picture_id: uuid.UUID) -> PictureRow | None:
    """Return one picture."""
    return session.get(PictureRow, picture_id)


def find_pictures(session: Session, ids: Iterable[uuid.UUID]) -> Sequence[PictureRow]:
    """Return those of the wanted pictures that there are."""
    return session.scalars(select(PictureRow).where(PictureRow.id.in_(list(ids)))).all()


def list_pictures(session: Session) -> Sequence[PictureRow]:
    """Return all pictures, newest first."""
    newest_first = select(PictureRow).order_by(
        PictureRow.created_at.desc(), PictureRow.id
    )
    return session.scalars(newest_first).all()


def count_pictures(session: Session) -> int:
    """Return how many pictures there are."""
    return session.scalar(select(func.count()).select_from(PictureRow)) or 0
