"""Lining up photos of the same place."""

from __future__ import annotations

import uuid
from typing import Any

from pydantic import Field

from glyphaneme.services import aligning
from glyphaneme.services.aligning import AlignAnswer, AlignRequest
from glyphaneme.services.showing import Draft
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, changing

api = blueprint("aligning")


class NewAlign(Draft):
    """A draft, and which of its photos are lined up; the key makes it count once."""

    key: uuid.UUID = Field(default_factory=uuid.uuid4)
    request: AlignRequest


@api.post(
    "/projects/<uuid:id>/alignments", responses={200: AlignAnswer, 202: AlignAnswer}
)
def post_alignment(path: IdPath, body: NewAlign) -> tuple[dict[str, Any], int]:
    """Return where a photo lies over another, or have it found."""
    with changing() as visit:
        answer = aligning.start_align(
            visit,
            path.id,
            key=body.key,
            draft=Draft(revision=body.revision, unsaved=body.unsaved),
            request=body.request,
        )
    return answer.model_dump(mode="json"), 202 if answer.job else 200
