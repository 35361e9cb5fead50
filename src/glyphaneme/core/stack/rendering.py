"""Turns a composite into pixels; screen and export differ in the view alone."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core._kernels.composing import (
    LAYER,
    compose_rows_into,
    split_rows_into,
)
from glyphaneme.core.bands import run_bands
from glyphaneme.core.blend import BLEND_CODES
from glyphaneme.core.checks import require_pixels
from glyphaneme.core.errors import PixelsMissingError, ViewSizeError
from glyphaneme.core.place import Pyramid, canvas_to_source

if TYPE_CHECKING:
    from collections.abc import Mapping

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.stack.model import Composite, Layer

LONGEST_SIDE = 65_535
WHOLE = 1e-6
"""How near to whole pixels a map must lie to be copied: far below one level."""


class View(NamedTuple):
    """A rectangle of the canvas at a scale.

    `x` and `y` are canvas pixels of its top left corner, `width` and `height` the
    size of what is shown, `scale` shown pixels per canvas pixel.

    Examples
    --------
    >>> View(x=0, y=0, width=640, height=480, scale=0.5).canvas_width
    1280.0
    """

    x: float
    y: float
    width: int
    height: int
    scale: float

    @property
    def canvas_width(self) -> float:
        """Width of the rectangle, in canvas pixels."""
        return self.width / self.scale


def render(composite: Composite, pixels: Mapping[str, Pyramid], view: View) -> PixelsU8:
    """Render a view of a composite.

    Parameters
    ----------
    composite : Composite
        What to show.
    pixels : mapping of picture id to Pyramid
        The pictures of all visible layers.
    view : View
        Which part of the canvas, at what size.

    Returns
    -------
    (view.height, view.width, 4) uint8
        Straight RGBA, sRGB-encoded, each value the float32 result rounded.

    Raises
    ------
    PixelsMissingError
        `pixels` lacks the picture of a visible layer.
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
    >>> from glyphaneme.core.stack.model import Canvas, Composite
    >>> bare = Composite(canvas=Canvas(width=4, height=4, background="#ff8000"))
    >>> render(bare, {}, View(x=0, y=0, width=2, height=2, scale=0.5))[0, 0]
    array([255, 128,   0, 255], dtype=uint8)
    """
    _require_view(view)
    shown = [layer for layer in composite.layers if layer.visible and layer.opacity]
    table = np.zeros(len(shown), LAYER)
    held = []  # the kernel reads through addresses: keep the arrays alive till it ends
    for row, layer in zip(table, shown, strict=True):
        if layer.picture not in pixels:
            raise PixelsMissingError(layer.picture)
        held.append(_fill_row(row, layer, pixels[layer.picture], view))
    out = np.empty((view.height, view.width, 4), np.uint8)
    target = out.view(np.uint32)[..., 0]
    background = _background(composite.canvas.background)
    run_bands(
        lambda first, last: compose_rows_into(table, background, target, first, last),
        view.height,
    )
    del held
    return out


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
    color = np.empty((*frame.shape[:2], 3), np.uint8)
    veil = np.empty(frame.shape[:2], np.uint8)
    source = frame.view(np.uint32)[..., 0]
    run_bands(
        lambda first, last: split_rows_into(source, color, veil, first, last),
        frame.shape[0],
    )
    return color, veil if veil.any() else None


def _fill_row(row: np.void, layer: Layer, pyramid: Pyramid, view: View) -> PixelsU8:
    """Write the layer's row of the kernel's table; return the level it points to."""
    placement = layer.placement
    at = pyramid.level_for(max(placement.scale_x, placement.scale_y) * view.scale)
    level = pyramid.levels[at]
    require_pixels(level)
    shrink = 0.5**at
    inverse = canvas_to_source(placement, width=pyramid.width, height=pyramid.height)
    to_source = shrink * inverse @ _view_to_canvas(view)
    row["address"] = level.ctypes.data
    row["rows"], row["columns"] = level.shape[:2]
    row["width"], row["height"] = pyramid.width * shrink, pyramid.height * shrink
    row["mode"] = BLEND_CODES[layer.blend]
    row["opacity"] = layer.opacity
    row["opaque"] = pyramid.opaque
    row["copied"] = at == 0 and _moves_by_whole_pixels(to_source)
    row["to_source"] = to_source.ravel()
    return level


def _view_to_canvas(view: View) -> MatrixF64:
    step = 1 / view.scale
    return np.array([[step, 0, view.x], [0, step, view.y], [0, 0, 1]])


def _moves_by_whole_pixels(matrix: MatrixF64) -> bool:
    shift = matrix[:, 2]
    return bool(
        np.array_equal(matrix[:, :2], np.eye(2))
        and np.all(np.abs(shift - np.round(shift)) < WHOLE)
    )


def _background(color: str | None) -> NDArray[np.float32]:
    if color is None:
        return np.zeros(4, np.float32)
    channels = [int(color[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    return np.array([*channels, 1], np.float32)


def _require_view(view: View) -> None:
    if not (0 < view.width <= LONGEST_SIDE and 0 < view.height <= LONGEST_SIDE):
        got = f"got {view.width} by {view.height} pixels"
        raise ViewSizeError(got)
    if not view.scale > 0:
        got = f"got scale {view.scale}"
        raise ViewSizeError(got)
