"""The composite: a frozen value of canvas and layers, and how it is stored."""

from __future__ import annotations

from glyphaneme.core.document.gradients import Gradient, Stop
from glyphaneme.core.document.model import (
    Box,
    Canvas,
    ChangingLayer,
    ColorLayer,
    Composite,
    FlatLayer,
    GradientLayer,
    GroupLayer,
    Layer,
    MendedLayer,
    MendingLayer,
    PhotoLayer,
    PlacedLayer,
    TonedLayer,
    ToningLayer,
    WordsLayer,
)
from glyphaneme.core.document.tree import require_sound
from glyphaneme.core.document.upcasting import open_composite, store_composite

__all__ = [
    "Box",
    "Canvas",
    "ChangingLayer",
    "ColorLayer",
    "Composite",
    "FlatLayer",
    "Gradient",
    "GradientLayer",
    "GroupLayer",
    "Layer",
    "MendedLayer",
    "MendingLayer",
    "PhotoLayer",
    "PlacedLayer",
    "Stop",
    "TonedLayer",
    "ToningLayer",
    "WordsLayer",
    "open_composite",
    "require_sound",
    "store_composite",
]
