"""Where a plan's photos come to lie, one after the other they depend on."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.document.fades import melted
from glyphaneme.core.document.lining_up import lined_up
from glyphaneme.core.document.model import Composite, PhotoLayer
from glyphaneme.core.place import Placement, fit_placement
from glyphaneme.core.plans import places, relating
from glyphaneme.core.plans.layers import PlanPhoto
from glyphaneme.core.plans.places import Lying
from glyphaneme.core.plans.placing import (
    BESIDE,
    Cell,
    Fill,
    Fit,
    Into,
    Like,
    LinedUp,
    Melt,
    Over,
    Stand,
)
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.mask import Fade
    from glyphaneme.core.plans.facts import PhotoFacts
    from glyphaneme.core.plans.given import Given, Item

AS_IT_IS = Placement(x=0, y=0, scale_x=1, scale_y=1)


class Laid:
    """Photos as they lie on the sheet, by the ids of their layers.

    Parameters
    ----------
    given : Given
        What is made, and of what.
    items : sequence of Item
        All layers that come to be.
    """

    def __init__(self, given: Given, items: Sequence[Item]) -> None:
        self._given = given
        self._items = items
        self.lying: dict[str, Lying] = {}
        self.melts: dict[str, tuple[Fade, ...]] = {}
        """Fades by which photos melt into one another."""
        self.pairs: list[tuple[str, str]] = []
        """Photos that are still to be lined up, the moving one first."""
        for item in items:
            self._lay(item)

    def lined_up(self) -> list[Lying]:
        """Return the photos that are lined up with others, and those others.

        Returns
        -------
        list of Lying
            In the order of their ids.
        """
        ids = {
            name
            for item in self._items
            if isinstance(item.layer, PlanPhoto)
            and isinstance(item.layer.place, LinedUp)
            for name in (item.id, item.layer.place.layer)
        }
        return [self.lying[one] for one in sorted(ids) if one in self.lying]

    def _lay(self, item: Item) -> None:
        """Find where a photo lies, after those that its place follows from."""
        layer, facts = item.layer, item.facts
        if item.id in self.lying or facts is None or not isinstance(layer, PlanPhoto):
            return
        if isinstance(layer.place, BESIDE):
            for other in self._items:
                if other.id == layer.place.layer:
                    self._lay(other)
        if isinstance(layer.place, Melt):
            self._melt(item, layer.place)
        else:
            placement = self._placement(item, layer, facts)
            self.lying[item.id] = Lying(facts, placement)

    def _placement(self, item: Item, layer: PlanPhoto, facts: PhotoFacts) -> Placement:
        rule, sheet = layer.place, self._given.sheet
        if isinstance(rule, Fit):
            return places.fitting(facts, sheet, rule)
        if isinstance(rule, Stand):
            return places.standing(facts, sheet, rule)
        if isinstance(rule, Cell):
            which = {"place": item.place, "count": item.together}
            return places.celled(facts, sheet, rule, **which)
        if isinstance(rule, Fill):
            return places.filling(facts, sheet.box(rule.area), rule)
        if isinstance(rule, BESIDE):
            other = self.lying.get(rule.layer)
            found = None if other is None else self._beside(rule, facts, other)
            return found or self._covering(facts)
        canvas = self._given.canvas
        size = {"canvas_width": canvas.width, "canvas_height": canvas.height}
        return layer.placement or fit_placement(facts.width, facts.height, **size)

    def _covering(self, facts: PhotoFacts) -> Placement:
        whole = Fill()
        return places.filling(facts, self._given.sheet.box(whole.area), whole)

    def _beside(
        self, rule: Over | Like | Into | LinedUp, facts: PhotoFacts, other: Lying
    ) -> Placement | None:
        """Return a place that follows from another photo's; None where it cannot."""
        if isinstance(rule, Over):
            return relating.over(facts, other, rule)
        if isinstance(rule, Like):
            found = relating.like(facts, other)
            flipped = found.flipped != places.is_mirrored(facts, rule)
            return with_fields(found, flipped=flipped)
        if isinstance(rule, Into):
            return relating.set_into(facts, other, rule)
        return self._over_the_same(facts, other)

    def _over_the_same(self, facts: PhotoFacts, other: Lying) -> Placement:
        """Lay a photo so that what both show lies together, once that is known."""
        pair = (facts.picture, other.facts.picture)
        same = pair[0] == pair[1]
        matrix = np.eye(3) if same else self._given.known.pairs.get(pair)
        if matrix is None:
            self.pairs.append(pair)
            return relating.like(facts, other)
        fixed = photo_layer("fixed", other.facts, other.placement)
        moving = photo_layer("moving", facts, AS_IT_IS)
        both = Composite(canvas=self._given.canvas, layers=(fixed, moving))
        return lined_up(both, moving.id, fixed.id, matrix)

    def _melt(self, item: Item, rule: Melt) -> None:
        """Place all photos of a row, each melting into the next."""
        row = [
            (one.id, one.facts)
            for one in self._items
            if one.layer is item.layer and one.facts is not None
        ]
        canvas = self._given.canvas
        size = (float(canvas.width), float(canvas.height))
        along = 0 if rule.axis == "across" else 1
        if len(row) == 1:
            self.lying[row[0][0]] = Lying(row[0][1], self._covering(row[0][1]))
            return
        photos = []
        for place, (layer_id, facts) in enumerate(row):
            at = [size[0] / 2, size[1] / 2]
            at[along] = float(place)
            flipped = places.is_mirrored(facts, rule)
            start = with_fields(AS_IT_IS, x=at[0], y=at[1], flipped=flipped)
            photos.append(photo_layer(layer_id, facts, start))
        found = melted(
            photos,
            axis=rule.axis,
            overlap=max(rule.overlap * size[along] / len(row), 1.0),
            size=size,
            spots={layer_id: facts.focus for layer_id, facts in row},
        )
        for (layer_id, facts), one in zip(row, found, strict=True):
            self.lying[layer_id] = Lying(facts, one.placement)
            self.melts[layer_id] = one.fades


def photo_layer(layer_id: str, facts: PhotoFacts, placement: Placement) -> PhotoLayer:
    """Return a photo's layer with nothing done to it.

    Parameters
    ----------
    layer_id : str
        How it is called.
    facts : PhotoFacts
        What it shows.
    placement : Placement
        Where it lies.

    Returns
    -------
    PhotoLayer
        Named after the photo.
    """
    return PhotoLayer(
        id=layer_id,
        name=facts.name,
        picture=facts.picture,
        width=facts.width,
        height=facts.height,
        placement=placement,
    )
