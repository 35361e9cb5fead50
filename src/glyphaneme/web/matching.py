"""Ways to match a layer's tones to what lies behind it."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from glyphaneme.core.tone import MatchTone
from glyphaneme.services import matching
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, looking

api = blueprint("matching")


class MatchRequest(matching.MatchRequest):
    """Which tone of which layer shall match it, and to which other layer, if to one."""


class PairsRequest(matching.PairsRequest):
    """The same, and pairs of spots: this should look like that."""


class MatchOffers(BaseModel):
    """Ways to match, the safest first."""

    offers: list[matching.MatchOffer]


@api.post("/projects/<uuid:id>/matches", responses={200: MatchOffers})
def post_matches(path: IdPath, body: MatchRequest) -> dict[str, Any]:
    """Offer ways to match a layer, to be judged by eye."""
    with looking() as visit:
        offers = matching.find_matches(visit, path.id, body)
    return MatchOffers(offers=offers).model_dump(mode="json")


@api.post("/projects/<uuid:id>/match-pairs", responses={200: MatchTone})
def post_match_pairs(path: IdPath, body: PairsRequest) -> dict[str, Any]:
    """Match a layer by what is pointed at: this should look like that."""
    with looking() as visit:
        tone = matching.match_pairs(visit, path.id, body)
    return tone.model_dump(mode="json")
