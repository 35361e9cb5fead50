"""Affine maps as values that a composite can hold."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, Final, TypeAlias

import numpy as np
from pydantic import Field

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64


LARGEST_FACTOR = 1e5
FARTHEST_SHIFT = 1e9

Factor = Annotated[
    float, Field(ge=-LARGEST_FACTOR, le=LARGEST_FACTOR, allow_inf_nan=False)
]
Shift = Annotated[
    float, Field(ge=-FARTHEST_SHIFT, le=FARTHEST_SHIFT, allow_inf_nan=False)
]
Transform: TypeAlias = tuple[Factor, Factor, Shift, Factor, Factor, Shift]
"""The rows of a 2 x 3 matrix: what x, y and 1 are multiplied by, for x and for y."""

IDENTITY: Final[Transform] = (1.0, 0.0, 0.0, 0.0, 1.0, 0.0)


def matrix_of(transform: Transform) -> MatrixF64:
    """Return a transform as a matrix.

    Parameters
    ----------
    transform : Transform
        Six numbers.

    Returns
    -------
    (2, 3) float64
        Columns map x, y and 1.

    Examples
    --------
    >>> matrix_of(IDENTITY) @ (3, 4, 1)
    array([3., 4.])
    """
    return np.array(transform, np.float64).reshape(2, 3)


def transform_of(matrix: MatrixF64) -> Transform:
    """Return a matrix as a transform, kept within what one may hold.

    Parameters
    ----------
    matrix : (2, 3) float64
        Columns map x, y and 1.

    Returns
    -------
    Transform
        Its six numbers.

    Examples
    --------
    >>> transform_of(np.array([[1, 0, 5], [0, 1, 0]]))
    (1.0, 0.0, 5.0, 0.0, 1.0, 0.0)
    """
    most = np.array([LARGEST_FACTOR, LARGEST_FACTOR, FARTHEST_SHIFT])
    a, b, c, d, e, f = np.clip(matrix, -most, most).ravel().tolist()
    return a, b, c, d, e, f


def followed_by(first: MatrixF64, then: MatrixF64) -> MatrixF64:
    """Return the map that does one after the other.

    Parameters
    ----------
    first, then : (2, 3) float64
        Columns map x, y and 1.

    Returns
    -------
    (2, 3) float64
        `then` of what `first` gives.

    Examples
    --------
    >>> twice, right = np.eye(2, 3) * 2, np.array([[1, 0, 5], [0, 1, 0]])
    >>> followed_by(twice, right) @ (1, 1, 1)
    array([7., 2.])
    """
    both: MatrixF64 = then @ np.vstack([first, [0, 0, 1]])
    return both


def inverted(matrix: MatrixF64) -> MatrixF64:
    """Return the map that undoes another.

    Parameters
    ----------
    matrix : (2, 3) float64
        Columns map x, y and 1; must not flatten the plane.

    Returns
    -------
    (2, 3) float64
        Its inverse.

    Examples
    --------
    >>> inverted(np.array([[2, 0, 10], [0, 2, 0]])) @ (10, 0, 1)
    array([0., 0.])
    """
    linear = np.linalg.inv(matrix[:, :2])
    return np.column_stack([linear, -linear @ matrix[:, 2]])


def pixel_size(matrix: MatrixF64) -> float:
    """Return how many pixels of what it leads to one pixel covers, along a side.

    Parameters
    ----------
    matrix : (2, 3) float64
        Maps pixels to those of something else.

    Returns
    -------
    float
        0 where the map flattens the plane.

    Examples
    --------
    >>> pixel_size(np.array([[3.0, 0, 5], [0, 3, 7]]))
    3.0
    """
    (across, down), (back, along) = matrix[:, :2].tolist()
    return math.sqrt(abs(across * along - down * back))
