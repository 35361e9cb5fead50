"""Where a matte is least sure: places to look at one after the other."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

if TYPE_CHECKING:
    from glyphaneme.core.cutout.values import MatteU8

LONGEST = 512
REACH = 0.025
"""Half the side of what is looked at together, as a share of the longer side."""
APART = 2.0
"""How many such reaches places lie apart, at least."""
LEAST = 0.02
MOST = 60


class Doubt(NamedTuple):
    """A doubtful place, in the matte's own pixels."""

    x: float
    y: float
    reach: float
    weight: float
    """How much of it is unsure, 0..1."""


def doubtful_places(matte: MatteU8, *, most: int = MOST) -> list[Doubt]:
    """Return where a matte is unsure, the largest places first.

    A pixel is as unsure as 4 a (1 - a): wholly at a half, not at all at 0 and 1.

    Parameters
    ----------
    matte : (H, W) uint8
        0..255.
    most : int
        How many places.

    Returns
    -------
    list of Doubt
        Apart from one another; none where everything is sure.

    Examples
    --------
    >>> half = np.zeros((64, 64), np.uint8)
    >>> half[20:30, 40:50] = 128
    >>> place = doubtful_places(half)[0]
    >>> 40 <= place.x < 50 and 20 <= place.y < 30
    True
    """
    rows, columns = matte.shape
    share = min(1.0, LONGEST / max(rows, columns))
    size = (max(round(columns * share), 1), max(round(rows * share), 1))
    # Unsure first, smaller then: a hard edge that is averaged would look unsure.
    table = np.arange(256) / 255
    unsure = cv2.LUT(matte, (255 * 4 * table * (1 - table) + 0.5).astype(np.uint8))
    small = cv2.resize(unsure, size, interpolation=cv2.INTER_AREA)
    reach = max(round(REACH * max(size)), 1)
    side = 2 * reach + 1
    weights = cv2.blur(
        small.astype(np.float32) / 255, (side, side), borderType=cv2.BORDER_CONSTANT
    )
    found = []
    away = round(APART * reach)
    for _ in range(most):
        _, weight, _, (column, row) = cv2.minMaxLoc(weights)
        if weight < LEAST:
            break
        found.append(
            Doubt(
                x=(column + 0.5) / size[0] * columns,
                y=(row + 0.5) / size[1] * rows,
                reach=reach / share,
                weight=min(float(weight), 1.0),
            )
        )
        cv2.circle(weights, (column, row), away, 0, cv2.FILLED)
    return found
