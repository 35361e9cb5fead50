"""What a plan is worked out from: photos, words, choices and sheet, as they count."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple, Self

import numpy as np

from glyphaneme.core.document.model import MAX_SIDE, Canvas
from glyphaneme.core.plans.layers import PlanPhoto, PlanWords
from glyphaneme.core.plans.places import Sheet

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.plans.facts import Known, PhotoFacts
    from glyphaneme.core.plans.layers import ColorOf, PlanLayer
    from glyphaneme.core.plans.values import Choice, Filling, Plan

Photos = dict[str, list["PhotoFacts"]]


class Item(NamedTuple):
    """A layer of the plan as it comes to be: for one photo, or for none."""

    id: str
    layer: PlanLayer
    facts: PhotoFacts | None = None
    place: int = 0
    """Which of its slot's photos it shows."""
    together: int = 1
    """How many there are."""


class Given(NamedTuple):
    """A plan, and all that was put into it, as it counts."""

    plan: Plan
    known: Known
    photos: Photos
    said: dict[str, str]
    chosen: dict[str, str]
    canvas: Canvas
    asked: Canvas | None
    """The sheet that somebody asked for."""

    @classmethod
    def of(cls, plan: Plan, filling: Filling, known: Known) -> Self:
        """Take what of a filling the plan has a use for.

        Parameters
        ----------
        plan : Plan
            What is made.
        filling : Filling
            What was put into it.
        known : Known
            What is known of the photos.

        Returns
        -------
        Given
            With the sheet that follows from all of it.
        """
        photos = {
            slot.name: [
                known.photos[one]
                for one in filling.photos.get(slot.name, ())[: slot.most]
                if one in known.photos
            ]
            for slot in plan.slots
        }
        said = {one.name: filling.words.get(one.name, one.text) for one in plan.words}
        chosen = {
            one.name: _chosen(one, filling.choices.get(one.name))
            for one in plan.choices
        }
        asked = filling.sheet
        is_free = asked is not None and not plan.is_fixed
        canvas = asked if asked and is_free else _canvas(plan, photos)
        return cls(plan, known, photos, said, chosen, canvas, asked)

    @property
    def sheet(self) -> Sheet:
        """The sheet that photos are placed on."""
        return Sheet(self.canvas.width, self.canvas.height)

    @property
    def stretch(self) -> MatrixF64:
        """Map positions on the plan's own sheet to those on this one."""
        own = self.plan.sheet
        across, down = self.canvas.width / own.width, self.canvas.height / own.height
        return np.array([[across, 0, 0], [0, down, 0]])

    @property
    def factor(self) -> float:
        """How much longer lengths are than on the plan's own sheet."""
        stretch = self.stretch
        return float(min(stretch[0, 0], stretch[1, 1]))

    def color(self, of: ColorOf | None, usual: str) -> str:
        """Return the colour of a slot's photo, or the usual one where it has none.

        Parameters
        ----------
        of : ColorOf, optional
            Which slot, and which of its colours.
        usual : str
            A colour, as #rrggbb.

        Returns
        -------
        str
            A colour, as #rrggbb.
        """
        return _color(self.photos, of, usual)

    def text(self, layer: PlanWords) -> str:
        """Return what words say.

        Parameters
        ----------
        layer : PlanWords
            Which words.

        Returns
        -------
        str
            What somebody said in their place, or what the plan says.
        """
        if layer.says is None:
            return layer.words.setting.text
        return self.said[layer.says]

    def items(self, layers: tuple[PlanLayer, ...]) -> Iterator[Item]:
        """Go through the layers that come to be, from back to front.

        Parameters
        ----------
        layers : tuple of PlanLayer
            Of the plan.

        Yields
        ------
        Item
            One for each photo of a slot; none of layers that are left out.
        """
        for layer in layers:
            if not self._is_there(layer):
                continue
            if isinstance(layer, PlanPhoto):
                yield from self._items_of(layer)
            else:
                yield Item(layer.id, layer)

    def _is_there(self, layer: PlanLayer) -> bool:
        if any(self.chosen.get(name) != way for name, way in layer.when.items()):
            return False
        for name in layer.needs:
            if not self.photos.get(name) and not self.said.get(name, "").strip():
                return False
        if any(self.photos.get(name) for name in layer.lacks):
            return False
        return not isinstance(layer, PlanWords) or bool(self.text(layer).strip())

    def _items_of(self, layer: PlanPhoto) -> Iterator[Item]:
        if layer.slot is None:
            facts = self.known.stays.get(layer.picture or "")
            if facts is not None:
                yield Item(layer.id, layer, facts)
            return
        photos = self.photos[layer.slot]
        taken = {"each": photos, "first": photos[:1], "rest": photos[1:]}[layer.take]
        for place, facts in enumerate(taken):
            # The first one keeps the name by which other layers know it.
            number = f"-{place + 1}" if place else ""
            yield Item(layer.id + number, layer, facts, place, len(taken))


def _canvas(plan: Plan, photos: Photos) -> Canvas:
    own = plan.sheet
    width, height = own.width, own.height
    if own.follows is not None and photos[own.follows]:
        first = photos[own.follows][0]
        if not own.turns:
            shrink = min(1.0, MAX_SIDE / max(first.width, first.height))
            width = max(1, round(first.width * shrink))
            height = max(1, round(first.height * shrink))
        elif (first.width > first.height) != (width > height):
            width, height = height, width
    background = own.background
    if own.background_of is not None:
        background = _color(photos, own.background_of, background or "#ffffff")
    return Canvas(width=width, height=height, ppi=own.ppi, background=background)


def _color(photos: Photos, of: ColorOf | None, usual: str) -> str:
    if of is None or not photos.get(of.slot):
        return usual
    return photos[of.slot][0].colors.get(of.which, usual)


def _chosen(choice: Choice, name: str | None) -> str:
    known = [one.name for one in choice.options]
    return name if name is not None and name in known else known[0]
