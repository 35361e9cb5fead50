"""Tones: how light, how colourful and of what colour a layer is."""

from __future__ import annotations

from glyphaneme.core.tone.areas import AreaTone, Seen
from glyphaneme.core.tone.base import PixelTone, ToneBase
from glyphaneme.core.tone.blur import BlurTone
from glyphaneme.core.tone.clarity import ClarityTone
from glyphaneme.core.tone.coloring import ColoringTone
from glyphaneme.core.tone.curves import CurvesTone
from glyphaneme.core.tone.grain import GrainTone
from glyphaneme.core.tone.invert import InvertTone
from glyphaneme.core.tone.kinds import (
    MAX_TONES,
    Tone,
    Tones,
    ops_of,
    scaled,
    split,
    spread_of,
    working,
)
from glyphaneme.core.tone.lens import LensTone
from glyphaneme.core.tone.levels import Ends, LevelsTone
from glyphaneme.core.tone.light import LightTone
from glyphaneme.core.tone.match import MatchTone
from glyphaneme.core.tone.monochrome import MonochromeTone
from glyphaneme.core.tone.one_hue import OneHueTone
from glyphaneme.core.tone.ops import Domain, Op, Program, planned, program, tabled
from glyphaneme.core.tone.painterly import PainterlyTone
from glyphaneme.core.tone.sharpen import SharpenTone
from glyphaneme.core.tone.splines import Spline, monotone
from glyphaneme.core.tone.warmth import WarmthTone

__all__ = [
    "MAX_TONES",
    "AreaTone",
    "BlurTone",
    "ClarityTone",
    "ColoringTone",
    "CurvesTone",
    "Domain",
    "Ends",
    "GrainTone",
    "InvertTone",
    "LensTone",
    "LevelsTone",
    "LightTone",
    "MatchTone",
    "MonochromeTone",
    "OneHueTone",
    "Op",
    "PainterlyTone",
    "PixelTone",
    "Program",
    "Seen",
    "SharpenTone",
    "Spline",
    "Tone",
    "ToneBase",
    "Tones",
    "WarmthTone",
    "monotone",
    "ops_of",
    "planned",
    "program",
    "scaled",
    "split",
    "spread_of",
    "tabled",
    "working",
]
