"""Finished files: asking for one, making it, fetching it."""

from __future__ import annotations

import re
import shutil
import tempfile
import uuid
import zipfile
from datetime import datetime
from typing import TYPE_CHECKING, Annotated, Any, BinaryIO, Final, Self, cast

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.codecs.openraster import MEDIA_TYPE
from glyphaneme.core.document.apart import alone, only, piece
from glyphaneme.core.document.model import LayerId  # noqa: TC001  # a field's type
from glyphaneme.core.errors import TooManyTilesError
from glyphaneme.core.finish import (
    About,
    FileFormat,
    FileSettings,
    Plan,
    shown_part,
    soft_layers,
)
from glyphaneme.core.finish.comparing import ENDINGS, Comparison
from glyphaneme.core.finish.settings import LAYERED
from glyphaneme.core.place import Rect
from glyphaneme.core.render import all_needed
from glyphaneme.core.values import with_fields
from glyphaneme.services.assets import assets_named, assets_of
from glyphaneme.services.comparing import (
    Compared,
    comparable,
    require_comparable,
    write_comparison,
)
from glyphaneme.services.errors import (
    ExportSizeError,
    FinishedFileError,
    NotThereError,
)
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import Making, require_size
from glyphaneme.services.fonts import fonts_to_travel
from glyphaneme.services.layered_writing import Sources, write_layered
from glyphaneme.services.painting import named_strokes
from glyphaneme.services.pictures import original_file
from glyphaneme.services.profiles import printer_of
from glyphaneme.services.projects import (
    composite_at,
    lock_for_change,
    require_project,
    require_revision,
)
from glyphaneme.services.reporting import PartOf
from glyphaneme.services.studio import stream_file
from glyphaneme.services.working import Job, begin_job
from glyphaneme.store.blobs import blob_size
from glyphaneme.store.jobs import find_job, finished_files
from glyphaneme.store.rows import JobKind, JobRow

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.document import Composite
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Progress
    from glyphaneme.store.rows import ProjectRow

MAX_APART: Final = 50
MOST_EARLIER: Final = 20
ZIP: Final = "application/zip"
LONGEST_STEM_BYTES: Final = 200


