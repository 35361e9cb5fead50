"""What is found of a subject before a hand says more, and how firmly it is believed."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.core.cutout.values import f32

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.cutout.values import MatteF32

BELIEVED = 0.01
"""In one opinion, beside links that sum up to 1 for each pixel."""
DOUBT = 4.0
"""How fast belief falls with the deviation of opinions: to a seventh at a half."""


class Prior(NamedTuple):
    """A matte that was found without a hand, and the belief in it."""

    matte: MatteF32
    belief: MatteF32
    """(h, w) float32, > 0, of the matte's size."""


def sole(matte: MatteF32) -> Prior:
    """Return one opinion as a prior: it is believed alike everywhere.

    Parameters
    ----------
    matte : (h, w) float32, 0..1
        The opinion.

    Returns
    -------
    Prior
        Of the same size.
    """
    return Prior(matte, np.full(matte.shape, BELIEVED, np.float32))


def agreed(opinions: Sequence[MatteF32]) -> Prior:
    """Return what several opinions come to: the less they agree, the less it counts.

    Parameters
    ----------
    opinions : sequence of (h, w) float32, 0..1
        At least one, all of one size.

    Returns
    -------
    Prior
        Their average, believed by how little they deviate from it.

    Examples
    --------
    >>> prior = agreed([np.float32([[0, 1]]), np.float32([[1, 1]])])
    >>> prior.matte.tolist()
    [[0.5, 1.0]]
    >>> (prior.belief / BELIEVED).round(3).tolist()
    [[0.13500000536441803, 1.0]]
    """
    every = np.stack(opinions)
    belief = BELIEVED * np.exp(-DOUBT * every.std(0))
    return Prior(f32(every.mean(0)), f32(belief))
