"""Writes what masks and fades leave of a layer as steps that the kernel reads."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.place.transform import matrix_of

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.mask.steps import Step
    from glyphaneme.core.render.passes import Passes

NUMBERS = 8
NO_PLANE = (0, 0, 0, 0)


class Masking(NamedTuple):
    """All steps of a layer, from the view's pixels, and what shows before the first."""

    start: float
    steps: tuple[Step, ...]


UNMASKED = Masking(1.0, ())


def masking_of(
    layer: Layer, to_layer: MatrixF64, to_pile: MatrixF64, passes: Passes
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
    passes : Passes
        What the mask reads besides its own values.

    Returns
    -------
    Masking
        No steps where all of the layer shows.
    """
    mask, fades = layer.mask, layer.fades
    if mask is None and not fades:
        return UNMASKED
    start = 1.0
    found: list[Step] = []
    if mask is not None:
        base = to_layer if mask.linked else to_pile
        to_mask = matrix_of(mask.to_mask) @ _homogeneous(base)
        start, steps = passes.mask_steps(layer.id, mask, to_mask)
        found += steps
    for fade in fades:
        base = to_layer if fade.linked else to_pile
        found += seen_steps((fade.step,), base)
    return Masking(start, tuple(found))


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


def pixel_size(to_mask: MatrixF64) -> float:
    """Return how many of a mask's pixels a view's pixel covers, along a side.

    Parameters
    ----------
    to_mask : (2, 3) float64
        Maps the view's pixels to the mask's own.

    Returns
    -------
    float
        0 where the map flattens the plane.
    """
    return math.sqrt(abs(np.linalg.det(to_mask[:, :2])))


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
        where = (
            plane.tiles.ctypes.data,
            plane.extremes.ctypes.data,
            plane.rows,
            plane.columns,
        )
    numbers = (*step.numbers, *(0.0,) * (NUMBERS - len(step.numbers)))
    to_step = step.to_step.ravel().tolist()
    return (step.kind, step.join, step.inverted, *where, to_step, numbers)


def _homogeneous(matrix: MatrixF64) -> MatrixF64:
    """Return a map as a 3 x 3 matrix."""
    return np.vstack([matrix[:2], (0, 0, 1)])
