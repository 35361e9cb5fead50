"""The sixteen blend modes and how they are grouped by what they do."""

from __future__ import annotations

from glyphaneme.core.blend.modes import BLEND_CODES, MODE_GROUPS, BlendMode, ModeGroup

__all__ = ["BLEND_CODES", "MODE_GROUPS", "BlendMode", "ModeGroup"]