class SheetPart(BaseModel):
    """A part of the sheet, in its pixels."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
    y: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
    width: Annotated[float, Field(ge=1, le=1e5, allow_inf_nan=False)]
    height: Annotated[float, Field(ge=1, le=1e5, allow_inf_nan=False)]

    @property
    def rect(self) -> Rect[float]:
        """The same as a rectangle."""
        return Rect(self.x, self.y, self.x + self.width, self.y + self.height)


class ExportRequest(FileSettings):
    """What file to make, and of what.

    A layered file, "openraster", always has the canvas's own size. Where layers are
    named in `apart`, each is made a picture by itself, on the same sheet, and the file
    is a ZIP of those. A layer that is named as `piece` is the picture, as large as the
    sheet and see-through around it, or cut to what of it shows. Only those layers are
    shown that are `chosen`, if any are.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    revision: uuid.UUID
    apart: tuple[LayerId, ...] = Field(default=(), max_length=MAX_APART)
    piece: LayerId | None = None
    trimmed: bool = False
    """Whether a piece is cut to what of it shows."""
    chosen: tuple[LayerId, ...] = Field(default=(), max_length=200)
    crop: SheetPart | None = None
    compare: Comparison | None = None
    """Two states of the picture in one file that compares them."""
    about: About | None = None
    """What the file says of the picture; None is what the project says of itself."""

    @model_validator(mode="before")
    @classmethod
    def _may_say_a_width(cls, fields: Any) -> Any:  # noqa: ANN401  # JSON
        """Take a width in pixels alone for a size, as the first clients say it."""
        if isinstance(fields, dict) and "width" in fields and "size" not in fields:
            width = {"by": "width", "width": fields["width"]}
            others = {name: one for name, one in fields.items() if name != "width"}
            return {**others, "size": width}
        return fields

    @model_validator(mode="after")
    def _is_of_one_kind(self) -> Self:
        ways = (self.apart, self.piece, self.chosen)
        if sum(map(bool, ways)) > 1:
            message = "a file is of a piece, of layers apart, or of those chosen"
            raise ValueError(message)
        if self.format == LAYERED and (self.apart or self.piece):
            message = "a piece is one picture: it cannot be a layered file, nor apart"
            raise ValueError(message)
        if self.apart and self.format == FileFormat.PDF:
            message = "layers apart are pictures; choose another format than PDF"
            raise ValueError(message)
        return self


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
    shown, part, name = _shown(visit, request, project.name)
    plan = Making(shown, shown.layers, {}, request, part).plan
    return FileFacts(
        name=file_name(name, ending(request)),
        width=plan.file_width,
        height=plan.file_height,
        ppi=plan.ppi,
        page_mm=plan.page_mm,
        trim_mm=plan.trim_mm,
        soft=[SoftPhoto(**one._asdict()) for one in soft_layers(shown, plan)],
        refused=_refusal(plan, request),
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
    shown, part, name = _shown(visit, request, project.name)
    plan = Making(shown, shown.layers, {}, request, part).plan
    if request.compare is not None:
        require_comparable(visit, _compared(project, request))
    elif request.format != LAYERED:
        require_size(plan, request)
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


def make_file(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Render a project at full quality, in bands, and keep it as a file.

    Sources let go of their pages after every band, so that memory does not grow with
    the picture or with the count of its layers.
    """
    request = ExportRequest.model_validate(job.request)
    if request.compare is not None:
        _make_comparison(studio, job, request, progress)
    elif request.format == LAYERED:
        _make_layered_file(studio, request, progress)
    elif request.apart:
        _make_apart(studio, request, progress)
    else:
        _make_picture_file(studio, request, progress)


def making_of(
    visit: Visit, request: ExportRequest, *, with_assets: bool = True
) -> Making:
    """Return what a picture file is made of; a part of it may need few assets.

    Raises
    ------
    NotThereError
        A layer or a profile is not there.
    """
    shown, part, _ = _shown(visit, request, "")
    pile = composite_at(visit, request.revision).layers
    return Making(
        shown,
        pile,
        assets_of(visit, shown, pile=pile) if with_assets else {},
        request,
        part,
        *printer_of(visit, request.coloring),
        about=request.about or About(),
    )


def _make_layered_file(
    studio: Studio, request: ExportRequest, progress: Progress
) -> None:
    with tempfile.TemporaryFile() as file:
        write_layers(studio, request, cast("BinaryIO", file), progress)
        progress.finish(file, found={"bytes": file.tell()})


def write_layers(
    studio: Studio, request: ExportRequest, file: BinaryIO, progress: Reporting
) -> None:
    """Write a picture with all its layers, to go on with elsewhere."""
    with studio.looking() as visit:
        composite, _, _ = _shown(visit, request, "")
        # Hidden layers travel along too.
        needed = all_needed(composite)
        assets = assets_named(visit, needed)
        strokes = named_strokes(visit, needed.paintings)
        fonts = fonts_to_travel(visit, composite)

    def original(picture: str) -> Iterator[bytes]:
        with studio.looking() as visit:
            return original_file(visit, uuid.UUID(picture)).pieces

    write_layered(
        composite,
        assets,
        file,
        sources=Sources(
            original, strokes, lambda name: stream_file(studio, name), fonts
        ),
        report=progress.report,
    )


def _make_comparison(
    studio: Studio, job: JobRow, request: ExportRequest, progress: Progress
) -> None:
    with studio.looking() as visit:
        project = require_project(visit, cast("uuid.UUID", job.project_id))
        compared = _compared(project, request)
    with tempfile.TemporaryFile() as file:
        found = write_comparison(studio, compared, cast("BinaryIO", file), progress)
        progress.finish(file, found=found | {"bytes": file.tell()})


def _compared(project: ProjectRow, request: ExportRequest) -> Compared:
    return Compared(
        project.id,
        project.name,
        request.revision,
        comparable(request),
        cast("Comparison", request.compare),
        request.about or About(),
    )


def _make_picture_file(
    studio: Studio, request: ExportRequest, progress: Progress
) -> None:
    with studio.looking() as visit:
        making = making_of(visit, request)
    with tempfile.TemporaryFile() as file:
        found = write_file(making, cast("BinaryIO", file), progress)
        progress.finish(file, found=found | {"bytes": file.tell()})


def _make_apart(studio: Studio, request: ExportRequest, progress: Progress) -> None:
    """Make a ZIP with a picture of each layer, in the order that was asked for."""
    with studio.looking() as visit:
        whole = composite_at(visit, request.revision)
        printer = printer_of(visit, request.coloring)
    count = len(request.apart)
    with tempfile.TemporaryFile() as file:
        # The pictures are packed already.
        with zipfile.ZipFile(file, "w", zipfile.ZIP_STORED) as pack:
            for place, layer in enumerate(request.apart):
                composite = alone(whole, layer)
                with studio.looking() as visit:
                    assets = assets_of(visit, composite, pile=whole.layers)
                making = Making(
                    composite,
                    whole.layers,
                    assets,
                    request,
                    None if request.crop is None else request.crop.rect,
                    *printer,
                    about=request.about or About(),
                )
                name = whole.path_to(layer)[-1].name
                with tempfile.TemporaryFile() as picture:
                    share = PartOf(progress, place / count, 1 / count)
                    write_file(making, cast("BinaryIO", picture), share)
                    picture.seek(0)
                    entry = f"{place + 1}-{file_name(name, making.chosen.facts.ending)}"
                    with pack.open(entry, "w", force_zip64=True) as packed:
                        shutil.copyfileobj(picture, packed)
        progress.finish(file, found={"bytes": file.tell()})


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
        or row.kind not in {JobKind.EXPORT, JobKind.EXPORT_MANY}
        or row.state != "done"
        or row.result_sha256 is None
    ):
        raise NotThereError("finished file")
    name = row.file_name or "picture"
    if row.kind == JobKind.EXPORT:
        media_type = _media_type(ExportRequest.model_validate(row.request))
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


def ending(request: ExportRequest) -> str:
    """Return how the name of what is asked for ends."""
    if request.compare is not None:
        return ENDINGS[request.compare.made_as][0]
    if request.format == LAYERED:
        return "ora"
    return "zip" if request.apart else FileFormat(request.format).facts.ending


def file_name(name: str, its_ending: str) -> str:
    """Return a name that any file system takes."""
    stem = re.sub(r"[^\w\- ]", "", name).strip().replace(" ", "-").lower()
    # File systems count bytes; a letter cut in two is left out.
    stem = stem.encode()[:LONGEST_STEM_BYTES].decode(errors="ignore")
    return f"{stem or 'picture'}.{its_ending}"


def _shown(
    visit: Visit, request: ExportRequest, project: str
) -> tuple[Composite, Rect[float] | None, str]:
    """Return what is shown, which part of the sheet, and how that is called.

    Raises
    ------
    FinishedFileError
        Nothing is left of it.
    """
    whole = composite_at(visit, request.revision)
    part = None if request.crop is None else request.crop.rect
    if request.chosen:
        return only(whole, request.chosen), part, project
    if request.piece is None:
        return whole, part, project
    shown = piece(whole, request.piece)
    if request.trimmed and part is None:
        part = shown_part(shown, assets_of(visit, shown, pile=whole.layers), whole)
        if part is None:
            message = (
                "Nothing of the layer shows, so nothing is left once it is cut to "
                "that. Save it in the whole sheet, or show some of it."
            )
            raise FinishedFileError(message)
    return shown, part, shown.layers[0].name


def _refusal(plan: Plan, request: ExportRequest) -> str | None:
    if request.format == LAYERED:
        return None
    try:
        require_size(plan, request)
    except (ExportSizeError, TooManyTilesError) as refusal:
        return str(refusal)
    return None


def _media_type(request: ExportRequest) -> str:
    if request.compare is not None:
        return ENDINGS[request.compare.made_as][1]
    if request.format == LAYERED:
        return MEDIA_TYPE
    return ZIP if request.apart else FileFormat(request.format).facts.media_type
