"""Colours of files: profiles, and what becomes of our sRGB in them (LittleCMS)."""

from __future__ import annotations

from glyphaneme.codecs.color.bringing import (
    MAX_PROFILE_BYTES,
    ProfileFacts,
    read_profile,
)
from glyphaneme.codecs.color.converting import Conversion, Ink
from glyphaneme.codecs.color.profiles import coated_profile, srgb_profile
from glyphaneme.codecs.color.proofing import outside_gamut, proofed

__all__ = [
    "MAX_PROFILE_BYTES",
    "Conversion",
    "Ink",
    "ProfileFacts",
    "coated_profile",
    "outside_gamut",
    "proofed",
    "read_profile",
    "srgb_profile",
]
