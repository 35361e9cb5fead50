"""What a subject and its backdrop say of the light and the camera that took them."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.color.spaces import decoded, oklab
from glyphaneme.core.errors import NothingToMatchError
from glyphaneme.core.tone.spaces import TO_XYZ

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

    Floats = NDArray[np.float64]

SHARES = (0.01, 0.05, 0.25, 0.5, 0.75, 0.95, 0.99)
"""Of all pixels: below which lightness so many lie."""
SOLID, GONE = 230, 26
"""Levels of alpha from which on something counts as there, and below as not."""
FEWEST = 24
"""Pixels, on either side."""
NEAR, RIM = 0.35, 0.08
"""How far surroundings and the rim reach, as shares of the subject's size."""
MOST = 4000
"""Pixels of a side that are looked at, at most."""
HIGH_POWER = 5
GREYISH = 0.04
"""Oklab's chroma at which a colour counts for a third as much as a grey does."""


class Side(NamedTuple):
    """Colours, (N, 3) float64 encoded sRGB 0..1, and how much each counts."""

    colors: Floats
    weights: Floats


class Sides(NamedTuple):
    """A subject and what lies behind it: all of each, near to it, along its rim."""

    subject: Side
    rim: Side
    behind: Side
    around: Side
    rim_behind: Side


def sides_of(subject: PixelsU8, behind: PixelsU8) -> Sides:
    """Tell a subject's pixels from those that lie round it.

    Parameters
    ----------
    subject : (H, W, 4) uint8
        Straight RGBA, the subject alone.
    behind : (H, W, 4) uint8
        What lies beneath it, or another layer alone, in the same view.

    Returns
    -------
    Sides
        Where the subject covers all that lies behind, that counts nevertheless.

    Raises
    ------
    NothingToMatchError
        There are too few pixels on one of the sides.
    """
    alpha = np.ascontiguousarray(subject[..., 3])
    inside = alpha >= SOLID
    there = behind[..., 3] >= SOLID
    beside = there & (alpha < GONE)
    if beside.sum() < FEWEST:
        beside = there
    if min(inside.sum(), beside.sum()) < FEWEST:
        raise NothingToMatchError
    size = float(np.sqrt(inside.sum()))
    outwards = _distance(alpha < 128)
    inwards = _distance(alpha >= 128)
    own = _thinned(inside, subject)
    other = _thinned(beside, behind)
    return Sides(
        Side(own.colors, np.ones(len(own.colors))),
        Side(own.colors, np.exp(-inwards[own.places] / (RIM * size)) + 1e-6),
        Side(other.colors, np.ones(len(other.colors))),
        Side(other.colors, np.exp(-outwards[other.places] / (NEAR * size)) + 1e-6),
        Side(other.colors, np.exp(-outwards[other.places] / (RIM * size)) + 1e-6),
    )


def differences(sides: Sides) -> Floats:
    """Return by how much the subject's statistics differ from its backdrop's.

    Parameters
    ----------
    sides : Sides
        Of any number of pixels.

    Returns
    -------
    (N,) float64
        From all of the backdrop, from what is near, and along the rim.
    """
    whole = features(sides.subject)
    return np.concatenate(
        [
            whole - features(sides.behind),
            whole - features(sides.around),
            features(sides.rim) - features(sides.rim_behind),
        ]
    )


def features(side: Side) -> Floats:
    """Return what one side's colours say: lightness, spread, cast and chroma.

    Parameters
    ----------
    side : Side
        At least one pixel.

    Returns
    -------
    (25,) float64
        Quantiles of Oklab's lightness; mean logarithm of luminance; spread of
        lightness, and its logarithm; mean a, b and chroma, and its logarithm; casts by
        means of the first and the fifth power ("shades of grey", Finlayson and Trezzi
        2004), by what is nearly grey and by highlights; the highest chroma.
    """
    share = side.weights / side.weights.sum()
    linear = decoded(side.colors)
    lab = oklab(linear)
    light, chroma = lab[:, 0], np.hypot(lab[:, 1], lab[:, 2])

    order = np.argsort(light)
    reached = np.searchsorted(np.cumsum(share[order]), SHARES)
    quantiles = light[order][np.minimum(reached, len(order) - 1)]
    spread = float(np.sqrt(_mean(share, (light - _mean(share, light)) ** 2)))
    casts: list[float] = []
    for power in (1, HIGH_POWER):
        means = [_mean(share, linear[:, at] ** power) ** (1 / power) for at in range(3)]
        red, green, blue = np.log2(np.array(means) + 0.002).tolist()
        casts += [red - blue, green - (red + blue) / 2]
    grey = share * np.exp(-((chroma / GREYISH) ** 2)) * (light > 0.2)
    of_grey = [float((grey * lab[:, at]).sum() / (grey.sum() + 1e-4)) for at in (1, 2)]
    high = np.asarray(light >= quantiles[5], np.float64)
    of_high = [
        _mean(share, lab[:, at] * high) / (_mean(share, high) + 1e-6) for at in (1, 2)
    ]
    return np.array(
        [
            *quantiles.tolist(),
            _mean(share, np.log2(linear @ TO_XYZ[1] + 0.004)),
            spread,
            np.log2(spread + 0.02),
            _mean(share, lab[:, 1]),
            _mean(share, lab[:, 2]),
            _mean(share, chroma),
            np.log2(_mean(share, chroma) + 0.01),
            *casts,
            *of_grey,
            *of_high,
            np.log2(np.quantile(chroma, 0.95) + 0.01),
        ]
    )


def _mean(share: Floats, values: Floats) -> float:
    return float((share * values).sum())


class _Thinned(NamedTuple):
    colors: Floats
    places: tuple[NDArray[np.intp], NDArray[np.intp]]


def _thinned(marks: NDArray[np.bool_], pixels: PixelsU8) -> _Thinned:
    """Return marked pixels, evenly left out where they are many."""
    rows, columns = np.nonzero(marks)
    every = np.linspace(0, len(rows) - 1, min(len(rows), MOST)).astype(np.intp)
    places = (rows[every], columns[every])
    return _Thinned(pixels[places][:, :3].astype(np.float64) / 255, places)


def _distance(free: NDArray[np.bool_]) -> NDArray[np.float32]:
    marks = np.asarray(free, np.uint8)
    if marks.all():
        return np.zeros(marks.shape, np.float32)
    far = cv2.distanceTransform(marks, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)
    return np.asarray(far, np.float32)
