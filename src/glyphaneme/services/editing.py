"""Edits that are never lost or doubled, and moving through their history."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import TYPE_CHECKING, Literal, NamedTuple

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.document import Composite, store_composite
from glyphaneme.core.edits import (
    AddLayer,
    AddPart,
    ChangePart,
    CutOut,
    Edit,
    ExchangePhoto,
    apply,
    decided,
    describe_edit,
    says_the_same,
    store_edit,
)
from glyphaneme.core.errors import CoreError
from glyphaneme.services.assets import ON_THE_SHELF
from glyphaneme.services.errors import (
    KeyReusedError,
    NotThereError,
    PictureMismatchError,
)
from glyphaneme.services.fonts import measured_edit
from glyphaneme.services.painting import keep_strokes, require_strokes
from glyphaneme.services.projects import (
    ProjectState,
    composite_at,
    lock_for_change,
    note_uses,
    project_state,
    require_project,
    require_revision,
    tell_of,
)
from glyphaneme.store import projects as projects_store
from glyphaneme.store import versions as versions_store
from glyphaneme.store.mattes import is_kept
from glyphaneme.store.pictures import find_picture
from glyphaneme.store.rows import PictureRow, ProjectRow, RevisionRow, StandingRow

if TYPE_CHECKING:
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.projects import TreeNode

SNAPSHOT_EVERY = 24

Outcome = Literal["applied", "reapplied", "branched", "repeated"]


class EditAnswer(BaseModel):
    """What became of an edit, and the project as it stands now.

    "applied": on the state that it was made on. "reapplied": on a newer state, made
    elsewhere meanwhile. "branched": the newer state cannot take it, so it is kept as
    another way, which `branch` names. "repeated": it was there already.
    """

    model_config = ConfigDict(frozen=True)

    outcome: Outcome
    branch: uuid.UUID | None = None
    state: ProjectState


class Tick(BaseModel):
    """One edit on the history ruler."""

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    label: str
    at: datetime
    name: str | None
    """What somebody called this moment."""


class Way(Tick):
    """The end of another way through the history."""

    leaves_at: uuid.UUID
    """The last edit that it has in common with the way that the project stands on."""
    edits: int
    """How many it has of its own."""


class Named(BaseModel):
    """What somebody called a moment."""

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    name: str


class History(BaseModel):
    """The way that a project stands on, oldest first, and the other ways."""

    model_config = ConfigDict(frozen=True)

    head: uuid.UUID
    follows: uuid.UUID | None = None
    """The edit after which `ticks` begin; None where they are the whole way."""
    ticks: list[Tick]
    other_ways: list[Way]
    names: list[Named]
    """All moments of the way that have names."""


def add_edit(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    key: uuid.UUID,
    parent: uuid.UUID,
    edit: Edit,
) -> EditAnswer:
    """Apply an edit to a project, once, however often it is sent.

    Raises
    ------
    NotThereError
        There is no such project, or `parent` is none of its revisions.
    KeyReusedError
        `key` came before with another edit.
    PictureMismatchError
        A new layer's picture is not on the shelf.
    CoreError
        The edit was made on the present state, and does not fit it.
    """
    project = lock_for_change(visit, project_id)
    there = projects_store.find_revision(visit.session, key)
    if there is not None:
        if there.project_id != project_id or not says_the_same(there.edit or {}, edit):
            raise KeyReusedError
        state = project_state(visit, project)
        return EditAnswer(outcome="repeated", state=state)
    made_on = require_revision(visit, project_id, parent)
    _require_picture(visit, edit)
    after: Composite | None
    if parent == project.head_id:
        after = _append(visit, project, made_on, key=key, edit=edit)
        outcome: Outcome = "applied"
    else:
        after = _reapply(visit, project, made_on, key=key, edit=edit)
        outcome = "branched" if after is None else "reapplied"
    if after is None:
        projects_store.mark_changed(visit.session, project)
    else:
        shown = composite_at(visit, project.head_id)
        projects_store.stand_at(visit.session, project, key, tip=key)
        note_uses(visit, project_id, after, before=shown)
    tell_of(visit, project)
    return EditAnswer(
        outcome=outcome,
        branch=key if outcome == "branched" else None,
        state=project_state(visit, project, composite=after),
    )


def stand_at(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    key: uuid.UUID,
    to: uuid.UUID,
    came_from: uuid.UUID,
) -> ProjectState:
    """Undo, redo or go to any other state of a project, once, however often it is sent.

    Where another window has moved the project meanwhile, so that it no longer stands
    at `came_from`, it stays where it is; the answer tells where that is.

    Raises
    ------
    NotThereError
        There is no such project, or `to` is none of its revisions.
    KeyReusedError
        `key` came before with another move.
    """
    project = lock_for_change(visit, project_id)
    require_revision(visit, project_id, to)
    standing = StandingRow(id=key, project_id=project_id, to_id=to)
    there = projects_store.add_standing(visit.session, standing)
    if there is not None:
        if (there.project_id, there.to_id) != (project_id, to):
            raise KeyReusedError
    elif project.head_id == came_from and to != came_from:
        tip = _tip_beyond(visit, project, to)
        projects_store.stand_at(visit.session, project, to, tip=tip)
        note_uses(
            visit,
            project_id,
            composite_at(visit, to),
            before=composite_at(visit, came_from),
        )
        tell_of(visit, project)
    return project_state(visit, project)


def get_history(
    visit: Visit, project_id: uuid.UUID, *, after: uuid.UUID | None = None
) -> History:
    """Return the history of a project: of its way only what lies beyond `after`.

    Where the project does not stand on a way through that any more, all of its way.

    Raises
    ------
    NotThereError
        There is no such project.
    """
    project = require_project(visit, project_id)
    versions = versions_store.list_versions(visit.session, project_id)
    names = {version.revision_id: version.name for version in versions}
    nodes = projects_store.tree(visit.session, project_id)
    shown = {
        node.id: Tick(
            id=node.id,
            label=node.label,
            at=node.created_at,
            name=names.get(node.id),
        )
        for node in nodes
    }
    lineage = _Lineage({node.id: node for node in nodes})
    present = lineage.up_from(project.tip_id)
    way = set(present)
    others = []
    for end in lineage.ends():
        if end.id != project.tip_id:
            fork = next(step for step in lineage.up_from(end.id) if step in way)
            edits = end.depth - lineage.nodes[fork].depth
            tick = shown[end.id].model_dump()
            others.append(Way(**tick, leaves_at=fork, edits=edits))
    line = present[::-1]
    begins = 1 + line.index(after) if after in way else 0
    return History(
        head=project.head_id,
        follows=after if begins else None,
        ticks=[shown[step] for step in line[begins:]],
        other_ways=sorted(others, key=lambda one: one.at, reverse=True),
        names=[Named(id=one, name=names[one]) for one in line if one in names],
    )


class _Lineage(NamedTuple):
    """All revisions of a project by their ids."""

    nodes: dict[uuid.UUID, TreeNode]

    def up_from(self, revision: uuid.UUID) -> list[uuid.UUID]:
        """Return a revision and all before it, up to the root."""
        way = []
        node: TreeNode | None = self.nodes[revision]
        while node is not None:
            way.append(node.id)
            node = None if node.parent_id is None else self.nodes[node.parent_id]
        return way

    def ends(self) -> list[TreeNode]:
        """Return those that nothing follows."""
        followed = {node.parent_id for node in self.nodes.values()}
        return [node for node in self.nodes.values() if node.id not in followed]


def _require_picture(visit: Visit, edit: Edit) -> None:
    if isinstance(edit, AddLayer | ExchangePhoto):
        row = _picture(visit, edit.picture)
        if row is None or (row.width, row.height) != (edit.width, edit.height):
            raise PictureMismatchError(edit.name)
    elif isinstance(edit, AddPart | ChangePart | CutOut):
        for picture in edit.part.reads.pictures:
            if _picture(visit, picture) is None:
                raise NotThereError(ON_THE_SHELF)
        for part in edit.part.reads.mattes:
            if not is_kept(visit.session, part.matte):
                raise NotThereError("matte")


def _picture(visit: Visit, name: str) -> PictureRow | None:
    try:
        return find_picture(visit.session, uuid.UUID(name))
    except ValueError:
        return None


def _reapply(
    visit: Visit,
    project: ProjectRow,
    made_on: RevisionRow,
    *,
    key: uuid.UUID,
    edit: Edit,
) -> Composite | None:
    """Apply an edit to the newest state; None where it only fits the one it was for."""
    head = require_revision(visit, project.id, project.head_id)
    now = composite_at(visit, head.id)
    try:
        brought = edit.rebased(composite_at(visit, made_on.id), now)
        return _append(visit, project, head, key=key, edit=brought, asked=edit)
    except CoreError:
        _append(visit, project, made_on, key=key, edit=edit)
        return None


def _append(
    visit: Visit,
    project: ProjectRow,
    parent: RevisionRow,
    *,
    key: uuid.UUID,
    edit: Edit,
    asked: Edit | None = None,
) -> Composite:
    """Add a revision; `asked` is the edit as it came, where it was brought there.

    Raises
    ------
    KeyReusedError
        Another project has a revision of that key.
    """
    before = composite_at(visit, parent.id)
    require_strokes(visit, edit)
    said = decided(before, measured_edit(visit, edit))
    after = apply(before, said)
    # Not before: what does not fit leaves nothing behind.
    keep_strokes(visit, before, edit)
    depth = parent.depth + 1
    added = projects_store.add_revision(
        visit.session,
        RevisionRow(
            id=key,
            project_id=project.id,
            parent_id=parent.id,
            depth=depth,
            edit=store_edit(said, None if asked == edit else asked),
            snapshot=store_composite(after) if depth % SNAPSHOT_EVERY == 0 else None,
            label=describe_edit(before, edit),
        ),
    )
    if not added:
        raise KeyReusedError
    return after


def _tip_beyond(visit: Visit, project: ProjectRow, to: uuid.UUID) -> uuid.UUID:
    """Return the end of the way to go on: the present one where `to` lies on it."""
    if projects_store.is_ancestor(visit.session, to, project.tip_id):
        return project.tip_id
    for leaf in projects_store.leaves(visit.session, project.id):
        if projects_store.is_ancestor(visit.session, to, leaf):
            return leaf
    return to
