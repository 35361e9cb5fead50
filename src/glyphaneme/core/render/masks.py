"""Writes what masks and fades leave of a layer as steps that the kernel reads."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core.document.model import PhotoLayer
from glyphaneme.core.mask.steps import Step, soft_edge
from glyphaneme.core.place.crop import FrameShape
from glyphaneme.core.place.transform import matrix_of, pixel_size

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.render.reading import Before

NUMBERS = 8
NO_PLANE = (0, 0, 0, 0)
NEARLY = 1e-3
"""Of a photo's pixel: nearer to its edge, a frame counts as reaching that."""


class Masking(NamedTuple):
    """All steps of a layer, from the view's pixels, and what shows before the first."""

    start: float
    steps: tuple[Step, ...]


UNMASKED = Masking(1.0, ())


def masking_of(
    layer: Layer, to_layer: MatrixF64, to_pile: MatrixF64, passes: Before
) -> Masking:
    """Return the steps of a layer's mask and fades for a view.

    Parameters
    ----------
    layer : Layer
        Whichever.
    to_layer : (2, 3) or (3, 3) float64
        Maps the view's pixels to the layer's own; to what it lies in where that has
        none of its own.
    to_pile : (3, 3) float64
        Maps the view's pixels to what the layer lies in.
    passes : Before
        What the mask reads besides its own values.

    Returns
    -------
    Masking
        No steps where all of the layer shows.
    """
    mask, fades = layer.mask, layer.fades
    start = 1.0
    found: list[Step] = []
    if mask is not None:
        base = to_layer if mask.linked else to_pile
        to_mask = matrix_of(mask.to_mask) @ _homogeneous(base)
        start, steps = passes.mask_steps(mask, to_mask)
        found += steps
    # Whatever a mask adds, nothing shows beyond the frame.
    if isinstance(layer, PhotoLayer) and not layer.placement.is_warped:
        found += _frame_steps(layer, to_layer)
    for fade in fades:
        base = to_layer if fade.linked else to_pile
        found += seen_steps((fade.step,), base)
    return Masking(start, tuple(found)) if found or start != 1 else UNMASKED


def _frame_steps(layer: PhotoLayer, to_layer: MatrixF64) -> Iterator[Step]:
    """Yield the step that leaves only what lies in a photo's frame, if it has one."""
    crop = layer.placement.crop
    if crop is None:
        return
    to_frame = crop.to_frame @ _homogeneous(to_layer)
    pixel = pixel_size(to_frame)
    left, top, right, bottom = 0.0, 0.0, crop.width, crop.height
    is_ellipse = crop.shape is FrameShape.ELLIPSE
    if not (is_ellipse or crop.corner or crop.turn):
        # Where the photo itself ends, its own edge is enough: two would be too thin.
        (first_x, first_y), (last_x, last_y) = (
            crop.to_photo @ (*corner, 1) for corner in ((left, top), (right, bottom))
        )
        beyond = 2 * pixel
        left -= beyond * (first_x < NEARLY)
        top -= beyond * (first_y < NEARLY)
        right += beyond * (last_x > layer.width - NEARLY)
        bottom += beyond * (last_y > layer.height - NEARLY)
    to_frame[:, 2] -= ((left + right) / 2, (top + bottom) / 2)
    yield Step(
        kind=masking.ELLIPSE if is_ellipse else masking.RECTANGLE,
        to_step=to_frame,
        numbers=(
            *soft_edge(0, pixel),
            (right - left) / 2,
            (bottom - top) / 2,
            crop.radius,
        ),
    )


def seen_steps(steps: tuple[Step, ...], to_mask: MatrixF64) -> tuple[Step, ...]:
    """Return steps as they count from a view's pixels.

    Parameters
    ----------
    steps : tuple of Step
        Counted from a mask's own positions.
    to_mask : (2, 3) or (3, 3) float64
        Maps the view's pixels to those.

    Returns
    -------
    tuple of Step
        In the same order.
    """
    base = _homogeneous(to_mask)
    return tuple(
        step if step.in_view else replace(step, to_step=step.to_step @ base)
        for step in steps
    )


def step_fields(step: Step) -> tuple[object, ...]:
    """Return one step in the order of the kernel's fields.

    Parameters
    ----------
    step : Step
        Its `to_step` counts from the view's pixels.

    Returns
    -------
    tuple
        One row of its table.
    """
    plane = step.plane
    where = NO_PLANE
    if plane is not None:
        where = (*plane.addresses, plane.rows, plane.columns)
    numbers = (*step.numbers, *(0.0,) * (NUMBERS - len(step.numbers)))
    to_step = step.to_step.ravel().tolist()
    return (step.kind, step.join, step.inverted, *where, to_step, numbers)


def _homogeneous(matrix: MatrixF64) -> MatrixF64:
    """Return a map as a 3 x 3 matrix."""
    return np.vstack([matrix[:2], (0, 0, 1)])
