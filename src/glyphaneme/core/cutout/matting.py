"""Refines a coarse matte along the colours of its picture: closed-form matting."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core._kernels.matting import apply_laplacian_into, fit_windows_into
from glyphaneme.core.cutout.carrying import carried_up
from glyphaneme.core.cutout.values import f32, resized

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from glyphaneme.core.cutout.values import ColorsU8, Mark, MatteF32

    ValuesF64 = NDArray[np.float64]

EPSILON = 1e-6
MOST_STEPS = 80
NEAR_ENOUGH = 1e-3
BELIEF = 0.1
LEAST_BELIEF = 1e-3
UNSURE = (0.05, 0.95)
REACH = 5
"""Side of the square by which the unsure area is widened."""
COARSE_LINES = 1e-3


class Laplacian(NamedTuple):
    """The matting Laplacian of a picture, for the windows that touch some area."""

    colors: ValuesF64
    middles: NDArray[np.int32]
    windows: ValuesF64
    diagonal: ValuesF64

    def applied(self, values: ValuesF64) -> ValuesF64:
        """Multiply values by it.

        Parameters
        ----------
        values : (H, W) float64
            One for each pixel.

        Returns
        -------
        (H, W) float64
            Complete for pixels of the area, and 0 far from it.
        """
        out = np.zeros_like(values)
        apply_laplacian_into(self.colors, self.middles, self.windows, values, out)
        return out


def laplacian_of(rgb: ColorsU8, area: Mark, epsilon: float = EPSILON) -> Laplacian:
    """Return the matting Laplacian round some area of a picture.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        At least three pixels on a side.
    area : (H, W) bool
        Pixels whose values are wanted.
    epsilon : float, > 0
        How much colour lines are kept from following noise.

    Returns
    -------
    Laplacian
        Of all windows of 3 by 3 pixels that have one of the area's.

    References
    ----------
    .. [1] A. Levin, D. Lischinski, Y. Weiss, "A Closed-Form Solution to Natural Image
       Matting", IEEE TPAMI 30(2), 2008, equation 12.
    """
    touched = cv2.dilate(area.astype(np.uint8), np.ones((3, 3), np.uint8))
    touched[[0, -1]] = 0
    touched[:, [0, -1]] = 0
    middles = np.ascontiguousarray(np.argwhere(touched), np.int32)
    colors = np.ascontiguousarray(rgb, np.float64) / 255
    windows = np.empty((len(middles), 9))
    diagonal = np.zeros(area.shape)
    fit_windows_into(colors, middles, epsilon, windows, diagonal)
    return Laplacian(colors, middles, windows, diagonal)


def solved(
    laplacian: Laplacian,
    area: Mark,
    guess: MatteF32,
    belief: NDArray[np.floating],
) -> MatteF32:
    """Return the matte that follows the colours and stays near a guess.

    It minimises a'La + sum of belief (a - guess)² over the area, by conjugate gradients
    with the diagonal as preconditioner; what the steps allowed lead to is kept.

    Parameters
    ----------
    laplacian : Laplacian
        Of the same area.
    area : (H, W) bool
        Where the matte is not known.
    guess : (H, W) float32, 0..1
        Elsewhere it is the matte.
    belief : (H, W) float
        How firmly the guess is believed, > 0.

    Returns
    -------
    (H, W) float32, 0..1
        A new array.
    """
    known = np.where(area, 0.0, guess.astype(np.float64))
    weight = np.where(area, belief, 0.0)
    wanted = np.where(area, weight * guess - laplacian.applied(known), 0.0)

    def _applied(values: ValuesF64) -> ValuesF64:
        left = laplacian.applied(values) + weight * values
        left[~area] = 0
        return left

    start = np.where(area, guess.astype(np.float64), 0.0)
    scale = np.where(area, laplacian.diagonal + weight, 1.0)
    found = _descended(_applied, wanted, start, scale)
    return np.clip(np.where(area, found, guess), 0, 1).astype(np.float32)


def refined(
    rgb: ColorsU8,
    coarse: MatteF32,
    *,
    keep: Mark | None = None,
    drop: Mark | None = None,
) -> MatteF32:
    """Return a matte of a picture's own size from a coarser one.

    Colour lines carry it up; where it is unsure, and along its edge, closed-form
    matting follows the colours.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        The picture.
    coarse : (h, w) float32, 0..1
        A matte of it, of any size.
    keep, drop : (H, W) bool, optional
        Where the subject is for sure, and where it is not.

    Returns
    -------
    (H, W) float32, 0..1
        The coarse one, enlarged, where it is sure, or where the picture has less than
        three pixels on a side.
    """
    rows, columns = rgb.shape[:2]
    large = resized(coarse, (rows, columns)).copy()
    sure = np.zeros((rows, columns), np.bool_)
    for mark, value in ((keep, 1), (drop, 0)):
        if mark is not None:
            large[mark] = value
            sure |= mark
    if min(rows, columns) < 3:
        return np.clip(large, 0, 1)
    size = (coarse.shape[1], coarse.shape[0])
    small = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), np.uint8)
    guess = f32(carried_up(rgb, small, coarse, COARSE_LINES)) / np.float32(255)
    area = _unsure(large) & ~sure
    if not area.any():
        return np.clip(large, 0, 1)
    guess = f32(np.where(area, guess, large > 0.5))
    belief = BELIEF * (np.abs(2 * guess - 1) ** 2 + LEAST_BELIEF)
    return solved(laplacian_of(rgb, area), area, guess, f32(belief))


def _unsure(matte: MatteF32) -> Mark:
    """Return where a matte is between, or changes from one side to the other."""
    between = ((matte > UNSURE[0]) & (matte < UNSURE[1])).astype(np.uint8)
    inside = (matte > 0.5).astype(np.uint8)
    square = np.ones((3, 3), np.uint8)
    edge = cv2.morphologyEx(inside, cv2.MORPH_GRADIENT, square)
    both = np.asarray(np.maximum(between, edge), np.uint8)
    wide = cv2.dilate(both, np.ones((REACH, REACH), np.uint8))
    return np.asarray(wide > 0)


def _descended(
    applied: Callable[[ValuesF64], ValuesF64],
    wanted: ValuesF64,
    start: ValuesF64,
    diagonal: ValuesF64,
) -> ValuesF64:
    """Solve by preconditioned conjugate gradients, for as many steps as are allowed."""
    found = start
    rest = wanted - applied(found)
    eased = rest / diagonal
    way = eased.copy()
    before = float(np.vdot(rest, eased))
    enough = NEAR_ENOUGH * float(np.linalg.norm(wanted))
    for _ in range(MOST_STEPS):
        if float(np.linalg.norm(rest)) <= enough:
            break
        moved = applied(way)
        step = before / max(float(np.vdot(way, moved)), 1e-30)
        found = found + step * way
        rest = rest - step * moved
        eased = rest / diagonal
        now = float(np.vdot(rest, eased))
        way = eased + now / max(before, 1e-30) * way
        before = now
    return found
