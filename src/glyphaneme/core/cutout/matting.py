"""Refines a coarse matte along the colours of its picture: closed-form matting."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core._kernels.matting import (
    diagonal_rows_into,
    fit_rows_into,
    left_rows_into,
    lines_rows_into,
)
from glyphaneme.core.bands import run_bands
from glyphaneme.core.cutout.carrying import carried_up
from glyphaneme.core.cutout.values import f32, resized

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from glyphaneme.core.cutout.carrying import Guides
    from glyphaneme.core.cutout.values import ColorsU8, Mark, MatteF32

    ValuesF64 = NDArray[np.float64]

EPSILON = 1e-6
MOST_STEPS = 30
NEAR_ENOUGH = 1e-3
BELIEF = 0.1
LEAST_BELIEF = 1e-3
UNSURE = (0.05, 0.95)
REACH = 5
"""Side of the square by which the unsure area is widened."""
COARSE_LINES = 1e-3


class Laplacian:
    """The matting Laplacian of a picture, as far as it matters to some area.

    Of all windows of 3 by 3 pixels those count that have one of the area's.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        At least three pixels on a side.
    area : (H, W) bool
        Pixels whose values are wanted.
    epsilon : float, > 0
        How much colour lines are kept from following noise.

    References
    ----------
    .. [1] A. Levin, D. Lischinski, Y. Weiss, "A Closed-Form Solution to Natural Image
       Matting", IEEE TPAMI 30(2), 2008, equation 12.
    """

    def __init__(self, rgb: ColorsU8, area: Mark, epsilon: float = EPSILON) -> None:
        self.area = area.astype(np.uint8)
        touched = cv2.dilate(self.area, np.ones((3, 3), np.uint8))
        touched[[0, -1]] = 0
        touched[:, [0, -1]] = 0
        self._touched = np.ascontiguousarray(touched, np.uint8)
        self._counts = cv2.boxFilter(
            self._touched, -1, (3, 3), normalize=False, borderType=cv2.BORDER_CONSTANT
        )
        self._colors = np.ascontiguousarray(rgb, np.float64) / 255
        rows, columns = area.shape
        self._windows = np.zeros((rows, columns, 9))
        self._lines = np.zeros((rows, columns, 4))
        self._left = np.zeros((rows, columns))
        self.diagonal = np.zeros((rows, columns))
        self.run(
            lambda first, last: fit_rows_into(
                self._colors, self._touched, epsilon, first, last, self._windows
            )
        )
        self.run(
            lambda first, last: diagonal_rows_into(
                *(self._colors, self.area, self._touched, self._windows),
                *(first, last, self.diagonal),
            )
        )

    def applied(self, values: ValuesF64) -> ValuesF64:
        """Multiply values by it.

        Parameters
        ----------
        values : (H, W) float64
            One for each pixel.

        Returns
        -------
        (H, W) float64
            For the pixels of the area, 0 elsewhere; the same array every time.
        """
        out = self._left
        self.run(
            lambda first, last: lines_rows_into(
                *(self._colors, self._touched, self._windows),
                *(values, first, last, self._lines),
            )
        )
        self.run(
            lambda first, last: left_rows_into(
                *(self._colors, self.area, self._counts, self._lines),
                *(values, first, last, out),
            )
        )
        return out

    def run(self, work: Callable[[int, int], None]) -> None:
        """Call work(first, last) for bands that together cover all rows.

        Parameters
        ----------
        work : callable
            As for `run_bands`.
        """
        run_bands(work, *self.area.shape)


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
    from scipy.sparse import diags_array
    from scipy.sparse.linalg import LinearOperator, cg

    inside = np.nonzero(area)
    plane = np.where(area, 0.0, guess.astype(np.float64))
    start = guess[inside].astype(np.float64)
    held = belief[inside].astype(np.float64)
    wanted = held * start - laplacian.applied(plane)[inside]
    plane[:] = 0

    def _left(values: ValuesF64) -> ValuesF64:
        plane[inside] = values
        return laplacian.applied(plane)[inside] + held * values

    # With its kind said, it is not tried out once to find that.
    size = (len(start), len(start))
    found, _ = cg(
        LinearOperator(size, matvec=_left, dtype=np.float64),
        wanted,
        x0=start,
        rtol=NEAR_ENOUGH,
        maxiter=MOST_STEPS,
        M=diags_array(1 / (laplacian.diagonal[inside] + held)),
    )
    matte = guess.copy()
    matte[inside] = found
    return np.clip(matte, 0, 1)


def refined(
    guides: Guides,
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
    guides : Guides
        Of the picture, (H, W) pixels.
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
    rgb = guides.rgb
    rows, columns = rgb.shape[:2]
    large = resized(coarse, (rows, columns)).copy()
    sure = np.zeros((rows, columns), np.bool_)
    for mark, value in ((keep, 1), (drop, 0)):
        if mark is not None:
            large[mark] = value
            sure |= mark
    if min(rows, columns) < 3:
        return np.clip(large, 0, 1)
    guide = guides.at(coarse, COARSE_LINES)
    guess = f32(carried_up(rgb, guide, coarse)) / np.float32(255)
    area = _unsure(large) & ~sure
    if not area.any():
        return np.clip(large, 0, 1)
    guess = f32(np.where(area, guess, large > 0.5))
    belief = BELIEF * (np.abs(2 * guess - 1) ** 2 + LEAST_BELIEF)
    return solved(Laplacian(rgb, area), area, guess, f32(belief))


def _unsure(matte: MatteF32) -> Mark:
    """Return where a matte is between, or changes from one side to the other."""
    between = ((matte > UNSURE[0]) & (matte < UNSURE[1])).astype(np.uint8)
    inside = (matte > 0.5).astype(np.uint8)
    square = np.ones((3, 3), np.uint8)
    edge = cv2.morphologyEx(inside, cv2.MORPH_GRADIENT, square)
    both = np.asarray(np.maximum(between, edge), np.uint8)
    wide = cv2.dilate(both, np.ones((REACH, REACH), np.uint8))
    return np.asarray(wide > 0)
