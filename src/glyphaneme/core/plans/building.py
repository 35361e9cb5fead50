"""From one composite to another by ordinary edits, each one that a hand could make."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.model import (
    ColorLayer,
    Composite,
    GradientLayer,
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
    AddWhole,
    AddWords,
    BlendLayer,
    CutOut,
    Edit,
    FadeLayer,
    LockLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    SettleMask,
    ShadeLayer,
    ShowLayer,
    ToneLayer,
    apply,
)
from glyphaneme.core.errors import CoreError
from glyphaneme.core.mask import Mask, MattePart
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.document.model import Layer

SETTLED = ("inverted", "strength", "softened", "grown", "smoothed", "cleaned")
CHANGED_IN_PLACE = (
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


def edits_to(composite: Composite) -> tuple[Edit, ...]:
    """Return the edits that make a composite, begun with an empty sheet like its own.

    Each is one that a hand could make, in the order in which a hand would: a photo is
    laid on, cut out, faded, toned, blended. A layer of which they cannot say all is
    laid on whole.

    Parameters
    ----------
    composite : Composite
        What shall come of it.

    Returns
    -------
    tuple of Edit
        Applied one after the other they give exactly that composite.
    """
    now = with_fields(composite, layers=())
    found: list[Edit] = []
    for layer in composite.layers:
        edits = tuple(_laid_on(layer))
        after = _tried(now, edits, layer)
        if after is None:
            edits = (AddWhole(layer_id=layer.id, name=layer.name, layer=layer),)
            after = with_fields(now, layers=(*now.layers, layer))
        found += edits
        now = after
    return tuple(found)


def edits_between(before: Composite, after: Composite) -> tuple[Edit, ...]:
    """Return the edits that lead from one composite to another of the same layers.

    Parameters
    ----------
    before, after : Composite
        Their layers that have the same ids are changed, where they can be; a layer that
        cannot be changed so, or that only one of them has, is taken off or laid on.

    Returns
    -------
    tuple of Edit
        Applied one after the other they give `after`, but for the order of layers that
        both have.
    """
    found: list[Edit] = []
    now = before
    if before.canvas != after.canvas:
        found.append(SetCanvas(canvas=after.canvas))
    ids = {layer.id for layer in after.layers}
    gone = [layer.id for layer in before.layers if layer.id not in ids]
    found += [RemoveLayer(layer_id=one) for one in gone]
    for edit in found:
        now = apply(now, edit)
    for index, layer in enumerate(after.layers):
        there = next((one for one in now.layers if one.id == layer.id), None)
        if there == layer:
            continue
        edits = tuple(_changed(there, layer)) if there is not None else ()
        changed = _tried(now, edits, layer) if there is not None else None
        if changed is None:
            removed = (RemoveLayer(layer_id=layer.id),) if there is not None else ()
            whole = AddWhole(
                layer_id=layer.id, name=layer.name, layer=layer, index=index
            )
            edits = (*removed, whole)
            changed = now
            for edit in edits:
                changed = apply(changed, edit)
        found += edits
        now = changed
    return tuple(found)


def _tried(
    composite: Composite, edits: tuple[Edit, ...], wanted: Layer
) -> Composite | None:
    """Return what edits make of a composite; None where it is not what was wanted."""
    try:
        for edit in edits:
            composite = apply(composite, edit)
        return composite if composite.layer(wanted.id) == wanted else None
    except CoreError:
        return None


def _laid_on(layer: Layer) -> Iterator[Edit]:
    """Return the edits by which a layer is laid on, and all is done to it."""
    name = {"layer_id": layer.id, "name": layer.name}
    bare: Layer
    if isinstance(layer, PhotoLayer):
        yield AddLayer(
            **name,
            picture=layer.picture,
            width=layer.width,
            height=layer.height,
            placement=layer.placement,
        )
    elif isinstance(layer, ColorLayer):
        yield AddColor(**name, color=layer.color)
    elif isinstance(layer, GradientLayer):
        yield AddGradient(**name, gradient=layer.gradient)
    elif isinstance(layer, ToningLayer):
        yield AddToning(**name, tones=layer.tones)
    elif isinstance(layer, MendingLayer):
        yield AddMending(**name)
    elif isinstance(layer, WordsLayer):
        yield AddWords(
            layer_id=layer.id,
            words=layer.words,
            measure=layer.measure,
            placement=layer.placement,
        )
    tones = {"tones": ()} if hasattr(layer, "tones") and layer.kind != "toning" else {}
    plain = {"mask": None, "fades": (), "effects": (), "blend": BlendMode.NORMAL}
    bare = with_fields(layer, **plain, **tones, opacity=1.0, visible=True, locked=False)
    yield from _changed(bare, layer)


def _changed(before: Layer, after: Layer) -> Iterator[Edit]:
    """Return the edits that change a layer to another of its kind, as a hand would."""
    layer_id = after.id
    differs = {
        name
        for name in CHANGED_IN_PLACE
        if getattr(before, name, None) != getattr(after, name, None)
    }
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
