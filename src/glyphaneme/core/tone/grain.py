"""Grain: as films have it."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from glyphaneme.core.tone.areas import AreaTone, Seen, lightened, luma, middling
from glyphaneme.core.tone.base import Part, by_degree

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

Size = Annotated[float, Field(ge=0.5, le=12, allow_inf_nan=False)]

SIDE = 1024
SEED = 1839
FULL = 48.0
"""Levels that full grain deviates by, in the middle tones."""


class GrainTone(AreaTone):
    """Noise that belongs to its place, most in the middle tones.

    Normal noise, smoothed to grains of about `size` pixels and brought to a standard
    deviation of 48 levels times amount times 4 l (1 - l), is added to all components.
    Seen smaller, it is the mean of what lies in a pixel. Encoded, as films are looked
    at. At amount 0 it is neutral.

    Examples
    --------
    >>> GrainTone(amount=0.1).words
    ('with a little grain',)
    """

    at_rest: ClassVar[str] = "without grain"
    length: ClassVar[str] = "size"
    kind: Literal["grain"] = "grain"
    amount: Part = 0.25
    size: Size = 1.5

    @property
    def is_neutral(self) -> bool:
        return self.amount == 0

    @property
    def words(self) -> tuple[str, ...]:
        return tuple(
            f"with {one}" for one in by_degree(self.amount, "no grain", "grain")
        )

    @property
    def reach(self) -> float:
        """No neighbours: only its place counts."""
        return 0.0

    def made(self, pixels: PixelsU8, seen: Seen) -> PixelsU8:
        halvings = min(max(round(-np.log2(seen.scale)), 0), 6)
        noise = _noise(self.size, halvings)
        rows, columns = pixels.shape[:2]
        step = 0.5**halvings
        down = _places(seen.top, rows, seen.scale, step, noise.shape[0])
        across = _places(seen.left, columns, seen.scale, step, noise.shape[1])
        found = noise[down[:, None], across[None, :]] * middling(luma(pixels))
        return lightened(pixels, np.float32(self.amount * FULL) * found)


def _places(
    begin: float, count: int, scale: float, step: float, side: int
) -> NDArray[np.int64]:
    """Return where along the noise so many pixels lie."""
    at = (begin + (np.arange(count) + 0.5) / scale) * step
    return np.asarray(np.floor(at).astype(np.int64) % side, np.int64)


@lru_cache(16)
def _noise(size: float, halvings: int) -> NDArray[np.float32]:
    """Return noise of standard deviation 1 at its own size, which goes on and on."""
    rng = np.random.default_rng(SEED)
    noise = rng.standard_normal((SIDE, SIDE)).astype(np.float32)
    sigma = size / 3
    wide = cv2.copyMakeBorder(noise, 32, 32, 32, 32, cv2.BORDER_WRAP)
    smooth = np.asarray(cv2.GaussianBlur(wide, (0, 0), sigma))[32:-32, 32:-32]
    noise = np.asarray(smooth / smooth.std(), np.float32)
    side = SIDE >> halvings
    if halvings:
        noise = np.asarray(
            cv2.resize(noise, (side, side), interpolation=cv2.INTER_AREA), np.float32
        )
    return noise
