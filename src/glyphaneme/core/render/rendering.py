"""Turns a composite into pixels; screen and export differ in the view alone."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core._kernels.splitting import split_rows_into
from glyphaneme.core.bands import run_bands
from glyphaneme.core.checks import require_pixels
from glyphaneme.core.render.composing import (
    background_of,
    compose,
    compose_base,
    require_view,
)
from glyphaneme.core.render.finer import finer, samples_for
from glyphaneme.core.render.passes import Passes
from glyphaneme.core.render.reading import Reading
from glyphaneme.core.render.sheets import Sheets
from glyphaneme.core.render.tables import build_table
from glyphaneme.core.render.visibility import Ground

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8, PixelsU16
    from glyphaneme.core.document.model import Composite, Layer
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.composing import Rounding
    from glyphaneme.core.render.rows import Table
    from glyphaneme.core.render.views import View


FINE_ROWS = 256
"""How many rows are blended in more pixels at a time: memory is bounded."""


def render(
    composite: Composite,
    assets: Assets,
    view: View,
    *,
    rounding: Rounding = "nearest",
    pile: tuple[Layer, ...] | None = None,
    sheets: Sheets | None = None,
) -> PixelsU8:
    """Render a view of a composite.

    Parameters
    ----------
    composite : Composite
        What to show.
    assets : mapping of id to what a render reads
        All that `assets_needed` names.
    view : View
        Which part of the canvas, at what size.
    rounding : "nearest" or "dithered"
        How colours become levels, as for `compose`.
    pile : tuple of Layer, optional
        Where masks by other layers find those, where the composite has not all of them.
    sheets : Sheets, optional
        Where what is rendered flat is kept for other views.

    Returns
    -------
    (view.height, view.width, 4) uint8
        Straight RGBA, sRGB-encoded, each value the float32 result rounded.

    Raises
    ------
    PixelsMissingError
        `assets` lacks the picture of a visible layer.
    PixelsShapeError
        A level of a pyramid is not C-contiguous RGBA.
    ViewSizeError
        The view is empty, longer than 65535 pixels, or its scale not positive.

    References
    ----------
    .. [1] W3C, "Compositing and Blending Level 1", sections 5 and 10; blending on
       sRGB-encoded values.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas, Composite
    >>> from glyphaneme.core.render.views import View
    >>> bare = Composite(canvas=Canvas(width=4, height=4, background="#ff8000"))
    >>> render(bare, {}, View(x=0, y=0, width=2, height=2, scale=0.5))[0, 0]
    array([255, 128,   0, 255], dtype=uint8)
    """
    require_view(view)
    table, background = _tabled(composite, assets, view, pile, sheets)
    return compose(table, background, view, rounding=rounding)


def render_exact(
    composite: Composite,
    assets: Assets,
    view: View,
    *,
    pile: tuple[Layer, ...] | None = None,
) -> PixelsU8:
    """Render a view as near as can be to the export scaled down.

    Layers are blended at two to four times the size, but not beyond that of the
    export, and averaged then: modes and tones that bend colours give something else
    where detail was averaged before.

    Parameters
    ----------
    composite, assets, view, pile
        As for `render`.

    Returns
    -------
    (view.height, view.width, 4) uint8
        Straight RGBA, sRGB-encoded.

    Raises
    ------
    PixelsMissingError, PixelsShapeError, ViewSizeError
        As for `render`.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas, Composite
    >>> from glyphaneme.core.render.views import View
    >>> bare = Composite(canvas=Canvas(width=4, height=4, background="#ff8000"))
    >>> render_exact(bare, {}, View(x=0, y=0, width=2, height=2, scale=0.5)).shape
    (2, 2, 4)
    """
    require_view(view)
    if view.scale >= 1:
        return render(composite, assets, view, pile=pile)
    out = np.empty((view.height, view.width, 4), np.uint8)
    sheets, samples = Sheets(), samples_for(view)
    for top in range(0, view.height, FINE_ROWS):
        part = view.band(top, FINE_ROWS)
        more = finer(part, samples)
        blended = render(composite, assets, more.view, pile=pile, sheets=sheets)
        out[top : top + part.height] = more.averaged(blended)
    return out


def render_bands(
    composite: Composite,
    assets: Assets,
    view: View,
    *,
    rows: int = 256,
    rounding: Rounding = "nearest",
    pile: tuple[Layer, ...] | None = None,
) -> Iterator[PixelsU8]:
    """Render a view some rows at a time, for pictures too large for memory.

    Parameters
    ----------
    composite, assets, view
        As for `render`.
    rows : int
        How many at a time; a multiple of 16 keeps the pattern of a dither.
    rounding : "nearest" or "dithered"
        As for `render`.
    pile : tuple of Layer, optional
        As for `render`.

    Yields
    ------
    (rows, view.width, 4) uint8
        From top to bottom; the last band may be lower.

    Raises
    ------
    PixelsMissingError, PixelsShapeError, ViewSizeError
        As for `render`.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas, Composite
    >>> from glyphaneme.core.render.views import View
    >>> bare = Composite(canvas=Canvas(width=4, height=5))
    >>> whole = View(x=0, y=0, width=4, height=5, scale=1)
    >>> [len(band) for band in render_bands(bare, {}, whole, rows=2)]
    [2, 2, 1]
    """
    sheets = Sheets()
    for top in range(0, view.height, rows):
        band = view.band(top, rows)
        yield render(
            composite, assets, band, rounding=rounding, pile=pile, sheets=sheets
        )


def render_deep_bands(
    composite: Composite,
    assets: Assets,
    view: View,
    *,
    rows: int = 256,
    pile: tuple[Layer, ...] | None = None,
) -> Iterator[PixelsU16]:
    """Render a view in 16 bits a channel, some rows at a time.

    Parameters
    ----------
    composite, assets, view, rows, pile
        As for `render_bands`.

    Yields
    ------
    (rows, view.width, 4) uint16
        Straight RGBA, sRGB-encoded, each value the float32 result rounded to 65536
        levels, from top to bottom; the last band may be lower.

    Raises
    ------
    PixelsMissingError, PixelsShapeError, ViewSizeError
        As for `render`.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas, Composite
    >>> from glyphaneme.core.render.views import View
    >>> bare = Composite(canvas=Canvas(width=4, height=3, background="#ff8000"))
    >>> whole = View(x=0, y=0, width=4, height=3, scale=1)
    >>> next(render_deep_bands(bare, {}, whole))[0, 0]
    array([65535, 32896,     0, 65535], dtype=uint16)
    """
    require_view(view)
    sheets = Sheets()
    for top in range(0, view.height, rows):
        band = view.band(top, rows)
        table, background = _tabled(composite, assets, band, pile, sheets)
        planes = compose_base(table, background, band).planes
        yield np.ascontiguousarray(planes.transpose(0, 2, 1))


def _tabled(
    composite: Composite,
    assets: Assets,
    view: View,
    pile: tuple[Layer, ...] | None,
    sheets: Sheets | None,
) -> tuple[Table, NDArray[np.float32]]:
    """Write the table of what a view shows, and what it lies on."""
    around = composite.layers if pile is None else pile
    passes = Passes(around, assets, view, sheets, composite.canvas)
    reading = Reading(assets, view, passes)
    table = build_table(composite.layers, reading, on=Ground(canvas=composite.canvas))
    return table, background_of(composite.canvas)


def split_frame(
    frame: PixelsU8,
) -> tuple[NDArray[np.uint8], NDArray[np.uint8] | None]:
    """Split a frame into what an opaque image format can carry.

    With colour C and veil V, the frame over any backing B is C + V / 255 * B, which
    a page can reckon by multiplying and adding.

    Parameters
    ----------
    frame : (H, W, 4) uint8
        Straight RGBA, as `render` returns it.

    Returns
    -------
    color : (H, W, 3) uint8
        RGB, premultiplied.
    veil : (H, W) uint8, or None
        255 - alpha; None where the whole frame is opaque.

    Raises
    ------
    PixelsShapeError
        `frame` has another shape, dtype or order.

    Examples
    --------
    >>> clear = np.zeros((1, 1, 4), np.uint8)
    >>> split_frame(clear)[1]
    array([[255]], dtype=uint8)
    """
    require_pixels(frame)
    rows, columns = frame.shape[:2]
    color = np.empty((rows, columns, 3), np.uint8)
    veil = np.empty((rows, columns), np.uint8)
    source = frame.view(np.uint32)[..., 0]
    run_bands(
        lambda first, last: split_rows_into(source, color, veil, first, last),
        rows,
        columns,
    )
    return color, veil if veil.any() else None
