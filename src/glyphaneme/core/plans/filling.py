"""Filling a plan: slots, words and choices, and what is known → a composite.

A pure function: the same plan, photos and facts always give the same composite.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from pydantic import ValidationError

from glyphaneme.core.document.model import Composite
from glyphaneme.core.document.tree import require_sound
from glyphaneme.core.edits.canvas import SetCanvas
from glyphaneme.core.errors import CoreError, PlanUnfitError
from glyphaneme.core.place import kept_scale
from glyphaneme.core.plans.given import Given
from glyphaneme.core.plans.laying import Laid
from glyphaneme.core.plans.making import Made, Wanted
from glyphaneme.core.plans.relating import shared_part
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.plans.facts import Known
    from glyphaneme.core.plans.values import Filling, Plan, Slot


class Filled(NamedTuple):
    """What came of a plan, and what is still to be found for it."""

    composite: Composite
    wanted: Wanted


def filled(plan: Plan, filling: Filling, known: Known) -> Filled:
    """Fill a plan.

    Parameters
    ----------
    plan : Plan
        What is made.
    filling : Filling
        Photos, words, choices, and perhaps another sheet. Photos of which nothing is
        known, and words and slots that the plan does not have, count nothing.
    known : Known
        What is known of the photos.

    Returns
    -------
    Filled
        The composite as far as it can be made by now, and what is wanted besides.

    Raises
    ------
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """
    try:
        given = Given.of(plan, filling, known)
        items = list(given.items(plan.layers))
        laid = Laid(given, items)
        made = Made(given, laid)
        layers = made.layers(items)
        require_sound(layers)
        composite = Composite(canvas=given.canvas, layers=layers)
        return Filled(_on_its_sheet(composite, given, laid), made.wanted)
    except (ValidationError, CoreError) as cause:
        raise PlanUnfitError(plan.title) from cause


def empty_slots(plan: Plan, filling: Filling) -> tuple[Slot, ...]:
    """Return the slots that a picture cannot do without, and that have too few photos.

    Parameters
    ----------
    plan : Plan
        Whose slots.
    filling : Filling
        What they hold.

    Returns
    -------
    tuple of Slot
        In their order.
    """
    return tuple(
        slot
        for slot in plan.slots
        if slot.needed and len(filling.photos.get(slot.name, ())) < slot.least
    )


def _on_its_sheet(composite: Composite, given: Given, laid: Laid) -> Composite:
    """Cut the sheet to what is shared, or lay the whole on the one asked for."""
    if given.asked is None and given.plan.sheet.shared:
        part = shared_part(laid.lined_up(), given.sheet)
        size = {"width": round(part.width), "height": round(part.height)}
        canvas = with_fields(composite.canvas, **size)
        cut = SetCanvas(canvas=canvas, shift_x=-part.left, shift_y=-part.top)
        return cut.applied(composite)
    before, asked = composite.canvas, given.asked
    if asked is None or asked == before:
        return composite
    scale = kept_scale(min(asked.width / before.width, asked.height / before.height))
    return SetCanvas(
        canvas=asked,
        scale=scale,
        shift_x=(asked.width - before.width * scale) / 2,
        shift_y=(asked.height - before.height * scale) / 2,
    ).applied(composite)
