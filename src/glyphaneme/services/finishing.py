"""Finished files: asking for one, making it, fetching it."""

from __future__ import annotations

import re
import shutil
import tempfile
import uuid
import zipfile
from typing import TYPE_CHECKING, BinaryIO, Final, Literal, NamedTuple, Self, cast

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.codecs import FileFormat, FileSpec, Shape, let_go, write_bands
from glyphaneme.codecs.openraster import MEDIA_TYPE
from glyphaneme.core.color import Color
from glyphaneme.core.document.apart import alone, piece
from glyphaneme.core.document.model import LayerId
from glyphaneme.core.place import Pyramid
from glyphaneme.core.render import View, all_needed, render_bands
from glyphaneme.core.values import with_fields
from glyphaneme.services.assets import assets_named, assets_of
from glyphaneme.services.errors import ExportSizeError, NotThereError
from glyphaneme.services.fonts import fonts_to_travel
from glyphaneme.services.layered_writing import Sources, write_layered
from glyphaneme.services.painting import named_strokes
from glyphaneme.services.pictures import original_file
from glyphaneme.services.projects import (
    composite_at,
    require_project,
    require_revision,
)
from glyphaneme.services.reporting import DONE_BEFORE, PartOf, ReportingFile
from glyphaneme.services.studio import stream_file
from glyphaneme.services.working import Job, begin_job
from glyphaneme.store.blobs import blob_size
from glyphaneme.store.jobs import find_job
from glyphaneme.store.rows import JobKind, JobRow

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Canvas, Composite, Layer
    from glyphaneme.core.render import Assets
    from glyphaneme.core.render.composing import Rounding
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Progress

MAX_EXPORT_PIXELS = 150_000_000
MAX_EXPORT_SIDE = 30_000
MAX_APART = 50
ZIP = "application/zip"
LONGEST_STEM_BYTES = 200
LAYERED: Final = "openraster"


class ExportRequest(BaseModel):
    """What file to make; `matte` lies behind see-through places of a JPEG.

    A layered file, "openraster", always has the canvas's own size. Where layers are
    named in `apart`, each is made a picture by itself, on the same sheet, and the file
    is a ZIP of those. A layer that is named as `piece` is the picture, as large as the
    sheet and see-through around it.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    revision: uuid.UUID
    format: FileFormat | Literal["openraster"]
    width: int = Field(ge=1, le=MAX_EXPORT_SIDE)
    quality: int = Field(default=90, ge=1, le=100)
    matte: Color = "#ffffff"
    apart: tuple[LayerId, ...] = Field(default=(), max_length=MAX_APART)
    piece: LayerId | None = None

    @model_validator(mode="after")
    def _is_of_one_kind(self) -> Self:
        if self.piece is not None and (self.apart or self.format == LAYERED):
            message = "a piece is one picture: it cannot be a layered file, nor apart"
            raise ValueError(message)
        return self


class FinishedFile(BaseModel):
    """A finished file that can be fetched."""

    model_config = ConfigDict(frozen=True)

    name: str
    media_type: str
    size: int


def start_export(
    visit: Visit,
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
    project = require_project(visit, project_id)
    require_revision(visit, project_id, request.revision)
    composite = composite_at(visit, request.revision)
    _require_size(request, export_height(composite.canvas, request.width))
    for layer in request.apart:
        alone(composite, layer)
    name = project.name
    if request.piece is not None:
        name = piece(composite, request.piece).layers[0].name
    return begin_job(
        visit,
        JobRow(
            id=key,
            kind=JobKind.EXPORT,
            project_id=project_id,
            request=request.model_dump(mode="json"),
            file_name=_file_name(name, _ending(request)),
        ),
    )


def make_file(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Render a project at full quality, in bands, and keep it as a file.

    Sources let go of their pages after every band, so that memory does not grow with
    the picture or with the count of its layers.
    """
    request = ExportRequest.model_validate(job.request)
    if request.format == LAYERED:
        _make_layered_file(studio, request, progress)
    elif request.apart:
        _make_apart(studio, request, request.format, progress)
    else:
        _make_picture_file(studio, request, request.format, progress)


def _make_layered_file(
    studio: Studio, request: ExportRequest, progress: Progress
) -> None:
    with studio.looking() as visit:
        composite = composite_at(visit, request.revision)
        # Hidden layers travel along too.
        needed = all_needed(composite)
        assets = assets_named(visit, needed)
        strokes = named_strokes(visit, needed.paintings)
        fonts = fonts_to_travel(visit, composite)

    def original(picture: str) -> Iterator[bytes]:
        with studio.looking() as visit:
            return original_file(visit, uuid.UUID(picture)).pieces

    with tempfile.TemporaryFile() as file:
        write_layered(
            composite,
            assets,
            file,
            sources=Sources(
                original, strokes, lambda name: stream_file(studio, name), fonts
            ),
            report=progress.report,
        )
        progress.finish(file)


