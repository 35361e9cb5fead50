"""Projects: beginning, listing, naming, removing, and their present state."""

from __future__ import annotations

import uuid
from contextlib import suppress
from datetime import datetime
from typing import TYPE_CHECKING, Any

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.document import Composite, open_composite, store_composite
from glyphaneme.core.edits import apply, open_edit
from glyphaneme.core.render import all_needed
from glyphaneme.core.wording import describe, describe_canvas
from glyphaneme.core.wording.sentences import Part, Touch
from glyphaneme.services.errors import KeyReusedError, NotThereError
from glyphaneme.store import projects as projects_store
from glyphaneme.store.notices import notify
from glyphaneme.store.uses import replace_uses
from glyphaneme.store.versions import list_versions

if TYPE_CHECKING:
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.rows import ProjectRow, RevisionRow


class PlanName(BaseModel):
    """How a plan is called, in addresses and for people."""

    model_config = ConfigDict(frozen=True)

    name: str
    title: str


class ProjectCard(BaseModel):
    """A project as a print on the wall."""

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    name: str
    head: uuid.UUID
    width: int
    height: int
    layers: int
    ways: int
    versions: list[str]
    """What its named moments are called, newest first."""
    changed_at: datetime
    plan: PlanName | None
    """The plan that it was begun from, where one was."""


class SentencePart(BaseModel):
    """Some words of a layer's sentence, and what they open."""

    model_config = ConfigDict(frozen=True)

    text: str
    touch: Touch


class LayerSentence(BaseModel):
    """What a layer does, in words."""

    model_config = ConfigDict(frozen=True)

    layer_id: str
    parts: list[SentencePart]
    recipe: list[str]
    """What each part of its mask is."""
    fades: list[str]
    """Where each of its fades runs."""
    tones: list[str]
    """What each of its tones does."""
    mends: list[str]
    """What each of its mended places was."""
    effects: list[str]
    """What each of its effects is."""


class ProjectState(BaseModel):
    """A project as it stands: its composite, and where undo and redo lead.

    Of two states of a project, the one with fewer changes is the older.
    """

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    name: str
    changes: int
    head: uuid.UUID
    undo_to: uuid.UUID | None
    redo_to: uuid.UUID | None
    composite: Composite
    sentences: list[LayerSentence]
    sheet: list[SentencePart]
    plan: PlanName | None
    """The plan that it was begun from, where one was."""


def begin_project(
    visit: Visit,
    *,
    project_id: uuid.UUID,
    name: str,
    composite: Composite,
    label: str = "Begun",
    asked: dict[str, Any] | None = None,
) -> ProjectRow:
    """Begin a picture, mostly an empty one; with the same id, it is begun once.

    `asked` is what somebody asked for, by which the same request is known again; None
    where the id is a new one.

    Raises
    ------
    KeyReusedError
        A picture has that id that was begun otherwise.
    """
    row, added = projects_store.add_project(
        visit.session,
        project_id=project_id,
        name=name,
        snapshot=store_composite(composite),
        label=label,
        begun_as=asked,
    )
    if added:
        note_uses(visit, project_id, composite)
        notify(visit.session, {"kind": "wall"})
    elif row.begun_as is not None and row.begun_as != asked:
        raise KeyReusedError
    return row


def note_uses(
    visit: Visit,
    project_id: uuid.UUID,
    composite: Composite,
    *,
    before: Composite | None = None,
) -> None:
    """Note which pictures a project shows now, unless they are those of `before`.

    Before a project begins it shows none.
    """
    shown = all_needed(composite).pictures
    known = frozenset() if before is None else all_needed(before).pictures
    if shown == known:
        return
    pictures = set()
    for name in shown:
        with suppress(ValueError):
            pictures.add(uuid.UUID(name))
    replace_uses(visit.session, project_id, pictures)
    notify(visit.session, {"kind": "shelf"})


def list_wall(visit: Visit) -> list[ProjectCard]:
    """Return all projects, last changed first."""
    ways = projects_store.count_ways(visit.session)
    versions: dict[uuid.UUID, list[str]] = {}
    for version in list_versions(visit.session):
        versions.setdefault(version.project_id, []).append(version.name)
    cards = []
    for row in projects_store.list_projects(visit.session):
        composite = composite_at(visit, row.head_id)
        cards.append(
            ProjectCard(
                id=row.id,
                name=row.name,
                head=row.head_id,
                width=composite.canvas.width,
                height=composite.canvas.height,
                layers=composite.layer_count,
                ways=ways[row.id],
                versions=versions.get(row.id, []),
                changed_at=row.changed_at,
                plan=_plan_of(row),
            )
        )
    return cards


