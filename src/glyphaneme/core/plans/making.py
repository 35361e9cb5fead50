"""The layers of a filled plan, each from the plan's layer and what is known."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, NamedTuple

from glyphaneme.core.color import told_from
from glyphaneme.core.document.fades import relinked_fade
from glyphaneme.core.document.masks import linked_mask
from glyphaneme.core.document.model import (
    ColorLayer,
    GradientLayer,
    GroupLayer,
    Layer,
    LayerBase,
    MendingLayer,
    PhotoLayer,
    ToningLayer,
    WordsLayer,
)
from glyphaneme.core.edits.lettering import name_of
from glyphaneme.core.mask import LayerPart, Mask, MattePart
from glyphaneme.core.place.span import moved_span
from glyphaneme.core.plans.layers import (
    ITSELF,
    PlanColor,
    PlanGradient,
    PlanGroup,
    PlanLayer,
    PlanMending,
    PlanPhoto,
    PlanWords,
)
from glyphaneme.core.plans.laying import AS_IT_IS, photo_layer
from glyphaneme.core.plans.lettering import standing_words
from glyphaneme.core.plans.renewing import renewed
from glyphaneme.core.tone import scaled
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glyphaneme.core.mask import CutWay, Fade
    from glyphaneme.core.plans.facts import PhotoFacts
    from glyphaneme.core.plans.given import Given, Item
    from glyphaneme.core.plans.laying import Laid
    from glyphaneme.core.words import Words

CUT_ID = "subject"
"""Of the part of a mask that a plan's cut-out is."""
OF_ALL = tuple(LayerBase.model_fields)


class WantedCut(NamedTuple):
    """A picture of which a cut-out is wanted."""

    picture: str
    way: CutWay


class WantedMatch(NamedTuple):
    """A layer whose tones are to be matched to another, or to what lies behind it."""

    layer_id: str
    to: str | None
    strength: float


class Wanted(NamedTuple):
    """What is still to be found, for the composite to be as it is meant."""

    cuts: tuple[WantedCut, ...] = ()
    pairs: tuple[tuple[str, str], ...] = ()
    """Pictures that are to be lined up, the moving one first."""
    matches: tuple[WantedMatch, ...] = ()
    """All of them, those that were found too: they follow from what lies behind."""


