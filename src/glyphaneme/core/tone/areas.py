"""Tones for which a pixel's neighbours count, and the Gaussian that makes them."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any, ClassVar, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.tone.base import ToneBase

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

    Floats = NDArray[np.float32]

LEAST_SIGMA = 2.0
"""Of a Gaussian on a smaller copy, in its pixels: below that it is made larger."""
AS_GOOD_AS_OPAQUE = 254.99
OPAQUE = 255
TAIL = 3.0
"""How many standard deviations of it count."""
LUMA = np.array([0.299, 0.587, 0.114], np.float32)
"""Rec. ITU-R BT.601, of encoded values."""


class Seen(NamedTuple):
    """At what size pixels are seen, and where the first of them lies.

    `scale` is how many of them lie on one of the tone's own, along a side; `left` and
    `top` are in the tone's own.
    """

    scale: float
    left: float = 0.0
    top: float = 0.0


class AreaTone(ToneBase):
    """A tone that looks at a pixel's neighbours.

    Its lengths are in pixels of what it tones: of the photo, the group's sheet, the
    canvas. It works on encoded values, straight, of which those that are see-through
    count less; it leaves alpha as it is unless it says otherwise.
    """

    length: ClassVar[str] = "radius"
    """Which of its values is one of those."""

    @property
    def reach(self) -> float:
        """How far away a pixel may count, in the tone's own pixels.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError

    @property
    def halvings(self) -> float:
        """How often the picture may be halved first; below 0: never."""
        return -1.0

    def made(self, pixels: PixelsU8, seen: Seen) -> PixelsU8:
        """Return pixels as it makes them.

        Parameters
        ----------
        pixels : (H, W, 4) uint8
            Straight RGBA.
        seen : Seen
            At what size.

        Returns
        -------
        (H, W, 4) uint8
            Straight RGBA.

        Raises
        ------
        NotImplementedError
            Each kind says for itself.
        """
        raise NotImplementedError


def blurred(image: Floats, sigma: float) -> Floats:
    """Return an image blurred by a Gaussian, on a smaller copy where that is wide.

    Parameters
    ----------
    image : (H, W) or (H, W, C) float32
        Any values.
    sigma : float, pixels
        Standard deviation.

    Returns
    -------
    (H, W) or (H, W, C) float32
        What the averages over f by f pixels and the straight lines between them add to
        the variance, (f^2 - 1) / 12 and f^2 / 6, is taken off first. At the edge the
        last pixel goes on.
    """
    if sigma <= 0:
        return image
    factor = 1
    while sigma / (2 * factor) >= LEAST_SIGMA:
        factor *= 2
    if factor == 1:
        return _gaussian(image, sigma)
    narrow = sigma_left(sigma, factor) / factor
    around = math.ceil(TAIL * narrow) + 1
    found = _gaussian(_with_edges(image, factor, around), narrow)
    # One average more on each side: beyond the outermost there are straight lines too.
    inner = found[around - 1 : 1 - around, around - 1 : 1 - around]
    size = (inner.shape[1] * factor, inner.shape[0] * factor)
    large = cv2.resize(inner, size, interpolation=cv2.INTER_LINEAR)
    rows, columns = image.shape[:2]
    return np.asarray(
        large[factor : factor + rows, factor : factor + columns], np.float32
    )


def _with_edges(image: Floats, factor: int, around: int) -> Floats:
    """Return means over squares, and round them those of the last pixels going on."""
    top, bottom, left, right = (
        shrunk(np.ascontiguousarray(edge.repeat(factor, axis=axis)), factor)
        for edge, axis in (
            (image[:1], 0),
            (image[-1:], 0),
            (image[:, :1], 1),
            (image[:, -1:], 1),
        )
    )
    middle = np.vstack([top, shrunk(image, factor), bottom])
    beside = [
        np.concatenate([image[:1, at], edge[:, 0], image[-1:, at]])[:, None]
        for at, edge in ((0, left), (-1, right))
    ]
    whole = np.ascontiguousarray(np.hstack([beside[0], middle, beside[1]]))
    more = around - 1
    edge = cv2.BORDER_REPLICATE
    return np.asarray(
        cv2.copyMakeBorder(whole, more, more, more, more, edge), np.float32
    )


