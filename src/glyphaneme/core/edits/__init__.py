"""Edits: small validated values, each one thing that a person did to a composite."""

from __future__ import annotations

from glyphaneme.core.edits.adding import (
    AddColor,
    AddGradient,
    AddLayer,
    AddMending,
    AddToning,
)
from glyphaneme.core.edits.applying import apply, decided, describe_edit
from glyphaneme.core.edits.arranging import (
    AlignLayers,
    PlacedOne,
    PlaceLayers,
    SpaceLayers,
)
from glyphaneme.core.edits.blending import BlendLayer
from glyphaneme.core.edits.canvas import SetCanvas
from glyphaneme.core.edits.coloring_by_brush import ColorByBrush
from glyphaneme.core.edits.copying import DuplicateLayer
from glyphaneme.core.edits.cutting import CutOut
from glyphaneme.core.edits.effects import ShadeLayer
from glyphaneme.core.edits.exchanging import ExchangePhoto
from glyphaneme.core.edits.fading import CopyFades, FadeLayer
from glyphaneme.core.edits.grouping import DissolveGroup, GroupLayers
from glyphaneme.core.edits.kinds import Edit, parse_edit
from glyphaneme.core.edits.lettering import AddWords, SetWords
from glyphaneme.core.edits.linking_fades import LinkFade
from glyphaneme.core.edits.locking import LockLayer
from glyphaneme.core.edits.mask_parts import (
    AddPart,
    ChangePart,
    MovePart,
    RemovePart,
)
from glyphaneme.core.edits.mask_whole import (
    CopyMask,
    DropMask,
    LinkMask,
    SettleMask,
)
from glyphaneme.core.edits.melting import MeltPhotos
from glyphaneme.core.edits.mending import MendPhoto, RemoveMend, SwitchMend
from glyphaneme.core.edits.moving import MoveLayer
from glyphaneme.core.edits.naming import NameLayer
from glyphaneme.core.edits.painting import PaintStroke
from glyphaneme.core.edits.placing import PlaceLayer
from glyphaneme.core.edits.removing import RemoveLayer
from glyphaneme.core.edits.showing import ShowLayer
from glyphaneme.core.edits.tinting_sheet import TintSheet
from glyphaneme.core.edits.toning import CopyTones, PartMatch, ToneLayer
from glyphaneme.core.edits.upcasting import open_edit, says_the_same, store_edit
from glyphaneme.core.edits.washing import GradeLayer, TintLayer

__all__ = [
    "AddColor",
    "AddGradient",
    "AddLayer",
    "AddMending",
    "AddPart",
    "AddToning",
    "AddWords",
    "AlignLayers",
    "BlendLayer",
    "ChangePart",
    "ColorByBrush",
    "CopyFades",
    "CopyMask",
    "CopyTones",
    "CutOut",
    "DissolveGroup",
    "DropMask",
    "DuplicateLayer",
    "Edit",
    "ExchangePhoto",
    "FadeLayer",
    "GradeLayer",
    "GroupLayers",
    "LinkFade",
    "LinkMask",
    "LockLayer",
    "MeltPhotos",
    "MendPhoto",
    "MoveLayer",
    "MovePart",
    "NameLayer",
    "PaintStroke",
    "PartMatch",
    "PlaceLayer",
    "PlaceLayers",
    "PlacedOne",
    "RemoveLayer",
    "RemoveMend",
    "RemovePart",
    "SetCanvas",
    "SetWords",
    "SettleMask",
    "ShadeLayer",
    "ShowLayer",
    "SpaceLayers",
    "SwitchMend",
    "TintLayer",
    "TintSheet",
    "ToneLayer",
    "apply",
    "decided",
    "describe_edit",
    "open_edit",
    "parse_edit",
    "says_the_same",
    "store_edit",
]
