"""Fades of one layer for another, and photos that melt into one another."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Literal, NamedTuple

import numpy as np

from glyphaneme.core.document.model import PhotoLayer, PlacedLayer
from glyphaneme.core.mask import Fade
from glyphaneme.core.mask.fades import GREATEST_ASPECT, LEAST_ASPECT
from glyphaneme.core.place import (
    Placement,
    canvas_to_source,
    kept_position,
    kept_scale,
    source_to_canvas,
    wrapped_turn,
)
from glyphaneme.core.place.span import moved_span
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

    from glyphaneme.core.document.model import Canvas, Layer

Axis = Literal["across", "down"]


def scaled_fades(source: Layer, target: Layer, canvas: Canvas) -> tuple[Fade, ...]:
    """Return one layer's fades in proportion to another's size.

    Parameters
    ----------
    source : Layer
        Whose fades.
    target : Layer
        For which layer.
    canvas : Canvas
        What colours and gradients count as covering.

    Returns
    -------
    tuple of Fade
        What faded to the left quarter does so again; they move with the layer as
        they did.
    """
    size, wanted = _size_of(source, canvas), _size_of(target, canvas)
    return tuple(
        _stretched(fade, wanted[0] / size[0], wanted[1] / size[1])
        for fade in source.fades
    )


def relinked_fade(fade: Fade, layer: PlacedLayer, *, linked: bool) -> Fade:
    """Let a fade move with its layer, or stay while the layer moves.

    Parameters
    ----------
    fade : Fade
        One of the layer's.
    layer : PhotoLayer or GroupLayer
        Where it lies now.
    linked : bool
        Whether it moves with the layer from now on.

    Returns
    -------
    Fade
        It lies where it lay, as nearly as its numbers can say it: they know no more
        than one scale.
    """
    if fade.linked == linked:
        return fade
    size = {"width": layer.width, "height": layer.height}
    to_other = canvas_to_source if linked else source_to_canvas
    moved = moved_span(fade, to_other(layer.placement, **size))
    return with_fields(moved, linked=linked)


class Melted(NamedTuple):
    """Where a photo comes to lie, and how it fades."""

    layer_id: str
    placement: Placement
    fades: tuple[Fade, ...]


def melted(
    photos: Sequence[PhotoLayer],
    *,
    axis: Axis,
    overlap: float,
    size: tuple[float, float],
    spots: Mapping[str, tuple[float, float]] = {},
) -> tuple[Melted, ...]:
    """Lay photos in a row so that each melts into the next.

    Each covers an equal share of what they lie in, and half the overlap beyond. Where
    two meet, the front one fades out over the overlap and the one behind goes on
    beneath it, so that nothing else shows through.

    Parameters
    ----------
    photos : sequence of PhotoLayer
        From back to front, two at least; in the row as they lie from left, or top.
    axis : "across" or "down"
        Which way the row runs.
    overlap : float, pixels
        How wide each melts into the next.
    size : float, float, pixels
        Of what they lie in.
    spots : mapping of str to (float, float), optional
        By their ids, what of photos comes as near to the middle of what each covers
        alone as nothing of its part stays empty, in their own pixels; the middle of
        those that are not named.

    Returns
    -------
    tuple of Melted
        From back to front.
    """
    along = 0 if axis == "across" else 1
    row = sorted(photos, key=lambda one: (one.placement.x, one.placement.y)[along])
    rank = {photo.id: place for place, photo in enumerate(photos)}
    share = size[along] / len(row)
    found = {}
    for place, photo in enumerate(row):
        before, after = row[:place][-1:], row[place + 1 :][:1]
        begin = place * share - (overlap / 2 if before else 0)
        end = (place + 1) * share + (overlap / 2 if after else 0)
        alone = (place + 0.5) * share
        placement = _covering(photo, along, (begin, end), size)
        if photo.id in spots:
            aim = [size[0] / 2, size[1] / 2]
            aim[along] = alone
            box = [size[0], size[1]]
            box[along] = end - begin
            placement = _aimed(photo, placement, spots[photo.id], aim, box)
        # Whoever lies in front is the one that fades.
        seams = [
            (at, turn)
            for neighbours, at, turn in (
                (before, place * share, 180.0),
                (after, (place + 1) * share, 0.0),
            )
            if any(rank[photo.id] > rank[other.id] for other in neighbours)
        ]
        to_photo = canvas_to_source(placement, width=photo.width, height=photo.height)
        fades = tuple(
            moved_span(_seam(along, at, turn, overlap, size), to_photo)
            for at, turn in seams
        )
        found[photo.id] = Melted(photo.id, placement, fades)
    return tuple(found[photo.id] for photo in photos)


def _seam(
    along: int, at: float, turn: float, overlap: float, size: tuple[float, float]
) -> Fade:
    """Return a fade that ends there, to the right or down, turned round by `turn`."""
    middle = [size[0] / 2, size[1] / 2]
    middle[along] = at
    angle = wrapped_turn(90.0 * along + turn)
    return Fade(x=middle[0], y=middle[1], length=overlap, angle=angle)


def _covering(
    photo: PhotoLayer,
    along: int,
    part: tuple[float, float],
    size: tuple[float, float],
) -> Placement:
    """Lay a photo upright over a part of its row, as small as covers that."""
    wanted = [size[0], size[1]]
    middle = [size[0] / 2, size[1] / 2]
    wanted[along] = part[1] - part[0]
    # A pixel more all round, so that no edge lies on the edge of what they lie in.
    wanted = [side + 2 for side in wanted]
    middle[along] = (part[0] + part[1]) / 2
    scale = kept_scale(max(wanted[0] / photo.width, wanted[1] / photo.height))
    return with_fields(
        photo.placement,
        x=kept_position(middle[0]),
        y=kept_position(middle[1]),
        scale_x=scale,
        scale_y=scale,
        turn=0.0,
        crop=None,
        corners=None,
        bend=None,
    )


def _aimed(
    photo: PhotoLayer,
    placement: Placement,
    spot: tuple[float, float],
    aim: Sequence[float],
    box: Sequence[float],
) -> Placement:
    """Move a spot of a photo that covers a box nearer to an aim, still covering it."""
    size = {"width": photo.width, "height": photo.height}
    at = source_to_canvas(placement, **size) @ (*spot, 1)
    slack = [
        max((side * placement.scale_x - needed) / 2, 0.0)
        for side, needed in zip((photo.width, photo.height), box, strict=True)
    ]
    x, y = (
        middle + min(max(wanted - there, -room), room)
        for middle, wanted, there, room in zip(
            (placement.x, placement.y), aim, at, slack, strict=True
        )
    )
    return with_fields(placement, x=kept_position(x), y=kept_position(y))


def _size_of(layer: Layer, canvas: Canvas) -> tuple[float, float]:
    if isinstance(layer, PlacedLayer):
        return layer.width, layer.height
    return canvas.width, canvas.height


def _stretched(fade: Fade, across: float, down: float) -> Fade:
    """Stretch a fade by two factors; what runs askew keeps its right angles."""
    stretch = np.array([[across, 0, 0], [0, down, 0]])
    moved = moved_span(fade, stretch)
    beside = math.radians(fade.angle + 90)
    factor = math.hypot(across * math.cos(beside), down * math.sin(beside))
    aspect = fade.aspect * factor * fade.length / moved.length
    return with_fields(moved, aspect=min(max(aspect, LEAST_ASPECT), GREATEST_ASPECT))
