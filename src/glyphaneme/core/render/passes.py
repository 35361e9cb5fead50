"""Renders that come before: other layers as masks, and masks that need neighbours."""

from __future__ import annotations

import math
from functools import partial
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import NEUTRAL, Canvas, path_in
from glyphaneme.core.mask import LayerQuality, Seeing
from glyphaneme.core.mask.planes import plane_of
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.place import Pyramid, build_pyramid
from glyphaneme.core.place.transform import pixel_size
from glyphaneme.core.render.composing import background_of, compose
from glyphaneme.core.render.effects import Shown, veiled
from glyphaneme.core.render.following import followed, pixels_read
from glyphaneme.core.render.lying import Ground
from glyphaneme.core.render.masks import Masking, seen_steps
from glyphaneme.core.render.sheets import Sheets
from glyphaneme.core.render.tables import Reading, build_table, white_table
from glyphaneme.core.render.toned import toned, toned_place, toned_size
from glyphaneme.core.render.views import SLIGHT, View
from glyphaneme.core.render.warped import Reach, flattened, sheet_view
from glyphaneme.core.tone import Seen, spread_of
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PixelsU8, PointsF64
    from glyphaneme.core.document.model import Layer, PhotoLayer
    from glyphaneme.core.effect import EffectBase
    from glyphaneme.core.mask import Mask
    from glyphaneme.core.mask.planes import Plane
    from glyphaneme.core.place.warping import Warp
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.tone import Tone

    Alpha = NDArray[np.uint8]

CLEAR = np.zeros(4, np.float32)
LUMINOSITY = np.array([0.3, 0.59, 0.11], np.float32)
WIDEST = 3.0
"""How many standard deviations of a Gaussian count."""
SHARPENED = 2.0
BAND_PIXELS = 2**19
"""So many of a sheet's are looked up on the canvas at a time."""
MOST_AROUND = 4096
"""Pixels along a side in which other layers are looked at from a sheet, at most."""
MARGIN = 2
EVERYWHERE = Canvas(width=1, height=1)
"""What stands for the canvas where none is said."""


