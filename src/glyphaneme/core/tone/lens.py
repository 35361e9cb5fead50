"""Lens blur: as what lies out of focus looks, with lights as soft disks."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

import cv2
import numpy as np
from pydantic import Field

from glyphaneme.core.color import decoded, encoded
from glyphaneme.core.tone.areas import AreaTone, Seen, enlarged, shrunk, straight

if TYPE_CHECKING:
    from glyphaneme.core.arrays import PixelsU8

Radius = Annotated[float, Field(ge=0, le=200, allow_inf_nan=False)]
Shine = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]

TOP_ROOT = 65_535
LARGEST_DISK = 12.0
"""Pixels: larger ones are laid on a smaller copy."""
BRIGHTER = 3.0
"""How much more full shine makes of the brightest."""


class LensTone(AreaTone):
    """The mean over a disk of so many pixels' radius, in linear light.

    Linear, since it is light that a lens spreads: small lights become bright disks. So
    that they do where the picture has clipped them, light x above one half counts as
    x (1 + 3 shine (2x - 1)^2); beyond white it is white. At radius 0 it is neutral.

    Examples
    --------
    >>> LensTone(radius=12).words
    ('out of focus',)
    """

    at_rest: ClassVar[str] = "in focus"
    kind: Literal["lens"] = "lens"
    radius: Radius = 12.0
    shine: Shine = 0.4

    @property
    def is_neutral(self) -> bool:
        return self.radius == 0

    @property
    def words(self) -> tuple[str, ...]:
        return () if self.is_neutral else ("out of focus",)

    @property
    def reach(self) -> float:
        """The disk's radius, and a pixel more."""
        return self.radius + 1

    @property
    def halvings(self) -> float:
        """As often as the disk stays round enough."""
        return math.log2(max(self.radius / LARGEST_DISK, 1e-3))

    def made(self, pixels: PixelsU8, seen: Seen) -> PixelsU8:
        radius = self.radius * seen.scale
        if radius < 0.3:
            return pixels
        factor = 1
        while radius / (2 * factor) >= LARGEST_DISK / 2:
            factor *= 2
        light = _LINEAR[pixels[..., :3]]
        high = np.maximum(2 * light - 1, 0)
        light *= 1 + BRIGHTER * self.shine * high * high
        alpha = pixels[..., 3:].astype(np.float32) / 255
        image = np.dstack([light * alpha, alpha]).astype(np.float32)
        small = shrunk(image, factor)
        disk = _disk(radius / factor)
        found = cv2.filter2D(small, -1, disk, borderType=cv2.BORDER_REPLICATE)
        spread = enlarged(np.asarray(found, np.float32), factor, image)
        light = np.clip(spread[..., :3] / np.maximum(spread[..., 3:], 1e-4), 0, 1)
        # By the square root, the table is even to the eye.
        shown = _OF_ROOTS[(np.sqrt(light) * TOP_ROOT).astype(np.uint16)]
        left = spread[..., 3:]
        return straight(np.dstack([shown * left, left]) * np.float32(255))


def _disk(radius: float) -> np.ndarray:
    """Return a disk with a soft edge of one pixel, which adds up to 1."""
    half = math.ceil(radius + 0.5)
    at = np.arange(-half, half + 1)
    away = np.hypot(at[:, None], at[None, :])
    disk = np.clip(radius + 0.5 - away, 0, 1)
    return np.asarray(disk / disk.sum(), np.float32)


_OF_ROOTS = encoded(np.linspace(0, 1, TOP_ROOT + 1) ** 2).astype(np.float32)
_LINEAR = decoded(np.arange(256) / 255).astype(np.float32)
