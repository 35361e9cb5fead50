"""Rules by which a plan places photos: each a value, and what comes of it.

Areas and spots count in shares of the sheet: 0 is its left or top, 1 its right or
bottom.
"""

from __future__ import annotations

from typing import Annotated, Literal, TypeAlias

from pydantic import Field

from glyphaneme.core.place.crop import FrameShape
from glyphaneme.core.plans.base import PlanName, PlanValue, Share
from glyphaneme.core.plans.facts import Facing

SheetShare = Annotated[float, Field(ge=-2, le=3, allow_inf_nan=False)]
SideShare = Annotated[float, Field(gt=0, le=4, allow_inf_nan=False)]
Gap = Annotated[float, Field(ge=0, le=0.4, allow_inf_nan=False)]


class Area(PlanValue):
    """A part of the sheet."""

    left: SheetShare = 0.0
    top: SheetShare = 0.0
    width: SideShare = 1.0
    height: SideShare = 1.0


WHOLE = Area()


class Aim(PlanValue):
    """Where in an area something shall come to lie, as far as it can."""

    x: Share = 0.5
    y: Share = 0.5


class PlacingBase(PlanValue):
    """What rules say that may mirror a photo."""

    facing: Facing | None = None
    """Which way the subject shall look; it is mirrored where it is seen not to."""
    flipped: bool = False


class Fill(PlacingBase):
    """Cover an area without stretching; the subject stays in sight, the horizon level.

    Where the photo is larger than the area, its subject's centre comes as near to
    `aim` as nothing of the area stays empty. With `cropped` nothing of it is seen
    beyond the area.
    """

    rule: Literal["fill"] = "fill"
    area: Area = WHOLE
    aim: Aim = Aim()
    cropped: bool = False
    shape: FrameShape = FrameShape.RECTANGLE
    corner: Share = 0.0
    """Radius of a cropped frame's corners, as a share of its shorter side."""
    closer: Annotated[float, Field(ge=1, le=8, allow_inf_nan=False)] = 1.0
    """How much larger it lies than covering asks for."""


class Fit(PlacingBase):
    """Lie whole in an area, the photo or its subject alone."""

    rule: Literal["fit"] = "fit"
    area: Area = WHOLE
    of: Literal["photo", "subject"] = "photo"
    aim: Aim = Aim()


class Stand(PlacingBase):
    """Let a subject stand in an area, as tall as it, or as wide.

    Where a side of the photo cuts it off, that side comes to lie on the sheet's edge
    or beyond, so that no cut edge is seen.
    """

    rule: Literal["stand"] = "stand"
    area: Area = WHOLE
    lean: Share = 0.5
    """Where between the area's left and right it stands, if there is room."""


class Over(PlacingBase):
    """Cover what shows of another layer: its subject's box, as it lies."""

    rule: Literal["over"] = "over"
    layer: PlanName
    aim: Aim = Aim()
    closer: Annotated[float, Field(ge=0.2, le=8, allow_inf_nan=False)] = 1.0


class Like(PlacingBase):
    """Lie as another layer does; a photo of another shape covers the same frame."""

    rule: Literal["like"] = "like"
    layer: PlanName


class Into(PlacingBase):
    """Be set into the blank four-sided place of another layer's photo."""

    rule: Literal["into"] = "into"
    layer: PlanName
    beyond: Annotated[float, Field(ge=0, le=0.1, allow_inf_nan=False)] = 0.004
    """How far it reaches beneath the rim, as a share of its sides."""


class LinedUp(PlanValue):
    """Lie over another layer's photo so that what both show lies together."""

    rule: Literal["lined_up"] = "lined_up"
    layer: PlanName


class Cell(PlacingBase):
    """Fill one cell of a grid that all photos of the slot share, with even gaps."""

    rule: Literal["cell"] = "cell"
    area: Area = WHOLE
    gap: Gap = 0.03
    """Between cells, as a share of the area's shorter side."""
    corner: Share = 0.0
    columns: Annotated[int, Field(ge=1, le=24)] | None = None
    """As many as make cells most nearly square, where none is said."""


class Melt(PlacingBase):
    """Share the sheet with the slot's other photos, each melting into the next."""

    rule: Literal["melt"] = "melt"
    axis: Literal["across", "down"] = "across"
    overlap: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 0.5
    """How wide each melts into the next, as a share of what one of them covers."""


Placing: TypeAlias = Annotated[
    Fill | Fit | Stand | Over | Like | Into | LinedUp | Cell | Melt,
    Field(discriminator="rule"),
]


class Lines(PlanValue):
    """Where words stand: within an area, as large as they are set or as fits it."""

    area: Area = WHOLE
    aim: Aim = Aim()
    """Where in the area the block of lines lies."""


BESIDE = (Over, Like, Into, LinedUp)
"""Rules whose place follows from another layer's."""