class Made:
    """Makes layers, and collects what is wanted for them.

    Parameters
    ----------
    given : Given
        What is made, and of what.
    laid : Laid
        Where photos lie.
    """

    def __init__(self, given: Given, laid: Laid) -> None:
        self._given = given
        self._laid = laid
        self._cuts: dict[WantedCut, None] = {}
        self._matches: list[WantedMatch] = []

    @property
    def wanted(self) -> Wanted:
        """What is still to be found."""
        pairs = tuple(dict.fromkeys(self._laid.pairs))
        return Wanted(tuple(self._cuts), pairs, tuple(self._matches))

    def layers(self, items: Iterable[Item]) -> tuple[Layer, ...]:
        """Return layers as a composite has them, without words that cannot be set.

        Parameters
        ----------
        items : iterable of Item
            From back to front.

        Returns
        -------
        tuple of Layer
            Likewise.
        """
        made = (self._layer(item) for item in items)
        return tuple(layer for layer in made if layer is not None)

    def _layer(self, item: Item) -> Layer | None:
        """Return one layer.

        Raises
        ------
        TypeError
            A photo's layer without a photo.
        """
        layer = item.layer
        if isinstance(layer, PlanPhoto):
            if item.facts is None:
                raise TypeError(layer)
            return self._photo(item, layer, item.facts)
        if isinstance(layer, PlanWords):
            return self._words(layer)
        base = self._base(layer)
        if isinstance(layer, PlanColor):
            color = self._given.color(layer.color_of, layer.color)
            return ColorLayer(**base, color=color)
        if isinstance(layer, PlanGradient):
            return self._gradient(layer, base)
        if isinstance(layer, PlanGroup):
            return self._group(layer, base)
        if isinstance(layer, PlanMending):
            return MendingLayer(**base, mends=layer.mends)
        return ToningLayer(**base, tones=scaled(layer.tones, self._given.factor))

    def _group(self, layer: PlanGroup, base: dict[str, Any]) -> GroupLayer | None:
        """Return a group with those of its members that come to be, if any."""
        members = self.layers(self._given.items(layer.layers))
        if not members:
            return None
        return GroupLayer(
            **base,
            width=layer.width,
            height=layer.height,
            placement=layer.placement,
            layers=members,
            tones=layer.tones,
        )

    def _gradient(self, layer: PlanGradient, base: dict[str, Any]) -> GradientLayer:
        gradient = moved_span(layer.gradient, self._given.stretch)
        ends = {
            end: with_fields(stop, color=self._given.color(of, stop.color))
            for end, stop, of in (
                ("start", gradient.start, layer.start_of),
                ("end", gradient.end, layer.end_of),
            )
        }
        return GradientLayer(**base, gradient=with_fields(gradient, **ends))

    def _photo(self, item: Item, layer: PlanPhoto, facts: PhotoFacts) -> PhotoLayer:
        base = self._base(layer, facts.name, facts) | {"id": item.id}
        if layer.placement is not None:
            return self._as_it_lay(layer, facts, base)
        placement = self._laid.lying[item.id].placement
        bare = photo_layer(item.id, facts, placement)
        mask = self._with_cut(layer, facts, self._on_photo(base["mask"], bare))
        fades = tuple(self._fade_on(fade, bare) for fade in layer.fades)
        own = {"mask": mask, "fades": (*fades, *self._laid.melts.get(item.id, ()))}
        tones = scaled(layer.tones, self._given.factor / placement.scale_x)
        matched = self._matched(item.id, layer)
        return with_fields(bare, **base | own, tones=(*matched, *tones))

    def _matched(self, layer_id: str, layer: PlanPhoto) -> tuple[Any, ...]:
        if layer.matched is None:
            return ()
        wanted = layer.matched
        self._matches.append(WantedMatch(layer_id, wanted.to, wanted.strength))
        tone = self._given.known.matches.get(layer_id)
        return () if tone is None else (tone,)

    def _with_cut(
        self, layer: PlanPhoto, facts: PhotoFacts, mask: Mask | None
    ) -> Mask | None:
        """Put the cut-out first into a mask, as far as it is found."""
        if layer.cut is None or facts.is_cut:
            return mask
        if facts.cut is None:
            self._cuts[WantedCut(facts.picture, layer.cut.way)] = None
            return mask
        part = MattePart(
            id=CUT_ID,
            picture=facts.picture,
            matte=facts.cut.matte,
            level=facts.cut.level,
            way=layer.cut.way,
        )
        mask = mask or Mask()
        return with_fields(mask, parts=(part, *mask.parts), cleaned=1.0)

    def _as_it_lay(
        self, layer: PlanPhoto, facts: PhotoFacts, base: dict[str, Any]
    ) -> PhotoLayer:
        """Return a photo by its own placement, or another one in its frame."""
        made = PhotoLayer(
            **base,
            picture=facts.picture,
            width=layer.width or 1,
            height=layer.height or 1,
            placement=layer.placement or AS_IT_IS,
            mends=layer.mends,
            tones=layer.tones,
        )
        if layer.slot is None:
            # One that was brought in anew may be larger than the plan says.
            same = (made.width, made.height) == (facts.width, facts.height)
            return made if same else renewed(made, facts)
        if self._given.plan.slot(layer.slot).made_with == facts.sha256 != "":
            return made
        for part in made.mask.parts if made.mask and not facts.is_cut else ():
            if isinstance(part, MattePart) and facts.cut is None:
                self._cuts[WantedCut(facts.picture, part.way)] = None
        return renewed(made, facts)

    def _words(self, layer: PlanWords) -> WordsLayer | None:
        given = self._given
        setting = with_fields(layer.words.setting, text=given.text(layer))
        words = self._inked(with_fields(layer.words, setting=setting), layer)
        placement = layer.placement or AS_IT_IS
        if layer.lines is not None:
            standing = standing_words(
                words,
                layer.lines,
                given.sheet,
                factor=given.factor,
                measure=given.known.measure,
            )
            words, placement = standing or (words, placement)
        measure = given.known.measure(words)
        if measure is None:
            return None
        setting = with_fields(words.setting, fonts=measure.fonts)
        return WordsLayer(
            **self._base(layer, name_of(setting.text)),
            words=with_fields(words, setting=setting),
            measure=measure,
            width=measure.width,
            height=measure.height,
            placement=placement,
            tones=layer.tones,
        )

    def _inked(self, words: Words, layer: PlanWords) -> Words:
        ink = words.ink
        if ink is None or ink.kind != "plain":
            return words
        color = self._given.color(layer.ink_of, ink.color)
        if layer.stands_on is not None:
            sheet = self._given.canvas.background or "#ffffff"
            color = told_from(color, self._given.color(layer.stands_on, sheet))
        return with_fields(words, ink=with_fields(ink, color=color))

    def _seen_by(self, mask: Mask, facts: PhotoFacts | None) -> Mask:
        """Return a mask whose parts name pictures as a composite does."""
        parts = []
        for part in mask.parts:
            drawn = getattr(part, "picture", None)
            found = facts
            if drawn not in {None, ITSELF}:
                found = self._given.known.stays.get(str(drawn))
            if drawn is None:
                parts.append(part)
            elif found is not None:
                parts.append(with_fields(part, picture=found.picture))
        return with_fields(mask, parts=tuple(parts))

    def _base(
        self, layer: PlanLayer, name: str = "", facts: PhotoFacts | None = None
    ) -> dict[str, Any]:
        """Return what every layer has, as it lies on the sheet asked for."""
        given = self._given
        fields: dict[str, Any] = {one: getattr(layer, one) for one in OF_ALL}
        fields["name"] = layer.name or name or layer.id
        if layer.mask is not None:
            fields["mask"] = self._seen_by(layer.mask, facts)
        if given.factor != 1:
            effects = (one.scaled(given.factor) for one in layer.effects)
            fields["effects"] = tuple(effects)
        if not isinstance(layer, PlanPhoto | PlanWords) and not given.plan.is_fixed:
            mask = fields["mask"]
            fields["mask"] = None if mask is None else mask.carried(given.stretch)
            fades = (moved_span(fade, given.stretch) for fade in layer.fades)
            fields["fades"] = tuple(fades)
        return fields

    def _on_photo(self, mask: Mask | None, photo: PhotoLayer) -> Mask | None:
        """Return a mask that is measured on the sheet as a photo has it."""
        if mask is None or all(isinstance(one, LayerPart) for one in mask.parts):
            # Other layers' shapes lie where those lie, however the mask is measured.
            return mask
        on_sheet = with_fields(mask.carried(self._given.stretch), linked=False)
        return linked_mask(on_sheet, photo) if mask.linked else on_sheet

    def _fade_on(self, fade: Fade, photo: PhotoLayer) -> Fade:
        """Return a fade that is measured on the sheet as a photo has it."""
        moved = moved_span(fade, self._given.stretch)
        on_sheet = with_fields(moved, linked=False)
        return relinked_fade(on_sheet, photo, linked=fade.linked)
