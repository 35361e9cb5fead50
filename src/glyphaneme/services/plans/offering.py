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
    """Return all plans, in the order in which they are offered."""
    folder = visit.studio.plans
    return [_offer(plan, folder) for plan in folder.plans.values()]


def require_plan(visit: Visit, name: str) -> Plan:
    """Return one plan.

    Raises
    ------
    NotThereError
        None is called that.
    """
    return visit.studio.plans.require(name)


def _offer(plan: Plan, folder: PlanFolder) -> PlanOffer:
    return PlanOffer(
        name=plan.name,
        title=plan.title,
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
            slot.name for slot in plan.slots if folder.has_example(plan.name, slot.name)
        ],
    )
