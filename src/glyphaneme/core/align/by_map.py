"""Lining up by map coordinates that both pictures carry.

OGC GeoTIFF 1.1, section 7.1: a picture's pixels lie in a model space by a tie point and
the size of a pixel, or by a whole affine matrix.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np

from glyphaneme.core.align.fitting import Aligned
from glyphaneme.core.errors import NotAlikeError

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glyphaneme.core.arrays import MatrixF64

PIXEL_IS_POINT = 2
RASTER_TYPE_KEY = 1025
SPACE_KEYS = (1024, 2048, 3072, 3076, 2054)
"""Keys that say which space it is: its kind, its coordinates, its units."""
LARGEST_DIFFERENCE = 1000.0
"""How many times as large a pixel of one picture may be as one of the other."""


def aligned_by_map(moving: Mapping[str, Any], fixed: Mapping[str, Any]) -> Aligned:
    """Return how one picture lies over another by their map coordinates.

    Parameters
    ----------
    moving, fixed : mapping
        Map tags as the file has them: `pixel_scale` and `tie_points`, or
        `transformation`; `geo_keys` say which space they speak of.

    Returns
    -------
    Aligned
        As sure as the files are.

    Raises
    ------
    NotAlikeError
        They speak of different spaces, or one says no place.
    """
    if _space_of(moving) != _space_of(fixed):
        raise NotAlikeError("map coordinates")
    to_map, from_map = to_model(moving), np.linalg.inv(to_model(fixed))
    matrix = from_map @ to_map
    scale = np.sqrt(abs(np.linalg.det(matrix[:2, :2])))
    if not 1 / LARGEST_DIFFERENCE < scale < LARGEST_DIFFERENCE:
        raise NotAlikeError("map coordinates")
    return Aligned(np.asarray(matrix), certainty=1.0, error=0.0)


def to_model(tags: Mapping[str, Any]) -> MatrixF64:
    """Return how a picture's pixels lie on the map.

    Parameters
    ----------
    tags : mapping
        As for `aligned_by_map`.

    Returns
    -------
    (3, 3) float64
        From positions that count from the first pixel's upper left corner.

    Raises
    ------
    NotAlikeError
        They say no place, or one that flattens the picture.

    Examples
    --------
    >>> tags = {"pixel_scale": [0.5, 0.5, 0], "tie_points": [0, 0, 0, 100, 200, 0]}
    >>> (to_model(tags) @ (2, 2, 1)).tolist()
    [101.0, 199.0, 1.0]
    """
    matrix = np.eye(3)
    names = ("transformation", "pixel_scale", "tie_points")
    whole, scale, tie = (list(tags.get(name) or []) for name in names)
    if len(whole) == 16:
        rows = np.array(whole, np.float64).reshape(4, 4)
        matrix[:2] = rows[:2, [0, 1, 3]]
    elif len(scale) >= 2 and len(tie) >= 6:
        across, down = float(scale[0]), -float(scale[1])
        column, row, _, x, y, _ = map(float, tie[:6])
        matrix[:2] = [
            [across, 0, x - across * column],
            [0, down, y - down * row],
        ]
    else:
        raise NotAlikeError("map coordinates")
    if not np.isfinite(matrix).all() or abs(np.linalg.det(matrix[:2, :2])) < 1e-30:
        raise NotAlikeError("map coordinates")
    if _keys_of(tags).get(RASTER_TYPE_KEY) == PIXEL_IS_POINT:
        # Then positions count from the middle of the first pixel.
        matrix[:2, 2] -= matrix[:2, :2] @ (0.5, 0.5)
    return matrix


def _space_of(tags: Mapping[str, Any]) -> tuple[object, ...]:
    keys = _keys_of(tags)
    return tuple(keys.get(key) for key in SPACE_KEYS)


def _keys_of(tags: Mapping[str, Any]) -> dict[int, int]:
    """Return the keys whose values stand in the directory itself."""
    listed = tags.get("geo_keys") or ()
    entries = [listed[at : at + 4] for at in range(4, len(listed) - 3, 4)]
    return {int(key): int(value) for key, place, _, value in entries if place == 0}
