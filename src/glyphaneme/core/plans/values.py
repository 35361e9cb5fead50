"""A plan: a known kind of picture, with slots for photos, layers and steps."""

from __future__ import annotations

from collections import Counter
from typing import TYPE_CHECKING, Annotated, Final, Literal, Self

from pydantic import Field, model_validator

from glyphaneme.core.color import Color
from glyphaneme.core.document.model import Canvas, PictureId, Pixels
from glyphaneme.core.document.naming import Name
from glyphaneme.core.plans.base import PlanName, PlanValue, Sha256
from glyphaneme.core.plans.layers import (
    ITSELF,
    MAX_PLAN_LAYERS,
    ColorOf,
    PlanLayer,
    PlanPhoto,
    PlanWords,
    all_of,
)
from glyphaneme.core.plans.placing import BESIDE

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

PLAN_VERSION: Final = 1
"""Of plan files; a new one needs a step in `reading`."""
MAX_SLOTS: Final = 200
MAX_WORDS: Final = 24
MAX_CHOICES: Final = 8
MAX_STEPS: Final = 12
MOST_PHOTOS: Final = 24
LONGEST_SAID: Final = 600
LONGEST_WORDS: Final = 20_000

Said = Annotated[str, Field(max_length=LONGEST_SAID)]
Title = Annotated[str, Field(min_length=1, max_length=80)]
Facet = Literal["lettering", "wash", "place", "cut", "fade", "blend", "tone", "shadow"]


class Slot(PlanValue):
    """A place for a photo, or for several, and what suits it."""

    name: PlanName
    title: Title
    suits: Said = ""
    why: Said = ""
    needed: bool = True
    least: Annotated[int, Field(ge=1, le=MOST_PHOTOS)] = 1
    most: Annotated[int, Field(ge=1, le=MOST_PHOTOS)] = 1
    whole: bool = False
    """Whether the subject should be on the photo whole, cut off by no side."""
    made_with: Sha256 | None = None
    """The photo that the plan was made with: what was found in it still holds."""

    @model_validator(mode="after")
    def _counts_up(self) -> Self:
        if self.most < self.least:
            raise ValueError("a slot takes as many photos at most as it needs at least")
        return self


class WordsSlot(PlanValue):
    """Words that somebody may say, and what the plan says before."""

    name: PlanName
    title: Title
    suits: Said = ""
    text: Annotated[str, Field(max_length=LONGEST_WORDS)] = ""


class Option(PlanValue):
    """One way to choose."""

    name: PlanName
    title: Title


class Choice(PlanValue):
    """Something to choose; the first way is what it is at first."""

    name: PlanName
    title: Title
    options: Annotated[tuple[Option, ...], Field(min_length=2, max_length=12)]


class PlanSheet(PlanValue):
    """The sheet of a plan: its size, and what it follows."""

    width: Pixels
    height: Pixels
    ppi: Annotated[float, Field(ge=1, le=4800, allow_inf_nan=False)] = 240.0
    background: Color | None = "#ffffff"
    background_of: ColorOf | None = None
    follows: PlanName | None = None
    """The slot whose first photo it is as large as."""
    turns: bool = False
    """Whether it lies on its side where the photo of `follows` does."""
    shared: bool = False
    """Whether it is cut to what all photos that are lined up show."""


class Judged(PlanValue):
    """What is measured of a picture, from where on it counts, and what is said then."""

    measure: Literal["contrast", "outline", "tone_gap", "cut_off"]
    beyond: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
    """Contrast: said below it; all others: said above it."""
    says: Said


class PlanStep(PlanValue):
    """Something to look at in the finished picture, and where it is changed."""

    name: PlanName
    question: Title
    advice: Said
    layers: Annotated[tuple[PlanName, ...], Field(min_length=1, max_length=8)]
    """The first of them that is there is what it is about."""
    facet: Facet
    link: Title
    """Words that lead there."""
    judged: Judged | None = None


