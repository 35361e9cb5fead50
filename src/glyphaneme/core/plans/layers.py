"""Layers of a plan: a composite's, with slots for photos and rules for places.

What lies by a rule has its mask and fades measured on the plan's sheet; what lies by a
placement of its own has them as a composite has, in its own pixels.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal, TypeAlias

from pydantic import Field, model_validator

from glyphaneme.core.color import Color
from glyphaneme.core.document.gradients import Gradient
from glyphaneme.core.document.model import Extent, LayerBase, Mends
from glyphaneme.core.document.naming import Name
from glyphaneme.core.mask import CutWay
from glyphaneme.core.place import Placement
from glyphaneme.core.plans.base import PlanName, PlanValue
from glyphaneme.core.plans.facts import ColorMeasure
from glyphaneme.core.plans.placing import Lines, Placing
from glyphaneme.core.tone import Tones
from glyphaneme.core.words import Words

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

MAX_PLAN_LAYERS = 200
ITSELF = "itself"
"""What parts of a mask call the photo of the layer that they are in."""


class ColorOf(PlanValue):
    """A colour that is taken from the first photo of a slot."""

    slot: PlanName
    which: ColorMeasure = ColorMeasure.EDGE


class Cut(PlanValue):
    """That a photo's backdrop is taken away, and how it is found."""

    way: CutWay = CutWay.ITSELF


class Matched(PlanValue):
    """That a layer's tones are matched to another layer, or to what lies behind it."""

    to: PlanName | None = None
    strength: Annotated[float, Field(ge=0.25, le=1, allow_inf_nan=False)] = 0.5


class PlanLayerBase(LayerBase):
    """What every layer of a plan says."""

    id: PlanName
    name: Name | None = None  # type: ignore[assignment]  # a photo lends its own
    needs: Annotated[tuple[PlanName, ...], Field(max_length=24)] = ()
    """Slots and words without which it is left out."""
    lacks: Annotated[tuple[PlanName, ...], Field(max_length=24)] = ()
    """Slots with whose photos it is left out."""
    when: dict[PlanName, PlanName] = Field(default_factory=dict, max_length=8)
    """Choices with which alone it is there."""


class PlanPhoto(PlanLayerBase):
    """A photo of a slot, or one that stays; of a slot of several, one layer each."""

    kind: Literal["photo"] = "photo"
    slot: PlanName | None = None
    picture: PlanName | None = None
    """One of the plan's own, which stays."""
    take: Literal["each", "first", "rest"] = "each"
    place: Placing | None = None
    placement: Placement | None = None
    width: Extent | None = None
    height: Extent | None = None
    cut: Cut | None = None
    matched: Matched | None = None
    mends: Mends = ()
    tones: Tones = ()

    @model_validator(mode="after")
    def _shows_one_thing(self) -> PlanPhoto:
        if (self.slot is None) == (self.picture is None):
            raise ValueError("a photo's layer names a slot, or a picture that stays")
        if (self.place is None) == (self.placement is None):
            raise ValueError("a photo's layer has a rule, or a placement of its own")
        if self.placement is not None and None in (self.width, self.height):
            raise ValueError("a placement of its own needs the photo's size")
        return self


class PlanColor(PlanLayerBase):
    """One colour over everything beneath it."""

    kind: Literal["color"] = "color"
    color: Color
    color_of: ColorOf | None = None


class PlanGradient(PlanLayerBase):
    """A gradient over everything beneath it, measured on the sheet."""

    kind: Literal["gradient"] = "gradient"
    gradient: Gradient
    start_of: ColorOf | None = None
    end_of: ColorOf | None = None


class PlanToning(PlanLayerBase):
    """Tones of everything beneath it."""

    kind: Literal["toning"] = "toning"
    tones: Tones = ()


class PlanMending(PlanLayerBase):
    """Mended places of everything beneath it."""

    kind: Literal["mending"] = "mending"
    mends: Mends = ()


class PlanWords(PlanLayerBase):
    """Words, those of the plan or what somebody says in their place."""

    kind: Literal["words"] = "words"
    words: Words
    says: PlanName | None = None
    lines: Lines | None = None
    placement: Placement | None = None
    ink_of: ColorOf | None = None
    stands_on: ColorOf | None = None
    """The colour that they stand on: an ink that is hardly told from it gives way."""
    tones: Tones = ()

    @model_validator(mode="after")
    def _stands_somewhere(self) -> PlanWords:
        if (self.lines is None) == (self.placement is None):
            raise ValueError("words have an area, or a placement of their own")
        return self


class PlanGroup(PlanLayerBase):
    """Layers that are laid on as one; each of them lies where it was put."""

    kind: Literal["group"] = "group"
    width: Extent
    height: Extent
    placement: Placement
    layers: Annotated[tuple[PlanLayer, ...], Field(max_length=MAX_PLAN_LAYERS)] = ()
    tones: Tones = ()


PlanLayer: TypeAlias = Annotated[
    PlanPhoto
    | PlanColor
    | PlanGradient
    | PlanToning
    | PlanMending
    | PlanWords
    | PlanGroup,
    Field(discriminator="kind"),
]
PlanGroup.model_rebuild()


def all_of(layers: Iterable[PlanLayer]) -> Iterator[PlanLayer]:
    """Go through layers and all that lie in them.

    Parameters
    ----------
    layers : iterable of PlanLayer
        From back to front.

    Yields
    ------
    PlanLayer
        A group before its members.
    """
    for layer in layers:
        yield layer
        if isinstance(layer, PlanGroup):
            yield from all_of(layer.layers)
