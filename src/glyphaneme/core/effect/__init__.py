"""Effects: shadows and outlines, which a layer's shape lays beneath it."""

from __future__ import annotations

from glyphaneme.core.effect.base import Asked, EffectBase, Source, Veil
from glyphaneme.core.effect.cast import CastShadow
from glyphaneme.core.effect.kinds import MAX_EFFECTS, Effect, Effects
from glyphaneme.core.effect.outline import Outline
from glyphaneme.core.effect.soft import SoftShadow

__all__ = [
    "MAX_EFFECTS",
    "Asked",
    "CastShadow",
    "Effect",
    "EffectBase",
    "Effects",
    "Outline",
    "SoftShadow",
    "Source",
    "Veil",
]
