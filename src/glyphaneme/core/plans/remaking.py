"""A plan of a picture: some of its photos become slots, all else stays as it is."""

from __future__ import annotations

import re
import unicodedata
from typing import TYPE_CHECKING, Annotated, Any, NamedTuple

from pydantic import Field

from glyphaneme.core.document.model import (
    ColorLayer,
    GradientLayer,
    GroupLayer,
    LayerBase,
    MendingLayer,
    PhotoLayer,
    PictureId,
    ToningLayer,
    WordsLayer,
)
from glyphaneme.core.edits.lettering import name_of
from glyphaneme.core.mask import LayerPart, Mask, MattePart
from glyphaneme.core.plans.base import PlanValue
from glyphaneme.core.plans.layers import (
    ITSELF,
    PlanColor,
    PlanGradient,
    PlanGroup,
    PlanMending,
    PlanPhoto,
    PlanToning,
    PlanWords,
)
from glyphaneme.core.plans.values import (
    MAX_SLOTS,
    MAX_STEPS,
    MAX_WORDS,
    Plan,
    PlanSheet,
    PlanStep,
    Said,
    Slot,
    Title,
    WordsSlot,
)
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator, Mapping

    from glyphaneme.core.document.model import Composite, Layer
    from glyphaneme.core.plans.layers import PlanLayer

LONGEST_SLUG = 36
OF_ALL = tuple(one for one in LayerBase.model_fields if one not in {"id", "name"})


class NewSlot(PlanValue):
    """A photo of a picture whose place others shall take."""

    picture: PictureId
    title: Title
    suits: Said = ""


class NewPlan(PlanValue):
    """What somebody says of a plan that is made of a picture."""

    title: Title
    about: Said = ""
    slots: Annotated[tuple[NewSlot, ...], Field(max_length=MAX_SLOTS)] = ()


class OwnPicture(NamedTuple):
    """A picture that a composite shows: its file, and what it is called."""

    sha256: str
    name: str


def plan_of(
    composite: Composite, asked: NewPlan, pictures: Mapping[str, OwnPicture]
) -> Plan:
    """Make a plan of a picture.

    Its arrangement, fades, tones and words stay; what was cut out is cut out in the
    same way of other photos. With the same photos it makes the same picture.

    Parameters
    ----------
    composite : Composite
        The picture.
    asked : NewPlan
        What it is called, and which photos become slots; a photo that shows in
        several layers is one slot.
    pictures : mapping of OwnPicture
        All that the composite shows, by their ids.

    Returns
    -------
    Plan
        Named after its title.

    Raises
    ------
    ValueError
        It has more layers, words or pictures than a plan may.
    """
    return _Remaking(composite, asked, pictures).plan()


def slug_of(title: str, otherwise: str) -> str:
    """Return a name as plans use them for what is called something.

    Parameters
    ----------
    title : str
        Whatever people call it.
    otherwise : str
        What it is called where none of its letters will do.

    Returns
    -------
    str
        Lower case, digits and hyphens, beginning with a letter.

    Examples
    --------
    >>> slug_of("Été à la mer!", "photo"), slug_of("灯", "photo"), slug_of("3", "photo")
    ('ete-a-la-mer', 'photo', 'photo-3')
    """
    plain = unicodedata.normalize("NFKD", title).encode("ascii", "ignore").decode()
    found = re.sub(r"[^a-z0-9]+", "-", plain.lower()).strip("-")
    if not found:
        return otherwise
    if not found[0].isalpha():
        found = f"{otherwise}-{found}"
    return found[:LONGEST_SLUG].strip("-")


class _Names:
    """Gives names, none twice."""

    def __init__(self) -> None:
        self._taken: set[str] = set()

    def take(self, wanted: str) -> str:
        found, number = wanted, 1
        while found in self._taken:
            number += 1
            found = f"{wanted}-{number}"
        self._taken.add(found)
        return found


