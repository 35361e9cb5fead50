"""The steps of a plan beside its picture: what was looked at, and what is advised."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.plans.judging import layer_of_step
from glyphaneme.core.plans.touching import is_touched
from glyphaneme.core.plans.values import Facet, Title
from glyphaneme.core.values import with_fields
from glyphaneme.services.errors import NotThereError
from glyphaneme.services.plans.beginning import begun_from
from glyphaneme.services.plans.filling import Result, fill
from glyphaneme.services.plans.showing import StepSaid, said_at_steps
from glyphaneme.services.projects import (
    composite_at,
    lock_for_change,
    require_project,
    tell_of,
)
from glyphaneme.services.working import Job, job_of
from glyphaneme.store.jobs import open_jobs
from glyphaneme.store.projects import mark_changed
from glyphaneme.store.rows import JobKind

if TYPE_CHECKING:
    import uuid

    from glyphaneme.core.document import Composite
    from glyphaneme.services.plans.beginning import BegunFrom
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.rows import ProjectRow

StepState = Literal["open", "touched", "ignored"]


class Step(StepSaid):
    """A step as it stands."""

    question: Title
    advice: str
    link: Title
    facet: Facet
    state: StepState


class Checklist(BaseModel):
    """The steps of the plan that a picture was begun from."""

    model_config = ConfigDict(frozen=True)

    plan: str
    title: Title
    steps: list[Step]
    is_folded: bool
    work: Job | None
    """What is still being found."""


class ChecklistChange(BaseModel):
    """Whether steps are passed over, and whether the list is folded."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    ignored: dict[str, bool] = Field(default_factory=dict, max_length=32)
    is_folded: bool | None = None


def get_checklist(visit: Visit, project_id: uuid.UUID) -> Checklist:
    """Return the steps of a picture's plan.

    Raises
    ------
    NotThereError
        There is no such picture, or no plan made it.
    """
    project = require_project(visit, project_id)
    begun = _require_begun(project)
    meant = fill(visit, begun.plan, begun.filling)
    now = composite_at(visit, project.head_id)
    seen = Result(meant.filled._replace(composite=now), meant.known)
    states = _states(begun, composite_at(visit, begun.moment), now, meant.composite)
    return Checklist(
        plan=begun.plan.name,
        title=begun.plan.title,
        steps=[
            Step(
                **said.model_dump(),
                question=step.question,
                advice=step.advice,
                link=step.link,
                facet=step.facet,
                state=states[step.name],
            )
            for step, said in zip(
                begun.plan.steps, said_at_steps(visit, begun.plan, seen), strict=True
            )
        ],
        is_folded=begun.is_folded,
        work=_work(visit, project_id),
    )


def change_checklist(
    visit: Visit, project_id: uuid.UUID, change: ChecklistChange
) -> None:
    """Pass steps over or bring them back, fold the list or unfold it.

    Raises
    ------
    NotThereError
        There is no such picture, or no plan made it.
    """
    project = lock_for_change(visit, project_id)
    begun = _require_begun(project)
    ignored = set(begun.ignored)
    for step in begun.plan.steps:
        if change.ignored.get(step.name) is True:
            ignored.add(step.name)
        elif change.ignored.get(step.name) is False:
            ignored.discard(step.name)
    folded = begun.is_folded if change.is_folded is None else change.is_folded
    changed = with_fields(begun, ignored=tuple(sorted(ignored)), is_folded=folded)
    project.plan = changed.model_dump(mode="json")
    mark_changed(visit.session, project)
    tell_of(visit, project)


def _require_begun(project: ProjectRow) -> BegunFrom:
    """Return what a picture was begun from.

    Raises
    ------
    NotThereError
        No plan made it.
    """
    begun = begun_from(project)
    if begun is None:
        what = "plan of this picture"
        raise NotThereError(what)
    return begun


def _states(
    begun: BegunFrom, before: Composite, now: Composite, meant: Composite
) -> dict[str, StepState]:
    """Return how steps stand; what the plan itself found since is no touch."""
    found: dict[str, StepState] = {}
    for step in begun.plan.steps:
        layer_id = layer_of_step(step, before)
        touched = all(
            is_touched(one, now, layer_id, step.facet) for one in (before, meant)
        )
        found[step.name] = "touched" if touched else "open"
        if step.name in begun.ignored and not touched:
            found[step.name] = "ignored"
    return found


def _work(visit: Visit, project_id: uuid.UUID) -> Job | None:
    for row in open_jobs(visit.session):
        if row.kind == JobKind.REFINE and row.project_id == project_id:
            return job_of(row)
    return None
