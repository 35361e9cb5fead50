"""Several pictures at once: in one ZIP, as pages of one PDF, or on contact sheets."""

from __future__ import annotations

import shutil
import tempfile
import uuid
import zipfile
from typing import TYPE_CHECKING, Any, BinaryIO, Final, NamedTuple, Self, cast

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.codecs import PictureRefusedError
from glyphaneme.core.document.naming import Name
from glyphaneme.core.errors import CoreError
from glyphaneme.core.finish import About, FileFormat, FileSettings
from glyphaneme.core.finish.gathering import ContactSheet, Gathered
from glyphaneme.core.finish.settings import LAYERED
from glyphaneme.core.finish.sizes import MM_PER_INCH
from glyphaneme.core.values import with_fields
from glyphaneme.services.errors import (
    FinishedFileError,
    JobCancelledError,
    ServiceError,
)
from glyphaneme.services.file_making import making_of, write_layers
from glyphaneme.services.file_requests import ExportRequest, file_name
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import require_size
from glyphaneme.services.fonts import faces_of, refs_for
from glyphaneme.services.paging import Named, write_contact_sheets, write_pages
from glyphaneme.services.projects import require_project
from glyphaneme.services.reporting import PartOf
from glyphaneme.services.working import Job, begin_job
from glyphaneme.store.rows import JobKind, JobRow

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.services.filing import Making
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Progress

MOST: Final = 500
REFUSALS: Final = (ServiceError, CoreError, PictureRefusedError)
CONTACT_PPI: Final = 200


class Taken(BaseModel):
    """One of the pictures, as it stood when it was asked for."""

    model_config = ConfigDict(frozen=True)

    project: uuid.UUID
    name: str
    revision: uuid.UUID
    about: About


class NewMany(BaseModel):
    """Which pictures to finish, and how."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    projects: tuple[uuid.UUID, ...] = Field(min_length=1, max_length=MOST)
    settings: FileSettings
    gathered: Gathered = "zip"
    sheet: ContactSheet = ContactSheet()
    name: Name = "Pictures"

    @model_validator(mode="after")
    def _can_be_gathered(self) -> Self:
        if len(set(self.projects)) < len(self.projects):
            message = "each picture counts once"
            raise ValueError(message)
        return self


class ManyRequest(BaseModel):
    """What is made of several pictures."""

    model_config = ConfigDict(frozen=True)

    taken: tuple[Taken, ...]
    settings: FileSettings
    gathered: Gathered
    sheet: ContactSheet


class NotMade(NamedTuple):
    """A picture that could not be made, and why."""

    name: str
    reason: str


def start_many(visit: Visit, key: uuid.UUID, wanted: NewMany) -> Job:
    """Have several pictures made; repeated with the same key, they are made once.

    Raises
    ------
    NotThereError
        One of them is not there.
    KeyReusedError
        `key` came before with another request.
    """
    taken = []
    for one in wanted.projects:
        row = require_project(visit, one)
        about = About.model_validate(row.about or {})
        taken.append(
            Taken(project=one, name=row.name, revision=row.head_id, about=about)
        )
    settings = wanted.settings
    if wanted.gathered != "zip":
        settings = with_fields(settings, format=FileFormat.PDF, bits=8)
    request = ManyRequest(
        taken=tuple(taken),
        settings=settings,
        gathered=wanted.gathered,
        sheet=wanted.sheet,
    )
    ending = "zip" if wanted.gathered == "zip" else "pdf"
    return begin_job(
        visit,
        JobRow(
            id=key,
            kind=JobKind.EXPORT_MANY,
            request=request.model_dump(mode="json"),
            file_name=file_name(wanted.name, ending),
        ),
    )


def make_many(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Make several pictures; one that cannot be made is told, and the rest goes on.

    Raises
    ------
    FinishedFileError
        None of them can be made.
    """
    request = ManyRequest.model_validate(job.request)
    failed: list[NotMade] = []
    with tempfile.TemporaryFile() as file:
        target = cast("BinaryIO", file)
        if request.gathered == "zip":
            _pack(studio, request, target, progress, failed)
        else:
            _gather(studio, request, target, progress, failed)
        if len(failed) == len(request.taken):
            raise FinishedFileError(failed[0].reason)
        found: dict[str, Any] = {
            "made": len(request.taken) - len(failed),
            "failed": [one._asdict() for one in failed],
            "bytes": file.tell(),
        }
        progress.finish(target, found=found)


def _pack(
    studio: Studio,
    request: ManyRequest,
    file: BinaryIO,
    progress: Reporting,
    failed: list[NotMade],
) -> None:
    count, names = len(request.taken), set[str]()
    is_layered = request.settings.format == LAYERED
    ending = "ora" if is_layered else FileFormat(request.settings.format).facts.ending
    with zipfile.ZipFile(file, "w", zipfile.ZIP_STORED) as pack:
        for place, one in enumerate(request.taken):
            share = PartOf(progress, place / count, 1 / count)
            with tempfile.TemporaryFile() as picture:
                target = cast("BinaryIO", picture)
                try:
                    if is_layered:
                        write_layers(studio, _request(request, one), target, share)
                    else:
                        write_file(_making(studio, request, one), target, share)
                except JobCancelledError:
                    raise
                except REFUSALS as refusal:
                    failed.append(NotMade(one.name, str(refusal)))
                    continue
                picture.seek(0)
                entry = unlike(file_name(one.name, ending), names)
                with pack.open(entry, "w", force_zip64=True) as packed:
                    shutil.copyfileobj(picture, packed)


def _gather(
    studio: Studio,
    request: ManyRequest,
    file: BinaryIO,
    progress: Reporting,
    failed: list[NotMade],
) -> None:
    count = len(request.taken)

    def makings() -> Iterator[Named]:
        for one in request.taken:
            try:
                making = _making(studio, request, one)
                require_size(making.dimensions, making.settings)
            except REFUSALS as refusal:
                failed.append(NotMade(one.name, str(refusal)))
                continue
            with studio.looking() as visit:
                refs = refs_for(visit, one.name)
                faces = faces_of(visit, (ref.id for ref in refs))
            yield Named(making, one.name, refs, faces)

    if request.gathered == "pages":
        write_pages((named.making for named in makings()), count, file, progress)
    else:
        write_contact_sheets(makings(), count, request.sheet, file, progress)


def _request(request: ManyRequest, one: Taken) -> ExportRequest:
    return ExportRequest(
        **dict(request.settings), revision=one.revision, about=one.about
    )


def _making(studio: Studio, request: ManyRequest, one: Taken) -> Making:
    with studio.looking() as visit:
        making = making_of(visit, _request(request, one))
    if request.gathered != "contact":
        return making
    sheet = request.sheet
    inches = sheet.width_mm / sheet.columns / MM_PER_INCH
    size = {"by": "longest", "longest": max(1, round(inches * CONTACT_PPI))}
    small = with_fields(
        making.settings, size=size, paper={}, tiling=None, ground=None, letters="pixels"
    )
    return making._replace(settings=small)


def unlike(name: str, taken: set[str]) -> str:
    """Return a name that none of those has that came before."""
    stem, _, ending = name.rpartition(".")
    found, number = name, 1
    while found in taken:
        number += 1
        found = f"{stem}-{number}.{ending}"
    taken.add(found)
    return found
