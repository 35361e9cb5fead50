"""Matching a layer's tones to what lies behind it, or to another layer."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.document.apart import alone, before_tone, beneath
from glyphaneme.core.document.model import LayerId
from glyphaneme.core.errors import NothingToMatchError
from glyphaneme.core.match import BEHIND, MOST_PAIRS, by_pairs, offers, sides_of
from glyphaneme.core.render import render
from glyphaneme.core.tone import MatchTone
from glyphaneme.core.values import with_fields
from glyphaneme.services.assets import assets_of
from glyphaneme.services.showing import drafted, whole_view
from glyphaneme.services.toning import SpotColor, ToneRequest, color_at

if TYPE_CHECKING:
    import uuid

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.services.studio import Visit

LOOKED_AT = 320
"""Pixels along the canvas's longer side: as what was learned from was looked at."""
FARTHEST = 1e6


class MatchRequest(ToneRequest):
    """A draft, which tone of which layer shall match it, and to which other layer."""

    to: LayerId | None = None
    """What lies beneath the layer, where it is not said."""


class PointedSpot(BaseModel):
    """A spot of the canvas."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: float = Field(ge=-FARTHEST, le=FARTHEST)
    y: float = Field(ge=-FARTHEST, le=FARTHEST)


class PointedPair(BaseModel):
    """Two spots of the canvas: this of the layer should look like that."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    this: PointedSpot
    that: PointedSpot


class PairsRequest(MatchRequest):
    """The same, and what is pointed at."""

    pairs: list[PointedPair] = Field(min_length=1, max_length=MOST_PAIRS)
    radius: float = Field(default=2.0, gt=0, le=64)


class MatchOffer(BaseModel):
    """One way to match, at half or at full strength."""

    title: str
    strength: float
    tone: MatchTone


class _Compared(NamedTuple):
    composite: Composite
    subject: Composite
    target: Composite
    to: str


def find_matches(
    visit: Visit, project_id: uuid.UUID, asked: MatchRequest
) -> list[MatchOffer]:
    """Return ways to match a layer, the safest first, to be judged by eye.

    Raises
    ------
    NothingToMatchError
        Too little of the one or the other shows.
    """
    compared = _compared(visit, project_id, asked)
    pile = compared.composite.layers
    subject, target = (
        _seen(visit, part, pile) for part in (compared.subject, compared.target)
    )
    found = offers(sides_of(subject, target), compared.to)
    return [
        MatchOffer(title=one.title, strength=one.strength, tone=one.tone)
        for one in found
    ]


def match_pairs(visit: Visit, project_id: uuid.UUID, asked: PairsRequest) -> MatchTone:
    """Return the match that makes spots of a layer look like those pointed at.

    Raises
    ------
    NoColorThereError
        Nothing shows at one of the spots.
    """
    compared = _compared(visit, project_id, asked)
    pile = compared.composite.layers

    def color(part: Composite, spot: PointedSpot) -> SpotColor:
        return color_at(visit, part, (spot.x, spot.y), asked.radius, pile=pile)

    these = [color(compared.subject, pair.this) for pair in asked.pairs]
    those = [color(compared.target, pair.that) for pair in asked.pairs]
    return by_pairs(np.array(these), np.array(those), compared.to)


def _compared(visit: Visit, project_id: uuid.UUID, asked: MatchRequest) -> _Compared:
    """Return a layer as its match finds it, and what it shall resemble.

    Raises
    ------
    NothingToMatchError
        Nothing lies beneath it.
    """
    composite = drafted(visit, project_id, asked)
    subject = before_tone(composite, asked.layer_id, asked.place)
    if asked.to is not None:
        target, to = alone(composite, asked.to), composite.layer(asked.to).name
    else:
        target, to = beneath(composite, asked.layer_id), BEHIND
        if not target.layers:
            raise NothingToMatchError
    # The bare sheet is nothing that was photographed.
    clear = with_fields(composite.canvas, background=None)
    return _Compared(composite, subject, with_fields(target, canvas=clear), to)


def _seen(visit: Visit, part: Composite, pile: tuple[Layer, ...]) -> PixelsU8:
    view = whole_view(part, LOOKED_AT, tallest=LOOKED_AT)
    assets = assets_of(visit, part, view, pile=pile, quick=True)
    return render(part, assets, view, pile=pile)