class Passes:
    """What a view's masks read that is rendered before it; each pass is made once.

    Parameters
    ----------
    pile : tuple of Layer
        All layers of the composite, wherever in it the ones lie that are rendered.
    assets : mapping of id to what a render reads
        All that `assets_needed` names.
    view : View
        What is shown.
    sheets : Sheets, optional
        Where those of warped layers are kept beyond this view.
    canvas : Canvas, optional
        The sheet that everything lies on.
    """

    def __init__(
        self,
        pile: tuple[Layer, ...],
        assets: Assets,
        view: View,
        sheets: Sheets | None = None,
        canvas: Canvas | None = None,
    ) -> None:
        self.pile = pile
        self._assets = assets
        self._view = view
        self._sheets = Sheets() if sheets is None else sheets
        self.canvas = canvas
        self._made: dict[object, Plane | None] = {}

    def other(self, layer_id: str, quality: LayerQuality) -> Plane | None:
        """Return another layer as it lies in the view; None where there is none.

        Parameters
        ----------
        layer_id : str
            Which layer.
        quality : LayerQuality
            What of it counts.

        Returns
        -------
        Plane or None
            As large as the view.
        """
        return self._once((layer_id, quality), lambda: self._alone(layer_id, quality))

    def mask_steps(
        self, mask: Mask, to_mask: MatrixF64
    ) -> tuple[float, tuple[Step, ...]]:
        """Return what shows before a mask's first step, and its steps in the view.

        Parameters
        ----------
        mask : Mask
            The recipe.
        to_mask : (2, 3) float64
            Maps the view's pixels to the mask's own.

        Returns
        -------
        float, tuple of Step
            0 or 1, and the steps.
        """
        if not mask.needs_neighbours:
            seeing = self._seeing(to_mask)
            return mask.start, seen_steps(mask.steps(seeing), to_mask)
        key = (mask, to_mask.tobytes())
        plane = self._once(key, lambda: self._settled(mask, to_mask))
        whole = Step(masking.PLANE, np.eye(2, 3), plane=plane)
        return 1.0, (whole, *mask.last_steps)

    def toned_level(
        self, pyramid: Pyramid, at: int, tones: tuple[Tone, ...]
    ) -> tuple[PixelsU8, int]:
        """Return one of a picture's sizes as tones make it that look at neighbours.

        Parameters
        ----------
        pyramid : Pyramid
            The picture.
        at : int
            Which size would be shown without tones.
        tones : tuple of Tone
            All of them working; the size itself where there are none.

        Returns
        -------
        (H, W, 4) uint8, int
            Straight RGBA, and which size it is.
        """
        if not tones:
            return pyramid.levels[at], at
        place = toned_place(pyramid, at, tones)
        made = self._sheets.get(
            ("toned", tones, at, place),
            (pyramid.levels[0],),
            lambda: toned_size(pyramid, at, place, tones),
        )
        return made.levels[0], place

    def toned_pile(
        self,
        layers: tuple[Layer, ...],
        tones: tuple[Tone, ...],
        to_pile: MatrixF64,
        *,
        canvas: Canvas | None = None,
        averaged: bool,
    ) -> PixelsU8:
        """Return layers composed, as tones make them that look at neighbours.

        Parameters
        ----------
        layers : tuple of Layer
            From back to front.
        tones : tuple of Tone
            All of them working.
        to_pile : (3, 3) float64
            Maps the view's pixels to what the layers lie in.
        canvas : Canvas, optional
            The sheet that they lie on, where it is that.
        averaged : bool
            As for `build_table`.

        Returns
        -------
        (view.height, view.width, 4) uint8
            Straight RGBA.
        """
        on = Ground(canvas=canvas)
        found = followed(layers, self.pile)
        lying = (to_pile.tobytes(), canvas)
        made = self._sheets.get(
            ("pile", found, tones, self._view, lying, averaged),
            pixels_read(found, self.pile, self._assets, on),
            lambda: self._toned_pile(
                found.layers, tones, to_pile, canvas, averaged=averaged
            ),
        )
        return made.levels[0]

    def effect_step(
        self, layer: Layer, effect: EffectBase, to_pile: MatrixF64
    ) -> Step | None:
        """Return how the colour of a layer's effect is masked in the view.

        Parameters
        ----------
        layer : Layer
            Whose shape has it.
        effect : EffectBase
            One of its effects, at work.
        to_pile : (3, 3) float64
            Maps the view's pixels to what the layer lies in.

        Returns
        -------
        Step or None
            None where nothing of it is seen.
        """
        bare = layer.model_copy(update=NEUTRAL)
        found = followed((bare,), self.pile)
        lying = to_pile.tobytes()
        key = ("effect", found, effect, self._view, lying, self.canvas)
        read = pixels_read(found, self.pile, self._assets)
        to_canvas = self._view.to_canvas @ np.linalg.inv(to_pile)
        shown = Shown(bare, self._view, to_pile, self.canvas or EVERYWHERE)

        alpha_in = partial(self._alpha_alone, bare, np.linalg.inv(to_canvas))
        made = self._sheets.get(key, read, lambda: veiled(effect, shown, alpha_in))
        return made.step

    def _alpha_alone(self, layer: Layer, to_pile: MatrixF64, view: View) -> Alpha:
        """Render a layer's shape, where the canvas is mapped to what it lies in."""
        reading = Reading(self._assets, view, self.of_part(view))
        table = build_table((layer,), reading, to_pile=to_pile @ view.to_canvas)
        return np.ascontiguousarray(compose(table, CLEAR, view)[..., 3])

    def _toned_pile(
        self,
        layers: tuple[Layer, ...],
        tones: tuple[Tone, ...],
        to_pile: MatrixF64,
        canvas: Canvas | None,
        *,
        averaged: bool,
    ) -> Pyramid:
        scale = 1 / pixel_size(to_pile[:2])
        margin = math.ceil(spread_of(tones) * scale)
        around = self._view.widened(margin)
        inner = Reach(0, 0, around.width, around.height)
        if canvas is not None:
            # What lies beyond the sheet's edge shall not show in it.
            inner = _on_sheet(around, canvas)
        wide = around.part(*inner)
        shift = (inner.left - margin, inner.top - margin)
        moved = np.array([[1.0, 0, shift[0]], [0, 1, shift[1]], [0, 0, 1]])
        to_wide = to_pile @ moved
        reading = Reading(self._assets, wide, self.of_part(wide), averaged=averaged)
        table = build_table(layers, reading, on=Ground(canvas=canvas), to_pile=to_wide)
        ground = CLEAR if canvas is None else background_of(canvas)
        left, top = to_wide[:2, 2].tolist()
        pixels = toned(compose(table, ground, wide), tones, Seen(scale, left, top))
        beyond = (
            (inner.top, around.height - inner.bottom),
            (inner.left, around.width - inner.right),
            (0, 0),
        )
        whole = np.pad(pixels, beyond, "edge")
        rows, columns = self._view.height, self._view.width
        shown = whole[margin : margin + rows, margin : margin + columns]
        return Pyramid(levels=(np.ascontiguousarray(shown),), opaque=False)

    def _seeing(self, to_mask: MatrixF64) -> Seeing:
        return Seeing(
            pixel_size(to_mask),
            to_mask,
            (self._view.height, self._view.width),
            self._assets,
            self.other,
        )

    def _once(self, key: object, make: Callable[[], Plane | None]) -> Plane | None:
        if key not in self._made:
            self._made[key] = make()
        return self._made[key]

    def quality(self, layer_id: str, quality: LayerQuality) -> Alpha | None:
        """Return another layer as it lies in the view, as pixels.

        Parameters
        ----------
        layer_id : str
            Which layer.
        quality : LayerQuality
            What of it counts.

        Returns
        -------
        (H, W) uint8 or None
            0..255, as large as the view; None where there is no such layer.
        """
        path = path_in(self.pile, layer_id)
        if path is None:
            return None
        *groups, layer = path
        alone = on_canvas((*groups, layer.model_copy(update=NEUTRAL)))
        table = build_table((alone,), Reading(self._assets, self._view, self))
        return _quality_of(compose(table, CLEAR, self._view), quality)

    def sheet(
        self, layer: PhotoLayer, warp: Warp, to_pile: MatrixF64
    ) -> tuple[Pyramid, float]:
        """Return a warped photo as it lies flat, with all that moves with it.

        Parameters
        ----------
        layer : PhotoLayer
            Which.
        warp : Warp
            How its frame lies.
        to_pile : (3, 3) float64
            Maps the view's pixels to what the layer lies in.

        Returns
        -------
        Pyramid, float
            The sheet, and how many of its texels show a pixel of the frame.
        """
        flat = flattened(layer)
        view = sheet_view(warp, 1 / pixel_size(to_pile[:2]))
        found = followed((with_fields(flat, id="-"),), self.pile)
        to_canvas = self._view.to_canvas @ np.linalg.inv(to_pile)
        lying = (layer.placement, to_canvas.tobytes()) if found.others else None
        key = ("sheet", found, lying, view)
        read = pixels_read(found, self.pile, self._assets)
        make = partial(self._flat, flat, view, warp, to_canvas)
        return self._sheets.get(key, read, make), view.scale

    def _flat(
        self, flat: PhotoLayer, view: View, warp: Warp, to_canvas: MatrixF64
    ) -> Pyramid:
        """Render a sheet at its size, and make the smaller ones."""
        passes = _SheetPasses(self, view, warp, to_canvas)
        table = build_table((flat,), Reading(self._assets, view, passes))
        return build_pyramid(compose(table, CLEAR, view))

    def of_part(self, view: View) -> Passes:
        """Return those of another view of the same.

        Parameters
        ----------
        view : View
            What is shown there.

        Returns
        -------
        Passes
            They share what is kept beyond a view.
        """
        return Passes(self.pile, self._assets, view, self._sheets, self.canvas)

    def _alone(self, layer_id: str, quality: LayerQuality) -> Plane | None:
        found = self.quality(layer_id, quality)
        return None if found is None else plane_of(found)

    def _settled(self, mask: Mask, to_mask: MatrixF64) -> Plane:
        pixel = pixel_size(to_mask) or 1.0
        # How many shown pixels one of the mask's covers.
        scale = 1 / pixel
        margin = math.ceil(
            (abs(mask.grown) + WIDEST * (mask.softened + mask.smoothed)) * scale
        )
        wide = self._view.widened(margin)
        around = self.of_part(wide)
        moved = np.array([[1.0, 0, -margin], [0, 1, -margin], [0, 0, 1]])
        to_wide = to_mask @ moved
        parts = with_fields(mask, inverted=False, strength=1.0)
        seeing = around._seeing(to_wide)
        found = Masking(mask.start, seen_steps(parts.steps(seeing), to_wide))
        alpha = compose(white_table(found), CLEAR, wide)[..., 3].copy()
        alpha = _grown(alpha, mask.grown * scale)
        if mask.smoothed:
            alpha = _smoothed(alpha, mask.smoothed * scale)
        if mask.softened:
            alpha = _softened(alpha, mask.softened * scale)
        rows, columns = self._view.height, self._view.width
        return plane_of(alpha[margin : margin + rows, margin : margin + columns])


