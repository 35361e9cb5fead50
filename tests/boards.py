"""Made-up scenes with a blank board in them, whose corners are known."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

WIDTH, HEIGHT = 900, 700
FINER = 8
HOME = ((250, 150), (640, 170), (620, 520), (270, 560))


class Board(NamedTuple):
    """A scene, and where the corners of its board lie, clockwise from the top left."""

    pixels: NDArray[np.uint8]
    corners: NDArray[np.float64]


def board(seed: int, *, shade: float = 40.0, noise: float = 3.0) -> Board:
    """Paint a pale board that gets darker to the right, before an uneven wall.

    Parameters
    ----------
    seed : int
        Of the wall, the noise, and how far the corners lie from `HOME`.
    shade : float
        How many levels darker it gets across the picture.
    noise : float
        Deviation of every pixel, in levels.
    """
    random = np.random.default_rng(seed)
    corners = np.array(HOME, np.float64) + random.uniform(-60, 60, (4, 2))
    fine = np.zeros((HEIGHT * FINER, WIDTH * FINER), np.uint8)
    cv2.fillConvexPoly(fine, np.round(corners * FINER).astype(np.int32), 255)
    size = (WIDTH, HEIGHT)
    share = cv2.resize(fine, size, interpolation=cv2.INTER_AREA)[..., None] / 255
    rough = random.integers(40, 150, (14, 18, 3)).astype(np.float32)
    wall = cv2.resize(rough, size, interpolation=cv2.INTER_CUBIC)
    face = 220 - shade * np.linspace(0, 1, WIDTH)[None, :, None]
    scene = wall * (1 - share) + face * share + random.normal(0, noise, wall.shape)
    pixels = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
    pixels[..., :3] = np.clip(np.round(scene), 0, 255)
    return Board(pixels, corners)
