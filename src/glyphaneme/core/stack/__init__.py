"""The composite: its model, the edits that change it, its sentences, its picture."""

from __future__ import annotations

from glyphaneme.core.stack.applying import apply
from glyphaneme.core.stack.caching import FrameCache
from glyphaneme.core.stack.deciding import decided
from glyphaneme.core.stack.edits import (
    AddColor,
    AddGradient,
    AddLayer,
    BlendLayer,
    DissolveGroup,
    DuplicateLayer,
    Edit,
    GradeLayer,
    GroupLayers,
    LockLayer,
    MoveLayer,
    NameLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    ShowLayer,
    TintLayer,
    parse_edit,
)
from glyphaneme.core.stack.gradients import Gradient, Stop
from glyphaneme.core.stack.model import (
    Canvas,
    ColorLayer,
    Composite,
    GradientLayer,
    GroupLayer,
    Layer,
    PhotoLayer,
)
from glyphaneme.core.stack.reaching import reach_of
from glyphaneme.core.stack.rendering import (
    render,
    render_bands,
    render_fine,
    split_frame,
)
from glyphaneme.core.stack.sentences import (
    Part,
    Sentence,
    describe,
    describe_canvas,
    describe_edit,
)
from glyphaneme.core.stack.tables import View
from glyphaneme.core.stack.upcasting import (
    open_composite,
    open_edit,
    says_the_same,
    store_composite,
    store_edit,
)

__all__ = [
    "AddColor",
    "AddGradient",
    "AddLayer",
    "BlendLayer",
    "Canvas",
    "ColorLayer",
    "Composite",
    "DissolveGroup",
    "DuplicateLayer",
    "Edit",
    "FrameCache",
    "GradeLayer",
    "Gradient",
    "GradientLayer",
    "GroupLayer",
    "GroupLayers",
    "Layer",
    "LockLayer",
    "MoveLayer",
    "NameLayer",
    "Part",
    "PhotoLayer",
    "PlaceLayer",
    "RemoveLayer",
    "Sentence",
    "SetCanvas",
    "ShowLayer",
    "Stop",
    "TintLayer",
    "View",
    "apply",
    "decided",
    "describe",
    "describe_canvas",
    "describe_edit",
    "open_composite",
    "open_edit",
    "parse_edit",
    "reach_of",
    "render",
    "render_bands",
    "render_fine",
    "says_the_same",
    "split_frame",
    "store_composite",
    "store_edit",
]
