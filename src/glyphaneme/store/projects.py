"""Projects and the trees of revisions that they are."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from typing import TYPE_CHECKING, Any, NamedTuple

from sqlalchemy import Select, func, literal, select
from sqlalchemy.orm import Session, aliased

from glyphaneme.store.inserting import insert_once
from glyphaneme.store.rows import ProjectRow, RevisionRow, StandingRow

if TYPE_CHECKING:
    from collections.abc import Sequence


class PathStep(NamedTuple):
    """What rebuilding a state needs of one revision."""

    id: uuid.UUID
    edit: dict[str, Any] | None
    snapshot: dict[str, Any] | None


class TreeNode(NamedTuple):
    """A revision as the history shows it, without what it changed."""

    id: uuid.UUID
    parent_id: uuid.UUID | None
    depth: int
    label: str
    created_at: datetime


def add_project(
    session: Session,
    *,
    project_id: uuid.UUID,
    name: str,
    snapshot: dict[str, Any],
    label: str,
    begun_as: dict[str, Any] | None = None,
) -> tuple[ProjectRow, bool]:
    """Add a project with its root revision, or return the one whose id it has.

    True if it was added.
    """
    root_id = uuid.uuid4()
    project = ProjectRow(
        id=project_id, name=name, head_id=root_id, tip_id=root_id, begun_as=begun_as
    )
    added = insert_once(session, project) is not None
    if added:
        root = RevisionRow(
            id=root_id,
            project_id=project_id,
            depth=0,
            snapshot=snapshot,
            label=label,
        )
        insert_once(session, root)
    return session.get_one(ProjectRow, project_id), added


def find_project(session: Session, project_id: uuid.UUID) -> ProjectRow | None:
    """Return one project, also a removed one."""
    return session.get(ProjectRow, project_id)


def lock_project(session: Session, project_id: uuid.UUID) -> ProjectRow | None:
    """Return one project and hold its row until the transaction ends."""
    return session.get(
        ProjectRow, project_id, with_for_update=True, populate_existing=True
    )


def list_projects(session: Session) -> Sequence[ProjectRow]:
    """Return all projects that are not removed, last changed first."""
    statement = (
        select(ProjectRow)
        .where(ProjectRow.removed_at.is_(None))
        .order_by(ProjectRow.changed_at.desc(), ProjectRow.id)
    )
    return session.scalars(statement).all()


def mark_removed(project: ProjectRow, *, removed: bool) -> None:
    """Take a project off the wall, or put it back."""
    project.removed_at = datetime.now(UTC) if removed else None


def find_revision(session: Session, revision_id: uuid.UUID) -> RevisionRow | None:
    """Return one revision."""
    return session.get(RevisionRow, revision_id)


def add_revision(session: Session, revision: RevisionRow) -> bool:
    """Add a revision under its parent; False where its id is taken."""
    return insert_once(session, revision) is not None


def stand_at(
    session: Session, project: ProjectRow, head: uuid.UUID, *, tip: uuid.UUID
) -> None:
    """Show another revision of a project."""
    project.head_id = head
    project.tip_id = tip
    project.changed_at = func.clock_timestamp()
    mark_changed(session, project)


def mark_changed(session: Session, project: ProjectRow) -> None:
    """Count one more change of a project's state."""
    project.changes = ProjectRow.changes + 1
    session.flush()
    session.refresh(project)


def add_standing(session: Session, standing: StandingRow) -> StandingRow | None:
    """Note a move through history; the one that is there where its id is taken."""
    if insert_once(session, standing) is not None:
        return None
    return session.get_one(StandingRow, standing.id)


def path_from_snapshot(session: Session, revision_id: uuid.UUID) -> list[PathStep]:
    """Return the steps from the nearest snapshot to a revision, oldest first."""
    start = select(RevisionRow).where(RevisionRow.id == revision_id)
    walk = _walk_up(start, stop_at_snapshot=True)
    rows = session.execute(
        select(walk.c.id, walk.c.edit, walk.c.snapshot).order_by(walk.c.depth)
    )
    return [PathStep(*row) for row in rows]


def path_from_root(session: Session, revision_id: uuid.UUID) -> Sequence[uuid.UUID]:
    """Return all revisions from the root to one."""
    start = select(RevisionRow).where(RevisionRow.id == revision_id)
    walk = _walk_up(start, stop_at_snapshot=False)
    return session.scalars(select(walk.c.id).order_by(walk.c.depth)).all()


def tree(session: Session, project_id: uuid.UUID) -> list[TreeNode]:
    """Return all revisions of a project, each after the one before it."""
    rows = session.execute(
        select(
            RevisionRow.id,
            RevisionRow.parent_id,
            RevisionRow.depth,
            RevisionRow.label,
            RevisionRow.created_at,
        )
        .where(RevisionRow.project_id == project_id)
        .order_by(RevisionRow.depth, RevisionRow.created_at)
    )
    return [TreeNode(*row) for row in rows]


def leaves(session: Session, project_id: uuid.UUID) -> Sequence[uuid.UUID]:
    """Return the ends of all ways of a project, newest first."""
    ends = _ends(RevisionRow.id).where(RevisionRow.project_id == project_id)
    return session.scalars(ends.order_by(RevisionRow.created_at.desc())).all()


def count_ways(session: Session) -> dict[uuid.UUID, int]:
    """Return how many ways each project has."""
    counted = _ends(RevisionRow.project_id, func.count())
    rows = session.execute(counted.group_by(RevisionRow.project_id))
    return {row[0]: row[1] for row in rows}


def _ends(*columns: Any) -> Select[Any]:  # noqa: ANN401  # what select() takes
    child = aliased(RevisionRow)
    return (
        select(*columns)
        .select_from(RevisionRow)
        .outerjoin(child, child.parent_id == RevisionRow.id)
        .where(child.id.is_(None))
    )


def is_ancestor(
    session: Session, ancestor_id: uuid.UUID, descendant_id: uuid.UUID
) -> bool:
    """Tell whether one revision lies on the way from the root to another."""
    start = select(RevisionRow).where(RevisionRow.id == descendant_id)
    walk = _walk_up(start, stop_at_snapshot=False)
    return (
        session.scalar(select(literal(1)).where(walk.c.id == ancestor_id)) is not None
    )


def _walk_up(start: Select[Any], *, stop_at_snapshot: bool) -> Any:  # noqa: ANN401  # a CTE with RevisionRow's columns
    columns = (
        RevisionRow.id,
        RevisionRow.parent_id,
        RevisionRow.depth,
        RevisionRow.edit,
        RevisionRow.snapshot,
    )
    walk = start.with_only_columns(*columns).cte("walk", recursive=True)
    parents = select(*columns).where(RevisionRow.id == walk.c.parent_id)
    if stop_at_snapshot:
        parents = parents.where(walk.c.snapshot.is_(None))
    return walk.union_all(parents)
