"""A composite's picture: planned as a table, composed, and kept between frames."""

from __future__ import annotations

from glyphaneme.core.render.assets import Assets, Needed, assets_needed, paintings_of
from glyphaneme.core.render.caching import FrameCache
from glyphaneme.core.render.composing import Rounding
from glyphaneme.core.render.picking import CutOut, layers_under
from glyphaneme.core.render.reaching import reach_of
from glyphaneme.core.render.rendering import (
    render,
    render_bands,
    render_fine,
    split_frame,
)
from glyphaneme.core.render.views import View

__all__ = [
    "Assets",
    "CutOut",
    "FrameCache",
    "Needed",
    "Rounding",
    "View",
    "assets_needed",
    "layers_under",
    "paintings_of",
    "reach_of",
    "render",
    "render_bands",
    "render_fine",
    "split_frame",
]
