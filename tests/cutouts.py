"""Pictures with a known matte, and ways to look at them, for tests of cutting out."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.cutout import Evidence, Look

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.cutout import ColorsU8, MatteF32


class Known(NamedTuple):
    """A picture, how much of each pixel is subject, and the subject's own colours."""

    pixels: NDArray[np.uint8]
    alpha: NDArray[np.float32]
    own: NDArray[np.float32]


def disks(
    width: int,
    height: int,
    circles: Sequence[tuple[float, float, float]],
    *,
    softness: float = 3.0,
    seed: int = 5,
) -> Known:
    """Return red disks before a blue wall, both uneven; each is x, y and radius."""
    row, column = np.mgrid[0:height, 0:width].astype(np.float32)
    alpha = np.zeros((height, width), np.float32)
    for x, y, radius in circles:
        inside = radius - np.hypot(column + 0.5 - x, row + 0.5 - y)
        alpha = np.maximum(alpha, np.clip(inside / softness + 0.5, 0, 1))
    grain = np.random.default_rng(seed).normal(0, 4, (height, width, 3))
    wave = 12 * np.sin(column / 17)[..., None]
    own = np.array([190, 60, 40]) + wave * [1, 0.5, 0.2]
    wall = np.array([40, 70, 150]) - wave * [0.2, 0.5, 1]
    mixed = own * alpha[..., None] + wall * (1 - alpha[..., None]) + grain
    pixels = np.full((height, width, 4), 255, np.uint8)
    pixels[..., :3] = np.clip(mixed + 0.5, 0, 255)
    return Known(pixels, alpha, (own / 255).astype(np.float32))


def evidence_of(known: Known, seen: NDArray[np.float32] | None = None) -> Evidence:
    """Return evidence whose networks see a blurred matte, or something else."""
    what = known.alpha if seen is None else seen

    def look(_rgb: ColorsU8, how: Look) -> MatteF32:
        side = 96 if how is Look.LARGE else 64
        small = cv2.resize(what, (side, side), interpolation=cv2.INTER_AREA)
        return np.asarray(cv2.GaussianBlur(small, (0, 0), 1.5), np.float32)

    return Evidence(known.pixels, look)


def error_of(matte: NDArray[np.uint8], known: Known) -> float:
    """Return the mean absolute error of a matte, 0..1."""
    return float(np.abs(matte.astype(np.float32) / 255 - known.alpha).mean())
