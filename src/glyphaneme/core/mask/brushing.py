"""A brush on its way: where it goes, and which tiles it may touch."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core._kernels.masking import TILE

if TYPE_CHECKING:
    from collections.abc import Iterable

    from numpy.typing import NDArray

    from glyphaneme.core.mask.strokes import Stroke
    from glyphaneme.core.mask.tiles import At

    PointsF64 = NDArray[np.float64]

LEAST_RADIUS = 0.5
STATION = TILE / 2
"""How far apart places on a brush's way are looked at."""


def brushed(stroke: Stroke) -> PointsF64:
    """Return where a brush goes.

    Parameters
    ----------
    stroke : Stroke
        At least one point.

    Returns
    -------
    (n, 3) float64
        Its points as x, y and radius, in pixels.
    """
    half = stroke.size / 2
    ways = [(x, y, max(share * half, LEAST_RADIUS)) for x, y, share in stroke.points]
    return np.array(ways, np.float64)


def tiles_near(points: PointsF64) -> set[At]:
    """Return all tiles that a brush may touch on its way.

    Parameters
    ----------
    points : (n, 3) float64
        As `brushed` returns them; at least one.

    Returns
    -------
    set of (row, column)
        In tiles.
    """
    reach = max(points[:, 2].tolist()) + 1
    if len(points) > 1:
        reach += STATION / 2
    found: set[At] = set()
    for x, y in _stations(points):
        # A tile begins a pixel before its own: it has its neighbours' first ones.
        rows = range(
            math.floor((y - reach - 1) / TILE), math.floor((y + reach) / TILE) + 1
        )
        columns = range(
            math.floor((x - reach - 1) / TILE), math.floor((x + reach) / TILE) + 1
        )
        found.update((row, column) for row in rows for column in columns)
    return found


def _stations(points: PointsF64) -> Iterable[tuple[float, float]]:
    """Return points on the way that lie near one another, for a brush of some reach."""
    places = points[:, :2]
    if len(points) == 1:
        return [(float(places[0, 0]), float(places[0, 1]))]
    steps = np.hypot(*np.diff(places, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    wanted = np.linspace(0, along[-1], max(math.ceil(along[-1] / STATION), 1) + 1)
    xs = np.interp(wanted, along, places[:, 0])
    ys = np.interp(wanted, along, places[:, 1])
    return zip(xs.tolist(), ys.tolist(), strict=True)
