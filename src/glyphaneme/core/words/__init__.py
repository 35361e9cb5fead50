"""Words: fonts, shaping, lines, forms and outlines; no files, fonts come as bytes.

What shapes and draws is imported from its modules: documents need the values alone.
"""

from __future__ import annotations

from glyphaneme.core.words.values import (
    Align,
    FontId,
    FontRef,
    Measure,
    Setting,
    Text,
    Words,
)

__all__ = [
    "Align",
    "FontId",
    "FontRef",
    "Measure",
    "Setting",
    "Text",
    "Words",
]