class _Remaking:
    def __init__(
        self, composite: Composite, asked: NewPlan, pictures: Mapping[str, OwnPicture]
    ) -> None:
        self._composite = composite
        self._asked = asked
        self._pictures = pictures
        self._stays: dict[str, str] = {}
        self._words: list[WordsSlot] = []
        named, inputs = _Names(), _Names()
        self._ids = {
            layer.id: named.take(_id_of(layer)) for layer in composite.all_layers()
        }
        self._slots = {
            one.picture: inputs.take(slug_of(one.title, "photo"))
            for one in asked.slots
            if one.picture in pictures
        }
        self._inputs = inputs
        self._kept = _Names()

    def plan(self) -> Plan:
        canvas = self._composite.canvas
        layers = tuple(self._layer(layer) for layer in self._composite.layers)
        slots = [one for one in self._asked.slots if one.picture in self._slots]
        titles = " and ".join(f"{{{self._slots[one.picture]}}}" for one in slots)
        return Plan(
            name=slug_of(self._asked.title, "plan"),
            title=self._asked.title,
            sentence=f"{self._asked.title} with {titles}." if titles else "",
            about=self._asked.about,
            sheet=PlanSheet(
                width=canvas.width,
                height=canvas.height,
                ppi=canvas.ppi,
                background=canvas.background,
            ),
            slots=tuple(
                Slot(
                    name=self._slots[one.picture],
                    title=one.title,
                    suits=one.suits,
                    made_with=self._pictures[one.picture].sha256,
                )
                for one in slots
            ),
            words=tuple(self._words),
            layers=layers,
            pictures=self._stays,
            steps=tuple(self._steps(slots))[:MAX_STEPS],
        )

    def _layer(self, layer: Layer) -> PlanLayer:
        """Return a plan's layer.

        Raises
        ------
        TypeError
            Plans have no such kind.
        """
        base: dict[str, Any] = {name: getattr(layer, name) for name in OF_ALL}
        base |= {"id": self._ids[layer.id], "name": layer.name}
        base["mask"] = self._mask(layer)
        if isinstance(layer, PhotoLayer):
            return self._photo(layer, base)
        if isinstance(layer, WordsLayer):
            return self._lettering(layer, base)
        if isinstance(layer, GroupLayer):
            members = tuple(self._layer(member) for member in layer.layers)
            own = {
                "width": layer.width,
                "height": layer.height,
                "placement": layer.placement,
            }
            return PlanGroup(**base, **own, layers=members, tones=layer.tones)
        if isinstance(layer, ColorLayer):
            return PlanColor(**base, color=layer.color)
        if isinstance(layer, GradientLayer):
            return PlanGradient(**base, gradient=layer.gradient)
        if isinstance(layer, MendingLayer):
            return PlanMending(**base, mends=layer.mends)
        if isinstance(layer, ToningLayer):
            return PlanToning(**base, tones=layer.tones)
        raise TypeError(layer)

    def _photo(self, layer: PhotoLayer, base: dict[str, Any]) -> PlanPhoto:
        known = self._pictures.get(layer.picture)
        slot = self._slots.get(layer.picture)
        if known is not None and known.name == layer.name and slot is not None:
            base["name"] = None
        return PlanPhoto(
            **base,
            slot=slot,
            picture=None if slot is not None else self._staying(layer.picture),
            placement=layer.placement,
            width=layer.width,
            height=layer.height,
            mends=layer.mends,
            tones=layer.tones,
        )

    def _lettering(self, layer: WordsLayer, base: dict[str, Any]) -> PlanWords:
        text = layer.words.setting.text
        if layer.name == name_of(text):
            base["name"] = None
        says = None
        if len(self._words) < MAX_WORDS:
            says = self._inputs.take(slug_of(layer.name, "words"))
            title = layer.name[:80]
            self._words.append(WordsSlot(name=says, title=title, text=text))
        return PlanWords(
            **base,
            words=layer.words,
            says=says,
            placement=layer.placement,
            tones=layer.tones,
        )

    def _mask(self, layer: Layer) -> Mask | None:
        """Return a mask whose parts name layers and pictures as the plan does."""
        if layer.mask is None:
            return None
        own = layer.picture if isinstance(layer, PhotoLayer) else None
        parts = []
        for part in layer.mask.parts:
            changed: dict[str, Any] = {}
            if isinstance(part, LayerPart):
                changed["layer_id"] = self._ids.get(part.layer_id, part.layer_id)
            drawn = getattr(part, "picture", None)
            if drawn is not None:
                changed["picture"] = ITSELF if drawn == own else self._staying(drawn)
            parts.append(with_fields(part, **changed))
        return with_fields(layer.mask, parts=tuple(parts))

    def _staying(self, picture: str) -> str:
        known = self._pictures.get(picture)
        sha256 = known.sha256 if known is not None else ""
        for name, there in self._stays.items():
            if there == sha256:
                return name
        called = slug_of(known.name if known else "", "picture")
        name = self._kept.take("picture" if called == ITSELF else called)
        self._stays[name] = sha256
        return name

    def _steps(self, slots: Iterable[NewSlot]) -> Iterator[PlanStep]:
        """Yield a step for each slot whose photos are cut out."""
        for slot in slots:
            name = self._slots[slot.picture]
            cut = next(
                (
                    self._ids[layer.id]
                    for layer in self._composite.all_layers()
                    if isinstance(layer, PhotoLayer)
                    and layer.picture == slot.picture
                    and any(isinstance(p, MattePart) for p in _parts(layer))
                ),
                None,
            )
            if cut is not None:
                yield PlanStep(
                    name=name,
                    question=f"{slot.title}: is the outline right?"[:80],
                    advice="Look at hair and thin parts, and along the edge.",
                    layers=(cut,),
                    facet="cut",
                    link="paint roughly",
                )


def _parts(layer: Layer) -> tuple[object, ...]:
    return layer.mask.parts if layer.mask is not None else ()


def _id_of(layer: Layer) -> str:
    """Return a layer's own id where a plan gave it, else one by its name."""
    if re.fullmatch(r"[a-z][a-z-]{0,30}(-\d{1,3})?", layer.id):
        return layer.id
    return slug_of(layer.name, "layer")
