"""From one composite to another by ordinary edits, each one that a hand could make."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Final

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.model import (
    Box,
    ColorLayer,
    Composite,
    GradientLayer,
    GroupLayer,
    MendedLayer,
    MendingLayer,
    PhotoLayer,
    ToningLayer,
    WordsLayer,
)
from glyphaneme.core.edits import (
    AddColor,
    AddGradient,
    AddLayer,
    AddMending,
    AddPart,
    AddToning,
    AddWords,
    BlendLayer,
    CutOut,
    Edit,
    FadeLayer,
    GroupLayers,
    LockLayer,
    MendPhoto,
    NameLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    SettleMask,
    ShadeLayer,
    ShowLayer,
    ToneLayer,
    apply,
)
from glyphaneme.core.edits.lettering import name_of
from glyphaneme.core.edits.mask_whole import SETTLED
from glyphaneme.core.errors import CoreError, LayerUnsayableError
from glyphaneme.core.mask import Mask, MattePart
from glyphaneme.core.place import Placement
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from glyphaneme.core.document.model import Layer

CHANGED_IN_PLACE = (
    "name",
    "placement",
    "mask",
    "fades",
    "tones",
    "effects",
    "blend",
    "opacity",
    "visible",
    "locked",
)
"""What of a layer edits change without laying it on anew."""
BARE: Final = {
    "mask": None,
    "fades": (),
    "effects": (),
    "blend": BlendMode.NORMAL,
    "opacity": 1.0,
    "visible": True,
    "locked": False,
}
"""What a layer has when it was just laid on."""


def edits_to(composite: Composite) -> tuple[Edit, ...]:
    """Return the edits that make a composite, begun with an empty sheet like its own.

    Each is one that a hand could make, in the order in which a hand would: a photo is
    laid on, cut out, faded, toned, blended.

    Parameters
    ----------
    composite : Composite
        What shall come of it.

    Returns
    -------
    tuple of Edit
        Applied one after the other they give exactly that composite.

    Raises
    ------
    LayerUnsayableError
        Ordinary edits do not say all of a layer.
    """
    return edits_between(with_fields(composite, layers=()), composite)


def edits_between(before: Composite, after: Composite) -> tuple[Edit, ...]:
    """Return the edits that lead from one composite to another of much the same layers.

    Parameters
    ----------
    before, after : Composite
        Layers that have the same ids are changed, where they can be; one that cannot be
        changed so, or that only one of them has, is taken off or laid on.

    Returns
    -------
    tuple of Edit
        Applied one after the other they give `after`, but for the order of layers that
        both have.

    Raises
    ------
    LayerUnsayableError
        Ordinary edits do not say all of a layer.
    """
    ids = {layer.id for layer in after.layers}
    gone = [layer.id for layer in before.layers if layer.id not in ids]
    found: list[Edit] = [RemoveLayer(layer_id=one) for one in gone]
    if before.canvas != after.canvas:
        found.append(SetCanvas(canvas=after.canvas))
    now = _applied(before, found)
    for index, layer in enumerate(after.layers):
        there = next((one for one in now.layers if one.id == layer.id), None)
        if there == layer:
            continue
        edits = _changing(now, there, layer) if there is not None else None
        if edits is None:
            off = () if there is None else (RemoveLayer(layer_id=layer.id),)
            edits = (*off, *_laid_on(layer, index))
        now = _applied(now, edits)
        if now.layer(layer.id) != layer:
            raise LayerUnsayableError(layer.name)
        found += edits
    return tuple(found)


def _applied(composite: Composite, edits: Iterable[Edit]) -> Composite:
    for edit in edits:
        composite = apply(composite, edit)
    return composite


def _changing(
    composite: Composite, before: Layer, after: Layer
) -> tuple[Edit, ...] | None:
    """Return the edits that change a layer in its place; None where they cannot."""
    edits = tuple(_changed(before, after))
    try:
        found = _applied(composite, edits).layer(after.id)
    except CoreError:
        return None
    return edits if found == after else None


def _laid_on(layer: Layer, index: int) -> Iterator[Edit]:
    """Return the edits by which a layer is laid on, and all is done to it."""
    bare: dict[str, Any] = dict(BARE)
    if isinstance(layer, GroupLayer):
        yield from _put_together(layer, index)
        bare["placement"] = _upright(layer)
    else:
        yield _added(layer, index)
    if isinstance(layer, WordsLayer):
        bare["name"] = name_of(layer.words.setting.text)
    if hasattr(layer, "tones") and not isinstance(layer, ToningLayer):
        bare["tones"] = ()
    yield from _changed(with_fields(layer, **bare), layer)
    if isinstance(layer, MendedLayer):
        yield from (MendPhoto(layer_id=layer.id, mend=one) for one in layer.mends)


def _added(layer: Layer, index: int) -> Edit:
    """Return the edit that lays a layer on which holds no others.

    Raises
    ------
    LayerUnsayableError
        It is of no such kind.
    """
    place = {"layer_id": layer.id, "index": index}
    name = {**place, "name": layer.name}
    if isinstance(layer, PhotoLayer):
        return AddLayer(
            **name,
            picture=layer.picture,
            width=layer.width,
            height=layer.height,
            placement=layer.placement,
        )
    if isinstance(layer, ColorLayer):
        return AddColor(**name, color=layer.color)
    if isinstance(layer, GradientLayer):
        return AddGradient(**name, gradient=layer.gradient)
    if isinstance(layer, ToningLayer):
        return AddToning(**name, tones=layer.tones)
    if isinstance(layer, MendingLayer):
        return AddMending(**name)
    if isinstance(layer, WordsLayer):
        return AddWords(
            **place,
            words=layer.words,
            measure=layer.measure,
            placement=layer.placement,
        )
    raise LayerUnsayableError(layer.name)


def _upright(layer: GroupLayer) -> Placement:
    """Return where a group lies that was just put together."""
    x, y = layer.width / 2, layer.height / 2
    return Placement(x=x, y=y, scale_x=1, scale_y=1)


def _put_together(layer: GroupLayer, index: int) -> Iterator[Edit]:
    """Return the edits by which members are laid on, and put into their group.

    Raises
    ------
    LayerUnsayableError
        It has none.
    """
    if not layer.layers:
        raise LayerUnsayableError(layer.name)
    for place, member in enumerate(layer.layers):
        yield from _laid_on(member, index + place)
    yield GroupLayers(
        group_id=layer.id,
        name=layer.name,
        layer_ids=tuple(member.id for member in layer.layers),
        # From the sheet's corner on: so members stay where they are.
        box=Box(left=0, top=0, width=layer.width, height=layer.height),
    )


def _changed(before: Layer, after: Layer) -> Iterator[Edit]:
    """Return the edits that change a layer to another of its kind, as a hand would."""
    layer_id = after.id
    differs = {
        name
        for name in CHANGED_IN_PLACE
        if getattr(before, name, None) != getattr(after, name, None)
    }
    if "name" in differs:
        yield NameLayer(layer_id=layer_id, name=after.name)
    placement = getattr(after, "placement", None)
    if "placement" in differs and placement is not None:
        yield PlaceLayer(layer_id=layer_id, placement=placement)
    if "mask" in differs:
        yield from _masked(layer_id, before.mask or Mask(), after.mask or Mask())
    if "fades" in differs:
        yield FadeLayer(layer_id=layer_id, fades=after.fades)
    if "tones" in differs:
        yield ToneLayer(layer_id=layer_id, tones=getattr(after, "tones", ()))
    if "effects" in differs:
        yield ShadeLayer(layer_id=layer_id, effects=after.effects)
    if {"blend", "opacity"} & differs:
        yield BlendLayer(layer_id=layer_id, mode=after.blend, opacity=after.opacity)
    if "visible" in differs:
        yield ShowLayer(layer_id=layer_id, visible=after.visible)
    if "locked" in differs:
        yield LockLayer(layer_id=layer_id, locked=after.locked)


def _masked(layer_id: str, before: Mask, after: Mask) -> Iterator[Edit]:
    """Return the edits that make a mask of another; what they cannot say stays."""
    now = before
    known = {part.id: part for part in before.parts}
    for place, part in enumerate(after.parts):
        if known.get(part.id) == part:
            continue
        if isinstance(part, MattePart) and place == 0 and not before.parts:
            yield CutOut(layer_id=layer_id, part=part)
            now = with_fields(now, cleaned=1.0)
        else:
            yield AddPart(layer_id=layer_id, part=part, index=place)
    settled = {name: getattr(after, name) for name in SETTLED}
    if settled != {name: getattr(now, name) for name in SETTLED}:
        yield SettleMask(layer_id=layer_id, **settled)
