"""Matching a layer's tones to what lies behind it: offers, and pairs pointed at."""

from __future__ import annotations

from glyphaneme.core.match.offering import BEHIND, Offer, by_itself, offers
from glyphaneme.core.match.pairs import MOST_PAIRS, by_pairs
from glyphaneme.core.match.statistics import Sides, sides_of

__all__ = [
    "BEHIND",
    "MOST_PAIRS",
    "Offer",
    "Sides",
    "by_itself",
    "by_pairs",
    "offers",
    "sides_of",
]
