"""Shadows and outlines as masks of their colour, worked out from a layer's shape."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core._kernels import masking
from glyphaneme.core.document.grouping import lifted, outline_of
from glyphaneme.core.document.model import GroupLayer, PlacedLayer
from glyphaneme.core.effect import Asked, EffectBase
from glyphaneme.core.mask.planes import plane_of
from glyphaneme.core.mask.steps import Step
from glyphaneme.core.place import Rect
from glyphaneme.core.place.transform import pixel_size
from glyphaneme.core.render.views import View

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PointsF64
    from glyphaneme.core.document.model import Canvas, Layer

    Alpha = NDArray[np.uint8]
    Shape = NDArray[np.float32]

AlphaIn = Callable[[View], "Alpha"]
"""Renders a layer's shape alone in a view of the canvas."""

BEYOND = 16
"""Pixels beyond a view that are worked out too, so that squares end outside of it."""
MOST_SQUARES = 12_000_000
"""So much of a shape is looked at, at most."""
SURVEYED = 512
"""Pixels along the longer side in which it is looked where a layer shows."""
THERE = 12
"""Levels of alpha: what shows less does not stand on anything."""
STRAIGHT = 1e-9


class Shown(NamedTuple):
    """What has an effect, and where it is wanted.

    `to_pile`, (3, 3) float64, maps the view's pixels to what the layer lies in.
    """

    layer: Layer
    view: View
    to_pile: MatrixF64
    canvas: Canvas


class Veiled(NamedTuple):
    """A step that leaves of a colour what an effect shows; None: nothing of it."""

    step: Step | None

    @property
    def nbytes(self) -> int:
        """How much memory it takes."""
        plane = None if self.step is None else self.step.plane
        return 0 if plane is None else plane.nbytes


def veiled(effect: EffectBase, shown: Shown, alpha_in: AlphaIn) -> Veiled:
    """Return how an effect's colour is masked.

    Parameters
    ----------
    effect : EffectBase
        Of any kind.
    shown : Shown
        Of what, and where.
    alpha_in : callable
        Renders the layer's shape, alone and at full strength.

    Returns
    -------
    Veiled
        Its step counts from the view's pixels.
    """
    space = _Space(effect, shown)
    known = _where(effect, shown, space, alpha_in)
    seen = space.seen.widened(BEYOND, BEYOND)
    if known is None or known.is_empty:
        return Veiled(None)
    target = effect.extent(known, space.scale).within(seen)
    if target.is_empty:
        return Veiled(None)
    asked = Asked(target, known, space.scale)
    wanted = effect.source(asked)
    source = wanted._replace(extent=wanted.extent.snapped(wanted.factor))
    if source.squares > MOST_SQUARES:
        return _coarser(effect, shown, alpha_in)
    alpha = _alpha_of(space, source.extent, source.factor, known, alpha_in)
    if alpha is None:
        return Veiled(None)
    veil = effect.made(alpha, source, asked)
    # Beyond its edge a plane goes on as it is there: nothing is there.
    values = np.pad(veil.values, 1)
    corner = np.array([veil.left - veil.factor, veil.top - veil.factor])
    to_squares = space.from_view[:2].copy()
    to_squares[:, 2] -= corner
    return Veiled(Step(masking.PLANE, to_squares / veil.factor, plane=plane_of(values)))


def shown_extent(layer: Layer, canvas: Canvas, alpha_in: AlphaIn) -> Rect[float] | None:
    """Return where on the canvas a layer shows anything.

    Parameters
    ----------
    layer : Layer
        Placed on the canvas itself.
    canvas : Canvas
        What colours and gradients count as covering.
    alpha_in : callable
        Renders the layer's shape, alone and at full strength.

    Returns
    -------
    Rect or None
        In canvas pixels; None where nothing of it shows.
    """
    shown = Shown(layer, View(0, 0, 1, 1, 1.0), np.eye(3), canvas)
    space = _Space(EffectBase(), shown)
    return _surveyed(_outline(layer, canvas), shown, space, alpha_in)