def get_project(visit: Visit, project_id: uuid.UUID) -> ProjectState:
    """Return a project as it stands."""
    return project_state(visit, require_project(visit, project_id))


def rename_project(visit: Visit, project_id: uuid.UUID, name: str) -> None:
    """Give a project another name."""
    project = require_project(visit, project_id)
    project.name = name
    projects_store.mark_changed(visit.session, project)
    tell_of(visit, project)


def remove_project(visit: Visit, project_id: uuid.UUID, *, removed: bool) -> None:
    """Take a project off the wall, or put it back with all its history.

    Raises
    ------
    NotThereError
        There never was such a project.
    """
    row = projects_store.find_project(visit.session, project_id)
    if row is None:
        raise NotThereError("picture")
    projects_store.mark_removed(row, removed=removed)
    notify(visit.session, {"kind": "wall"})


def tell_of(visit: Visit, project: ProjectRow) -> None:
    """Tell all windows that a project has changed."""
    notify(
        visit.session,
        {
            "kind": "project",
            "id": str(project.id),
            "head": str(project.head_id),
            "changes": project.changes,
        },
    )


def require_project(visit: Visit, project_id: uuid.UUID) -> ProjectRow:
    """Return a project that is not removed.

    Raises
    ------
    NotThereError
        There is none.
    """
    return _present(projects_store.find_project(visit.session, project_id))


def lock_for_change(visit: Visit, project_id: uuid.UUID) -> ProjectRow:
    """Return a project that is not removed, for this transaction alone to change.

    Raises
    ------
    NotThereError
        There is none.
    """
    return _present(projects_store.lock_project(visit.session, project_id))


def _present(row: ProjectRow | None) -> ProjectRow:
    if row is None or row.removed_at is not None:
        raise NotThereError("picture")
    return row


def require_revision(
    visit: Visit, project_id: uuid.UUID, revision_id: uuid.UUID
) -> RevisionRow:
    """Return a revision of that very project.

    Raises
    ------
    NotThereError
        There is none.
    """
    row = projects_store.find_revision(visit.session, revision_id)
    if row is None or row.project_id != project_id:
        raise NotThereError("state of this picture")
    return row


def composite_at(visit: Visit, revision_id: uuid.UUID) -> Composite:
    """Rebuild the composite of a revision; revisions never change, so it is kept.

    Only for revisions that are committed: of one whose transaction fails, another may
    get the same id.
    """
    known = visit.studio.states.get(revision_id)
    if known is not None:
        return known
    steps = projects_store.path_from_snapshot(visit.session, revision_id)
    composite = open_composite(steps[0].snapshot or {})
    for step in steps[1:]:
        composite = apply(composite, open_edit(step.edit or {}, composite))
    return visit.studio.states.put(revision_id, composite)


def project_state(
    visit: Visit,
    row: ProjectRow,
    *,
    composite: Composite | None = None,
) -> ProjectState:
    """Describe where a project stands; `composite` where that is not saved yet."""
    if composite is None:
        composite = composite_at(visit, row.head_id)
    head = projects_store.find_revision(visit.session, row.head_id)
    return ProjectState(
        id=row.id,
        name=row.name,
        changes=row.changes,
        head=row.head_id,
        undo_to=head.parent_id if head else None,
        redo_to=_next_towards(visit, row),
        composite=composite,
        sentences=[
            LayerSentence(
                layer_id=sentence.layer_id,
                parts=_said(sentence.parts),
                recipe=list(sentence.recipe),
                fades=list(sentence.fades),
                tones=list(sentence.tones),
                mends=list(sentence.mends),
                effects=list(sentence.effects),
            )
            for sentence in describe(composite)
        ],
        sheet=_said(describe_canvas(composite.canvas)),
        plan=_plan_of(row),
    )


def _plan_of(row: ProjectRow) -> PlanName | None:
    plan = None if row.plan is None else row.plan["plan"]
    return None if plan is None else PlanName(name=plan["name"], title=plan["title"])


def _said(parts: tuple[Part, ...]) -> list[SentencePart]:
    return [SentencePart(text=part.text, touch=part.touch) for part in parts]


def _next_towards(visit: Visit, row: ProjectRow) -> uuid.UUID | None:
    """Return the revision after head on the way to tip."""
    if row.head_id == row.tip_id:
        return None
    way = projects_store.path_from_root(visit.session, row.tip_id)
    return way[way.index(row.head_id) + 1]
