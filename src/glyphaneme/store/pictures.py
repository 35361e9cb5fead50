"""Pictures on the shelf."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import func, select

from glyphaneme.store.inserting import insert_once
from glyphaneme.store.rows import PictureRow

if TYPE_CHECKING:
    import uuid
    from collections.abc import Iterable, Sequence

    from sqlalchemy.orm import Session


def add_picture(session: Session, picture: PictureRow) -> tuple[PictureRow, bool]:
    """Add a picture, or return the one with the same bytes; True if it was added."""
    added = insert_once(session, picture, named_by="sha256")
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


def pictures_of_files(session: Session, files: Iterable[str]) -> Sequence[PictureRow]:
    """Return the pictures of some files, by their SHA-256, those that there are."""
    wanted = select(PictureRow).where(PictureRow.sha256.in_(list(files)))
    return session.scalars(wanted).all()


def list_pictures(session: Session) -> Sequence[PictureRow]:
    """Return all pictures of the shelf and those of the library, newest first."""
    shown = PictureRow.on_shelf | PictureRow.library.is_not(None)
    newest_first = (
        select(PictureRow)
        .where(shown)
        .order_by(PictureRow.created_at.desc(), PictureRow.id)
    )
    return session.scalars(newest_first).all()


def library_pictures(session: Session) -> dict[str, uuid.UUID]:
    """Return the pictures that come from the library, by what that calls them."""
    rows = session.scalars(select(PictureRow).where(PictureRow.library.is_not(None)))
    return {row.library: row.id for row in rows if row.library is not None}


def count_pictures(session: Session) -> int:
    """Return how many pictures there are."""
    return session.scalar(select(func.count()).select_from(PictureRow)) or 0
