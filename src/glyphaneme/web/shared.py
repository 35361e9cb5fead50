"""What every blueprint needs: the studio, and ids in paths."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Annotated

from flask import current_app
from pydantic import BaseModel, Field

if TYPE_CHECKING:
    from contextlib import AbstractContextManager

    from glyphaneme.services.studio import Studio, Visit

STUDIO_KEY = "glyphaneme-studio"


PlanId = Annotated[str, Field(pattern=r"^[a-z][a-z0-9-]{0,39}$")]


class PlanPath(BaseModel):
    """Which plan."""

    name: PlanId


class IdPath(BaseModel):
    """An id in a path."""

    id: uuid.UUID


def studio() -> Studio:
    """Return the studio of the application that handles this request."""
    found: Studio = current_app.extensions[STUDIO_KEY]
    return found


def looking() -> AbstractContextManager[Visit]:
    """Open a visit that changes nothing."""
    return studio().looking()


def changing() -> AbstractContextManager[Visit]:
    """Open a visit whose changes are kept at its end, all of them or none."""
    return studio().changing()
