"""What of a layer shows: masks as recipes, and fades."""

from __future__ import annotations

from glyphaneme.core.mask.fades import MAX_FADES, Fade, FadeCurve, FadeShape
from glyphaneme.core.mask.layer_part import LayerPart
from glyphaneme.core.mask.painted import PaintedPart
from glyphaneme.core.mask.parts import Join, LayerQuality, PartBase, PartId, Seeing
from glyphaneme.core.mask.recipe import MAX_PARTS, Mask, MaskPart
from glyphaneme.core.mask.shapes import EllipsePart, RectanglePart

__all__ = [
    "MAX_FADES",
    "MAX_PARTS",
    "EllipsePart",
    "Fade",
    "FadeCurve",
    "FadeShape",
    "Join",
    "LayerPart",
    "LayerQuality",
    "Mask",
    "MaskPart",
    "PaintedPart",
    "PartBase",
    "PartId",
    "RectanglePart",
    "Seeing",
]
