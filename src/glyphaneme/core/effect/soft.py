"""A soft shadow right behind a layer, as of a card that hangs before a wall."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, ClassVar, Literal

from glyphaneme.core.effect.base import (
    TAIL,
    Angle,
    EffectBase,
    Length,
    Source,
    Veil,
    as_values,
    factor_for,
)
from glyphaneme.core.place import Rect
from glyphaneme.core.tone.areas import blurred

if TYPE_CHECKING:
    from glyphaneme.core.effect.base import Asked, Shape


class SoftShadow(EffectBase):
    """The shape a, moved by `distance` along `angle` and blurred: a * G(`softness`).

    The angle counts clockwise from the right; `softness` is the Gaussian's standard
    deviation.

    Examples
    --------
    >>> SoftShadow(angle=90).words
    'a soft shadow'
    """

    lengths: ClassVar[tuple[str, ...]] = ("distance", "softness")
    kind: Literal["soft"] = "soft"
    distance: Length = 16.0
    angle: Angle = 60.0
    softness: Length = 18.0

    @property
    def words(self) -> str:
        return "a soft shadow"

    def extent(self, shape: Rect[float], scale: float) -> Rect[float]:
        """Move the shape, and add three standard deviations."""
        across, down = self._moved(scale)
        left, top, right, bottom = shape
        moved = Rect(left + across, top + down, right + across, bottom + down)
        far = TAIL * self.softness * scale + 1
        return moved.widened(far, far)

    def source(self, asked: Asked) -> Source:
        """Read what lies round where it came from."""
        across, down = self._moved(asked.scale)
        left, top, right, bottom = asked.target
        back = Rect(left - across, top - down, right - across, bottom - down)
        sigma = self.softness * asked.scale
        factor = factor_for(sigma)
        far = TAIL * sigma + 2 * factor
        return Source(back.widened(far, far), factor)

    def made(self, alpha: Shape, source: Source, asked: Asked) -> Veil:
        across, down = self._moved(asked.scale)
        soft = blurred(alpha, self.softness * asked.scale / source.factor)
        left, top = source.extent.left + across, source.extent.top + down
        return Veil(as_values(soft), left, top, source.factor)

    def _moved(self, scale: float) -> tuple[float, float]:
        angle, far = math.radians(self.angle), self.distance * scale
        return math.cos(angle) * far, math.sin(angle) * far
