"""Versions: moments of a project that have names, and projects made of them."""

from __future__ import annotations

from datetime import datetime
from typing import TYPE_CHECKING
from uuid import UUID

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.document.naming import LONGEST_NAME
from glyphaneme.services.errors import TooManyVersionsError
from glyphaneme.services.projects import (
    begin_project,
    composite_at,
    lock_for_change,
    require_project,
    require_revision,
    tell_of,
)
from glyphaneme.store import versions as versions_store
from glyphaneme.store.projects import mark_changed

if TYPE_CHECKING:
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.rows import ProjectRow, VersionRow

MAX_VERSIONS = 200


class Version(BaseModel):
    """A moment of a project, the name that somebody gave it, and its proportions."""

    model_config = ConfigDict(frozen=True)

    revision: UUID
    name: str
    at: datetime
    """When it was named."""
    width: int
    height: int


def name_moment(visit: Visit, project_id: UUID, revision_id: UUID, name: str) -> None:
    """Give a moment of a project a name, or another one.

    Raises
    ------
    NotThereError
        There is no such project, or no such moment of it.
    TooManyVersionsError
        So many moments of it have names that no more may get one.
    """
    project = lock_for_change(visit, project_id)
    require_revision(visit, project_id, revision_id)
    known = versions_store.find_version(visit.session, revision_id)
    count = versions_store.count_versions(visit.session, project_id)
    if known is None and count >= MAX_VERSIONS:
        raise TooManyVersionsError(MAX_VERSIONS)
    versions_store.put_version(
        visit.session, project_id=project_id, revision_id=revision_id, name=name
    )
    _tell_changed(visit, project)


def forget_name(visit: Visit, project_id: UUID, revision_id: UUID) -> None:
    """Take a moment's name away; the moment stays in the history.

    Raises
    ------
    NotThereError
        There is no such project, or no such moment of it.
    """
    project = lock_for_change(visit, project_id)
    require_revision(visit, project_id, revision_id)
    versions_store.drop_version(visit.session, revision_id)
    _tell_changed(visit, project)


def list_versions(visit: Visit, project_id: UUID) -> list[Version]:
    """Return the named moments of a project, newest first.

    Raises
    ------
    NotThereError
        There is no such project.
    """
    require_project(visit, project_id)
    rows = versions_store.list_versions(visit.session, project_id)
    return [_version(visit, row) for row in rows]


def copy_project(
    visit: Visit,
    project_id: UUID,
    *,
    copy_id: UUID,
    name: str | None = None,
    revision_id: UUID | None = None,
) -> ProjectRow:
    """Make a project of another's moment, mostly of how it stands; once for an id.

    It begins there: what came before stays the history of the first.

    Raises
    ------
    NotThereError
        There is no such project, or no such moment of it.
    KeyReusedError
        A picture has that id that was begun otherwise.
    """
    project = require_project(visit, project_id)
    moment = require_revision(visit, project_id, revision_id or project.head_id)
    called = versions_store.find_version(visit.session, moment.id)
    after = called.name if called is not None and revision_id is not None else "copy"
    return begin_project(
        visit,
        project_id=copy_id,
        name=name or _joined(project.name, after),
        composite=composite_at(visit, moment.id),
        label=f"Begun from {project.name}",
        asked={
            "copy_of": str(project_id),
            "moment": None if revision_id is None else str(revision_id),
            "name": name,
        },
    )


def _joined(name: str, after: str) -> str:
    room = max(0, LONGEST_NAME - len(after) - 2)
    return f"{name[:room]}, {after}"[:LONGEST_NAME]


def _tell_changed(visit: Visit, project: ProjectRow) -> None:
    mark_changed(visit.session, project)
    tell_of(visit, project)


def _version(visit: Visit, row: VersionRow) -> Version:
    canvas = composite_at(visit, row.revision_id).canvas
    return Version(
        revision=row.revision_id,
        name=row.name,
        at=row.created_at,
        width=canvas.width,
        height=canvas.height,
    )
