"""Renders that come before: other layers as masks, and masks that need neighbours."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import NEUTRAL, Canvas, PhotoLayer, path_in
from glyphaneme.core.mask import LayerQuality, Seeing
from glyphaneme.core.mask.planes import plane_of
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.place import Pyramid, build_pyramid
from glyphaneme.core.place.transform import pixel_size
from glyphaneme.core.render.composing import compose
from glyphaneme.core.render.effects import Shown, veiled
from glyphaneme.core.render.following import followed, pixels_read
from glyphaneme.core.render.from_sheet import FromSheet
from glyphaneme.core.render.growing import reach_of_settling, settled_alpha
from glyphaneme.core.render.masks import Masking, seen_steps
from glyphaneme.core.render.piles import toned_pile_pixels
from glyphaneme.core.render.reading import Reading
from glyphaneme.core.render.rows import white_table
from glyphaneme.core.render.sheets import Sheets
from glyphaneme.core.render.tables import build_table
from glyphaneme.core.render.toned import toned_place, toned_size
from glyphaneme.core.render.visibility import Ground
from glyphaneme.core.render.warped import flattened, sheet_view
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.document.model import FlatLayer, Layer
    from glyphaneme.core.effect import EffectBase
    from glyphaneme.core.mask import Mask
    from glyphaneme.core.mask.planes import Plane
    from glyphaneme.core.place.warping import Warp
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.views import View
    from glyphaneme.core.tone import Tone

    Alpha = NDArray[np.uint8]

CLEAR = np.zeros(4, np.float32)
LUMINOSITY = np.array([0.3, 0.59, 0.11], np.float32)
FINEST_LETTERS = 64.0
"""Pixels of a sheet for one of words' own: they have no pixels that end sharpness."""
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
        self._seen: FromSheet | None = None
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
        reading = Reading(self._assets, self._view, self, averaged=averaged)
        found = followed(layers, self.pile)
        lying = (to_pile.tobytes(), canvas)
        made = self._sheets.get(
            ("pile", found, tones, self._view, lying, averaged),
            pixels_read(found, self.pile, self._assets, on),
            lambda: Pyramid(
                levels=(toned_pile_pixels(found.layers, tones, to_pile, on, reading),),
                opaque=False,
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
        if self._seen is not None:
            return self._seen.quality(self._view, layer_id, quality)
        path = path_in(self.pile, layer_id)
        if path is None:
            return None
        *groups, layer = path
        alone = on_canvas((*groups, layer.model_copy(update=NEUTRAL)))
        table = build_table((alone,), Reading(self._assets, self._view, self))
        return _quality_of(compose(table, CLEAR, self._view), quality)

    def sheet(
        self, layer: FlatLayer, warp: Warp, to_pile: MatrixF64
    ) -> tuple[Pyramid, float]:
        """Return a warped layer as it lies flat, with all that moves with it.

        Parameters
        ----------
        layer : PhotoLayer or WordsLayer
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
        finest = 1.0 if isinstance(layer, PhotoLayer) else FINEST_LETTERS
        view = sheet_view(warp, 1 / pixel_size(to_pile[:2]), finest=finest)
        found = followed((with_fields(flat, id="-"),), self.pile)
        to_canvas = self._view.to_canvas @ np.linalg.inv(to_pile)
        lying = (layer.placement, to_canvas.tobytes()) if found.others else None
        key = ("sheet", found, lying, view)
        read = pixels_read(found, self.pile, self._assets)
        make = partial(self._flat, flat, view, warp, to_canvas)
        return self._sheets.get(key, read, make), view.scale

    def _flat(
        self, flat: FlatLayer, view: View, warp: Warp, to_canvas: MatrixF64
    ) -> Pyramid:
        """Render a sheet at its size, and make the smaller ones."""
        passes = self.of_part(view, FromSheet(self, warp, to_canvas))
        table = build_table((flat,), Reading(self._assets, view, passes))
        return build_pyramid(compose(table, CLEAR, view))

    def of_part(self, view: View, seen: FromSheet | None = None) -> Passes:
        """Return those of another view of the same.

        Parameters
        ----------
        view : View
            What is shown there.
        seen : FromSheet, optional
            From where other layers are seen, where that is another place than here.

        Returns
        -------
        Passes
            They share what is kept beyond a view.
        """
        made = Passes(self.pile, self._assets, view, self._sheets, self.canvas)
        made._seen = seen or self._seen
        return made

    def _alone(self, layer_id: str, quality: LayerQuality) -> Plane | None:
        found = self.quality(layer_id, quality)
        return None if found is None else plane_of(found)

    def _settled(self, mask: Mask, to_mask: MatrixF64) -> Plane:
        pixel = pixel_size(to_mask) or 1.0
        # How many shown pixels one of the mask's covers.
        scale = 1 / pixel
        margin = reach_of_settling(mask, scale)
        wide = self._view.widened(margin)
        around = self.of_part(wide)
        moved = np.array([[1.0, 0, -margin], [0, 1, -margin], [0, 0, 1]])
        to_wide = to_mask @ moved
        parts = with_fields(mask, inverted=False, strength=1.0)
        seeing = around._seeing(to_wide)
        found = Masking(mask.start, seen_steps(parts.steps(seeing), to_wide))
        alpha = compose(white_table(found), CLEAR, wide)[..., 3].copy()
        alpha = settled_alpha(alpha, mask, scale)
        rows, columns = self._view.height, self._view.width
        return plane_of(alpha[margin : margin + rows, margin : margin + columns])


def _quality_of(shown: PixelsU8, quality: LayerQuality) -> Alpha:
    if quality is LayerQuality.SHAPE:
        return np.ascontiguousarray(shown[..., 3])
    light = shown[..., :3].astype(np.float32) @ LUMINOSITY
    return (light * shown[..., 3] / 255 + 0.5).astype(np.uint8)
