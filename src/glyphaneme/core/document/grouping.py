"""Takes layers out of groups and puts them in, so that they stay where they show."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.document.model import (
    Box,
    Canvas,
    GradientLayer,
    GroupLayer,
    Layer,
    MendingLayer,
    PlacedLayer,
    ToningLayer,
)
from glyphaneme.core.effect import MAX_EFFECTS
from glyphaneme.core.place import (
    Placement,
    canvas_to_source,
    corners_on_canvas,
    kept_position,
    placed_inside,
    placed_outside,
    source_to_canvas,
)
from glyphaneme.core.place.limits import FARTHEST
from glyphaneme.core.place.span import moved_span
from glyphaneme.core.place.transform import pixel_size
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.tone import MAX_TONES, scaled
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence

    from glyphaneme.core.arrays import MatrixF64, PointsF64
    from glyphaneme.core.effect import Effect
    from glyphaneme.core.tone import Tone


def lifted(layer: Layer, group: GroupLayer) -> Layer:
    """Return a group's member as it must be to show the same without the group.

    Parameters
    ----------
    layer : Layer
        A member; its blend mode and strength stay as they are.
    group : GroupLayer
        The group that it is taken out of.

    Returns
    -------
    Layer
        Placed in what the group itself lies in.
    """
    place, size = group.placement, {"width": group.width, "height": group.height}
    placement = None
    if isinstance(layer, PlacedLayer):
        placement = placed_outside(layer.placement, group=place, **size)
    return _carried(layer, source_to_canvas(place, **size), placement)


def with_tones(layer: Layer, tones: tuple[Tone, ...]) -> Layer:
    """Return a group's member that is toned as the group is, after its own tones.

    Parameters
    ----------
    layer : Layer
        A member; colours and gradients stay as they are.
    tones : tuple of Tone
        The group's, in its own pixels; those beyond the limit are left out.

    Returns
    -------
    Layer
        The same where nothing is added.
    """
    if not tones or not isinstance(layer, PlacedLayer):
        return layer
    smaller = scaled(tones, 1 / pixel_scale((layer,)))
    return with_fields(layer, tones=(*layer.tones, *smaller)[:MAX_TONES])


def with_effects(layer: Layer, effects: tuple[Effect, ...]) -> Layer:
    """Return a group's member with the group's shadows and outlines.

    Parameters
    ----------
    layer : Layer
        A member, out of its group; one that lies everywhere stays as it is.
    effects : tuple of Effect
        The group's; those beyond the limit are left out.

    Returns
    -------
    Layer
        The same where nothing is added.
    """
    if not effects or not isinstance(layer, PlacedLayer):
        return layer
    return with_fields(layer, effects=(*layer.effects, *effects)[:MAX_EFFECTS])


def pixel_scale(path: Sequence[Layer]) -> float:
    """Return how many pixels of the canvas lie on one of a layer's own, along a side.

    Parameters
    ----------
    path : sequence of Layer
        The groups that it lies in, the outermost first, and the layer itself.

    Returns
    -------
    float
        A layer that lies everywhere has the pixels of what it lies in.
    """
    found = 1.0
    for layer in path:
        if isinstance(layer, PlacedLayer):
            size = {"width": layer.width, "height": layer.height}
            found *= pixel_size(source_to_canvas(layer.placement, **size))
    return found


def lowered(layer: Layer, group: GroupLayer) -> Layer:
    """Return a layer as it must be to show the same as a group's member.

    Parameters
    ----------
    layer : Layer
        What lies beside the group.
    group : GroupLayer
        The group that it is put into.

    Returns
    -------
    Layer
        The inverse of `lifted`.
    """
    place, size = group.placement, {"width": group.width, "height": group.height}
    placement = None
    if isinstance(layer, PlacedLayer):
        placement = placed_inside(layer.placement, group=place, **size)
    return _carried(layer, canvas_to_source(place, **size), placement)


def shifted(layer: Layer, x: float, y: float) -> Layer:
    """Return a layer moved by some pixels.

    Parameters
    ----------
    layer : Layer
        Any layer.
    x, y : float, pixels
        How far to the right and down.

    Returns
    -------
    Layer
        Colours stay, since they lie everywhere; their masks move.
    """
    placement = None
    if isinstance(layer, PlacedLayer):
        place = layer.placement
        placement = with_fields(
            place, x=kept_position(place.x + x), y=kept_position(place.y + y)
        )
    return _carried(layer, np.array([[1.0, 0, x], [0, 1.0, y]]), placement)


def carried(layer: Layer, by: Placement) -> Layer:
    """Return a layer as all that it lies in is moved, scaled and turned about a corner.

    Parameters
    ----------
    layer : Layer
        Any layer.
    by : Placement
        The corner, where positions count from, comes to lie at its `x` and `y`; scaled
        in proportion.

    Returns
    -------
    Layer
        Colours stay, since they lie everywhere; their masks move.
    """
    placement = None
    if isinstance(layer, PlacedLayer):
        placement = placed_outside(layer.placement, group=by, width=0, height=0)
    return _carried(layer, source_to_canvas(by, width=0, height=0), placement)


def box_round(
    layers: Sequence[Layer], canvas: Canvas, *, within: float = FARTHEST / 2
) -> Box:
    """Return the smallest box of whole pixels that holds all layers.

    Parameters
    ----------
    layers : sequence of Layer
        At least one.
    canvas : Canvas
        What colours and gradients count as covering.
    within : float, pixels
        How far from the canvas's corner the box may reach. Half of what a position
        may be, so that positions counted from the box's corner are ones, too.

    Returns
    -------
    Box
        Smaller than the layers where they reach further: nothing is cut off at it.
    """
    points = np.concatenate([outline_of(layer, canvas) for layer in layers])
    left, top = np.floor(points.min(axis=0)).clip(-within, within)
    right, bottom = np.ceil(points.max(axis=0)).clip(-within, within)
    width, height = max(int(right - left), 1), max(int(bottom - top), 1)
    return Box(
        left=kept_position(left), top=kept_position(top), width=width, height=height
    )


def grouped(
    layers: Sequence[Layer], *, group_id: str, name: str, box: Box
) -> GroupLayer:
    """Put layers into a new group that shows as they did, at full strength.

    Parameters
    ----------
    layers : sequence of Layer
        From back to front, at least one.
    group_id, name : str
        For the group.
    box : Box
        Where the group's own sheet lies.

    Returns
    -------
    GroupLayer
        Upright; nothing is cut off where its layers reach beyond the box.
    """
    return GroupLayer(
        id=group_id,
        name=name,
        width=box.width,
        height=box.height,
        placement=Placement(
            x=kept_position(box.left + box.width / 2),
            y=kept_position(box.top + box.height / 2),
            scale_x=1,
            scale_y=1,
        ),
        layers=tuple(shifted(layer, -box.left, -box.top) for layer in layers),
    )


def lifted_through(layer: Layer, groups: Iterable[GroupLayer]) -> Layer:
    """Take a layer out of several groups that lie in one another.

    Parameters
    ----------
    layer : Layer
        What lies in the innermost group.
    groups : iterable of GroupLayer
        The innermost one first.

    Returns
    -------
    Layer
        Placed on the canvas.
    """
    for group in groups:
        layer = lifted(layer, group)
    return layer


def on_canvas(path: Sequence[Layer]) -> Layer:
    """Return a layer as it lies on the canvas, out of all groups.

    Parameters
    ----------
    path : sequence of Layer
        The groups that it lies in, the outermost first, and the layer itself.

    Returns
    -------
    Layer
        Placed on the canvas.
    """
    *groups, layer = path
    around = [group for group in reversed(groups) if isinstance(group, GroupLayer)]
    return lifted_through(layer, around)


def lowered_through(layer: Layer, groups: Iterable[GroupLayer]) -> Layer:
    """Put a layer into several groups that lie in one another.

    Parameters
    ----------
    layer : Layer
        What lies on the canvas.
    groups : iterable of GroupLayer
        The outermost one first.

    Returns
    -------
    Layer
        Placed in the innermost group.
    """
    for group in groups:
        layer = lowered(layer, group)
    return layer


def outline_of(layer: Layer, canvas: Canvas) -> PointsF64:
    """Return points round all that a layer reaches over, in what it lies in.

    Parameters
    ----------
    layer : Layer
        Any layer.
    canvas : Canvas
        What colours and gradients count as covering.

    Returns
    -------
    (N, 2) float64
        Of a photo or group its frame's, as it is turned and warped.
    """
    if isinstance(layer, PlacedLayer):
        size = {"width": layer.width, "height": layer.height}
        if layer.placement.is_warped:
            return warp_of(layer.placement, **size).outline
        return corners_on_canvas(layer.placement, **size)
    return np.array([[0, 0], [canvas.width, canvas.height]], np.float64)


def _carried(layer: Layer, move: MatrixF64, placement: Placement | None) -> Layer:
    """Move all of a layer that is measured in what it lies in."""
    fields: dict[str, object] = {}
    if placement is not None:
        fields["placement"] = placement
    if isinstance(layer, GradientLayer):
        fields["gradient"] = moved_span(layer.gradient, move)
    is_placed = placement is not None
    if isinstance(layer, ToningLayer):
        fields["tones"] = scaled(layer.tones, pixel_size(move))
    if isinstance(layer, MendingLayer):
        fields["mends"] = tuple(mend.carried(move) for mend in layer.mends)
    if layer.effects:
        size = pixel_size(move)
        fields["effects"] = tuple(one.scaled(size) for one in layer.effects)
    if layer.mask and not (is_placed and layer.mask.linked):
        fields["mask"] = layer.mask.carried(move)
    if layer.fades:
        fields["fades"] = tuple(
            fade if is_placed and fade.linked else moved_span(fade, move)
            for fade in layer.fades
        )
    return with_fields(layer, **fields) if fields else layer
