"""What a layer's tones find, and levels that are found for it."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from glyphaneme.core.tone import LevelsTone
from glyphaneme.services import toning
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, looking

api = blueprint("toning")


class SpotColor(BaseModel):
    """The colour of a spot, 0..1."""

    red: float
    green: float
    blue: float


class SpotRequest(toning.SpotRequest):
    """Which tone of which layer, and a spot of the canvas."""


class LevelsRequest(toning.LevelsRequest):
    """The same, and what the spot shall become; or how levels are found without one."""


@api.post("/projects/<uuid:id>/tone-color", responses={200: SpotColor})
def post_tone_color(path: IdPath, body: SpotRequest) -> dict[str, Any]:
    """Return the colour of a spot as a layer's tone finds it."""
    with looking() as visit:
        red, green, blue = toning.color_before(visit, path.id, body)
    return SpotColor(red=red, green=green, blue=blue).model_dump(mode="json")


@api.post("/projects/<uuid:id>/levels", responses={200: LevelsTone})
def post_levels(path: IdPath, body: LevelsRequest) -> dict[str, Any]:
    """Find a layer's levels: by a spot that is black, grey or white, or by its ends."""
    with looking() as visit:
        levels = toning.find_levels(visit, path.id, body)
    return levels.model_dump(mode="json")
