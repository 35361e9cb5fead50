"""What rows are written from, and what of that is rendered before them."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple, Protocol

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glyphaneme.core.arrays import MatrixF64, PixelsU8
    from glyphaneme.core.document.model import Canvas, FlatLayer, Layer
    from glyphaneme.core.effect import EffectBase
    from glyphaneme.core.mask import Mask
    from glyphaneme.core.mask.steps import Step
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.place.warping import Warp
    from glyphaneme.core.render.assets import Assets
    from glyphaneme.core.render.views import View
    from glyphaneme.core.tone import Tone


class Before(Protocol):
    """What masks, tones and effects read in a view that is rendered before it."""

    @property
    def pile(self) -> tuple[Layer, ...]:
        """All layers of the composite."""

    @property
    def canvas(self) -> Canvas | None:
        """The sheet that everything lies on, where it is known."""

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
        ...

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
        ...

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
        ...

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
        ...

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
        ...

    def of_part(self, view: View) -> Before:
        """Return those of another view of the same.

        Parameters
        ----------
        view : View
            What is shown there.

        Returns
        -------
        Before
            They share what is kept beyond a view.
        """
        ...


class Reading(NamedTuple):
    """What rows are written from, besides the layers themselves."""

    assets: Assets
    """All that `assets_needed` names."""
    view: View
    """Which part of the canvas is shown, at what size."""
    passes: Before
    """What masks and tones read that is rendered before."""
    averaged: bool = True
    """Whether pictures that lie between two levels are averaged over each pixel's area,
    or two texels each way must do."""


class Placed(NamedTuple):
    """A layer's own pixels as they lie in a view, so far from its left and top."""

    pixels: PixelsU8
    left: int
    top: int
    opaque: bool
    toned: bool = True
    """Whether those of its tones that look at single pixels are in them."""


NOTHING_PLACED: Mapping[str, Placed] = {}