def _coarser(effect: EffectBase, shown: Shown, alpha_in: AlphaIn) -> Veiled:
    """Work an effect out at half the size: it reads more than fits into memory."""
    x, y, width, height, scale = shown.view
    half = View(x, y, -(-width // 2), -(-height // 2), scale / 2)
    twice = np.diag([2.0, 2.0, 1.0])
    found = veiled(
        effect, shown._replace(view=half, to_pile=shown.to_pile @ twice), alpha_in
    ).step
    if found is None:
        return Veiled(None)
    return Veiled(replace(found, to_step=found.to_step @ np.linalg.inv(twice)))


class _Space:
    """The pixels in which an effect is reckoned: upright in what the layer lies in.

    They are as large as the view's, and the same where that is upright too and the
    effect's ground is level.
    """

    def __init__(self, effect: EffectBase, shown: Shown) -> None:
        view, to_pile = shown.view, shown.to_pile
        self.view = view
        self.scale = 1 / pixel_size(to_pile[:2])
        corners = _corners(0, 0, view.width, view.height)
        left, top = (corners @ to_pile[:2].T).min(axis=0)
        slope = np.array([[1, 0, 0], [-effect.slope, 1, 0], [0, 0, 1]])
        move = np.array([[1, 0, -left], [0, 1, -top], [0, 0, 1 / self.scale]])
        self.from_pile = slope @ (move * self.scale)
        self.from_view = self.from_pile @ to_pile
        self.is_view = bool(np.abs(self.from_view - np.eye(3)).max() < STRAIGHT)
        if self.is_view:
            self.from_view = np.eye(3)
        self.to_view = np.linalg.inv(self.from_view)
        self.seen = _round(corners @ self.from_view[:2].T)

    def view_of(self, extent: Rect[float], factor: int) -> View:
        """Return the view of the canvas in which some of it lies, in squares."""
        points = _corners(*extent) @ self.to_view[:2].T
        around = _round(points)
        if not self.is_view:
            around = around.widened(2 * factor, 2 * factor)
        squares = around.snapped(factor)
        return View(
            self.view.x + squares.left / self.view.scale,
            self.view.y + squares.top / self.view.scale,
            max(squares.width // factor, 1),
            max(squares.height // factor, 1),
            self.view.scale / factor,
        )

    def of_canvas(self, view: View) -> MatrixF64:
        """Map another view's pixels to these."""
        to_view = np.linalg.inv(self.view.to_canvas) @ view.to_canvas
        return np.asarray(self.from_view @ to_view)


def _alpha_of(
    space: _Space,
    extent: Rect[float],
    factor: int,
    known: Rect[float],
    alpha_in: AlphaIn,
) -> Shape | None:
    """Return a layer's shape in squares; None where nothing of it is there."""
    there = known.widened(2, 2).within(extent).snapped(factor).within(extent)
    if there.is_empty:
        return None
    columns, rows = int(there.width) // factor, int(there.height) // factor
    view = space.view_of(there, factor)
    alpha = alpha_in(view).astype(np.float32) * np.float32(1 / 255)
    if not space.is_view:
        # From the middles of squares to those of the view's pixels.
        back = np.linalg.inv(space.of_canvas(view))
        squares = np.array([[factor, 0, there.left], [0, factor, there.top], [0, 0, 1]])
        half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
        matrix = np.linalg.inv(half) @ back @ squares @ half
        alpha = np.asarray(
            cv2.warpAffine(
                alpha,
                matrix[:2],
                (columns, rows),
                flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
                borderMode=cv2.BORDER_CONSTANT,
                borderValue=0,
            ),
            np.float32,
        )
    before = (there.left - extent.left, there.top - extent.top)
    after = (extent.right - there.right, extent.bottom - there.bottom)
    across, down = (
        (int(first) // factor, int(last) // factor)
        for first, last in zip(before, after, strict=True)
    )
    return np.pad(alpha, (down, across))


def _where(
    effect: EffectBase, shown: Shown, space: _Space, alpha_in: AlphaIn
) -> Rect[float] | None:
    """Return where a layer may show, or, where an effect asks so, where it does."""
    if not isinstance(shown.layer, PlacedLayer):
        return Rect(*(-math.inf,) * 2, *(math.inf,) * 2)
    points = _outline(shown.layer, shown.canvas)
    reach = _round(_mapped(space.from_pile, points))
    if not effect.stands:
        return reach.widened(1, 1)
    return _surveyed(points, shown, space, alpha_in)


def _surveyed(
    points: PointsF64, shown: Shown, space: _Space, alpha_in: AlphaIn
) -> Rect[float] | None:
    """Look where a layer shows, in a small render of all of it."""
    to_canvas = shown.view.to_canvas @ np.linalg.inv(shown.to_pile)
    around = _round(_mapped(to_canvas, points))
    scale = SURVEYED / max(around.width, around.height, 1e-6)
    view = View(
        around.left,
        around.top,
        max(math.ceil(around.width * scale), 1),
        max(math.ceil(around.height * scale), 1),
        scale,
    )
    alpha = alpha_in(view)
    down, across = np.nonzero(alpha > THERE)
    if not len(down):
        return None
    matrix = space.of_canvas(view)
    middles = _mapped(matrix, np.column_stack([across + 0.5, down + 0.5]))
    # A pixel that is half covered is reached half way.
    covered = alpha[down, across].astype(np.float64) / 255 - 0.5
    reach = covered * pixel_size(matrix[:2])
    return Rect(
        float((middles[:, 0] - reach).min()),
        float((middles[:, 1] - reach).min()),
        float((middles[:, 0] + reach).max()),
        float((middles[:, 1] + reach).max()),
    )


def _outline(layer: Layer, canvas: Canvas) -> PointsF64:
    """Return points round all that a layer reaches over: of a group, its members."""
    if isinstance(layer, GroupLayer):
        return np.concatenate(
            [_outline(lifted(one, layer), canvas) for one in layer.layers]
        )
    return outline_of(layer, canvas)


def _mapped(matrix: MatrixF64, points: PointsF64) -> PointsF64:
    return np.asarray(points @ matrix[:2, :2].T + matrix[:2, 2])


def _corners(left: float, top: float, right: float, bottom: float) -> PointsF64:
    return np.array(
        [[left, top, 1], [right, top, 1], [right, bottom, 1], [left, bottom, 1]]
    )


def _round(points: PointsF64) -> Rect[float]:
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    return Rect(float(left), float(top), float(right), float(bottom))