class _SheetPasses(Passes):
    """Those of a sheet: other layers lie on the canvas, and are seen from the sheet."""

    def __init__(
        self, outer: Passes, view: View, warp: Warp, to_canvas: MatrixF64
    ) -> None:
        super().__init__(outer.pile, outer._assets, view, outer._sheets)
        self._outer = outer
        self._warp = warp
        self._to_canvas = to_canvas

    def of_part(self, view: View) -> Passes:
        """Return those of another view of the sheet.

        Parameters
        ----------
        view : View
            What is shown there.

        Returns
        -------
        Passes
            Of the same sheet.
        """
        return _SheetPasses(self._outer, view, self._warp, self._to_canvas)

    def quality(self, layer_id: str, quality: LayerQuality) -> Alpha | None:
        """Return another layer as the sheet lies over it.

        Parameters
        ----------
        layer_id : str
            Which layer.
        quality : LayerQuality
            What of it counts.

        Returns
        -------
        (H, W) uint8 or None
            As large as the sheet's view; None where there is no such layer.
        """
        around = self._around()
        passes = Passes(self.pile, self._assets, around, self._sheets)
        shown = passes.quality(layer_id, quality)
        if shown is None:
            return None
        out = np.empty((self._view.height, self._view.width), np.uint8)
        rows = max(BAND_PIXELS // self._view.width, 1)
        for top in range(0, self._view.height, rows):
            band = self._view.band(top, rows)
            at = (self._places(band) - (around.x, around.y)) * around.scale - 0.5
            across, down = (at[..., axis].astype(np.float32) for axis in (0, 1))
            out[top : top + band.height] = cv2.remap(
                shown, across, down, cv2.INTER_LINEAR
            )
        return out

    def _around(self) -> View:
        """Return the view of the canvas in which the sheet lies."""
        points = self._on_canvas(self._warp.outline)
        left, top = points.min(axis=0)
        size = np.ptp(points, axis=0)
        scale = min(
            self._view.scale / max(self._warp.least_scale, 1e-6),
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


def _on_sheet(view: View, canvas: Canvas) -> Reach:
    """Return the pixels of a view that show the sheet alone; one where none does.

    Those at its edges that show what lies beyond as well would be smeared over others.
    """
    left, right = _inside(-view.x * view.scale, canvas.width * view.scale, view.width)
    top, bottom = _inside(-view.y * view.scale, canvas.height * view.scale, view.height)
    return Reach(left, top, right, bottom)


def _inside(start: float, length: float, pixels: int) -> tuple[int, int]:
    """Return the first whole pixel of a stretch, and the one after its last."""
    first = min(max(math.ceil(start - SLIGHT), 0), pixels - 1)
    end = min(max(math.floor(start + length + SLIGHT), 0), pixels)
    return first, max(end, first + 1)


def _quality_of(shown: PixelsU8, quality: LayerQuality) -> Alpha:
    if quality is LayerQuality.SHAPE:
        return np.ascontiguousarray(shown[..., 3])
    light = shown[..., :3].astype(np.float32) @ LUMINOSITY
    return (light * shown[..., 3] / 255 + 0.5).astype(np.uint8)


def _grown(alpha: Alpha, radius: float) -> Alpha:
    """Grow what shows by some pixels, or shrink it; nearly as a disk would.

    Every third step is by a square, the others by a cross, which reaches as far as an
    octagon; between whole steps it is mixed.
    """
    change = cv2.dilate if radius > 0 else cv2.erode
    shapes = [
        cv2.getStructuringElement(shape, (3, 3))
        for shape in (cv2.MORPH_CROSS, cv2.MORPH_RECT, cv2.MORPH_CROSS)
    ]
    steps, rest = divmod(abs(radius), 1)
    for step in range(int(steps)):
        alpha = np.asarray(change(alpha, shapes[step % 3]), np.uint8)
    if rest:
        beyond = change(alpha, shapes[int(steps) % 3])
        mixed = cv2.addWeighted(alpha, 1 - rest, beyond, rest, 0)
        alpha = np.asarray(mixed, np.uint8)
    return alpha


def _softened(alpha: Alpha, sigma: float) -> Alpha:
    soft = cv2.GaussianBlur(alpha, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(soft, np.uint8)


def _smoothed(alpha: Alpha, sigma: float) -> Alpha:
    """Round an outline off: blur it, and make the blurred edge as hard as it may be."""
    blurred = _softened(alpha, sigma).astype(np.float32)
    harder = (blurred - 127.5) * (SHARPENED * max(sigma, 0.5)) + 127.5
    return np.asarray(np.clip(harder + 0.5, 0, 255), np.uint8)
