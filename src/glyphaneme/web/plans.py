"""Plans: known kinds of pictures, previews of them, and pictures begun from them."""

from __future__ import annotations

import io
import uuid
from typing import Any

from flask import Response, request
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.plans import Filling
from glyphaneme.core.plans.remaking import NewPlan
from glyphaneme.services import projects
from glyphaneme.services.plans import beginning, checking, offering, owning, showing
from glyphaneme.services.plans.checking import Checklist, ChecklistChange
from glyphaneme.services.plans.offering import PlanOffer
from glyphaneme.services.plans.showing import PlanLook
from glyphaneme.services.projects import PlanName, ProjectState
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, PlanId, PlanPath, changing, looking
from glyphaneme.web.uploads import uploaded

api = blueprint("plans")


class ExampleQuery(BaseModel):
    """The photo of which slot; the finished picture where none is named."""

    slot: PlanId | None = None


class PlanOffers(BaseModel):
    """All plans, in the order in which they are offered."""

    plans: list[PlanOffer]


class FillingBody(BaseModel):
    """What is put into a plan."""

    model_config = ConfigDict(extra="forbid")

    filling: Filling


class FillingFrame(FillingBody):
    """The same, and how long the longer side of a preview may be."""

    side: int = Field(default=800, ge=8, le=2048)


class NewFromPlan(FillingBody):
    """A picture to begin; the id is made by the client."""

    id: uuid.UUID = Field(default_factory=uuid.uuid4)


MAGIC = {b"\x89PNG": "image/png", b"\xff\xd8\xff": "image/jpeg"}


def _kind_of(data: bytes) -> str:
    """Return the media type of an example."""
    return next(
        (kind for magic, kind in MAGIC.items() if data.startswith(magic)), "image/webp"
    )


class NewPlanOf(NewPlan):
    """What a plan is called that is made of a picture, and which photos are slots."""


@api.get("/plans", responses={200: PlanOffers})
def get_plans() -> dict[str, Any]:
    """Return all plans."""
    with looking() as visit:
        offers = offering.list_plans(visit)
    return PlanOffers(plans=offers).model_dump(mode="json")


@api.get(
    "/plans/<string:name>/example", responses={200: {"content": {"image/webp": {}}}}
)
def get_example(path: PlanPath, query: ExampleQuery) -> Response:
    """Return a small example of a plan, or a photo that it was made of."""
    with looking() as visit:
        data = offering.find_example(visit, path.name, query.slot)
    response = Response(data, content_type=_kind_of(data))
    response.headers["Cache-Control"] = "private, no-cache"
    response.add_etag()
    response.make_conditional(request)
    return response


@api.post("/plans", responses={201: PlanName})
def post_plan() -> Response | tuple[dict[str, Any], int]:
    """Bring a plan file in: multipart, field `file`."""
    upload = uploaded("the plan file")
    if isinstance(upload, Response):
        return upload
    with changing() as visit:
        plan = owning.import_plan(visit, upload.file.read())
    return PlanName(name=plan.name, title=plan.title).model_dump(mode="json"), 201


@api.delete("/plans/<string:name>", responses={204: None})
def delete_plan(path: PlanPath) -> tuple[str, int]:
    """Take an own plan away."""
    with changing() as visit:
        owning.drop_own(visit, path.name)
    return "", 204


@api.get(
    "/plans/<string:name>/file",
    responses={200: {"content": {"application/json": {}}}},
)
def get_plan_file(path: PlanPath) -> Response:
    """Return a plan as a file, with all that stays in it."""
    with looking() as visit:
        plan = offering.require_plan(visit, path.name)
        data = owning.export_plan(visit, plan)
    response = Response(data, content_type="application/json")
    response.headers["Content-Disposition"] = f'attachment; filename="{plan.name}.json"'
    return response


@api.post("/projects/<uuid:id>/plans", responses={201: PlanName})
def post_plan_of(path: IdPath, body: NewPlanOf) -> tuple[dict[str, Any], int]:
    """Make a plan of a picture as it stands."""
    with changing() as visit:
        plan = owning.make_plan(visit, path.id, body)
    return PlanName(name=plan.name, title=plan.title).model_dump(mode="json"), 201


@api.post("/plans/<string:name>/look", responses={200: PlanLook})
def post_look(path: PlanPath, body: FillingBody) -> dict[str, Any]:
    """Tell what would come of a plan; what is still to be found is sought."""
    with changing() as visit:
        plan = offering.require_plan(visit, path.name)
        look = showing.look_at(visit, plan, body.filling)
    return look.model_dump(mode="json")


@api.post("/plans/<string:name>/frame", responses={200: {"content": {"image/*": {}}}})
def post_frame(path: PlanPath, body: FillingFrame) -> Response:
    """Return how a plan would look as an image file."""
    file = io.BytesIO()
    with looking() as visit:
        plan = offering.require_plan(visit, path.name)
        chosen = showing.write_look(
            visit, plan, body.filling, side=body.side, file=file
        )
    response = Response(file.getvalue(), content_type=chosen.facts.media_type)
    response.headers["Cache-Control"] = "no-store"
    return response


@api.post("/plans/<string:name>/projects", responses={201: ProjectState})
def post_from_plan(path: PlanPath, body: NewFromPlan) -> tuple[dict[str, Any], int]:
    """Begin a picture as a plan makes it, once."""
    with changing() as visit:
        plan = offering.require_plan(visit, path.name)
        beginning.begin_from_plan(visit, plan, body.filling, project_id=body.id)
        state = projects.get_project(visit, body.id)
    return state.model_dump(mode="json"), 201


@api.get("/projects/<uuid:id>/plan", responses={200: Checklist})
def get_checklist(path: IdPath) -> dict[str, Any]:
    """Return the steps of the plan that a picture was begun from."""
    with looking() as visit:
        checklist = checking.get_checklist(visit, path.id)
    return checklist.model_dump(mode="json")


@api.patch("/projects/<uuid:id>/plan", responses={204: None})
def patch_checklist(path: IdPath, body: ChecklistChange) -> tuple[str, int]:
    """Pass steps over or bring them back, fold the list or unfold it."""
    with changing() as visit:
        checking.change_checklist(visit, path.id, body)
    return "", 204
