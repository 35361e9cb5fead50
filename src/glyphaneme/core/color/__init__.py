"""Colours: how they are written and named, their spaces, and those a picture offers."""

from __future__ import annotations

from glyphaneme.core.color.contrast import contrast_of, told_from
from glyphaneme.core.color.naming import color_name
from glyphaneme.core.color.palette import palette_of
from glyphaneme.core.color.spaces import (
    Color,
    decoded,
    encoded,
    from_oklab,
    levels_of,
    oklab,
    oklab_of,
)

__all__ = [
    "Color",
    "color_name",
    "contrast_of",
    "decoded",
    "encoded",
    "from_oklab",
    "levels_of",
    "oklab",
    "oklab_of",
    "palette_of",
    "told_from",
]