def shrunk(image: NDArray[Any], factor: int) -> NDArray[Any]:
    """Return an image averaged over squares; beyond its edge the last pixel goes on.

    Parameters
    ----------
    image : (H, W) or (H, W, C) float32 or uint8
        Any values.
    factor : int
        How many pixels a square has along a side.

    Returns
    -------
    (ceil(H / factor), ceil(W / factor)) or with C, of the same dtype
        The means.
    """
    rows, columns = (side // factor * factor for side in image.shape[:2])
    if (rows, columns) == image.shape[:2]:
        return _means(image, factor)
    # Only what is left beyond whole squares is copied to be made whole.
    bands = (band for band in (image[:rows], image[rows:]) if len(band))
    halves = ((band[:, :columns], band[:, columns:]) for band in bands)
    means = [[_means(half, factor) for half in band if half.size] for band in halves]
    return np.vstack([np.hstack(band) for band in means])


def _means(image: NDArray[Any], factor: int) -> NDArray[Any]:
    """Average squares of an image; what is less than one goes on by its last pixel."""
    rows, columns = image.shape[:2]
    below, right = -rows % factor, -columns % factor
    if below or right:
        edge = cv2.BORDER_REPLICATE
        image = np.asarray(cv2.copyMakeBorder(image, 0, below, 0, right, edge))
    size = ((columns + right) // factor, (rows + below) // factor)
    small = cv2.resize(image, size, interpolation=cv2.INTER_AREA)
    return np.asarray(small, image.dtype)


def enlarged(small: NDArray[Any], factor: int, like: NDArray[Any]) -> NDArray[Any]:
    """Return what `shrunk` made at its size again, with straight lines between means.

    Parameters
    ----------
    small : (h, w) or (h, w, C) float32 or uint8
        Any values.
    factor : int
        As for `shrunk`.
    like : (H, W) or (H, W, C)
        What was shrunk.

    Returns
    -------
    (H, W) or (H, W, C), of the same dtype
        As large as that.
    """
    rows, columns = like.shape[:2]
    size = (small.shape[1] * factor, small.shape[0] * factor)
    large = cv2.resize(small, size, interpolation=cv2.INTER_LINEAR)
    return np.ascontiguousarray(large[:rows, :columns])


def sigma_left(sigma: float, factor: int) -> float:
    """Return what of a standard deviation averages and straight lines leave to do.

    Parameters
    ----------
    sigma : float, pixels
        Wanted.
    factor : int
        How many pixels lie on one of the smaller copy, along a side.

    Returns
    -------
    float, pixels
        0 where nothing is left.
    """
    added = (factor**2 - 1) / 12 + (factor**2 / 6 if factor > 1 else 0)
    return math.sqrt(max(sigma**2 - added, 0.0))


def _gaussian(image: Floats, sigma: float) -> Floats:
    if sigma < 0.05:
        return image
    found = cv2.GaussianBlur(image, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE)
    return np.asarray(found, np.float32)


def weighted(pixels: PixelsU8) -> Floats:
    """Return pixels with colours multiplied by alpha.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA.

    Returns
    -------
    (H, W, 4) float32, 0..255
        As they are averaged.
    """
    found = pixels.astype(np.float32)
    if pixels[..., 3].min() < OPAQUE:
        found[..., :3] *= found[..., 3:] / 255
    return found


def straight(image: Floats) -> PixelsU8:
    """Return pixels whose colours are not multiplied by alpha.

    Parameters
    ----------
    image : (H, W, 4) float32, 0..255
        As `weighted` returns it.

    Returns
    -------
    (H, W, 4) uint8
        Straight RGBA.
    """
    alpha = image[..., 3:]
    if alpha.min() < AS_GOOD_AS_OPAQUE:
        image = np.dstack([image[..., :3] * (255 / np.maximum(alpha, 1e-3)), alpha])
    return as_levels(image)


def as_levels(image: Floats) -> PixelsU8:
    """Return values as the nearest levels; halves become even ones.

    Parameters
    ----------
    image : (H, W, C) float32
        Any values.

    Returns
    -------
    (H, W, C) uint8
        0..255.
    """
    return np.asarray(cv2.addWeighted(image, 1, image, 0, 0, dtype=cv2.CV_8U), np.uint8)


def lightened(pixels: PixelsU8, change: Floats) -> PixelsU8:
    """Return pixels with something added to all components of each.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA; alpha stays.
    change : (H, W) float32
        In levels.

    Returns
    -------
    (H, W, 4) uint8
        Straight RGBA.
    """
    out = pixels.copy()
    for channel in range(3):
        out[..., channel] = as_levels(pixels[..., channel] + change)
    return out


def luma(pixels: PixelsU8) -> Floats:
    """Return how light pixels are.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA.

    Returns
    -------
    (H, W) float32
        Luma, 0..255.
    """
    return np.asarray(
        cv2.transform(pixels[..., :3].astype(np.float32), LUMA[None]), np.float32
    )


def middling(light: Floats) -> Floats:
    """Return how near to the middle tones something is.

    Parameters
    ----------
    light : (H, W) float32
        Luma l, 0..255.

    Returns
    -------
    (H, W) float32
        4 l (1 - l) with l of 0..1: 1 halfway, 0 at black and white.
    """
    return np.asarray(light * (OPAQUE - light) * np.float32(4 / OPAQUE**2), np.float32)


def light_round(pixels: PixelsU8, light: Floats, sigma: float) -> Floats:
    """Return how light the surroundings of each pixel are.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Of which only alpha counts: what is see-through counts less.
    light : (H, W) float32
        How light each is.
    sigma : float, pixels
        Standard deviation of the Gaussian.

    Returns
    -------
    (H, W) float32
        The weighted mean.
    """
    alpha = pixels[..., 3].astype(np.float32) * np.float32(1 / 255)
    if pixels[..., 3].min() == OPAQUE:
        return blurred(light, sigma)
    weight = np.maximum(blurred(alpha, sigma), 1e-3)
    return np.asarray(
        blurred(np.asarray(light * alpha, np.float32), sigma) / weight, np.float32
    )
