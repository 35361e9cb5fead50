"""What a file is made of: a composite, rendered in the file's own colours."""

from __future__ import annotations

import math
import tempfile
from contextlib import ExitStack, contextmanager
from dataclasses import replace
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np

from glyphaneme.codecs import FileFormat, FileSpec, Shape, let_go
from glyphaneme.codecs.color import Conversion
from glyphaneme.codecs.writing import spooled
from glyphaneme.core.color import levels_of
from glyphaneme.core.finish import About, dimensions_of, enlargements, tiled
from glyphaneme.core.place import Pyramid
from glyphaneme.core.place.enlarging import doublings_for, enlarge_into
from glyphaneme.core.render import render_bands, render_deep_bands
from glyphaneme.core.values import with_fields
from glyphaneme.services.errors import ExportSizeError
from glyphaneme.services.reporting import DONE_BEFORE

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray

    from glyphaneme.codecs import Spool
    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.core.finish import Dimensions
    from glyphaneme.core.finish.dimensions import Laid
    from glyphaneme.core.finish.settings import FileSettings
    from glyphaneme.core.place import Rect
    from glyphaneme.core.render import Assets
    from glyphaneme.core.render.composing import Rounding
    from glyphaneme.services.reporting import Reporting

MAX_EXPORT_PIXELS = 150_000_000
MAX_EXPORT_SIDE = 30_000
BAND_ROWS = 256
DEEP = 16
"""Bits a channel."""
MOST_FINER_PIXELS = 100_000_000


class Making(NamedTuple):
    """A file to make of a composite whose masks may read a wider pile."""

    composite: Composite
    pile: tuple[Layer, ...]
    assets: Assets
    settings: FileSettings
    part: Rect[float] | None = None
    """Of the canvas, where not all of it is shown."""
    profile: bytes | None = None
    """The printer's, where it is not the one that ships."""
    printer: str = ""
    """What that profile is called."""
    about: About = About()

    @property
    def dimensions(self) -> Dimensions:
        """What is rendered, and how large."""
        return dimensions_of(self.composite.canvas, self.settings, self.part)

    @property
    def chosen(self) -> FileFormat:
        """The format; one with layers is written elsewhere."""
        return FileFormat(self.settings.format)


def require_size(dimensions: Dimensions, settings: FileSettings) -> None:
    """Check that a file can be made as large as that.

    Raises
    ------
    ExportSizeError
        It has too many pixels, or too many on a side for its format.
    TooManyTilesError
        It is a poster of too many sheets of paper.
    """
    if settings.tiling is not None:
        tiled(*dimensions.page_mm, settings.tiling)
    width, height = dimensions.file_width, dimensions.file_height
    longest = max(width, height)
    if width * height > MAX_EXPORT_PIXELS:
        limit = f"at most {MAX_EXPORT_PIXELS // 1_000_000} million pixels"
        raise ExportSizeError(width, height, limit)
    if longest > MAX_EXPORT_SIDE:
        raise ExportSizeError(width, height, f"at most {MAX_EXPORT_SIDE} on a side")
    if isinstance(settings.format, FileFormat):
        most = settings.format.facts.longest_side
        held = settings.format.facts.most_pixels
        if width * height > held:
            said = f"at most {held // 1_000_000} million pixels as "
            raise ExportSizeError(width, height, said + settings.format.name)
        if longest > most:
            said = f"at most {most} on a side as {settings.format.name}"
            raise ExportSizeError(width, height, said)


@contextmanager
def rendered(making: Making, progress: Reporting) -> Iterator[tuple[Spool, FileSpec]]:
    """Render a file's pixels in its own colours; they wait on disk."""
    making = on_something(making)
    dimensions, settings, chosen = making.dimensions, making.settings, making.chosen
    require_size(dimensions, settings)
    conversion = Conversion.into(settings.coloring, making.profile)
    if conversion.ink == "gray" and not chosen.facts.has_gray:
        # Greys, spoken of in red, green and blue.
        conversion = conversion._replace(as_rgb=True)
    canvas = making.composite.canvas
    shape = Shape(
        dimensions.file_width,
        dimensions.file_height,
        opaque=canvas.background is not None,
        ink=conversion.file_ink,
        bits=settings.bits,
    )
    spec = FileSpec(
        chosen,
        settings.quality,
        dimensions.ppi,
        exact=settings.exact,
        fine_color=settings.fine_color,
        progressive=settings.progressive,
        few_colors=True,
        packing=settings.packing,
        profile=None if conversion.is_same else conversion.file_profile,
        about=making.about if settings.signed else About(),
    )
    with finer_photos(making) as finer:
        bands = _laid(_bands(finer, progress), dimensions.laid, dimensions.width)
        with spooled((conversion.of(band) for band in bands), shape) as spool:
            yield spool, spec


