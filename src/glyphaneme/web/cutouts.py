"""Taking the backdrop away: asking for a matte, and which networks find it."""

from __future__ import annotations

import uuid
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.services import cutting
from glyphaneme.services.cutting import (
    CutAnswer,
    DoubtfulPlace,
    Haste,
    NetworkChoice,
)
from glyphaneme.services.matting import CutRequest
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, changing, looking

api = blueprint("cutouts")


class NewCut(BaseModel):
    """What is to be found; the key makes it count once."""

    model_config = ConfigDict(extra="forbid")

    key: uuid.UUID = Field(default_factory=uuid.uuid4)
    request: CutRequest = CutRequest()
    haste: Haste = "now"
    """What is wanted next comes after that, what is wanted whenever stands back."""


class MattePath(BaseModel):
    """Which matte."""

    sha256: str = Field(pattern=r"^[0-9a-f]{64}$")


class MatteQuery(BaseModel):
    """One of its pixels covers 2^level by 2^level of the picture's."""

    level: int = Field(default=0, ge=0, le=12)


class Doubts(BaseModel):
    """Places in the picture's own pixels, the largest first."""

    places: list[DoubtfulPlace]


class NetworkChoices(BaseModel):
    """All networks, the one that is asked first foremost."""

    networks: list[NetworkChoice]


@api.post("/pictures/<uuid:id>/mattes", responses={200: CutAnswer, 202: CutAnswer})
def post_matte(path: IdPath, body: NewCut) -> tuple[dict[str, Any], int]:
    """Return a matte of a picture, or have it found."""
    with changing() as visit:
        answer = cutting.start_cut(
            visit,
            path.id,
            key=body.key,
            request=body.request,
            haste=body.haste,
        )
    return answer.model_dump(mode="json"), 202 if answer.job else 200


@api.get("/mattes/<string:sha256>/doubts", responses={200: Doubts})
def get_doubts(path: MattePath, query: MatteQuery) -> dict[str, Any]:
    """Return where a matte is least sure, the largest places first."""
    with looking() as visit:
        places = cutting.list_doubts(visit, path.sha256, level=query.level)
    return Doubts(places=places).model_dump(mode="json")


@api.get("/networks", responses={200: NetworkChoices})
def get_networks() -> dict[str, Any]:
    """Return the networks that can be asked."""
    with looking() as visit:
        networks = cutting.list_networks(visit.studio)
    return NetworkChoices(networks=networks).model_dump(mode="json")
