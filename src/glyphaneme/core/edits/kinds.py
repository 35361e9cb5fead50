"""The table of all kinds of edits: a new one is a module of its own and a line here."""

from __future__ import annotations

from typing import Annotated, Any, TypeAlias

from pydantic import Field, TypeAdapter

from glyphaneme.core.edits.adding import (
    AddColor,
    AddGradient,
    AddLayer,
    AddMending,
    AddToning,
)
from glyphaneme.core.edits.arranging import AlignLayers, PlaceLayers, SpaceLayers
from glyphaneme.core.edits.blending import BlendLayer
from glyphaneme.core.edits.canvas import SetCanvas
from glyphaneme.core.edits.coloring_by_brush import ColorByBrush
from glyphaneme.core.edits.copying import DuplicateLayer
from glyphaneme.core.edits.cutting import CutOut
from glyphaneme.core.edits.effects import ShadeLayer
from glyphaneme.core.edits.exchanging import ExchangePhoto
from glyphaneme.core.edits.fading import CopyFades, FadeLayer
from glyphaneme.core.edits.grouping import DissolveGroup, GroupLayers
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
from glyphaneme.core.edits.washing import GradeLayer, TintLayer

Edit: TypeAlias = Annotated[
    AddLayer
    | AddColor
    | AddGradient
    | AddMending
    | AddToning
    | AddWords
    | SetWords
    | RemoveLayer
    | DuplicateLayer
    | PlaceLayer
    | BlendLayer
    | TintLayer
    | GradeLayer
    | GroupLayers
    | DissolveGroup
    | NameLayer
    | ShowLayer
    | LockLayer
    | MoveLayer
    | SetCanvas
    | TintSheet
    | AddPart
    | ChangePart
    | RemovePart
    | MovePart
    | SettleMask
    | LinkMask
    | CopyMask
    | DropMask
    | FadeLayer
    | CopyFades
    | LinkFade
    | MeltPhotos
    | PaintStroke
    | CutOut
    | PlaceLayers
    | AlignLayers
    | SpaceLayers
    | ExchangePhoto
    | ToneLayer
    | CopyTones
    | ColorByBrush
    | ShadeLayer
    | MendPhoto
    | SwitchMend
    | RemoveMend
    | PartMatch,
    Field(discriminator="kind"),
]

_ADAPTER: TypeAdapter[Edit] = TypeAdapter(Edit)


def parse_edit(value: dict[str, Any]) -> Edit:
    """Read an edit from its JSON form.

    Parameters
    ----------
    value : dict
        As `model_dump(mode="json")` of an edit wrote it.

    Returns
    -------
    Edit
        One of the edit classes, chosen by `kind`; pydantic's ValidationError where
        the value is none.

    Examples
    --------
    >>> parse_edit({"kind": "remove_layer", "layer_id": "moths"}).layer_id
    'moths'
    """
    return _ADAPTER.validate_python(value)
