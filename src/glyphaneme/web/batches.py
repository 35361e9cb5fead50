"""Many pictures by one plan: begun, watched, paused, gone on with."""

from __future__ import annotations

import uuid
from typing import Any

from flask import Response
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.services import working
from glyphaneme.services.plans import batching, offering, tables
from glyphaneme.services.plans.batching import MOST_ITEMS, Batch, NewBatch
from glyphaneme.services.working import Job
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, PlanPath, changing, looking
from glyphaneme.web.uploads import uploaded

api = blueprint("batches")


class NewBatchOf(NewBatch):
    """Many pictures; the id is made by the client."""

    id: uuid.UUID = Field(default_factory=uuid.uuid4)


class BatchQuery(BaseModel):
    """From which of its pictures on."""

    start: int = Field(default=0, ge=0, le=MOST_ITEMS)


class BatchChange(BaseModel):
    """Whether it rests."""

    model_config = ConfigDict(extra="forbid")

    paused: bool


class Batches(BaseModel):
    """The newest first, without their pictures."""

    batches: list[Batch]


class TableLine(BaseModel):
    """What one row of a table puts into a plan."""

    number: int
    name: str | None
    files: dict[str, list[str]]
    words: dict[str, str]
    choices: dict[str, str]


class Table(BaseModel):
    """What a table puts into a plan, row by row."""

    rows: list[TableLine]


@api.post("/plans/<string:name>/table", responses={200: Table})
def post_table(path: PlanPath) -> Response | dict[str, Any]:
    """Read a table in CSV for a plan: multipart, field `file`; nothing is kept."""
    upload = uploaded("the table")
    if isinstance(upload, Response):
        return upload
    with looking() as visit:
        plan = offering.require_plan(visit, path.name)
    rows = tables.read_table(upload.file.read(tables.MOST_BYTES + 1), plan)
    lines = [TableLine.model_validate(row._asdict()) for row in rows]
    return Table(rows=lines).model_dump(mode="json")


@api.post("/plans/<string:name>/batches", responses={202: Job})
def post_batch(path: PlanPath, body: NewBatchOf) -> tuple[dict[str, Any], int]:
    """Have many pictures made by a plan, once."""
    with changing() as visit:
        plan = offering.require_plan(visit, path.name)
        job = batching.start_batch(visit, plan, body, batch_id=body.id)
    return job.model_dump(mode="json"), 202


@api.get("/batches", responses={200: Batches})
def get_batches() -> dict[str, Any]:
    """Return the newest batches."""
    with looking() as visit:
        found = batching.list_batches(visit)
    return Batches(batches=found).model_dump(mode="json")


@api.get("/batches/<uuid:id>", responses={200: Batch})
def get_batch(path: IdPath, query: BatchQuery) -> dict[str, Any]:
    """Return a batch with some of its pictures, those that failed first."""
    with looking() as visit:
        batch = batching.get_batch(visit, path.id, start=query.start)
    return batch.model_dump(mode="json")


@api.patch("/batches/<uuid:id>", responses={200: Job})
def patch_batch(path: IdPath, body: BatchChange) -> dict[str, Any]:
    """Let a batch rest, or go on."""
    with changing() as visit:
        if body.paused:
            job = working.pause_job(visit, path.id)
        else:
            job = batching.resume_batch(visit, path.id)
    return job.model_dump(mode="json")
