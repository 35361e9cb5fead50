"""Filling a plan to its end: what it asks of photos, and tones that are matched."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple, Protocol

from glyphaneme.core.document.apart import alone, before_tone, beneath
from glyphaneme.core.errors import NothingToMatchError
from glyphaneme.core.mask import MattePart
from glyphaneme.core.match import BEHIND, by_itself, sides_of
from glyphaneme.core.plans.filling import filled
from glyphaneme.core.plans.layers import PlanPhoto
from glyphaneme.core.plans.placing import Into
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document.model import Composite, Layer
    from glyphaneme.core.mask import CutWay
    from glyphaneme.core.plans.facts import Known
    from glyphaneme.core.plans.filling import Filled
    from glyphaneme.core.plans.making import WantedMatch
    from glyphaneme.core.plans.values import Filling, Plan
    from glyphaneme.core.tone import MatchTone


class Seeing(Protocol):
    """Renders a small picture of a composite, for its tones to be compared."""

    def __call__(self, part: Composite, pile: tuple[Layer, ...], /) -> PixelsU8:
        """Return (H, W, 4) uint8, straight RGBA, of the whole sheet."""


class AskedPhoto(NamedTuple):
    """What a plan asks of a photo, besides what a glance tells."""

    way: CutWay | None = None
    """How it is cut out; None where it stays whole."""
    blank: bool = False
    """Whether a blank place is looked for in it."""


def asked_of(plan: Plan, filling: Filling) -> dict[str, AskedPhoto]:
    """Return what a plan asks of each of its photos.

    Parameters
    ----------
    plan : Plan
        What is made.
    filling : Filling
        Which photos its slots hold.

    Returns
    -------
    dict of AskedPhoto
        By pictures, in the order of the slots; of those that it has a use for.
    """
    ways: dict[str, CutWay] = {}
    blanks = set[str]()
    slots = {
        one.id: one.slot for one in plan.all_layers() if isinstance(one, PlanPhoto)
    }
    for layer in plan.all_layers():
        if not isinstance(layer, PlanPhoto):
            continue
        for way in _ways(layer) if layer.slot is not None else ():
            ways.setdefault(layer.slot or "", way)
        if isinstance(layer.place, Into):
            blanks.add(slots.get(layer.place.layer) or "")
    found: dict[str, AskedPhoto] = {}
    for slot in plan.slots:
        for picture in filling.photos.get(slot.name, ())[: slot.most]:
            before = found.get(picture, AskedPhoto())
            found[picture] = AskedPhoto(
                before.way or ways.get(slot.name), before.blank or slot.name in blanks
            )
    return found


def completed(plan: Plan, filling: Filling, known: Known, seen: Seeing) -> Filled:
    """Fill a plan, and match tones where it says so, once all cut-outs are found.

    Parameters
    ----------
    plan : Plan
        What is made.
    filling : Filling
        Photos, words, choices, and perhaps another sheet.
    known : Known
        What is known of the photos; without matches.
    seen : Seeing
        Renders small pictures.

    Returns
    -------
    Filled
        As `filled` gives it.

    Raises
    ------
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """
    made = filled(plan, filling, known)
    matches: dict[str, MatchTone] = {}
    for wanted in () if made.wanted.cuts else made.wanted.matches:
        # One after the other: a layer may be matched to one that is matched itself.
        tone = _matched(made.composite, wanted, seen)
        if tone is not None:
            matches[wanted.layer_id] = tone
            made = filled(plan, filling, known._replace(matches=dict(matches)))
    return made


def _ways(layer: PlanPhoto) -> Iterator[CutWay]:
    if layer.cut is not None:
        yield layer.cut.way
    for part in layer.mask.parts if layer.mask is not None else ():
        if isinstance(part, MattePart):
            yield part.way


def _matched(
    composite: Composite, wanted: WantedMatch, seen: Seeing
) -> MatchTone | None:
    """Return what matches a layer; None where too little of one side shows."""
    subject = plain(before_tone(composite, wanted.layer_id, 0))
    ids = {layer.id for layer in composite.layers}
    if wanted.to in ids:
        target, to = alone(composite, wanted.to), composite.layer(wanted.to).name
    else:
        target, to = beneath(composite, wanted.layer_id), BEHIND
    pile = plain(composite).layers
    # The bare sheet is nothing that was photographed.
    clear = with_fields(composite.canvas, background=None)
    behind = with_fields(plain(target), canvas=clear)
    try:
        sides = sides_of(seen(subject, pile), seen(behind, pile))
    except NothingToMatchError:
        return None
    return by_itself(sides, to, wanted.strength)


def plain(composite: Composite) -> Composite:
    """Return a composite without own colours along edges, which take long to find.

    Parameters
    ----------
    composite : Composite
        Any.

    Returns
    -------
    Composite
        Whose pixels differ along cut edges alone.
    """
    return with_fields(
        composite,
        layers=tuple(
            one
            if one.mask is None
            else with_fields(one, mask=with_fields(one.mask, cleaned=0.0))
            for one in composite.layers
        ),
    )
