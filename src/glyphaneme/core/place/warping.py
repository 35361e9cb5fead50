"""Where a warped layer lies: set into four corners, bent, or both."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.place.affine import canvas_to_frame, frame_size, frame_to_canvas
from glyphaneme.core.place.corners import SQUARE

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64, PointsF64
    from glyphaneme.core.place.bend import Bend
    from glyphaneme.core.place.placement import Placement

PROBES = 33
"""So many points a side tell how far a bent frame reaches."""


class Warp(NamedTuple):
    """How a frame lies in what its layer lies in."""

    width: float
    """Of the frame, in its own pixels."""
    height: float
    from_square: MatrixF64
    """(3, 3): the unit square, bent, to there."""
    to_square: MatrixF64
    bend: Bend | None

    def at(self, points: PointsF64) -> PointsF64:
        """Return where points of the frame come to lie.

        Parameters
        ----------
        points : (N, 2) float64
            In frames, 0..1.

        Returns
        -------
        (N, 2) float64
            Where the layer lies.
        """
        bent = points if self.bend is None else self.bend.at(points)
        whole = np.column_stack([bent, np.ones(len(bent))]) @ self.from_square.T
        return np.asarray(whole[:, :2] / whole[:, 2:])

    @property
    def outline(self) -> PointsF64:
        """Points that nothing of it reaches far beyond: (N, 2)."""
        return self.at(PROBE_POINTS if self.bend is not None else SQUARE)

    @property
    def largest_scale(self) -> float:
        """How many pixels, where it lies, show one of the frame, at most."""
        return self._scales[1]

    @property
    def least_scale(self) -> float:
        """How many pixels, where it lies, show one of the frame, at least."""
        return self._scales[0]

    @property
    def _scales(self) -> tuple[float, float]:
        step = 1e-3
        aside, along = np.array([step, 0]), np.array([0, step])
        points = PROBE_POINTS * (1 - 2 * step) + step
        across = self.at(points + aside) - self.at(points - aside)
        down = self.at(points + along) - self.at(points - along)
        lengths = np.concatenate(
            [np.hypot(*across.T) / self.width, np.hypot(*down.T) / self.height]
        )
        return float(lengths.min()) / (2 * step), float(lengths.max()) / (2 * step)


_STEPS = np.linspace(0, 1, PROBES)
PROBE_POINTS = np.stack(np.meshgrid(_STEPS, _STEPS), axis=-1).reshape(-1, 2)


def warp_of(placement: Placement, *, width: float, height: float) -> Warp:
    """Return how a placement warps a picture.

    Parameters
    ----------
    placement : Placement
        With or without corners and bend.
    width, height : float, pixels
        Size of the picture.

    Returns
    -------
    Warp
        Of the placement's frame.

    Examples
    --------
    >>> from glyphaneme.core.place import Placement
    >>> plain = Placement(x=5, y=5, scale_x=1, scale_y=1)
    >>> warp_of(plain, width=10, height=10).at(np.array([[1.0, 0.5]]))
    array([[10.,  5.]])
    """
    wide, high = frame_size(placement, width=width, height=height)
    size = {"width": wide, "height": high}
    there = _homogeneous(frame_to_canvas(placement, **size)) @ np.diag([wide, high, 1])
    back = np.diag([1 / wide, 1 / high, 1]) @ _homogeneous(
        canvas_to_frame(placement, **size)
    )
    if placement.corners is not None:
        there = there @ placement.corners.matrix
        back = np.linalg.inv(placement.corners.matrix) @ back
    return Warp(wide, high, there, back, placement.bend)


def _homogeneous(matrix: MatrixF64) -> MatrixF64:
    return np.vstack([matrix, (0, 0, 1)])
