"""What masks that move with a warped photo see of other layers."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

import cv2
import numpy as np

from glyphaneme.core.render.views import View

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PointsF64
    from glyphaneme.core.mask import LayerQuality
    from glyphaneme.core.place.warping import Warp

    Alpha = NDArray[np.uint8]

BAND_PIXELS = 2**19
"""So many of a sheet's are looked up on the canvas at a time."""
MOST_AROUND = 4096
"""Pixels along a side in which other layers are looked at from a sheet, at most."""
MARGIN = 2


class Looking(Protocol):
    """Shows another layer as it lies in a view of the canvas."""

    def of_part(self, view: View) -> Looking:
        """Look in another view.

        Parameters
        ----------
        view : View
            Of the canvas.

        Returns
        -------
        Looking
            At the same layers.
        """

    def quality(self, layer_id: str, quality: LayerQuality) -> Alpha | None:
        """Return a layer as pixels.

        Parameters
        ----------
        layer_id : str
            Which layer.
        quality : LayerQuality
            What of it counts.

        Returns
        -------
        (H, W) uint8 or None
            As large as the view; None where there is no such layer.
        """


class FromSheet:
    """Looks at other layers from a flat sheet: they lie on the canvas.

    Parameters
    ----------
    outer : Looking
        Sees them where they lie.
    warp : Warp
        How the sheet lies.
    to_canvas : (3, 3) float64
        Maps what it lies in to the canvas.
    """

    def __init__(self, outer: Looking, warp: Warp, to_canvas: MatrixF64) -> None:
        self._outer = outer
        self._warp = warp
        self._to_canvas = to_canvas

    def quality(self, view: View, layer_id: str, quality: LayerQuality) -> Alpha | None:
        """Return another layer as the sheet lies over it.

        Parameters
        ----------
        view : View
            Of the sheet.
        layer_id : str
            Which layer.
        quality : LayerQuality
            What of it counts.

        Returns
        -------
        (H, W) uint8 or None
            As large as the sheet's view; None where there is no such layer.
        """
        around = self._around(view)
        shown = self._outer.of_part(around).quality(layer_id, quality)
        if shown is None:
            return None
        out = np.empty((view.height, view.width), np.uint8)
        rows = max(BAND_PIXELS // view.width, 1)
        for top in range(0, view.height, rows):
            band = view.band(top, rows)
            at = (self._places(band) - (around.x, around.y)) * around.scale - 0.5
            across, down = (at[..., axis].astype(np.float32) for axis in (0, 1))
            out[top : top + band.height] = cv2.remap(
                shown, across, down, cv2.INTER_LINEAR
            )
        return out

    def _around(self, view: View) -> View:
        """Return the view of the canvas in which the sheet lies."""
        points = self._on_canvas(self._warp.outline)
        left, top = points.min(axis=0)
        size = np.ptp(points, axis=0)
        scale = min(
            view.scale / max(self._warp.least_scale, 1e-6),
            MOST_AROUND / max(*size.tolist(), 1e-6),
        )
        margin = MARGIN / scale
        width, height = (max(int(one * scale + 2 * MARGIN), 1) for one in size.tolist())
        return View(float(left - margin), float(top - margin), width, height, scale)

    def _places(self, band: View) -> PointsF64:
        """Return where the pixels of a part of the sheet lie on the canvas."""
        across = band.x + (np.arange(band.width) + 0.5) / band.scale
        down = band.y + (np.arange(band.height) + 0.5) / band.scale
        points = np.stack(np.meshgrid(across, down), axis=-1).reshape(-1, 2)
        shares = points / (self._warp.width, self._warp.height)
        places = self._on_canvas(self._warp.at(shares))
        return places.reshape(band.height, band.width, 2)

    def _on_canvas(self, points: PointsF64) -> PointsF64:
        lying = np.column_stack([points, np.ones(len(points))])
        return np.asarray(lying @ self._to_canvas[:2].T)
