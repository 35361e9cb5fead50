"""Projects: the wall, edits, and moving through history."""

from __future__ import annotations

import uuid
from typing import Any

from flask import Response
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.blend import MODE_GROUPS, BlendMode
from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.document.naming import Name
from glyphaneme.core.edits import Edit
from glyphaneme.services import editing, opening, projects
from glyphaneme.services.editing import EditAnswer, History
from glyphaneme.services.health import check_health
from glyphaneme.services.projects import ProjectCard, ProjectState
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, changing, looking, studio
from glyphaneme.web.uploads import uploaded

api = blueprint("projects")


class _Body(BaseModel):
    model_config = ConfigDict(extra="forbid")


class NewProject(_Body):
    """A picture to begin; the id is made by the client."""

    id: uuid.UUID = Field(default_factory=uuid.uuid4)
    name: Name
    canvas: Canvas


class ProjectChange(_Body):
    """Another name, or whether the project is off the wall."""

    name: Name | None = None
    removed: bool | None = None


class NewEdit(_Body):
    """An edit, the key that makes it count once, and the state it was made on."""

    key: uuid.UUID
    parent: uuid.UUID
    edit: Edit


class Standing(_Body):
    """Where to go in the history, and where the client believes to be.

    The key makes it count once.
    """

    key: uuid.UUID = Field(default_factory=uuid.uuid4)
    to: uuid.UUID
    came_from: uuid.UUID


class HistoryQuery(_Body):
    """The last edit of the way that is known already, where one is."""

    after: uuid.UUID | None = None


class Wall(BaseModel):
    """All projects, last changed first."""

    projects: list[ProjectCard]


class ModeChoice(BaseModel):
    """A blend mode and its name."""

    mode: BlendMode
    title: str


class ModeChoices(BaseModel):
    """Modes that do a similar thing."""

    title: str
    modes: list[ModeChoice]


class ModeCatalogue(BaseModel):
    """All blend modes, by what they do."""

    groups: list[ModeChoices]


class Health(BaseModel):
    """That the service and its database answer."""

    status: str


@api.get("/health", responses={200: Health})
def get_health() -> dict[str, str]:
    """Tell that the service and its database answer."""
    check_health(studio())
    return {"status": "ok"}


@api.get("/modes", responses={200: ModeCatalogue})
def get_modes() -> dict[str, Any]:
    """Return all blend modes, grouped by what they do to a picture."""
    groups = [
        ModeChoices(
            title=group.title,
            modes=[ModeChoice(mode=mode, title=mode.title) for mode in group.modes],
        )
        for group in MODE_GROUPS
    ]
    return ModeCatalogue(groups=groups).model_dump(mode="json")


@api.get("/projects", responses={200: Wall})
def get_projects() -> dict[str, Any]:
    """Return all projects."""
    with looking() as visit:
        cards = projects.list_wall(visit)
    return Wall(projects=cards).model_dump(mode="json")


@api.post("/projects", responses={201: ProjectState})
def post_project(body: NewProject) -> tuple[dict[str, Any], int]:
    """Begin an empty picture."""
    with changing() as visit:
        projects.begin_project(
            visit,
            project_id=body.id,
            name=body.name,
            composite=Composite(canvas=body.canvas),
            asked=body.model_dump(mode="json", exclude={"id"}),
        )
        state = projects.get_project(visit, body.id)
    return state.model_dump(mode="json"), 201


@api.post("/projects/layered", responses={201: ProjectState})
def post_layered() -> Response | tuple[dict[str, Any], int]:
    """Open a layered OpenRaster file as a new project: multipart, field `file`."""
    upload = uploaded("the layered file")
    if isinstance(upload, Response):
        return upload
    with changing() as visit:
        project = opening.open_layered(visit, upload.file, file_name=upload.name)
        state = projects.get_project(visit, project)
    return state.model_dump(mode="json"), 201


@api.get("/projects/<uuid:id>", responses={200: ProjectState})
def get_project(path: IdPath) -> dict[str, Any]:
    """Return a project as it stands."""
    with looking() as visit:
        state = projects.get_project(visit, path.id)
    return state.model_dump(mode="json")


@api.patch("/projects/<uuid:id>", responses={204: None})
def patch_project(path: IdPath, body: ProjectChange) -> tuple[str, int]:
    """Rename a project, take it off the wall, or put it back."""
    with changing() as visit:
        if body.removed is not None:
            projects.remove_project(visit, path.id, removed=body.removed)
        if body.name is not None:
            projects.rename_project(visit, path.id, body.name)
    return "", 204


@api.post("/projects/<uuid:id>/edits", responses={201: EditAnswer})
def post_edit(path: IdPath, body: NewEdit) -> tuple[dict[str, Any], int]:
    """Apply an edit, once."""
    with changing() as visit:
        answer = editing.add_edit(
            visit,
            path.id,
            key=body.key,
            parent=body.parent,
            edit=body.edit,
        )
    return answer.model_dump(mode="json"), 201


@api.post("/projects/<uuid:id>/standing", responses={200: ProjectState})
def post_standing(path: IdPath, body: Standing) -> dict[str, Any]:
    """Undo, redo, or go to any other state."""
    with changing() as visit:
        state = editing.stand_at(
            visit,
            path.id,
            key=body.key,
            to=body.to,
            came_from=body.came_from,
        )
    return state.model_dump(mode="json")


@api.get("/projects/<uuid:id>/history", responses={200: History})
def get_history(path: IdPath, query: HistoryQuery) -> dict[str, Any]:
    """Return a project's history, or of its way only what is new."""
    with looking() as visit:
        history = editing.get_history(visit, path.id, after=query.after)
    return history.model_dump(mode="json")
