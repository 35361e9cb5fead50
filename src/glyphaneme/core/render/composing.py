"""Runs the compositing kernel over a table of layers, in bands."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, NamedTuple

import numpy as np

from glyphaneme.core._kernels.addressing import LINE
from glyphaneme.core._kernels.composing import (
    SPAN_COLUMNS,
    compose_rows_into,
    scratch_floats,
)
from glyphaneme.core._kernels.layout import CHUNK
from glyphaneme.core.bands import run_bands
from glyphaneme.core.errors import ViewSizeError
from glyphaneme.core.place import Rect
from glyphaneme.core.render.rows import Table, rgba

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document.model import Canvas
    from glyphaneme.core.render.views import View

Rounding = Literal["nearest", "dithered"]

LONGEST_SIDE = 65_535
NO_PLANES = np.empty((0, 4, 0), np.uint16)
NO_PIXELS = np.empty((0, 0), np.uint32)
TOP = np.iinfo(np.uint16).max
SOLID = np.ones(4, np.float32)


class Into(NamedTuple):
    """Pixels as large as a view, and the part of them that is composed."""

    pixels: PixelsU8
    part: Rect[int]
    """Perhaps without a pixel."""


class Base(NamedTuple):
    """A composite that others are laid over: planes of straight R, G, B, A, 0..65535.

    `planes` is (H, 4, W) uint16, `opaque` whether all of it is.
    """

    planes: NDArray[np.uint16]
    opaque: bool


NO_BASE = Base(NO_PLANES, opaque=False)


def _ordered(side: int) -> NDArray[np.float32]:
    """Return thresholds 0..1 that are spread evenly, at every size of area."""
    ranks = np.zeros((1, 1), np.int64)
    while len(ranks) < side:
        ranks = np.block([[4 * ranks, 4 * ranks + 2], [4 * ranks + 3, 4 * ranks + 1]])
    return ((ranks + 0.5) / ranks.size).astype(np.float32)


THRESHOLDS: dict[Rounding, NDArray[np.float32]] = {
    "nearest": np.full((1, CHUNK), 0.5, np.float32),
    "dithered": np.tile(_ordered(16), CHUNK // 16),
}


def compose(
    table: Table,
    background: NDArray[np.float32],
    view: View,
    *,
    base: Base = NO_BASE,
    rounding: Rounding = "nearest",
    into: Into | None = None,
) -> PixelsU8:
    """Compose a table of layers.

    Parameters
    ----------
    table : Table
        What to lay over one another.
    background : (4,) float32, 0..1
        Straight RGBA that they lie on.
    view : View
        Only its size counts; the table holds the rest.
    base : Base
        What they lie on instead, as `compose_base` kept it.
    rounding : "nearest" or "dithered"
        How colours become levels; dithered, they are so on average over 16 by 16
        pixels, and soft gradients show no bands.
    into : Into, optional
        What is written into, and returned; beyond the part it stays as it is.

    Returns
    -------
    (view.height, view.width, 4) uint8
        Straight RGBA.

    References
    ----------
    .. [1] B. E. Bayer, "An optimum method for two-level rendition of continuous-tone
       pictures", IEEE International Conference on Communications, 1973.
    """
    thresholds = THRESHOLDS[rounding]
    ground = SOLID if base.opaque else background
    if into is None:
        pixels = np.empty((view.height, view.width, 4), np.uint8)
        into = Into(pixels, Rect(0, 0, view.width, view.height))
    out, (left, top, right, bottom) = into
    if into.part.is_empty:
        return out
    target = out.view(np.uint32)[..., 0]
    run_bands(
        lambda first, last: compose_rows_into(
            table.rows,
            table.steps,
            table.tones.steps,
            table.tones.numbers,
            ground,
            base.planes,
            NO_PLANES,
            thresholds,
            *_scratch(table, right - left),
            target,
            top + first,
            top + last,
            left,
            right,
        ),
        bottom - top,
        right - left,
    )
    return out


def compose_base(
    table: Table,
    background: NDArray[np.float32],
    view: View,
    *,
    base: Base = NO_BASE,
) -> Base:
    """Compose a table of layers for others to be laid over it later.

    Parameters
    ----------
    table, background, view, base
        As for `compose`.

    Returns
    -------
    Base
        As large as the view.
    """
    ground = SOLID if base.opaque else background
    kept = np.empty((view.height, 4, view.width), np.uint16)
    run_bands(
        lambda first, last: compose_rows_into(
            table.rows,
            table.steps,
            table.tones.steps,
            table.tones.numbers,
            ground,
            base.planes,
            kept,
            THRESHOLDS["nearest"],
            *_scratch(table, view.width),
            NO_PIXELS,
            first,
            last,
            0,
            view.width,
        ),
        view.height,
        view.width,
    )
    return Base(kept, opaque=bool(kept[:, 3].min() == TOP))


def _scratch(
    table: Table, columns: int
) -> tuple[NDArray[np.float32], NDArray[np.int64]]:
    """Make room for one band: for its chunks, and for where layers show in them."""
    floats = scratch_floats(table.groups)
    room = np.empty(floats + LINE, np.float32)
    first = -room.ctypes.data // 4 % LINE
    lines = max(CHUNK // columns, 1)
    spans = np.empty((lines, len(table.rows), SPAN_COLUMNS), np.int64)
    return room[first : first + floats], spans


def background_of(canvas: Canvas) -> NDArray[np.float32]:
    """Return what a canvas shows where nothing lies.

    Parameters
    ----------
    canvas : Canvas
        The sheet.

    Returns
    -------
    (4,) float32, 0..1
        Straight RGBA.
    """
    if canvas.background is None:
        return np.zeros(4, np.float32)
    return rgba(canvas.background)


def require_view(view: View) -> None:
    """Check that a view can be filled.

    Parameters
    ----------
    view : View
        What shall be shown.

    Raises
    ------
    ViewSizeError
        It is empty, longer than 65535 pixels, or its scale not positive.
    """
    if not (0 < view.width <= LONGEST_SIDE and 0 < view.height <= LONGEST_SIDE):
        got = f"got {view.width} by {view.height} pixels"
        raise ViewSizeError(got)
    if not view.scale > 0:
        got = f"got scale {view.scale}"
        raise ViewSizeError(got)
