"""Strokes, each kept once."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, NamedTuple

from sqlalchemy import select

from glyphaneme.store.inserting import insert_once
from glyphaneme.store.rows import StrokeRow

if TYPE_CHECKING:
    from sqlalchemy.orm import Session


class KeptStroke(NamedTuple):
    """A stroke, and which one lies before it."""

    id: str
    previous_id: str | None
    stroke: dict[str, Any]


def keep_stroke(
    session: Session, *, stroke_id: str, previous: str | None, stroke: dict[str, Any]
) -> None:
    """Keep a stroke; one that is there already stays as it is."""
    before = session.get(StrokeRow, previous) if previous else None
    number = 1 + (before.number if before else 0)
    row = StrokeRow(id=stroke_id, previous_id=previous, number=number, stroke=stroke)
    insert_once(session, row)


def strokes_counted(session: Session, stroke_id: str) -> int | None:
    """Return how many strokes there are up to one; None where there is no such one."""
    return session.scalar(select(StrokeRow.number).where(StrokeRow.id == stroke_id))


def strokes_up_to(session: Session, stroke_id: str, *, most: int) -> list[KeptStroke]:
    """Return a stroke and those before it, at most so many, the newest first."""
    columns = (StrokeRow.id, StrokeRow.previous_id, StrokeRow.number, StrokeRow.stroke)
    walk = select(*columns).where(StrokeRow.id == stroke_id).cte("walk", recursive=True)
    before = select(*columns).where(StrokeRow.id == walk.c.previous_id)
    walk = walk.union_all(before)
    rows = session.execute(
        select(walk.c.id, walk.c.previous_id, walk.c.stroke)
        .order_by(walk.c.number.desc())
        .limit(most)
    )
    return [KeptStroke(*row) for row in rows]
