"""Colours and tones of pictures."""

from __future__ import annotations

from glyphaneme.core.tone.naming import color_name
from glyphaneme.core.tone.palette import palette_of

__all__ = ["color_name", "palette_of"]
