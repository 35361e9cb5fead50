"""Before and after: two states of a picture in one file that compares them."""

from __future__ import annotations

import io
import zipfile
from typing import TYPE_CHECKING, Any, BinaryIO, NamedTuple

import numpy as np

from glyphaneme.codecs import FileFormat, write_spooled
from glyphaneme.codecs.comparing import Shown, comparison_page, write_moving
from glyphaneme.core.document.apart import piece
from glyphaneme.core.edits import ShowLayer, apply
from glyphaneme.core.finish import dimensions_of
from glyphaneme.core.finish.comparing import (
    LONGEST_MOVING,
    Alone,
    Moment,
    Without,
)
from glyphaneme.core.finish.settings import LAYERED, Coloring, Paper
from glyphaneme.core.finish.sizes import WidthSize
from glyphaneme.core.values import with_fields
from glyphaneme.services.assets import assets_of
from glyphaneme.services.errors import ExportSizeError, FinishedFileError
from glyphaneme.services.filing import Making, rendered, require_size
from glyphaneme.services.projects import composite_at, require_revision
from glyphaneme.services.reporting import PartOf

if TYPE_CHECKING:
    import uuid

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Composite
    from glyphaneme.core.finish import About, FileSettings
    from glyphaneme.core.finish.comparing import Comparison, Side
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio, Visit


class Compared(NamedTuple):
    """What is compared: of which picture, how large, how it is called."""

    project_id: uuid.UUID
    name: str
    revision: uuid.UUID
    settings: FileSettings
    comparison: Comparison
    about: About


def comparable(settings: FileSettings) -> FileSettings:
    """Return settings of pictures that browsers show: no paper, inks or deep bits."""
    wanted = settings.format
    is_shown = wanted != LAYERED and FileFormat(wanted).facts.is_shown
    return with_fields(
        settings,
        format=wanted if is_shown else FileFormat.JPEG,
        bits=8,
        coloring=Coloring(),
        paper=Paper(),
        tiling=None,
    )


def require_comparable(visit: Visit, compared: Compared) -> None:
    """Check that both sides are there, and of one shape.

    Raises
    ------
    NotThereError, LayerMissingError
        One of them is not.
    FinishedFileError
        The sheet had other proportions then.
    ExportSizeError
        They would be too large.
    """
    sides = [_side(visit, compared, which) for which in _sides(compared)]
    canvases = [side.canvas for side in sides]
    shapes = {round(canvas.width / canvas.height, 3) for canvas in canvases}
    if len(shapes) > 1:
        message = (
            "The sheet had other proportions then, so the two do not lie over one "
            "another. Choose another moment."
        )
        raise FinishedFileError(message)
    dimensions = Making(sides[1], (), {}, compared.settings).dimensions
    require_size(dimensions, compared.settings)
    longest = max(dimensions.file_width, dimensions.file_height)
    if (
        compared.comparison.made_as in {"webp", "gif", "mp4"}
        and longest > LONGEST_MOVING
    ):
        limit = f"what moves has at most {LONGEST_MOVING} on a side"
        raise ExportSizeError(dimensions.file_width, dimensions.file_height, limit)


def write_comparison(
    studio: Studio, compared: Compared, file: BinaryIO, progress: Reporting
) -> dict[str, Any]:
    """Write the file that compares two states of a picture."""
    comparison = compared.comparison
    if comparison.made_as in {"webp", "gif", "mp4"}:
        pixels = [
            _pixels(studio, compared, which, PartOf(progress, place / 2, 0.3))
            for place, which in enumerate(_sides(compared))
        ]
        write_moving(
            pixels[0],
            pixels[1],
            file,
            comparison.made_as,
            quality=compared.settings.quality,
        )
        return {"width": pixels[1].shape[1], "height": pixels[1].shape[0]}
    first, second = (
        _encoded(studio, compared, which, PartOf(progress, place / 2, 0.5))
        for place, which in enumerate(_sides(compared))
    )
    captions = comparison.before_caption, comparison.after_caption
    chosen = FileFormat(compared.settings.format)
    if comparison.made_as == "pair":
        with zipfile.ZipFile(file, "w", zipfile.ZIP_STORED) as pack:
            for place, (data, _) in enumerate((first, second)):
                pack.writestr(
                    f"{place + 1}-{_plain(captions[place], place)}"
                    f".{chosen.facts.ending}",
                    data,
                )
    else:
        media_type = chosen.facts.media_type
        page = comparison_page(
            Shown(first[0], media_type, captions[0]),
            Shown(second[0], media_type, captions[1]),
            second[1],
            compared.about.title or compared.name,
        )
        file.write(page.encode())
    return {"width": second[1][0], "height": second[1][1]}


def _sides(compared: Compared) -> tuple[Side, Side]:
    return compared.comparison.before, compared.comparison.after


def _side(visit: Visit, compared: Compared, which: Side) -> Composite:
    revision = which.revision if isinstance(which, Moment) else compared.revision
    require_revision(visit, compared.project_id, revision)
    composite = composite_at(visit, revision)
    match which:
        case Alone():
            return piece(composite, which.layer)
        case Without():
            return apply(composite, ShowLayer(layer_id=which.layer, visible=False))
        case _:
            return composite


def _making(
    studio: Studio, compared: Compared, which: Side, chosen: FileFormat
) -> Making:
    with studio.looking() as visit:
        shown = _side(visit, compared, which)
        now = composite_at(visit, compared.revision)
        then = which.revision if isinstance(which, Moment) else compared.revision
        pile = composite_at(visit, then).layers
        assets = assets_of(visit, shown, pile=pile)
    # Both as wide as the picture is now, however large the sheet was then.
    width = dimensions_of(now.canvas, compared.settings).width
    sized = with_fields(compared.settings, size=WidthSize(width=width), format=chosen)
    return Making(shown, pile, assets, sized, about=compared.about)


def _encoded(
    studio: Studio, compared: Compared, which: Side, progress: Reporting
) -> tuple[bytes, tuple[int, int]]:
    chosen = FileFormat(compared.settings.format)
    making = _making(studio, compared, which, chosen)
    file = io.BytesIO()
    with rendered(making, progress) as (spool, spec):
        write_spooled(spool, file, spec)
    return file.getvalue(), (spool.shape.width, spool.shape.height)


def _pixels(
    studio: Studio, compared: Compared, which: Side, progress: Reporting
) -> PixelsU8:
    """Return a side's pixels, over the matte where it is see-through."""
    making = _making(studio, compared, which, FileFormat.JPEG)
    with rendered(making, progress) as (spool, _):
        return np.array(spool.pixels)


def _plain(caption: str, place: int) -> str:
    kept = "".join(one for one in caption if one.isalnum() or one in "-_ ")
    return kept.strip().replace(" ", "-").lower()[:60] or ("before", "after")[place]
