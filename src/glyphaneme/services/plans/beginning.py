"""Pictures begun from plans: ordinary edits, a named moment, and what comes after."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.document import store_composite
from glyphaneme.core.edits import apply, decided, describe_edit, store_edit
from glyphaneme.core.plans import Filling, Plan, edits_between, edits_to, empty_slots
from glyphaneme.core.plans.touching import renewed_where_untouched
from glyphaneme.core.values import with_fields
from glyphaneme.services.cutting import LOCK
from glyphaneme.services.editing import SNAPSHOT_EVERY, add_edit
from glyphaneme.services.errors import (
    SlotsEmptyError,
)
from glyphaneme.services.plans.filling import fill
from glyphaneme.services.plans.finding import FoundWhole, found_whole
from glyphaneme.services.projects import (
    begin_project,
    composite_at,
    lock_for_change,
    note_uses,
    require_project,
)
from glyphaneme.services.versions import forget_name, name_moment
from glyphaneme.services.working import begin_job
from glyphaneme.store import projects as projects_store
from glyphaneme.store.rows import JobKind, JobRow, RevisionRow

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite
    from glyphaneme.core.edits import Edit
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Progress
    from glyphaneme.store.rows import ProjectRow


class BegunFrom(BaseModel):
    """What a project was begun from, and how far its steps are."""

    model_config = ConfigDict(frozen=True)

    plan: Plan
    filling: Filling
    moment: uuid.UUID
    """The state that the plan left."""
    ignored: tuple[str, ...] = ()
    """Steps that somebody passed over."""
    is_folded: bool = False


def begin_from_plan(
    visit: Visit,
    plan: Plan,
    filling: Filling,
    *,
    project_id: uuid.UUID,
    found: FoundWhole | None = None,
) -> ProjectRow:
    """Begin a picture as a plan makes it; with the same id, it is begun once.

    What is still to be found for it is found afterwards, and laid where nobody has
    changed anything meanwhile; unless all was `found` before.

    Raises
    ------
    SlotsEmptyError
        Photos are missing that it needs.
    KeyReusedError
        A picture has that id that was begun otherwise.
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """
    lacking = empty_slots(plan, filling)
    if lacking:
        raise SlotsEmptyError([slot.title for slot in lacking])
    result = fill(visit, plan, filling) if found is None else found.result
    empty = with_fields(result.composite, layers=())
    row = begin_project(
        visit,
        project_id=project_id,
        name=filling.name or plan.title,
        composite=empty,
        asked={"plan": plan.name, "filling": filling.model_dump(mode="json")},
    )
    if row.plan is not None:
        return row
    moment = _lay(visit, row, empty, edits_to(result.composite))
    begun = BegunFrom(plan=plan, filling=filling, moment=moment)
    row.plan = begun.model_dump(mode="json")
    note_uses(visit, project_id, result.composite, before=empty)
    name_moment(visit, project_id, moment, plan.title)
    wanted = result.filled.wanted
    if found is None and (wanted.cuts or wanted.pairs):
        job = JobRow(id=uuid.uuid4(), kind=JobKind.REFINE, project_id=project_id)
        begin_job(visit, job, lock=LOCK)
    return row


def begun_from(project: ProjectRow) -> BegunFrom | None:
    """Return what a project was begun from; None where that was no plan."""
    return None if project.plan is None else BegunFrom.model_validate(project.plan)


def refine(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Find what a project's plan still wants, and lay it where nobody changed it."""
    if job.project_id is None:
        return
    with studio.looking() as visit:
        begun = begun_from(require_project(visit, job.project_id))
    if begun is None:
        progress.finish(found={})
        return
    found = found_whole(studio, begun.plan, begun.filling, progress)
    _lay_refined(studio, job.project_id, found.result.composite)
    progress.finish(found={})


def _lay(
    visit: Visit, project: ProjectRow, composite: Composite, edits: tuple[Edit, ...]
) -> uuid.UUID:
    """Lay edits on a project that was just begun; return its last state."""
    parent = project.head_id
    for depth, edit in enumerate(edits, 1):
        said, label = decided(composite, edit), describe_edit(composite, edit)
        composite, key = apply(composite, said), uuid.uuid5(project.id, str(depth))
        is_kept = depth % SNAPSHOT_EVERY == 0
        projects_store.add_revision(
            visit.session,
            RevisionRow(
                id=key,
                project_id=project.id,
                parent_id=parent,
                depth=depth,
                edit=store_edit(said, None),
                snapshot=store_composite(composite) if is_kept else None,
                label=label,
            ),
        )
        parent = key
    projects_store.stand_at(visit.session, project, parent, tip=parent)
    return parent


def _lay_refined(studio: Studio, project_id: uuid.UUID, after: Composite) -> None:
    """Lay what was found since, edit by edit, on layers that nobody has changed."""
    with studio.changing() as visit:
        project = lock_for_change(visit, project_id)
        begun = begun_from(project)
        if begun is None:
            return
        before = composite_at(visit, begun.moment)
        now = composite_at(visit, project.head_id)
        is_untouched = project.head_id == begun.moment
        edits = edits_between(now, renewed_where_untouched(before, now, after))
        # All of them or none: half of it would look as if somebody had touched it.
        for edit in edits:
            key, parent = uuid.uuid4(), project.head_id
            add_edit(visit, project_id, key=key, parent=parent, edit=edit)
        if edits and is_untouched:
            moved = with_fields(begun, moment=project.head_id)
            project.plan = moved.model_dump(mode="json")
            forget_name(visit, project_id, begun.moment)
            name_moment(visit, project_id, project.head_id, begun.plan.title)
