"""Finished files: asking for one, knowing of it beforehand, fetching it."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import TYPE_CHECKING, Final

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.document.apart import alone
from glyphaneme.core.errors import TooManyTilesError
from glyphaneme.core.finish import (
    About,
    Dimensions,
    soft_layers,
)
from glyphaneme.core.finish.settings import LAYERED
from glyphaneme.core.values import with_fields
from glyphaneme.services.comparing import (
    require_comparable,
)
from glyphaneme.services.errors import (
    ExportSizeError,
    NotThereError,
)
from glyphaneme.services.file_making import compared_by
from glyphaneme.services.file_requests import (
    ZIP,
    ExportRequest,
    ending,
    file_name,
    media_type_of,
    shown_by,
)
from glyphaneme.services.filing import Making, require_size
from glyphaneme.services.profiles import printer_of
from glyphaneme.services.projects import (
    lock_for_change,
    require_project,
    require_revision,
)
from glyphaneme.services.studio import stream_file
from glyphaneme.services.working import Job, begin_job
from glyphaneme.store.blobs import blob_size
from glyphaneme.store.jobs import find_job, finished_files
from glyphaneme.store.rows import JobKind, JobRow

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.services.studio import Visit

MOST_EARLIER: Final = 20


class FinishedFile(BaseModel):
    """A finished file that can be fetched."""

    model_config = ConfigDict(frozen=True)

    name: str
    media_type: str
    size: int


class EarlierFile(BaseModel):
    """A file that was made before."""

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    name: str
    size: int
    made_at: datetime


class SoftPhoto(BaseModel):
    """A photo that a file enlarges beyond what its pixels can show."""

    model_config = ConfigDict(frozen=True)

    layer_id: str
    name: str
    own_ppi: float
    enlarged: float


class FileFacts(BaseModel):
    """What is known of a file before it is made."""

    model_config = ConfigDict(frozen=True)

    name: str
    width: int
    height: int
    ppi: float
    page_mm: tuple[float, float]
    trim_mm: tuple[float, float]
    soft: list[SoftPhoto]
    refused: str | None
    """Why it cannot be made, if it cannot."""


def file_facts(
    visit: Visit, project_id: uuid.UUID, request: ExportRequest
) -> FileFacts:
    """Return what is known of a file before it is made.

    Raises
    ------
    NotThereError
        There is no such project, moment or layer.
    """
    project = require_project(visit, project_id)
    require_revision(visit, project_id, request.revision)
    shown, part, name = shown_by(visit, request, project.name)
    dimensions = Making(shown, shown.layers, {}, request, part).dimensions
    return FileFacts(
        name=file_name(name, ending(request)),
        width=dimensions.file_width,
        height=dimensions.file_height,
        ppi=dimensions.ppi,
        page_mm=dimensions.page_mm,
        trim_mm=dimensions.trim_mm,
        soft=[SoftPhoto(**one._asdict()) for one in soft_layers(shown, dimensions)],
        refused=_refusal(dimensions, request),
    )


def start_export(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    key: uuid.UUID,
    request: ExportRequest,
) -> Job:
    """Have a file made; repeated with the same key, it is made once.

    What the project says of itself is that of the moment when it is asked for.

    Raises
    ------
    KeyReusedError
        `key` came before with another request.
    """
    project = require_project(visit, project_id)
    require_revision(visit, project_id, request.revision)
    shown, part, name = shown_by(visit, request, project.name)
    dimensions = Making(shown, shown.layers, {}, request, part).dimensions
    if request.compare is not None:
        require_comparable(visit, compared_by(project, request))
    elif request.format != LAYERED:
        require_size(dimensions, request)
    for layer in request.apart:
        alone(shown, layer)
    printer_of(visit, request.coloring)
    if request.about is None:
        about = About.model_validate(project.about or {})
        request = with_fields(request, about=about)
    return begin_job(
        visit,
        JobRow(
            id=key,
            kind=JobKind.EXPORT,
            project_id=project_id,
            request=request.model_dump(mode="json"),
            file_name=file_name(name, ending(request)),
        ),
    )


def about_of(visit: Visit, project_id: uuid.UUID) -> About:
    """Return what files of a project say of it."""
    return About.model_validate(require_project(visit, project_id).about or {})


def say_about(visit: Visit, project_id: uuid.UUID, about: About) -> None:
    """Keep what files of a project say of it.

    Raises
    ------
    NotThereError
        There is no such project.
    """
    lock_for_change(visit, project_id).about = about.model_dump(mode="json")


def finished_file(
    visit: Visit, job_id: uuid.UUID
) -> tuple[FinishedFile, Iterator[bytes]]:
    """Return a finished file and its bytes, piece by piece.

    Raises
    ------
    NotThereError
        There is no such file, or not yet.
    """
    row = find_job(visit.session, job_id)
    if (
        row is None
        or row.kind not in {JobKind.EXPORT, JobKind.EXPORT_MANY, JobKind.BATCH}
        or row.state != "done"
        or row.result_sha256 is None
    ):
        raise NotThereError("finished file")
    name = row.file_name or "picture"
    if row.kind == JobKind.EXPORT:
        media_type = media_type_of(ExportRequest.model_validate(row.request))
    else:
        media_type = ZIP if name.endswith(".zip") else "application/pdf"
    file = FinishedFile(
        name=name,
        media_type=media_type,
        size=blob_size(visit.session, row.result_sha256),
    )
    return file, stream_file(visit.studio, row.result_sha256)


def list_files(visit: Visit, project_id: uuid.UUID) -> list[EarlierFile]:
    """Return files of a project that can still be fetched, the newest first.

    Raises
    ------
    NotThereError
        There is no such project.
    """
    require_project(visit, project_id)
    return [
        EarlierFile(
            id=row.id,
            name=row.file_name or "picture",
            size=size,
            made_at=row.changed_at,
        )
        for row, size in finished_files(visit.session, project_id, most=MOST_EARLIER)
    ]


def _refusal(dimensions: Dimensions, request: ExportRequest) -> str | None:
    if request.format == LAYERED:
        return None
    try:
        require_size(dimensions, request)
    except (ExportSizeError, TooManyTilesError) as refusal:
        return str(refusal)
    return None
