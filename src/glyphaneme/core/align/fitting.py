"""Maps of one picture onto another that fit pairs of points best."""

from __future__ import annotations

from enum import StrEnum
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PointsF64


class MapKind(StrEnum):
    """What a map may do."""

    SHIFT = "shift"
    SIMILAR = "similar"
    """Shift, scale in proportion and turn."""
    PROJECTIVE = "projective"
    """Whatever a plane seen from elsewhere does."""


FEWEST = {MapKind.SHIFT: 1, MapKind.SIMILAR: 2, MapKind.PROJECTIVE: 4}
"""So many pairs of points say all of a map."""


class Aligned(NamedTuple):
    """A map, and how sure it is."""

    matrix: MatrixF64
    """(3, 3): positions in the one that moves to those in the one that stays."""
    certainty: float
    """0..1."""
    error: float
    """What is left between pairs of points, root mean square, in pixels of the one
    that stays."""


def mapped(matrix: MatrixF64, points: PointsF64) -> PointsF64:
    """Return where a map takes points.

    Parameters
    ----------
    matrix : (3, 3) float64
        A homography.
    points : (N, 2) float64
        Before it.

    Returns
    -------
    (N, 2) float64
        After it.

    Examples
    --------
    >>> mapped(np.diag([2.0, 2.0, 1.0]), np.array([[1.0, 3.0]]))
    array([[2., 6.]])
    """
    whole = np.column_stack([points, np.ones(len(points))]) @ matrix.T
    return np.asarray(whole[:, :2] / whole[:, 2:])


def fitted(
    source: PointsF64,
    target: PointsF64,
    kind: MapKind,
    weights: PointsF64 | None = None,
) -> MatrixF64:
    """Return the map that takes points nearest to others, by least squares.

    Parameters
    ----------
    source, target : (N, 2) float64
        Pairs of points, at least as many as `FEWEST` says, not all on one line.
    kind : MapKind
        What the map may do.
    weights : (N,) float64, optional
        How much each pair counts.

    Returns
    -------
    (3, 3) float64
        A homography; its last number is 1.

    References
    ----------
    .. [1] S. Umeyama, "Least-squares estimation of transformation parameters between
       two point patterns", IEEE PAMI 13(4), 1991.
    .. [2] R. Hartley, "In defense of the eight-point algorithm", IEEE PAMI 19(6), 1997,
       for bringing points to the same scale first.

    Examples
    --------
    >>> square = np.array([[0.0, 0], [1, 0], [1, 1], [0, 1]])
    >>> fitted(square, 2 * square + 5, MapKind.SIMILAR)[:, 2].tolist()
    [5.0, 5.0, 1.0]
    """
    count = np.ones(len(source)) if weights is None else np.asarray(weights)
    share = count / count.sum()
    from_middle, to_middle = share @ source, share @ target
    if kind is MapKind.SHIFT:
        return _placed(np.eye(2), from_middle, to_middle)
    one, other = source - from_middle, target - to_middle
    if kind is MapKind.SIMILAR:
        # With points as complex numbers, scale and turn are one factor.
        a, b = one @ (1, 1j), other @ (1, 1j)
        factor = (share * a.conj()) @ b / ((share * a.conj()) @ a)
        linear = np.array([[factor.real, -factor.imag], [factor.imag, factor.real]])
        return _placed(linear.real, from_middle, to_middle)
    return _homography(source, target, np.sqrt(share))


def _placed(
    linear: MatrixF64, from_middle: PointsF64, to_middle: PointsF64
) -> MatrixF64:
    whole = np.eye(3)
    whole[:2, :2] = linear
    whole[:2, 2] = to_middle - linear @ from_middle
    return whole


def _homography(source: PointsF64, target: PointsF64, weights: PointsF64) -> MatrixF64:
    before, after = _evened(source), _evened(target)
    (x, y), (u, v) = mapped(before, source).T, mapped(after, target).T
    zero, one = np.zeros_like(x), np.ones_like(x)
    rows = np.concatenate(
        [
            np.stack([x, y, one, zero, zero, zero, -u * x, -u * y, -u], axis=1),
            np.stack([zero, zero, zero, x, y, one, -v * x, -v * y, -v], axis=1),
        ]
    )
    rows *= np.tile(weights, 2)[:, None]
    found = np.linalg.svd(rows)[2][-1].reshape(3, 3)
    whole = np.linalg.inv(after) @ found @ before
    return np.asarray(whole / whole[2, 2])


def _evened(points: PointsF64) -> MatrixF64:
    """Return the map that centres points and brings them to a mean distance of √2."""
    middle = points.mean(axis=0)
    distance = np.hypot(*(points - middle).T).mean() or 1.0
    scale = np.sqrt(2) / distance
    return np.array(
        [[scale, 0, -scale * middle[0]], [0, scale, -scale * middle[1]], [0, 0, 1]]
    )
