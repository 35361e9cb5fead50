"""What layers and canvas do, in plain sentences."""

from __future__ import annotations

from glyphaneme.core.wording.effects import effects_words
from glyphaneme.core.wording.masks import cut_words, fading_words, part_words
from glyphaneme.core.wording.sentences import (
    Part,
    Sentence,
    Touch,
    describe,
    describe_canvas,
)
from glyphaneme.core.wording.tones import tone_words, toning_words
from glyphaneme.core.wording.words import JOIN_WORDS, MODE_WORDS, percent

__all__ = [
    "JOIN_WORDS",
    "MODE_WORDS",
    "Part",
    "Sentence",
    "Touch",
    "cut_words",
    "describe",
    "describe_canvas",
    "effects_words",
    "fading_words",
    "part_words",
    "percent",
    "tone_words",
    "toning_words",
]
