"""Files of a composite: written, and made to fit a size."""

from __future__ import annotations

import shutil
import tempfile
from contextlib import ExitStack
from typing import TYPE_CHECKING, Any, BinaryIO, cast

from glyphaneme.codecs import FileFormat, write_spooled
from glyphaneme.core.finish.fitting import Given, fitted
from glyphaneme.core.finish.sizes import PaperSize, WidthSize
from glyphaneme.core.values import with_fields
from glyphaneme.services.errors import ExportSizeError
from glyphaneme.services.filing import rendered
from glyphaneme.services.paging import write_pages
from glyphaneme.services.reporting import ReportingFile

if TYPE_CHECKING:
    from glyphaneme.codecs import FileSpec, Spool
    from glyphaneme.core.finish.sizes import Size
    from glyphaneme.services.filing import Making
    from glyphaneme.services.reporting import Reporting


def write_file(making: Making, file: BinaryIO, progress: Reporting) -> dict[str, Any]:
    """Make a file; return what came of it: its size, and what gave way for that.

    Raises
    ------
    ExportSizeError
        It would be too large, or cannot be made as small as it shall be.
    """
    most = making.settings.most_bytes
    if most is None:
        return _written(making, file, progress)
    with tempfile.TemporaryFile() as draft, ExitStack() as kept:
        rendered_at: dict[float, tuple[Spool, FileSpec]] = {}

        def attempt(given: Given) -> int:
            draft.seek(0)
            draft.truncate()
            smaller = _giving_way(making, given)
            target = cast("BinaryIO", draft)
            if making.chosen is FileFormat.PDF:
                _written(smaller, target, progress)
                return draft.tell()
            if given.share not in rendered_at:
                # Whatever its quality, it is rendered once.
                kept.close()
                rendered_at.clear()
                found = kept.enter_context(rendered(smaller, progress))
                rendered_at[given.share] = found
            spool, spec = rendered_at[given.share]
            _write(spool, target, spec._replace(quality=given.quality), progress)
            return draft.tell()

        is_lossy = not making.chosen.facts.is_exact and not making.settings.exact
        given = fitted(
            attempt, most, quality=making.settings.quality if is_lossy else None
        )
        if given is None:
            dimensions = making.dimensions
            limit = f"no file of {most} bytes, however small it is made"
            raise ExportSizeError(dimensions.file_width, dimensions.file_height, limit)
        made = _giving_way(making, given)
        draft.seek(0)
        shutil.copyfileobj(draft, file)
    return _facts(made) | {
        "gave_way": [
            *(
                ["quality"]
                if is_lossy and given.quality < making.settings.quality
                else []
            ),
            *(["size"] if given.share < 1 else []),
        ]
    }


def _written(making: Making, file: BinaryIO, progress: Reporting) -> dict[str, Any]:
    if making.chosen is FileFormat.PDF:
        return write_pages([making], 1, file, progress)
    with rendered(making, progress) as (spool, spec):
        _write(spool, file, spec, progress)
    return _facts(making)


def _write(spool: Spool, file: BinaryIO, spec: FileSpec, progress: Reporting) -> None:
    usual = spool.shape.width * spool.shape.height
    told = ReportingFile(file, progress, usual_size=usual)
    write_spooled(spool, cast("BinaryIO", told), spec)


def _facts(making: Making) -> dict[str, Any]:
    dimensions = making.dimensions
    return {
        "width": dimensions.file_width,
        "height": dimensions.file_height,
        "quality": making.settings.quality,
    }


def _giving_way(making: Making, given: Given) -> Making:
    """Return a file that is made smaller, or of less quality."""
    settings = with_fields(making.settings, quality=given.quality)
    if given.share < 1:
        dimensions, size = making.dimensions, settings.size
        smaller: Size
        if isinstance(size, PaperSize):
            # As large on paper as it was, of fewer pixels.
            smaller = with_fields(size, ppi=max(1.0, dimensions.ppi * given.share))
        else:
            smaller = WidthSize(width=max(1, round(dimensions.width * given.share)))
        settings = with_fields(settings, size=smaller)
    return making._replace(settings=settings)
