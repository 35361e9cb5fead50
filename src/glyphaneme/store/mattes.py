"""Mattes: which file was found for which picture, in which way."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import exists, select

from glyphaneme.store.inserting import insert_once
from glyphaneme.store.rows import MatteRow

if TYPE_CHECKING:
    from sqlalchemy.orm import Session


def find_matte(session: Session, key: str) -> MatteRow | None:
    """Return the matte that was found from all that a key stands for."""
    return session.scalar(select(MatteRow).where(MatteRow.key == key))


def is_kept(session: Session, sha256: str) -> bool:
    """Tell whether a file is a matte that stays."""
    statement = select(exists().where(MatteRow.sha256 == sha256))
    return bool(session.scalar(statement))


def keep_matte(session: Session, matte: MatteRow) -> None:
    """Keep a matte, unless one with its key is there: that one stays."""
    insert_once(session, matte, named_by="key")
