"""The plans on offer, as people choose among them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.plans.values import (
    Choice,
    Facet,
    PlanSheet,
    Slot,
    Title,
    WordsSlot,
)
from glyphaneme.services.errors import NotThereError
from glyphaneme.services.plans.owning import find_own, list_own, own_example

if TYPE_CHECKING:
    from glyphaneme.core.plans import Plan
    from glyphaneme.services.plan_folder import PlanFolder
    from glyphaneme.services.studio import Visit


class StepOffer(BaseModel):
    """A step, as it is announced."""

    model_config = ConfigDict(frozen=True)

    name: str
    question: Title
    advice: str
    link: Title
    facet: Facet


class PlanOffer(BaseModel):
    """A plan: what it makes, of what, and by which steps."""

    model_config = ConfigDict(frozen=True)

    name: str
    title: Title
    is_own: bool
    """Whether somebody made it here, or brought it in."""
    sentence: str
    about: str
    sheet: PlanSheet
    slots: list[Slot]
    words: list[WordsSlot]
    choices: list[Choice]
    steps: list[StepOffer]
    shown_with: list[str]
    """Slots whose photos of the example are there to be seen."""


def list_plans(visit: Visit) -> list[PlanOffer]:
    """Return all plans: those that ship, in their order, then own ones."""
    folder = visit.studio.plans
    shipped = [_offer(plan, folder) for plan in folder.plans.values()]
    return shipped + [_offer(plan, None) for plan in list_own(visit)]


def require_plan(visit: Visit, name: str) -> Plan:
    """Return one plan.

    Raises
    ------
    NotThereError
        None is called that.
    """
    shipped = visit.studio.plans.plans.get(name)
    return shipped or find_own(visit, name)


def find_example(visit: Visit, name: str, slot: str | None) -> bytes:
    """Return a small picture of what a plan makes, or a photo that it was made of.

    Raises
    ------
    NotThereError
        There is none.
    """
    if name in visit.studio.plans.plans:
        return visit.studio.plans.example(name, slot)
    if slot is not None:
        raise NotThereError("example")
    return own_example(visit, name)


def _offer(plan: Plan, folder: PlanFolder | None) -> PlanOffer:
    return PlanOffer(
        name=plan.name,
        title=plan.title,
        is_own=folder is None,
        sentence=plan.sentence,
        about=plan.about,
        sheet=plan.sheet,
        slots=list(plan.slots),
        words=list(plan.words),
        choices=list(plan.choices),
        steps=[
            StepOffer(
                name=step.name,
                question=step.question,
                advice=step.advice,
                link=step.link,
                facet=step.facet,
            )
            for step in plan.steps
        ],
        shown_with=[
            slot.name
            for slot in plan.slots
            if folder is not None and folder.has_example(plan.name, slot.name)
        ],
    )