def _make_picture_file(
    studio: Studio, request: ExportRequest, chosen: FileFormat, progress: Progress
) -> None:
    with studio.looking() as visit:
        whole = composite_at(visit, request.revision)
        composite = whole if request.piece is None else piece(whole, request.piece)
        assets = assets_of(visit, composite, pile=whole.layers)
    making = _Making(composite, whole.layers, assets, request, chosen)
    with tempfile.TemporaryFile() as file:
        _write(making, cast("BinaryIO", file), progress)
        progress.finish(file)


def _make_apart(
    studio: Studio, request: ExportRequest, chosen: FileFormat, progress: Progress
) -> None:
    """Make a ZIP with a picture of each layer, in the order that was asked for."""
    with studio.looking() as visit:
        whole = composite_at(visit, request.revision)
    count = len(request.apart)
    with tempfile.TemporaryFile() as file:
        # The pictures are packed already.
        with zipfile.ZipFile(file, "w", zipfile.ZIP_STORED) as pack:
            for place, layer in enumerate(request.apart):
                composite = alone(whole, layer)
                with studio.looking() as visit:
                    assets = assets_of(visit, composite, pile=whole.layers)
                making = _Making(composite, whole.layers, assets, request, chosen)
                name = whole.path_to(layer)[-1].name
                with tempfile.TemporaryFile() as picture:
                    share = PartOf(progress, place / count, 1 / count)
                    _write(making, cast("BinaryIO", picture), share)
                    picture.seek(0)
                    entry = f"{place + 1}-{_file_name(name, chosen.ending)}"
                    with pack.open(entry, "w", force_zip64=True) as packed:
                        shutil.copyfileobj(picture, packed)
        progress.finish(file)


class _Making(NamedTuple):
    """A picture file to make of a composite whose masks may read a wider pile."""

    composite: Composite
    pile: tuple[Layer, ...]
    assets: Assets
    request: ExportRequest
    format: FileFormat


def _write(making: _Making, file: BinaryIO, progress: Reporting) -> None:
    request, chosen = making.request, making.format
    composite = making.composite
    if not chosen.keeps_alpha:
        composite = _matted(composite, request.matte)
    canvas = composite.canvas
    scale = request.width / canvas.width
    shape = Shape(
        request.width,
        export_height(canvas, request.width),
        opaque=canvas.background is not None,
    )
    spec = FileSpec(chosen, request.quality, canvas.ppi * scale)

    def bands() -> Iterator[PixelsU8]:
        view = View(0, 0, shape.width, shape.height, scale)
        rows = 0
        # In exact formats the noise would cost more than it gives: flat places grow.
        rounding: Rounding = "nearest" if chosen.is_exact else "dithered"
        for band in render_bands(
            composite, making.assets, view, rounding=rounding, pile=making.pile
        ):
            yield band
            for asset in making.assets.values():
                if isinstance(asset, Pyramid):
                    let_go(asset)
            rows += len(band)
            progress.report(DONE_BEFORE * rows / shape.height)

    told = ReportingFile(file, progress, usual_size=shape.width * shape.height)
    write_bands(bands(), shape, cast("BinaryIO", told), spec)


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
        or row.kind != JobKind.EXPORT
        or row.state != "done"
        or row.result_sha256 is None
    ):
        raise NotThereError("finished file")
    request = ExportRequest.model_validate(row.request)
    file = FinishedFile(
        name=row.file_name or "picture",
        media_type=_media_type(request),
        size=blob_size(visit.session, row.result_sha256),
    )
    return file, stream_file(visit.studio, row.result_sha256)


def export_height(canvas: Canvas, width: int) -> int:
    """Return how high a picture of that canvas is at a width, in pixels."""
    return max(1, round(canvas.height * width / canvas.width))


def _matted(composite: Composite, matte: str) -> Composite:
    """Lay a picture over a matte, for a format that has no see-through."""
    if composite.canvas.background is not None:
        return composite
    return with_fields(
        composite, canvas=with_fields(composite.canvas, background=matte)
    )


def _require_size(request: ExportRequest, height: int) -> None:
    width, longest = request.width, max(request.width, height)
    if width * height > MAX_EXPORT_PIXELS:
        limit = f"at most {MAX_EXPORT_PIXELS // 1_000_000} million pixels"
        raise ExportSizeError(width, height, limit)
    if longest > MAX_EXPORT_SIDE:
        raise ExportSizeError(width, height, f"at most {MAX_EXPORT_SIDE} on a side")
    if request.format != LAYERED and longest > request.format.longest_side:
        chosen = request.format
        most = f"at most {chosen.longest_side} on a side as {chosen.name}"
        raise ExportSizeError(width, height, most)


def _media_type(request: ExportRequest) -> str:
    if request.format == LAYERED:
        return MEDIA_TYPE
    return ZIP if request.apart else request.format.media_type


def _ending(request: ExportRequest) -> str:
    if request.format == LAYERED:
        return "ora"
    return "zip" if request.apart else request.format.ending


def _file_name(name: str, ending: str) -> str:
    """Return a name that any file system takes."""
    stem = re.sub(r"[^\w\- ]", "", name).strip().replace(" ", "-").lower()
    # File systems count bytes; a letter cut in two is left out.
    stem = stem.encode()[:LONGEST_STEM_BYTES].decode(errors="ignore")
    return f"{stem or 'picture'}.{ending}"
