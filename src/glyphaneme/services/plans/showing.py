"""Plans before they are pictures: how they would look, and what is to be said."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import FileFormat, FileSpec, write_picture
from glyphaneme.core.plans import empty_slots
from glyphaneme.core.plans.judging import Seen, advice_on, layer_of_step, notes_on
from glyphaneme.core.render import render
from glyphaneme.services.assets import assets_of
from glyphaneme.services.plans.filling import fill, seeing
from glyphaneme.services.plans.seeking import Sought, seek
from glyphaneme.services.showing import whole_view

if TYPE_CHECKING:
    from typing import BinaryIO

    from glyphaneme.core.plans import Filling, Plan
    from glyphaneme.services.plans.filling import Result
    from glyphaneme.services.studio import Visit

QUALITY = 88


class SlotNote(BaseModel):
    """What is to be said of a photo in its slot."""

    model_config = ConfigDict(frozen=True)

    kind: Literal["good", "poor"]
    says: str


class PhotoNotes(BaseModel):
    """All that is to be said of one photo in one slot."""

    model_config = ConfigDict(frozen=True)

    slot: str
    picture: str
    notes: list[SlotNote]


class StepSaid(BaseModel):
    """A step, the layer that it is about, and what was measured there."""

    model_config = ConfigDict(frozen=True)

    name: str
    layer_id: str | None
    says: str | None
    """Advice for this very picture; None where nothing speaks against it."""


class PlanLook(BaseModel):
    """What would come of a plan, as far as it is filled."""

    model_config = ConfigDict(frozen=True)

    width: int
    height: int
    """Of the sheet, in pixels."""
    layers: int
    empty: list[str]
    """Slots that a picture cannot do without."""
    photos: list[PhotoNotes]
    sought: list[Sought]
    """What is still to be found."""
    steps: list[StepSaid]


def look_at(visit: Visit, plan: Plan, filling: Filling) -> PlanLook:
    """Tell what would come of a plan, and have found what is wanted for it.

    Raises
    ------
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """
    result = fill(visit, plan, filling)
    canvas = result.composite.canvas
    return PlanLook(
        width=canvas.width,
        height=canvas.height,
        layers=result.composite.layer_count,
        empty=[slot.name for slot in empty_slots(plan, filling)],
        photos=_notes(plan, filling, result),
        sought=seek(visit, result.filled.wanted),
        steps=said_at_steps(visit, plan, result),
    )


def said_at_steps(visit: Visit, plan: Plan, result: Result) -> list[StepSaid]:
    """Return what is to be said at each of a plan's steps."""
    picture = Seen(result.composite, result.known.photos, seeing(visit))
    waits = bool(result.filled.wanted.cuts)
    return [
        StepSaid(
            name=step.name,
            layer_id=layer_of_step(step, result.composite),
            says=None if waits else advice_on(step, picture),
        )
        for step in plan.steps
    ]


def write_look(
    visit: Visit, plan: Plan, filling: Filling, *, side: int, file: BinaryIO
) -> FileFormat:
    """Write how a plan would look: JPEG, or PNG where it is see-through.

    Raises
    ------
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """
    composite = fill(visit, plan, filling).composite
    view = whole_view(composite, side, tallest=side)
    shown = render(composite, assets_of(visit, composite, view, quick=True), view)
    opaque = bool(shown[..., 3].min() == 255)
    chosen = FileFormat.JPEG if opaque else FileFormat.PNG
    spec = FileSpec(chosen, quality=QUALITY, ppi=composite.canvas.ppi)
    write_picture(shown, file, spec)
    return chosen


def _notes(plan: Plan, filling: Filling, result: Result) -> list[PhotoNotes]:
    found = []
    for slot in plan.slots:
        for picture in filling.photos.get(slot.name, ())[: slot.most]:
            facts = result.known.photos.get(picture)
            if facts is None:
                says = "This photo is gone; choose another one."
                notes = [SlotNote(kind="poor", says=says)]
            else:
                said = notes_on(plan, slot, facts, result.composite)
                notes = [SlotNote(kind=one.kind, says=one.says) for one in said]
            found.append(PhotoNotes(slot=slot.name, picture=picture, notes=notes))
    return found
