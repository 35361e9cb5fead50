"""What of a layer shows: masks as recipes, and fades."""

from __future__ import annotations

from glyphaneme.core.mask.even import EvenPart
from glyphaneme.core.mask.fades import MAX_FADES, Fade, FadeCurve, FadeShape
from glyphaneme.core.mask.kept import KeptPart
from glyphaneme.core.mask.layer_part import LayerPart
from glyphaneme.core.mask.matte import CutWay, Hints, MattePart, RoughStroke
from glyphaneme.core.mask.outline import OutlinePart
from glyphaneme.core.mask.painted import PaintedPart
from glyphaneme.core.mask.parts import (
    Join,
    LayerQuality,
    PartBase,
    PartId,
    Reads,
    Seeing,
)
from glyphaneme.core.mask.raster import Raster
from glyphaneme.core.mask.rasters import RasterPart
from glyphaneme.core.mask.recipe import MAX_PARTS, Mask, MaskPart
from glyphaneme.core.mask.shapes import EllipsePart, RectanglePart

__all__ = [
    "MAX_FADES",
    "MAX_PARTS",
    "CutWay",
    "EllipsePart",
    "EvenPart",
    "Fade",
    "FadeCurve",
    "FadeShape",
    "Hints",
    "Join",
    "KeptPart",
    "LayerPart",
    "LayerQuality",
    "Mask",
    "MaskPart",
    "MattePart",
    "OutlinePart",
    "PaintedPart",
    "PartBase",
    "PartId",
    "Raster",
    "RasterPart",
    "Reads",
    "RectanglePart",
    "RoughStroke",
    "Seeing",
]
