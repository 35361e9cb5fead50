"""The composite: its model, the edits that change it, its sentences, its picture."""

from __future__ import annotations

from glyphaneme.core.stack.applying import apply
from glyphaneme.core.stack.edits import (
    AddLayer,
    BlendLayer,
    DuplicateLayer,
    Edit,
    LockLayer,
    MoveLayer,
    NameLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    ShowLayer,
    parse_edit,
)
from glyphaneme.core.stack.model import Canvas, Composite, Layer
from glyphaneme.core.stack.rendering import View, render, split_frame
from glyphaneme.core.stack.sentences import (
    Part,
    Sentence,
    describe,
    describe_canvas,
    describe_edit,
)

__all__ = [
    "AddLayer",
    "BlendLayer",
    "Canvas",
    "Composite",
    "DuplicateLayer",
    "Edit",
    "Layer",
    "LockLayer",
    "MoveLayer",
    "NameLayer",
    "Part",
    "PlaceLayer",
    "RemoveLayer",
    "Sentence",
    "SetCanvas",
    "ShowLayer",
    "View",
    "apply",
    "describe",
    "describe_canvas",
    "describe_edit",
    "parse_edit",
    "render",
    "split_frame",
]
