"""Telling a subject from its backdrop, and what its edge is made of."""

from __future__ import annotations

from glyphaneme.core.cutout.carrying import Guide, Guides, carried_up
from glyphaneme.core.cutout.doubts import Doubt, doubtful_places
from glyphaneme.core.cutout.finding import (
    WAYS,
    Evidence,
    Look,
    box_of,
    matte_found,
    rough_matte,
    subjects_in,
)
from glyphaneme.core.cutout.hints import Marks, Start, corrected, marks_of, start_of
from glyphaneme.core.cutout.matting import Laplacian, refined, solved
from glyphaneme.core.cutout.spreading import Graph, graph_of, spread
from glyphaneme.core.cutout.values import ColorsU8, Mark, MatteF32, MatteU8, shrunk

__all__ = [
    "WAYS",
    "ColorsU8",
    "Doubt",
    "Evidence",
    "Graph",
    "Guide",
    "Guides",
    "Laplacian",
    "Look",
    "Mark",
    "Marks",
    "MatteF32",
    "MatteU8",
    "Start",
    "box_of",
    "carried_up",
    "corrected",
    "doubtful_places",
    "graph_of",
    "marks_of",
    "matte_found",
    "refined",
    "rough_matte",
    "shrunk",
    "solved",
    "spread",
    "start_of",
    "subjects_in",
]
