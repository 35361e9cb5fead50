"""An outline round a layer's shape, as of a sticker's rim."""

from __future__ import annotations

from typing import TYPE_CHECKING, ClassVar, Literal

import cv2
import numpy as np

from glyphaneme.core.color import Color, color_name
from glyphaneme.core.effect.base import (
    TAIL,
    EffectBase,
    Length,
    Part,
    Source,
    Veil,
    as_values,
)
from glyphaneme.core.tone.areas import blurred

if TYPE_CHECKING:
    from glyphaneme.core.effect.base import Asked, Shape
    from glyphaneme.core.place import Rect

THERE = 0.25
"""What shows less than this has no outline of its own."""


class Outline(EffectBase):
    """All that lies within `width` of the shape, blurred by `softness`.

    A pixel that the shape covers by a counts as reaching a - 1/2 beyond its own middle,
    so that the outline is as smooth as the shape's edge is.

    Examples
    --------
    >>> Outline(color="#ffffff").words
    'a white outline'
    """

    lengths: ClassVar[tuple[str, ...]] = ("width", "softness")
    kind: Literal["outline"] = "outline"
    color: Color = "#ffffff"
    strength: Part = 1.0
    width: Length = 6.0
    softness: Length = 0.0

    @property
    def words(self) -> str:
        name = color_name(self.color)
        return f"{'an' if name[0] in 'aeiou' else 'a'} {name} outline"

    def extent(self, shape: Rect[float], scale: float) -> Rect[float]:
        """Add as far as it reaches to the shape."""
        far = self._far(scale)
        return shape.widened(far, far)

    def source(self, asked: Asked) -> Source:
        """Read what lies as near as that."""
        far = self._far(asked.scale)
        return Source(asked.target.widened(far, far))

    def made(self, alpha: Shape, source: Source, asked: Asked) -> Veil:
        """Return how far within its width each pixel lies."""
        width = self.width * asked.scale
        near = _distance(alpha)
        rim = np.clip(width + np.float32(0.5) - near, 0, 1).astype(np.float32)
        soft = blurred(rim, self.softness * asked.scale)
        left, top = source.extent.left, source.extent.top
        return Veil(as_values(soft), left, top)

    def _far(self, scale: float) -> float:
        return (self.width + TAIL * self.softness) * scale + 2


def _distance(alpha: Shape) -> Shape:
    """Return how far beyond the shape's edge pixels lie, in pixels; inside below 0."""
    outside = np.asarray(alpha < THERE, np.uint8)
    if outside.all():
        return np.full(alpha.shape, np.inf, np.float32)
    far, label = cv2.distanceTransformWithLabels(
        outside, cv2.DIST_L2, cv2.DIST_MASK_PRECISE, labelType=cv2.DIST_LABEL_PIXEL
    )
    # Which pixel of the shape lies nearest, by its label.
    covered = np.zeros(int(label.max()) + 1, np.float32)
    inside = outside == 0
    covered[label[inside]] = alpha[inside]
    return np.asarray(far - (covered[label] - np.float32(0.5)), np.float32)
