"""Colours: their names, and those that a picture offers."""

from __future__ import annotations

from glyphaneme.core.color.naming import color_name
from glyphaneme.core.color.palette import palette_of

__all__ = ["color_name", "palette_of"]
