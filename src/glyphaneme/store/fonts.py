"""Fonts that people brought."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import FontRow

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy.orm import Session


def put_font(session: Session, row: FontRow) -> None:
    """Keep a font; one that is there comes back among those on offer, if this is."""
    on_offer = row.on_offer is not False
    added = insert(FontRow).values(
        sha256=row.sha256,
        family=row.family,
        style=row.style,
        may_travel=row.may_travel,
        on_offer=on_offer,
    )
    kept = {"on_offer": FontRow.on_offer | on_offer}
    session.execute(added.on_conflict_do_update(index_elements=["sha256"], set_=kept))


def find_font(session: Session, sha256: str) -> FontRow | None:
    """Return a font, also one that is not on offer any more."""
    return session.get(FontRow, sha256, populate_existing=True)


def list_fonts(session: Session) -> Sequence[FontRow]:
    """Return the fonts that are on offer, by their names."""
    offered = select(FontRow).where(FontRow.on_offer)
    return session.scalars(offered.order_by(FontRow.family, FontRow.style)).all()
