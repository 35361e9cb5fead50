"""Finished files, and the long work that makes them."""

from __future__ import annotations

import unicodedata
import uuid
from typing import Any
from urllib.parse import quote

from flask import Response
from pydantic import BaseModel, ConfigDict, Field
from werkzeug.http import dump_options_header

from glyphaneme.core.finish import About
from glyphaneme.services import file_looks, finishing, many, working
from glyphaneme.services.file_looks import LookedAt
from glyphaneme.services.file_requests import ExportRequest
from glyphaneme.services.finishing import EarlierFile, FileFacts
from glyphaneme.services.many import NewMany
from glyphaneme.services.working import Job
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, changing, looking

api = blueprint("exports")


class NewExport(BaseModel):
    """What file to make; the key makes it count once."""

    model_config = ConfigDict(extra="forbid")

    key: uuid.UUID = Field(default_factory=uuid.uuid4)
    request: ExportRequest


class EarlierFiles(BaseModel):
    """Files that were made before."""

    files: list[EarlierFile]


class ManyExports(BaseModel):
    """Which pictures to make into one file; the key makes it count once."""

    model_config = ConfigDict(extra="forbid")

    key: uuid.UUID = Field(default_factory=uuid.uuid4)
    request: NewMany


class FileLook(BaseModel):
    """Which part of which file to look at."""

    model_config = ConfigDict(extra="forbid")

    request: ExportRequest
    seen: LookedAt


class FileQuery(BaseModel):
    """What is done with a finished file."""

    shown: bool = False
    """Whether the browser shows it, instead of saving it."""


class Jobs(BaseModel):
    """Work that waits or runs."""

    jobs: list[Job]


@api.post("/projects/<uuid:id>/exports", responses={202: Job})
def post_export(path: IdPath, body: NewExport) -> tuple[dict[str, Any], int]:
    """Have a finished file made."""
    with changing() as visit:
        job = finishing.start_export(visit, path.id, key=body.key, request=body.request)
    return job.model_dump(mode="json"), 202


@api.get("/projects/<uuid:id>/exports", responses={200: EarlierFiles})
def get_exports(path: IdPath) -> dict[str, Any]:
    """Return files of a project that can still be fetched, the newest first."""
    with looking() as visit:
        files = finishing.list_files(visit, path.id)
    return EarlierFiles(files=files).model_dump(mode="json")


@api.post("/exports", responses={202: Job})
def post_exports(body: ManyExports) -> tuple[dict[str, Any], int]:
    """Have several pictures made into one file."""
    with changing() as visit:
        job = many.start_many(visit, body.key, body.request)
    return job.model_dump(mode="json"), 202


@api.post("/projects/<uuid:id>/exports/facts", responses={200: FileFacts})
def post_facts(path: IdPath, body: ExportRequest) -> dict[str, Any]:
    """Return what is known of a file before it is made."""
    with looking() as visit:
        facts = finishing.file_facts(visit, path.id, body)
    return facts.model_dump(mode="json")


@api.post(
    "/projects/<uuid:id>/exports/look", responses={200: {"content": {"image/*": {}}}}
)
def post_look(path: IdPath, body: FileLook) -> Response:
    """Return how a part of a file will look; headers say where in it that begins."""
    with looking() as visit:
        look = file_looks.look_at_file(visit, path.id, body.request, body.seen)
    response = Response(look.data, content_type=look.media_type)
    response.headers["Glyphaneme-At"] = f"{look.x},{look.y}"
    response.headers["Glyphaneme-Outside"] = f"{look.outside:.6f}"
    return response


@api.get("/projects/<uuid:id>/about", responses={200: About})
def get_about(path: IdPath) -> dict[str, Any]:
    """Return what files of a project say of it."""
    with looking() as visit:
        about = finishing.about_of(visit, path.id)
    return about.model_dump(mode="json")


@api.put("/projects/<uuid:id>/about", responses={200: About})
def put_about(path: IdPath, body: About) -> dict[str, Any]:
    """Keep what files of a project say of it."""
    with changing() as visit:
        finishing.say_about(visit, path.id, body)
    return body.model_dump(mode="json")


@api.get("/jobs", responses={200: Jobs})
def get_jobs() -> dict[str, Any]:
    """Return what waits or runs."""
    with looking() as visit:
        jobs = working.list_open_jobs(visit)
    return Jobs(jobs=jobs).model_dump(mode="json")


@api.get("/jobs/<uuid:id>", responses={200: Job})
def get_job(path: IdPath) -> dict[str, Any]:
    """Return how far some work is."""
    with looking() as visit:
        job = working.get_job(visit, path.id)
    return job.model_dump(mode="json")


@api.delete("/jobs/<uuid:id>", responses={200: Job})
def delete_job(path: IdPath) -> dict[str, Any]:
    """Stop some work."""
    with changing() as visit:
        job = working.cancel_job(visit, path.id)
    return job.model_dump(mode="json")


@api.get("/exports/<uuid:id>/file", responses={200: {"content": {"image/*": {}}}})
def get_export_file(path: IdPath, query: FileQuery) -> Response:
    """Return a finished file, as a download, or to be shown and printed."""
    with looking() as visit:
        file, pieces = finishing.finished_file(visit, path.id)
    response = Response(pieces, content_type=file.media_type)
    response.content_length = file.size
    # A page of someone's making never runs as one of ours.
    is_page = file.media_type.startswith("text/html")
    way = "inline" if query.shown and not is_page else "attachment"
    response.headers["Content-Disposition"] = _disposition(way, file.name)
    return response


def _disposition(way: str, name: str) -> str:
    """Return the header that names a file, also one in another script.

    RFC 6266: a plain name for those who know nothing else, and the whole one.
    """
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    names = {"filename": plain}
    if plain != name:
        names["filename*"] = f"UTF-8''{quote(name)}"
    return dump_options_header(way, names)
