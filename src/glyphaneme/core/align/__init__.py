"""How two pictures of the same place lie over one another: arrays in, a map out."""

from __future__ import annotations

from glyphaneme.core.align.by_content import aligned_by_content
from glyphaneme.core.align.by_map import aligned_by_map
from glyphaneme.core.align.by_points import aligned_by_points
from glyphaneme.core.align.fitting import Aligned, MapKind

__all__ = [
    "Aligned",
    "MapKind",
    "aligned_by_content",
    "aligned_by_map",
    "aligned_by_points",
]
