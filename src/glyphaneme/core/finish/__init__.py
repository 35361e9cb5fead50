"""Finished files as pure descriptions: what to make, how large, for what purpose."""

from __future__ import annotations

from glyphaneme.core.finish.about import About
from glyphaneme.core.finish.formats import FileFormat
from glyphaneme.core.finish.lettering import words_apart
from glyphaneme.core.finish.noting import SoftLayer, enlargements, soft_layers
from glyphaneme.core.finish.planning import Plan, fitting_height, planned
from glyphaneme.core.finish.purposes import PURPOSES, Purpose, PurposeId
from glyphaneme.core.finish.settings import FileSettings, Paper
from glyphaneme.core.finish.sizes import Size
from glyphaneme.core.finish.tiling import Tile, tiled
from glyphaneme.core.finish.trimming import shown_part

__all__ = [
    "PURPOSES",
    "About",
    "FileFormat",
    "FileSettings",
    "Paper",
    "Plan",
    "Purpose",
    "PurposeId",
    "Size",
    "SoftLayer",
    "Tile",
    "enlargements",
    "fitting_height",
    "planned",
    "shown_part",
    "soft_layers",
    "tiled",
    "words_apart",
]