class Plan(PlanValue):
    """A known kind of picture.

    Examples
    --------
    >>> sheet = PlanSheet(width=300, height=200)
    >>> Plan(name="bare", title="A bare sheet", sheet=sheet).slots
    ()
    """

    glyphaneme_plan: Literal[1] = PLAN_VERSION
    name: PlanName
    title: Title
    sentence: Said = ""
    """What it shows, with slots in braces: "{somebody} in {place}"."""
    about: Said = ""
    sheet: PlanSheet
    slots: Annotated[tuple[Slot, ...], Field(max_length=MAX_SLOTS)] = ()
    words: Annotated[tuple[WordsSlot, ...], Field(max_length=MAX_WORDS)] = ()
    choices: Annotated[tuple[Choice, ...], Field(max_length=MAX_CHOICES)] = ()
    layers: Annotated[tuple[PlanLayer, ...], Field(max_length=MAX_PLAN_LAYERS)] = ()
    pictures: dict[PlanName, Sha256] = Field(default_factory=dict, max_length=MAX_SLOTS)
    """Pictures that stay, by what layers and masks call them: the SHA-256 of each."""
    steps: Annotated[tuple[PlanStep, ...], Field(max_length=MAX_STEPS)] = ()

    @model_validator(mode="after")
    def _holds_together(self) -> Self:
        layers = tuple(self.all_layers())
        if len(layers) > MAX_PLAN_LAYERS:
            message = f"it has more than {MAX_PLAN_LAYERS} layers"
            raise ValueError(message)
        _once("layer", (layer.id for layer in layers))
        _once(
            "slot", [one.name for one in self.slots] + [one.name for one in self.words]
        )
        slots = {slot.name for slot in self.slots}
        words = {one.name for one in self.words}
        ids = {layer.id for layer in layers}
        choices = {one.name: {way.name for way in one.options} for one in self.choices}
        for layer in layers:
            _known("slot", layer.needs + layer.lacks, slots | words)
            for name, way in layer.when.items():
                _known("choice", (way,), choices.get(name, set()))
            if isinstance(layer, PlanPhoto):
                _known("slot", () if layer.slot is None else (layer.slot,), slots)
                stays = () if layer.picture is None else (layer.picture,)
                _known("picture", stays, set(self.pictures))
                if isinstance(layer.place, BESIDE):
                    _known("layer", (layer.place.layer,), ids)
            if isinstance(layer, PlanWords) and layer.says is not None:
                _known("words", (layer.says,), words)
            for part in layer.mask.parts if layer.mask else ():
                _known("layer", part.reads.layers, ids)
                drawn = getattr(part, "picture", ITSELF)
                _known("picture", (drawn,), {ITSELF, *self.pictures})
        _known("layer", (one for step in self.steps for one in step.layers), ids)
        colors = [getattr(one, at, None) for one in layers for at in COLORS_OF]
        named = [one.slot for one in (*colors, self.sheet.background_of) if one]
        follows = self.sheet.follows
        _known("slot", (*named, *([follows] if follows else [])), slots)
        self._require_no_circle()
        self._require_members_placed()
        return self

    def all_layers(self) -> Iterator[PlanLayer]:
        """Go through all layers, those in groups too.

        Returns
        -------
        iterator of PlanLayer
            From back to front, a group before its members.
        """
        return all_of(self.layers)

    def slot(self, name: str) -> Slot:
        """Return one slot.

        Parameters
        ----------
        name : str
            How one that is there is called.

        Returns
        -------
        Slot
            That one.
        """
        return next(one for one in self.slots if one.name == name)

    @property
    def is_fixed(self) -> bool:
        """Whether it is laid out for one sheet: something lies where it was put."""
        return any(getattr(one, "placement", None) for one in self.layers)

    def _require_members_placed(self) -> None:
        """Require that all photos and words in groups lie where they were put.

        Raises
        ------
        ValueError
            One follows a rule.
        """
        outside = {id(layer) for layer in self.layers}
        for layer in self.all_layers():
            if id(layer) in outside or not isinstance(layer, PlanPhoto | PlanWords):
                continue
            if layer.placement is None:
                message = f"the layer {layer.id} is in a group, and follows a rule"
                raise ValueError(message)

    def _require_no_circle(self) -> None:
        """Require that no photo's place follows from its own.

        Raises
        ------
        ValueError
            One does.
        """
        after = {
            layer.id: layer.place.layer
            for layer in self.all_layers()
            if isinstance(layer, PlanPhoto) and isinstance(layer.place, BESIDE)
        }
        for start in after:
            seen, at = {start}, after.get(start)
            while at is not None:
                if at in seen:
                    message = f"the place of layer {start} follows from itself"
                    raise ValueError(message)
                seen.add(at)
                at = after.get(at)


COLORS_OF = ("color_of", "start_of", "end_of", "ink_of", "stands_on")


class Filling(PlanValue):
    """What somebody put into a plan: photos, words, choices, and a sheet."""

    photos: dict[
        PlanName, Annotated[tuple[PictureId, ...], Field(max_length=MOST_PHOTOS)]
    ] = Field(default_factory=dict, max_length=MAX_SLOTS)
    words: dict[PlanName, Annotated[str, Field(max_length=LONGEST_WORDS)]] = Field(
        default_factory=dict, max_length=MAX_WORDS
    )
    choices: dict[PlanName, PlanName] = Field(
        default_factory=dict, max_length=MAX_CHOICES
    )
    sheet: Canvas | None = None
    """As large as the plan says where none is said."""
    name: Name | None = None


def _once(what: str, names: Iterable[str]) -> None:
    for name, count in Counter(names).items():
        if count > 1:
            message = f"the {what} {name} is there twice"
            raise ValueError(message)


def _known(what: str, names: Iterable[str], known: set[str]) -> None:
    for name in names:
        if name not in known:
            message = f"the {what} {name} is named, and is not there"
            raise ValueError(message)
