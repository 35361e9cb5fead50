"""Two pictures compared: a page that works by itself, and what moves."""

from __future__ import annotations

from glyphaneme.codecs.comparing.moving import write_moving
from glyphaneme.codecs.comparing.page import Shown, comparison_page

__all__ = ["Shown", "comparison_page", "write_moving"]
