"""Colours and tones of pictures."""

from __future__ import annotations

from glyphaneme.core.tone.palette import palette_of

__all__ = ["palette_of"]