@contextmanager
def finer_photos(making: Making, *, most: int = MOST_FINER_PIXELS) -> Iterator[Making]:
    """Have photos that a file enlarges resampled well; they lie on disk meanwhile.

    The largest that find no room among so many pixels stay as they are: smooth.
    """
    wanted = enlargements(making.composite, making.dimensions.scale)
    assets = dict(making.assets)
    with ExitStack() as kept:
        for name, enlarged in sorted(wanted.items(), key=lambda one: one[1]):
            power, pyramid = doublings_for(enlarged), assets.get(name)
            if power == 0 or not isinstance(pyramid, Pyramid):
                continue
            size = (pyramid.height << power, pyramid.width << power, 4)
            most -= size[0] * size[1]
            if most < 0:
                break
            scratch = kept.enter_context(tempfile.TemporaryFile())
            scratch.truncate(math.prod(size))
            finer = np.memmap(scratch, np.uint8, mode="r+", shape=size)
            enlarge_into(pyramid.levels[0], power, finer)
            assets[name] = replace(pyramid, finer=finer, finer_power=power)
        yield making._replace(assets=assets)


def on_something(making: Making) -> Making:
    """Lay a picture over a colour, where its file has no see-through."""
    canvas = making.composite.canvas
    settings = making.settings
    if canvas.background is not None:
        return making
    if settings.ground is not None:
        behind = settings.ground.color
    elif settings.coloring.space == "ink" or not making.chosen.facts.keeps_alpha:
        behind = settings.matte
    else:
        return making
    solid = with_fields(canvas, background=behind)
    return making._replace(composite=with_fields(making.composite, canvas=solid))


def _bands(making: Making, progress: Reporting) -> Iterator[NDArray[Any]]:
    """Render bands; sources let go of their pages after each, so memory stays low."""
    view = making.dimensions.view
    if making.settings.bits == DEEP:
        bands: Iterator[NDArray[Any]] = render_deep_bands(
            making.composite, making.assets, view, pile=making.pile
        )
    else:
        # In exact formats the noise would cost more than it gives: flat places grow.
        rounding: Rounding = "nearest" if making.chosen.facts.is_exact else "dithered"
        bands = render_bands(
            making.composite,
            making.assets,
            view,
            rounding=rounding,
            pile=making.pile,
        )
    rows = 0
    for band in bands:
        yield band
        for asset in making.assets.values():
            if isinstance(asset, Pyramid):
                let_go(asset)
        rows += len(band)
        progress.report(DONE_BEFORE * rows / view.height)


def _laid(
    bands: Iterator[NDArray[Any]], laid: Laid | None, width: int
) -> Iterator[NDArray[Any]]:
    """Lay bands in the middle of a ground."""
    if laid is None:
        yield from bands
        return
    channels = [*levels_of(laid.color), 255]
    rows = 0

    def bare(count: int, dtype: np.dtype[Any]) -> NDArray[Any]:
        widest = np.iinfo(dtype).max // 255
        color = np.array(channels, dtype) * dtype.type(widest)
        return np.broadcast_to(color, (count, laid.width, 4))

    dtype: np.dtype[Any] = np.dtype(np.uint8)
    for band in bands:
        if rows == 0:
            dtype = band.dtype
            yield from _in_bands(bare, laid.top, dtype)
        wide = bare(len(band), dtype).copy()
        wide[:, laid.left : laid.left + width] = band
        yield wide
        rows += len(band)
    yield from _in_bands(bare, laid.height - laid.top - rows, dtype)


def _in_bands(bare: Any, count: int, dtype: np.dtype[Any]) -> Iterator[NDArray[Any]]:  # noqa: ANN401  # a function
    for top in range(0, count, BAND_ROWS):
        yield bare(min(BAND_ROWS, count - top), dtype)
