"""Finished files as pure descriptions: what to make, how large, for what purpose."""

from __future__ import annotations

from glyphaneme.core.finish.about import About
from glyphaneme.core.finish.dimensions import Dimensions, dimensions_of, fitting_height
from glyphaneme.core.finish.formats import FileFormat
from glyphaneme.core.finish.lettering import words_apart
from glyphaneme.core.finish.noting import SoftLayer, enlargements, soft_layers
from glyphaneme.core.finish.purposes import PURPOSES, Purpose, PurposeId
from glyphaneme.core.finish.settings import FileSettings, Paper
from glyphaneme.core.finish.sizes import Size
from glyphaneme.core.finish.tiling import Tile, tiled
from glyphaneme.core.finish.trimming import shown_part

__all__ = [
    "PURPOSES",
    "About",
    "Dimensions",
    "FileFormat",
    "FileSettings",
    "Paper",
    "Purpose",
    "PurposeId",
    "Size",
    "SoftLayer",
    "Tile",
    "dimensions_of",
    "enlargements",
    "fitting_height",
    "shown_part",
    "soft_layers",
    "tiled",
    "words_apart",
]
