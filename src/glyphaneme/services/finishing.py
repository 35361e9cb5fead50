"""Finished files: asking for one, making it, fetching it."""

from __future__ import annotations

import re
import tempfile
import uuid
from typing import TYPE_CHECKING, BinaryIO, cast

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.codecs import FileFormat, FileSpec, Shape, let_go, write_bands
from glyphaneme.core.stack import Canvas, Composite, View, render
from glyphaneme.core.stack.gradients import Color
from glyphaneme.services.errors import ExportSizeError, KeyReusedError, NotThereError
from glyphaneme.services.projects import (
    composite_at,
    require_project,
    require_revision,
)
from glyphaneme.services.reporting import DONE_BEFORE, ReportingFile
from glyphaneme.services.showing import pyramids_of
from glyphaneme.services.studio import stream_file
from glyphaneme.services.working import Job, job_of
from glyphaneme.store.blobs import blob_size
from glyphaneme.store.jobs import add_job, drop_old_exports, find_job
from glyphaneme.store.queue import enqueue
from glyphaneme.store.rows import JobRow

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy.orm import Session

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.services.studio import Studio
    from glyphaneme.services.working import Progress

MAX_EXPORT_PIXELS = 150_000_000
MAX_EXPORT_SIDE = 30_000
DAYS_KEPT = 14
BAND_ROWS = 256


class ExportRequest(BaseModel):
    """What file to make; `matte` lies behind see-through places of a JPEG."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    revision: uuid.UUID
    format: FileFormat
    width: int = Field(ge=1, le=MAX_EXPORT_SIDE)
    quality: int = Field(default=90, ge=1, le=100)
    matte: Color = "#ffffff"


class FinishedFile(BaseModel):
    """A finished file that can be fetched."""

    model_config = ConfigDict(frozen=True)

    name: str
    media_type: str
    size: int


def start_export(
    session: Session,
    studio: Studio,
    project_id: uuid.UUID,
    *,
    key: uuid.UUID,
    request: ExportRequest,
) -> Job:
    """Have a file made; repeated with the same key, it is made once.

    Raises
    ------
    KeyReusedError
        `key` came before with another request.
    """
    project = require_project(session, project_id)
    require_revision(session, project_id, request.revision)
    canvas = composite_at(session, studio.states, request.revision).canvas
    _require_size(request, export_height(canvas, request.width))
    drop_old_exports(session, days=DAYS_KEPT)
    there = find_job(session, key)
    stored = request.model_dump(mode="json")
    if there is not None:
        if there.request != stored or there.project_id != project_id:
            raise KeyReusedError
        return job_of(there)
    job = JobRow(
        id=key,
        kind="export",
        project_id=project_id,
        request=stored,
        file_name=_file_name(project.name, request.format),
    )
    row = add_job(session, job)
    enqueue(session, "export", row.id)
    return job_of(row)


def make_file(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Render a project at full quality, in bands, and keep it as a file.

    Sources let go of their pages after every band, so that memory does not grow with
    the picture or with the count of its layers.
    """
    request = ExportRequest.model_validate(job.request)
    with studio.sessions() as session:
        composite = _matted(
            composite_at(session, studio.states, request.revision), request
        )
        pixels = pyramids_of(session, studio, composite)
    canvas = composite.canvas
    scale = request.width / canvas.width
    shape = Shape(
        request.width,
        export_height(canvas, request.width),
        opaque=canvas.background is not None,
    )
    spec = FileSpec(request.format, request.quality, canvas.ppi * scale)

    def bands() -> Iterator[PixelsU8]:
        for top in range(0, shape.height, BAND_ROWS):
            rows = min(BAND_ROWS, shape.height - top)
            view = View(0, top / scale, shape.width, rows, scale)
            yield render(composite, pixels, view)
            for pyramid in pixels.values():
                let_go(pyramid)
            progress.report(DONE_BEFORE * (top + rows) / shape.height)

    with tempfile.TemporaryFile() as file:
        told = ReportingFile(file, progress, usual_size=shape.width * shape.height)
        write_bands(bands(), shape, cast("BinaryIO", told), spec)
        progress.finish(file)


def finished_file(
    session: Session, studio: Studio, job_id: uuid.UUID
) -> tuple[FinishedFile, Iterator[bytes]]:
    """Return a finished file and its bytes, piece by piece.

    Raises
    ------
    NotThereError
        There is no such file, or not yet.
    """
    row = find_job(session, job_id)
    if row is None or row.result_sha256 is None or row.request is None:
        raise NotThereError("finished file")
    chosen = FileFormat(row.request["format"])
    file = FinishedFile(
        name=row.file_name or f"picture.{chosen.ending}",
        media_type=chosen.media_type,
        size=blob_size(session, row.result_sha256),
    )
    return file, stream_file(studio, row.result_sha256)


def export_height(canvas: Canvas, width: int) -> int:
    """Return how high a picture of that canvas is at a width, in pixels."""
    return max(1, round(canvas.height * width / canvas.width))


def _matted(composite: Composite, request: ExportRequest) -> Composite:
    """Lay a JPEG's picture over its matte, since the format has no see-through."""
    clear = composite.canvas.background is None
    if request.format.keeps_alpha or not clear:
        return composite
    canvas = composite.canvas.model_copy(update={"background": request.matte})
    return composite.model_copy(update={"canvas": canvas})


def _require_size(request: ExportRequest, height: int) -> None:
    width, longest = request.width, max(request.width, height)
    if width * height > MAX_EXPORT_PIXELS:
        limit = f"at most {MAX_EXPORT_PIXELS // 1_000_000} million pixels"
        raise ExportSizeError(width, height, limit)
    if longest > MAX_EXPORT_SIDE:
        raise ExportSizeError(width, height, f"at most {MAX_EXPORT_SIDE} on a side")
    if longest > request.format.longest_side:
        most = (
            f"at most {request.format.longest_side} on a side as {request.format.name}"
        )
        raise ExportSizeError(width, height, most)


def _file_name(project_name: str, chosen: FileFormat) -> str:
    """Return a name that any file system takes."""
    stem = re.sub(r"[^\w\- ]", "", project_name).strip().replace(" ", "-")
    return f"{stem.lower() or 'picture'}.{chosen.ending}"
