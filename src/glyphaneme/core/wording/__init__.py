"""What layers and canvas do, in plain sentences."""

from __future__ import annotations

from glyphaneme.core.wording.sentences import (
    Part,
    Sentence,
    Touch,
    describe,
    describe_canvas,
)
from glyphaneme.core.wording.words import MODE_WORDS, percent

__all__ = [
    "MODE_WORDS",
    "Part",
    "Sentence",
    "Touch",
    "describe",
    "describe_canvas",
    "percent",
]
