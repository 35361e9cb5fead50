"""What files are made for, and the colours of printers."""

from __future__ import annotations

from typing import Any

from flask import Response
from pydantic import BaseModel, ConfigDict

from glyphaneme.core.finish import FileSettings
from glyphaneme.core.finish.settings import ProfileId
from glyphaneme.services import profiles, purposes
from glyphaneme.services.profiles import OfferedProfile
from glyphaneme.services.purposes import OfferedPurpose, PurposeFile, PurposeKey
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import changing, looking
from glyphaneme.web.uploads import uploaded

api = blueprint("purposes")


class Purposes(BaseModel):
    """All purposes on offer."""

    purposes: list[OfferedPurpose]


class PurposePath(BaseModel):
    """A purpose in a path."""

    id: PurposeKey


class PurposeChange(BaseModel):
    """What a purpose sets from now on."""

    model_config = ConfigDict(extra="forbid")

    settings: FileSettings


class Profiles(BaseModel):
    """All printers' colours on offer."""

    profiles: list[OfferedProfile]


class ProfilePath(BaseModel):
    """A profile in a path."""

    id: ProfileId


@api.get("/purposes", responses={200: Purposes})
def get_purposes() -> dict[str, Any]:
    """Return all purposes on offer."""
    with looking() as visit:
        found = purposes.list_purposes(visit)
    return Purposes(purposes=found).model_dump(mode="json")


@api.post("/purposes", responses={201: OfferedPurpose})
def post_purpose(body: PurposeFile) -> tuple[dict[str, Any], int]:
    """Name a purpose of one's own; the body is a purpose's file."""
    with changing() as visit:
        found = purposes.add_purpose(visit, body.name, body.settings)
    return found.model_dump(mode="json"), 201


@api.put("/purposes/<id>", responses={200: OfferedPurpose})
def put_purpose(path: PurposePath, body: PurposeChange) -> dict[str, Any]:
    """Remember what a purpose sets."""
    with changing() as visit:
        found = purposes.keep_purpose(visit, path.id, body.settings)
    return found.model_dump(mode="json")


@api.delete("/purposes/<id>", responses={204: None})
def delete_purpose(path: PurposePath) -> tuple[str, int]:
    """Take an own purpose away, or let one that ships set what it did at first."""
    with changing() as visit:
        purposes.forget_purpose(visit, path.id)
    return "", 204


@api.get("/profiles", responses={200: Profiles})
def get_profiles() -> dict[str, Any]:
    """Return all printers' colours on offer."""
    with looking() as visit:
        found = profiles.list_profiles(visit)
    return Profiles(profiles=found).model_dump(mode="json")


@api.post("/profiles", responses={201: OfferedProfile})
def post_profile() -> Response | tuple[dict[str, Any], int]:
    """Bring in a printer's colour profile: multipart, field `file`."""
    upload = uploaded("the colour profile")
    if isinstance(upload, Response):
        return upload
    with changing() as visit:
        found = profiles.bring_in_profile(visit, upload.file)
    return found.model_dump(mode="json"), 201


@api.delete("/profiles/<id>", responses={204: None})
def delete_profile(path: ProfilePath) -> tuple[str, int]:
    """Take a profile off those on offer."""
    with changing() as visit:
        profiles.put_away_profile(visit, path.id)
    return "", 204
