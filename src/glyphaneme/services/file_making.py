"""Making the file that was asked for, in the worker."""

from __future__ import annotations

import shutil
import tempfile
import uuid
import zipfile
from typing import TYPE_CHECKING, BinaryIO, cast

from glyphaneme.core.document.apart import alone
from glyphaneme.core.finish import (
    About,
)
from glyphaneme.core.finish.settings import LAYERED
from glyphaneme.core.render import all_needed
from glyphaneme.services.assets import assets_named, assets_of
from glyphaneme.services.comparing import (
    Compared,
    comparable,
    write_comparison,
)
from glyphaneme.services.file_requests import (
    ExportRequest,
    file_name,
    shown_by,
)
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import Making
from glyphaneme.services.fonts import fonts_to_travel
from glyphaneme.services.layered_writing import Sources, write_layered
from glyphaneme.services.painting import named_strokes
from glyphaneme.services.pictures import original_file
from glyphaneme.services.profiles import printer_of
from glyphaneme.services.projects import (
    composite_at,
    require_project,
)
from glyphaneme.services.reporting import PartOf
from glyphaneme.services.studio import stream_file

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.finish.comparing import Comparison
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Progress
    from glyphaneme.store.rows import JobRow, ProjectRow


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
    shown, part, _ = shown_by(visit, request, "")
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
        composite, _, _ = shown_by(visit, request, "")
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
        compared = compared_by(project, request)
    with tempfile.TemporaryFile() as file:
        found = write_comparison(studio, compared, cast("BinaryIO", file), progress)
        progress.finish(file, found=found | {"bytes": file.tell()})


def compared_by(project: ProjectRow, request: ExportRequest) -> Compared:
    """Return what is compared, where a request asks for that."""
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
