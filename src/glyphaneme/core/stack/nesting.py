"""Takes layers out of groups and puts them in, so that they stay where they show."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.place import (
    Placement,
    canvas_to_source,
    corners_on_canvas,
    placed_inside,
    placed_outside,
    source_to_canvas,
    wrapped_turn,
)
from glyphaneme.core.stack.model import (
    Canvas,
    GradientLayer,
    GroupLayer,
    Layer,
    PhotoLayer,
)

if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence

    from glyphaneme.core.arrays import MatrixF64, PointsF64
    from glyphaneme.core.stack.gradients import Gradient


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
    if isinstance(layer, PhotoLayer | GroupLayer):
        placement = placed_outside(layer.placement, group=place, **size)
        return layer.model_copy(update={"placement": placement})
    if isinstance(layer, GradientLayer):
        gradient = _moved_gradient(layer.gradient, source_to_canvas(place, **size))
        return layer.model_copy(update={"gradient": gradient})
    return layer


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
    if isinstance(layer, PhotoLayer | GroupLayer):
        placement = placed_inside(layer.placement, group=place, **size)
        return layer.model_copy(update={"placement": placement})
    if isinstance(layer, GradientLayer):
        gradient = _moved_gradient(layer.gradient, canvas_to_source(place, **size))
        return layer.model_copy(update={"gradient": gradient})
    return layer


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
        Colours stay, since they lie everywhere.
    """
    if isinstance(layer, PhotoLayer | GroupLayer):
        place = layer.placement
        moved = place.model_copy(update={"x": place.x + x, "y": place.y + y})
        return layer.model_copy(update={"placement": moved})
    if isinstance(layer, GradientLayer):
        gradient = _moved_gradient(layer.gradient, np.array([[1, 0, x], [0, 1, y]]))
        return layer.model_copy(update={"gradient": gradient})
    return layer


def grouped(
    layers: Sequence[Layer], *, group_id: str, name: str, canvas: Canvas
) -> GroupLayer:
    """Put layers into a new group that shows as they did, at full strength.

    Parameters
    ----------
    layers : sequence of Layer
        From back to front, at least one.
    group_id, name : str
        For the group.
    canvas : Canvas
        What colours and gradients count as covering.

    Returns
    -------
    GroupLayer
        Upright, as large as all of them together.
    """
    points = np.concatenate([_outline(layer, canvas) for layer in layers])
    left, top = np.floor(points.min(axis=0))
    right, bottom = np.ceil(points.max(axis=0))
    width, height = max(int(right - left), 1), max(int(bottom - top), 1)
    return GroupLayer(
        id=group_id,
        name=name,
        width=width,
        height=height,
        placement=Placement(
            x=left + width / 2, y=top + height / 2, scale_x=1, scale_y=1
        ),
        layers=tuple(shifted(layer, -left, -top) for layer in layers),
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


def _outline(layer: Layer, canvas: Canvas) -> PointsF64:
    if isinstance(layer, PhotoLayer | GroupLayer):
        return corners_on_canvas(
            layer.placement, width=layer.width, height=layer.height
        )
    return np.array([[0, 0], [canvas.width, canvas.height]], np.float64)


def _moved_gradient(gradient: Gradient, way: MatrixF64) -> Gradient:
    x, y = way @ (gradient.x, gradient.y, 1)
    angle = math.radians(gradient.angle)
    across, down = way[:, :2] @ (math.cos(angle), math.sin(angle))
    stretch = math.hypot(across, down)
    return gradient.model_copy(
        update={
            "x": float(x),
            "y": float(y),
            "length": max(gradient.length * stretch, 1.0),
            "angle": wrapped_turn(math.degrees(math.atan2(down, across))),
        }
    )
