"""Layers whose place is no affine map: their pixels as they lie in a view.

A photo that nothing else changes is read from its own pyramid. All others are rendered
flat first, on a sheet of their frame's size, and the sheet is read.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

import numpy as np

from glyphaneme.core._kernels import warping
from glyphaneme.core.bands import run_bands
from glyphaneme.core.document.model import NEUTRAL
from glyphaneme.core.place import Placement, Rect, frame_size
from glyphaneme.core.place.bend import unbent
from glyphaneme.core.render.views import View
from glyphaneme.core.tone import split
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.document.model import FlatLayer, PhotoLayer
    from glyphaneme.core.mask import Mask
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.place.warping import Warp

LARGEST_SHEET = 24_000_000
"""Pixels of a sheet, at most: beyond that a frame is rendered at a smaller scale."""
LONGEST_SHEET = 30_000
NO_MOVES: Final = np.zeros((0, 0, 2), np.float32)


def reach_in(warp: Warp, to_pile: MatrixF64, view: View) -> Rect[int] | None:
    """Return the part of a view that a warped frame may touch.

    Parameters
    ----------
    warp : Warp
        How it lies.
    to_pile : (3, 3) float64
        Maps the view's pixels to what the layer lies in.
    view : View
        What is shown.

    Returns
    -------
    Rect or None
        None where it touches nothing.
    """
    outline = np.column_stack([warp.outline, np.ones(len(warp.outline))])
    points = (outline @ np.linalg.inv(to_pile).T)[:, :2]
    # Between probes an outline that is bent may reach a little further.
    slack = 1 + (0.02 * np.ptp(points, axis=0).max() if warp.bend is not None else 0)
    left, top = np.maximum(np.floor(points.min(axis=0) - slack), 0)
    right, bottom = np.minimum(
        np.ceil(points.max(axis=0) + slack), (view.width, view.height)
    )
    if left >= right or top >= bottom:
        return None
    return Rect(int(left), int(top), int(right), int(bottom))


def warped_into(
    pyramid: Pyramid,
    warp: Warp,
    to_pile: MatrixF64,
    reach: Rect[int],
    *,
    scale: float = 1.0,
    averaged: bool,
) -> PixelsU8:
    """Return a picture as it lies in a part of a view.

    Parameters
    ----------
    pyramid : Pyramid
        Fills the warp's frame.
    warp : Warp
        How that lies.
    to_pile : (3, 3) float64
        Maps the view's pixels to what the layer lies in.
    reach : Rect
        Which part of the view.
    scale : float
        Texels of the pyramid a pixel of the frame.
    averaged : bool
        Whether each pixel is averaged over its area, or read at one point.

    Returns
    -------
    (H, W, 4) uint8
        Straight RGBA, as large as `reach`.
    """
    begun = np.array([[1.0, 0, reach.left], [0, 1, reach.top], [0, 0, 1]])
    home = warp.to_square @ to_pile @ begun
    moves, grid = NO_MOVES, np.zeros(4)
    if warp.bend is not None:
        back = unbent(warp.bend)
        moves = back.moves
        grid = np.array([back.left, back.top, 1 / back.step_x, 1 / back.step_y])
    table = np.array(
        [(one.ctypes.data, *one.shape[:2]) for one in pyramid.levels], np.int64
    )
    out = np.empty((reach.bottom - reach.top, reach.right - reach.left, 4), np.uint8)
    target = out.view(np.uint32)[..., 0]
    size = np.array([warp.width * scale, warp.height * scale])
    run_bands(
        lambda first, last: warping.warp_rows_into(
            table,
            pyramid.opaque,
            np.ascontiguousarray(home).ravel(),
            moves,
            grid,
            size,
            averaged,
            target,
            first,
            last,
        ),
        out.shape[0],
        out.shape[1],
    )
    return out


def is_plain(layer: PhotoLayer) -> bool:
    """Tell whether a warped photo is read from its own pyramid.

    Parameters
    ----------
    layer : PhotoLayer
        Whichever.

    Returns
    -------
    bool
        False where something that moves with it changes what shows of it.
    """
    linked = [fade for fade in layer.fades if fade.linked]
    masked = layer.mask is not None and layer.mask.linked
    toned = split(layer.tones).first
    return layer.placement.crop is None and not (linked or masked or toned)


def flattened(layer: FlatLayer) -> FlatLayer:
    """Return a warped layer as it lies on a sheet of its frame's size.

    Parameters
    ----------
    layer : PhotoLayer or WordsLayer
        Whichever.

    Returns
    -------
    PhotoLayer or WordsLayer
        Straight, at full strength, with all that moves with it, and those of its tones
        that look at neighbours.
    """
    wide, high = frame_size(layer.placement, width=layer.width, height=layer.height)
    placement = Placement(
        x=wide / 2, y=high / 2, scale_x=1, scale_y=1, crop=layer.placement.crop
    )
    return with_fields(
        layer,
        **NEUTRAL,
        placement=placement,
        tones=split(layer.tones).first,
        mask=_moving_mask(layer),
        fades=tuple(fade for fade in layer.fades if fade.linked),
    )


def staying(layer: FlatLayer) -> FlatLayer:
    """Return a warped layer with only that of its mask and fades which stays in place.

    Parameters
    ----------
    layer : PhotoLayer or WordsLayer
        Whichever.

    Returns
    -------
    PhotoLayer or WordsLayer
        What moves with it is in its sheet already.
    """
    mask = layer.mask
    return with_fields(
        layer,
        mask=None if mask is not None and mask.linked else mask,
        fades=tuple(fade for fade in layer.fades if not fade.linked),
    )


def sheet_view(warp: Warp, shown: float, *, finest: float = 1.0) -> View:
    """Return at what size a frame is rendered flat to be looked at in a view.

    Parameters
    ----------
    warp : Warp
        How the frame lies.
    shown : float
        The view's pixels a pixel of what it lies in.
    finest : float
        Pixels of the sheet that one of the frame's may become: what has pixels of its
        own is not sharper than those.

    Returns
    -------
    View
        Of the frame, at the power of two that leaves nothing blurred, up to `finest`,
        within `LARGEST_SHEET`.
    """
    wanted = min(max(warp.largest_scale * shown, 1e-6), finest)
    scale = min(2.0 ** math.ceil(math.log2(wanted)), finest)
    while (
        warp.width * warp.height * scale * scale > LARGEST_SHEET
        or max(warp.width, warp.height) * scale > LONGEST_SHEET
    ):
        scale /= 2
    return View(
        0,
        0,
        max(math.ceil(warp.width * scale), 1),
        max(math.ceil(warp.height * scale), 1),
        scale,
    )


def _moving_mask(layer: FlatLayer) -> Mask | None:
    mask = layer.mask
    return mask if mask is not None and mask.linked else None
