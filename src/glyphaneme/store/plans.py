"""Plans of somebody's own."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import PlanRow

if TYPE_CHECKING:
    from collections.abc import Sequence

    from sqlalchemy.orm import Session


def add_plan(session: Session, plan: PlanRow) -> bool:
    """Add a plan; False where its name is taken."""
    values = {
        "name": plan.name,
        "document": plan.document,
        "example_sha256": plan.example_sha256,
    }
    added = insert(PlanRow).values(**values).on_conflict_do_nothing()
    return session.scalar(added.returning(PlanRow.name)) is not None


def find_plan(session: Session, name: str) -> PlanRow | None:
    """Return one plan."""
    return session.get(PlanRow, name)


def list_plans(session: Session) -> Sequence[PlanRow]:
    """Return all plans, newest first."""
    newest_first = select(PlanRow).order_by(PlanRow.created_at.desc(), PlanRow.name)
    return session.scalars(newest_first).all()


def count_plans(session: Session) -> int:
    """Return how many plans there are."""
    return session.scalar(select(func.count()).select_from(PlanRow)) or 0


def drop_plan(session: Session, name: str) -> bool:
    """Take a plan away; False where there is none."""
    row = find_plan(session, name)
    if row is None:
        return False
    session.delete(row)
    session.flush()
    return True
