"""A grid of points, each moved by itself: a picture on what is not flat."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, Final, NamedTuple

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.errors import FoldedError, GridMismatchError

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PointsF64

    Grid = NDArray[np.float32]

LEAST_SIDE = 2
MOST_SIDE = 9
FARTHEST_BEND = 0.75
Bent = Annotated[float, Field(ge=-FARTHEST_BEND, le=FARTHEST_BEND, allow_inf_nan=False)]
GridSide = Annotated[int, Field(ge=LEAST_SIDE, le=MOST_SIDE)]

FINE = 257
"""Points a side at which a bend is reckoned; between them it is straight."""
LEAST_STRETCH = 0.02
"""Smaller areas, of what they would be unbent, are as good as folds."""
MARGIN = 0.03
ROUNDS = 12
NEAR = 1e-4
NOWHERE = np.float32(1e3)
KEPT = 16


class Bend(BaseModel):
    """How far each point of a grid over the layer's frame lies from its place.

    `moves` go row by row from the top left, in widths and heights of the frame; between
    the points they follow splines through all of them, of the third degree where there
    are points enough. What is bent is set into four corners, and placed, thereafter.

    Examples
    --------
    >>> flat = Bend(columns=3, rows=3, moves=((0, 0),) * 9)
    >>> flat.at(np.array([[0.5, 0.5]]))
    array([[0.5, 0.5]])
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    columns: GridSide = 3
    rows: GridSide = 3
    moves: Annotated[tuple[tuple[Bent, Bent], ...], Field(max_length=MOST_SIDE**2)]

    @model_validator(mode="after")
    def _does_not_fold(self) -> Bend:
        if len(self.moves) != self.columns * self.rows:
            raise GridMismatchError(self.columns, self.rows, len(self.moves))
        across, down = np.moveaxis(_fine(self), -1, 0)
        stretched = [
            np.gradient(one, 1 / (FINE - 1), axis=axis)
            for one in (across, down)
            for axis in (1, 0)
        ]
        a, b, c, d = stretched
        if ((1 + a) * (1 + d) - b * c).min() < LEAST_STRETCH:
            raise FoldedError
        return self

    def at(self, points: PointsF64) -> PointsF64:
        """Return where points of the unbent frame come to lie.

        Parameters
        ----------
        points : (N, 2) float64
            In frames, 0..1.

        Returns
        -------
        (N, 2) float64
            In frames.
        """
        fine = _fine(self)
        places = np.clip(points, 0, 1).astype(np.float32) * (FINE - 1)
        moved = _read(fine, places[None])[0]
        return np.asarray(points + moved, np.float64)


class Unbent(NamedTuple):
    """Where what lies in a bent frame came from, as a grid over that."""

    moves: Grid
    """(N, N, 2): what to add to a position, in frames."""
    left: float
    top: float
    """The grid's first point, in frames."""
    step_x: float
    step_y: float


FLAT: Final = Unbent(np.zeros((2, 2, 2), np.float32), 0.0, 0.0, 1.0, 1.0)


@lru_cache(KEPT)
def unbent(bend: Bend) -> Unbent:
    """Return the way back from a bent frame, found by Newton's method.

    Parameters
    ----------
    bend : Bend
        It does not fold.

    Returns
    -------
    Unbent
        Where nothing of the frame lies, moves lead far outside it.

    Examples
    --------
    >>> unbent(Bend(columns=2, rows=2, moves=((0, 0),) * 4)).moves.shape
    (257, 257, 2)
    """
    fine = _fine(bend)
    steps = np.linspace(0, 1, FINE, dtype=np.float32)
    whole = np.stack(np.meshgrid(steps, steps), axis=-1)
    low = (whole + fine).min(axis=(0, 1)) - MARGIN
    high = (whole + fine).max(axis=(0, 1)) + MARGIN
    axes = [np.linspace(low[at], high[at], FINE, dtype=np.float32) for at in (0, 1)]
    wanted = np.stack(np.meshgrid(*axes), axis=-1)
    slopes = _slopes(fine)
    found = wanted - _read(fine, np.clip(wanted, 0, 1) * (FINE - 1))
    for _ in range(ROUNDS):
        places = np.clip(found, 0, 1) * (FINE - 1)
        missed = found + _read(fine, places) - wanted
        inside = (found >= 0) & (found <= 1)
        a, b, c, d = np.moveaxis(_read(slopes, places), -1, 0)
        # Beyond an edge a bend goes on as it is there.
        a, c = a * inside[..., 0] + 1, c * inside[..., 0]
        b, d = b * inside[..., 1], d * inside[..., 1] + 1
        area = a * d - b * c
        area = np.where(np.abs(area) < LEAST_STRETCH, LEAST_STRETCH, area)
        x, y = missed[..., 0], missed[..., 1]
        found -= np.stack([(d * x - b * y) / area, (a * y - c * x) / area], axis=-1)
        np.clip(found, -1, 2, out=found)
    missed = found + _read(fine, np.clip(found, 0, 1) * (FINE - 1)) - wanted
    moves = np.where(
        np.abs(missed).max(axis=-1, keepdims=True) < NEAR, found - wanted, NOWHERE
    )
    step_x, step_y = ((high - low) / (FINE - 1)).tolist()
    left, top = low.tolist()
    return Unbent(np.ascontiguousarray(moves), left, top, step_x, step_y)


@lru_cache(KEPT)
def _fine(bend: Bend) -> Grid:
    """Return the moves at many points: (FINE, FINE, 2)."""
    # Here, not above: most pictures bend nothing, and it takes a while to load.
    from scipy.interpolate import RectBivariateSpline

    moves = np.array(bend.moves).reshape(bend.rows, bend.columns, 2)
    down, across = np.linspace(0, 1, bend.rows), np.linspace(0, 1, bend.columns)
    fine = np.linspace(0, 1, FINE)
    splines = [
        RectBivariateSpline(
            down,
            across,
            moves[..., at],
            kx=min(3, bend.rows - 1),
            ky=min(3, bend.columns - 1),
        )(fine, fine)
        for at in (0, 1)
    ]
    return np.stack(splines, axis=-1).astype(np.float32)


def _slopes(fine: Grid) -> Grid:
    """Return how moves change: across by x and y, then down by x and y."""
    step = 1 / (FINE - 1)
    by = [
        np.gradient(fine[..., at], step, axis=axis) for at in (0, 1) for axis in (1, 0)
    ]
    return np.ascontiguousarray(np.stack(by, axis=-1), np.float32)


def _read(grid: Grid, places: NDArray[np.float32]) -> Grid:
    """Read a grid between its points."""
    found = cv2.remap(
        grid, places[..., 0].copy(), places[..., 1].copy(), cv2.INTER_LINEAR
    )
    return np.asarray(found, np.float32)
