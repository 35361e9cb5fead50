"""Versions: moments of projects that have names, and projects made of them."""

from __future__ import annotations

import uuid
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.document.naming import Name
from glyphaneme.services import projects, versions
from glyphaneme.services.projects import ProjectState
from glyphaneme.services.versions import Version
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, changing, looking

api = blueprint("versions")


class MomentPath(IdPath):
    """A project, and a moment of it."""

    revision: uuid.UUID


class MomentName(BaseModel):
    """What a moment is called."""

    model_config = ConfigDict(extra="forbid")

    name: Name


class NewCopy(BaseModel):
    """A project to make of another's moment; the id is made by the client."""

    model_config = ConfigDict(extra="forbid")

    id: uuid.UUID = Field(default_factory=uuid.uuid4)
    name: Name | None = None
    """Where none is said, it is the first one's name with the moment's."""
    revision: uuid.UUID | None = None
    """How the project stands, where none is said."""


class Versions(BaseModel):
    """All named moments of a project, newest first."""

    versions: list[Version]


@api.get("/projects/<uuid:id>/versions", responses={200: Versions})
def get_versions(path: IdPath) -> dict[str, Any]:
    """Return all named moments of a project."""
    with looking() as visit:
        found = versions.list_versions(visit, path.id)
    return Versions(versions=found).model_dump(mode="json")


@api.put("/projects/<uuid:id>/versions/<uuid:revision>", responses={204: None})
def put_version(path: MomentPath, body: MomentName) -> tuple[str, int]:
    """Give a moment a name, or another one."""
    with changing() as visit:
        versions.name_moment(visit, path.id, path.revision, body.name)
    return "", 204


@api.delete("/projects/<uuid:id>/versions/<uuid:revision>", responses={204: None})
def delete_version(path: MomentPath) -> tuple[str, int]:
    """Take a moment's name away; the moment stays in the history."""
    with changing() as visit:
        versions.forget_name(visit, path.id, path.revision)
    return "", 204


@api.post("/projects/<uuid:id>/copies", responses={201: ProjectState})
def post_copy(path: IdPath, body: NewCopy) -> tuple[dict[str, Any], int]:
    """Make a project of another's moment."""
    with changing() as visit:
        versions.copy_project(
            visit,
            path.id,
            copy_id=body.id,
            name=body.name,
            revision_id=body.revision,
        )
        state = projects.get_project(visit, body.id)
    return state.model_dump(mode="json"), 201
