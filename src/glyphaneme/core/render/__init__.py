"""A composite's picture: planned as a table, composed, and kept between frames."""

from __future__ import annotations

from glyphaneme.core.render.assets import Assets, Needed, all_needed, assets_needed
from glyphaneme.core.render.caching import FrameCache
from glyphaneme.core.render.composing import Rounding
from glyphaneme.core.render.differing import telling_window
from glyphaneme.core.render.edges import edge_of
from glyphaneme.core.render.effects import shown_extent
from glyphaneme.core.render.filled_places import (
    filled_patch,
    laid,
    laid_patches,
    render_alone,
    source_of,
)
from glyphaneme.core.render.finer import Fineness
from glyphaneme.core.render.histograms import histograms
from glyphaneme.core.render.mended_photos import mended_copy
from glyphaneme.core.render.mended_places import Laid, MendedPlace
from glyphaneme.core.render.own_colors import own_pyramid
from glyphaneme.core.render.passes import Passes
from glyphaneme.core.render.picking import CutOut, layers_under
from glyphaneme.core.render.reaching import reach_of
from glyphaneme.core.render.rendering import (
    render,
    render_bands,
    render_deep_bands,
    render_exact,
    split_frame,
)
from glyphaneme.core.render.rims import rim_of
from glyphaneme.core.render.texels import Mended, OwnColors, mended_in, own_colors_by
from glyphaneme.core.render.thumbs import hidden_share, mask_view
from glyphaneme.core.render.views import View
from glyphaneme.core.render.visibility import Ground
from glyphaneme.core.render.warped import flattened

__all__ = [
    "Assets",
    "CutOut",
    "Fineness",
    "FrameCache",
    "Ground",
    "Laid",
    "Mended",
    "MendedPlace",
    "Needed",
    "OwnColors",
    "Passes",
    "Rounding",
    "View",
    "all_needed",
    "assets_needed",
    "edge_of",
    "filled_patch",
    "flattened",
    "hidden_share",
    "histograms",
    "laid",
    "laid_patches",
    "layers_under",
    "mask_view",
    "mended_copy",
    "mended_in",
    "own_colors_by",
    "own_pyramid",
    "reach_of",
    "render",
    "render_alone",
    "render_bands",
    "render_deep_bands",
    "render_exact",
    "rim_of",
    "shown_extent",
    "source_of",
    "split_frame",
    "telling_window",
]
