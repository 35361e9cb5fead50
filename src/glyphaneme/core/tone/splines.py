"""Monotone curves through points."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

if TYPE_CHECKING:
    from collections.abc import Sequence

Piece = tuple[float, float, float, float, float]

LEVEL = 1e-12
"""What rises less steeply runs level, as far as numbers can tell."""


class Spline(NamedTuple):
    """y = start + the sum over pieces of u (d + u (e + u f)).

    u is x held within a piece, as far as it lies beyond the piece's start; a piece is
    (its start, its length, d, e, f). Beyond its ends it is flat.
    """

    start: float
    pieces: tuple[Piece, ...]

    def at(self, x: float) -> float:
        """Return the curve's height.

        Parameters
        ----------
        x : float
            Where.

        Returns
        -------
        float
            As the kernel reckons it, in float64.
        """
        y = self.start
        for begin, length, d, e, f in self.pieces:
            u = min(max(x - begin, 0.0), length)
            y += u * (d + u * (e + u * f))
        return y


def monotone(points: Sequence[tuple[float, float]]) -> Spline:
    """Return a smooth curve through points that never swings beyond them.

    Parameters
    ----------
    points : sequence of (float, float)
        At least two, by growing x.

    Returns
    -------
    Spline
        Where points rise, it rises, where they fall, it falls.

    References
    ----------
    .. [1] F. N. Fritsch, R. E. Carlson, "Monotone Piecewise Cubic Interpolation", SIAM
       Journal on Numerical Analysis 17(2), 1980: slopes within a circle of radius 3.

    Examples
    --------
    >>> round(monotone([(0, 0), (0.5, 0.8), (1, 1)]).at(0.5), 9)
    0.8
    """
    x, y = np.array(points, np.float64).T
    lengths = np.diff(x)
    rises = np.diff(y) / lengths
    slopes = np.concatenate([rises[:1], (rises[:-1] + rises[1:]) / 2, rises[-1:]])
    # Where the way turns, or runs level, it does so in the point itself.
    slopes[1:-1][rises[:-1] * rises[1:] <= 0] = 0
    for at, rise in enumerate(rises):
        if abs(rise) < LEVEL:
            slopes[at : at + 2] = 0
            continue
        size = np.hypot(*slopes[at : at + 2] / rise)
        if size > 3:
            slopes[at : at + 2] *= 3 / size
    first, last = slopes[:-1], slopes[1:]
    e = (3 * rises - 2 * first - last) / lengths
    f = (first + last - 2 * rises) / lengths**2
    columns = (x[:-1], lengths, first, e, f)
    pieces = zip(*(one.tolist() for one in columns), strict=True)
    return Spline(float(y[0]), tuple(pieces))
