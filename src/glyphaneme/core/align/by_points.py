"""Lining up by points that a hand has matched."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.align.fitting import FEWEST, Aligned, MapKind, fitted, mapped
from glyphaneme.core.errors import NotAlikeError

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PointsF64

APART = 2.0
"""Pixels that points must lie apart at least, to say a scale or a turn."""


def aligned_by_points(
    moving: PointsF64, fixed: PointsF64, kind: MapKind = MapKind.SIMILAR
) -> Aligned:
    """Return the map that takes points of one picture onto those of another.

    Parameters
    ----------
    moving, fixed : (N, 2) float64, pixels
        Pairs of points, in the order of one another.
    kind : MapKind
        What the map may do; less where there are too few pairs for it.

    Returns
    -------
    Aligned
        Exact for as many pairs as the kind needs, the nearest for more.

    Raises
    ------
    NotAlikeError
        Points of one picture lie on one another, or on one line.

    Examples
    --------
    >>> pairs = np.array([[0.0, 0], [10, 0]])
    >>> [abs(one) for one in aligned_by_points(pairs, pairs + 3).matrix[0].tolist()]
    [1.0, 0.0, 3.0]
    """
    kinds = [MapKind.PROJECTIVE, MapKind.SIMILAR, MapKind.SHIFT]
    possible = [one for one in kinds if FEWEST[one] <= len(moving)]
    wanted = kinds.index(kind)
    chosen = next((one for one in kinds[wanted:] if one in possible), None)
    if chosen is None:
        raise NotAlikeError("points")
    for points in (moving, fixed):
        _require_apart(points, chosen)
    matrix = fitted(moving, fixed, chosen)
    left = mapped(matrix, moving) - fixed
    error = float(np.sqrt(np.mean(np.sum(left**2, axis=1))))
    return Aligned(matrix, certainty=1.0, error=error)


def _require_apart(points: PointsF64, kind: MapKind) -> None:
    """Refuse points that do not say what the map needs.

    Raises
    ------
    NotAlikeError
        They lie on one another, or on one line.
    """
    if kind is MapKind.SHIFT:
        return
    nearest = min(
        float(np.hypot(*(one - other)))
        for place, one in enumerate(points)
        for other in points[place + 1 :]
    )
    if nearest < APART:
        raise NotAlikeError("points")
    if kind is MapKind.PROJECTIVE and _smallest_triangle(points) < APART:
        raise NotAlikeError("points")


def _smallest_triangle(points: PointsF64) -> float:
    """Return the smallest area of a triangle that any three points span."""
    count = len(points)
    areas = [
        abs(np.linalg.det(np.stack([points[b] - points[a], points[c] - points[a]]))) / 2
        for a in range(count)
        for b in range(a + 1, count)
        for c in range(b + 1, count)
    ]
    return float(min(areas))
