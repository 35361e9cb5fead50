"""Purposes that were changed or named, and printers' profiles that people brought."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import ProfileRow, PurposeRow

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy.orm import Session


def put_purpose(
    session: Session, purpose_id: str, name: str | None, settings: dict[str, Any]
) -> None:
    """Keep what a purpose sets, whatever it set before."""
    kept = {"name": name, "settings": settings}
    added = insert(PurposeRow).values(id=purpose_id, **kept)
    session.execute(added.on_conflict_do_update(index_elements=["id"], set_=kept))


def find_purpose(session: Session, purpose_id: str) -> PurposeRow | None:
    """Return a purpose that was kept."""
    return session.get(PurposeRow, purpose_id, populate_existing=True)


def drop_purpose(session: Session, purpose_id: str) -> None:
    """Forget what was kept of a purpose."""
    session.execute(delete(PurposeRow).where(PurposeRow.id == purpose_id))


def list_purposes(session: Session) -> Sequence[PurposeRow]:
    """Return all that were kept, the oldest first."""
    return session.scalars(select(PurposeRow).order_by(PurposeRow.created_at)).all()


def count_purposes(session: Session) -> int:
    """Return how many were kept."""
    return session.scalar(select(func.count()).select_from(PurposeRow)) or 0


def put_profile(session: Session, sha256: str, name: str, ink: str) -> None:
    """Keep a profile among those on offer."""
    added = insert(ProfileRow).values(sha256=sha256, name=name, ink=ink)
    kept = {"on_offer": True}
    session.execute(added.on_conflict_do_update(index_elements=["sha256"], set_=kept))


def find_profile(session: Session, sha256: str) -> ProfileRow | None:
    """Return a profile, also one that is not on offer any more."""
    return session.get(ProfileRow, sha256, populate_existing=True)


def list_profiles(session: Session) -> Sequence[ProfileRow]:
    """Return the profiles that are on offer, by their names."""
    offered = select(ProfileRow).where(ProfileRow.on_offer)
    return session.scalars(offered.order_by(ProfileRow.name)).all()
