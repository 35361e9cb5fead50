"""Array types and small values that cutting out speaks in."""

from __future__ import annotations

from typing import TypeAlias

import cv2
import numpy as np
from numpy.typing import ArrayLike, NDArray

ColorsU8: TypeAlias = NDArray[np.uint8]
"""(H, W, 3) uint8: sRGB-encoded red, green, blue."""

MatteF32: TypeAlias = NDArray[np.float32]
"""(H, W) float32, 0..1: how much of each pixel is subject."""

MatteU8: TypeAlias = NDArray[np.uint8]
"""(H, W) uint8, 0..255: the same in bytes."""

Mark: TypeAlias = NDArray[np.bool_]
"""(H, W) bool: an area."""

LabF32: TypeAlias = NDArray[np.float32]
"""(H, W, 3) float32: CIELAB under D65 with L* halved, since shadows change it alone."""

LIGHT_COUNTS = np.array([0.5, 1, 1], np.float32)


def lab_of(rgb: ColorsU8) -> LabF32:
    """Return colours in CIELAB, lightness counting half.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        sRGB-encoded.

    Returns
    -------
    (H, W, 3) float32
        L* / 2, a*, b*.

    Examples
    --------
    >>> lab_of(np.full((1, 1, 3), 255, np.uint8)).round()[0, 0, 0]
    np.float32(50.0)
    """
    lab = cv2.cvtColor(rgb.astype(np.float32) / 255, cv2.COLOR_RGB2LAB)
    return f32(lab * LIGHT_COUNTS)


def f32(values: ArrayLike) -> NDArray[np.float32]:
    """Return values as an array of float32; the same one where it is that.

    Parameters
    ----------
    values : array_like
        Numbers.

    Returns
    -------
    float32 array
        Of the same shape.

    Examples
    --------
    >>> f32([1, 2]).dtype
    dtype('float32')
    """
    return np.asarray(values, np.float32)


def resized(values: MatteF32, shape: tuple[int, ...]) -> MatteF32:
    """Return a matte at another size.

    Parameters
    ----------
    values : (H, W) float32
        Averaged where it is made smaller.
    shape : tuple of int
        Rows and columns wanted, first.

    Returns
    -------
    (rows, columns) float32
        The same array where it has that size.
    """
    rows, columns = shape[:2]
    if values.shape == (rows, columns):
        return values
    way = cv2.INTER_AREA if rows < values.shape[0] else cv2.INTER_LINEAR
    small = cv2.resize(values, (columns, rows), interpolation=way)
    return f32(small)


def shrunk(rgb: ColorsU8, longest: int) -> ColorsU8:
    """Return a picture averaged down until its longer side is so long.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        Not enlarged where it is smaller.
    longest : int
        Pixels.

    Returns
    -------
    (H', W', 3) uint8
        At least one pixel on a side.
    """
    rows, columns = rgb.shape[:2]
    scale = longest / max(rows, columns)
    if scale >= 1:
        return np.ascontiguousarray(rgb)
    size = (max(round(columns * scale), 1), max(round(rows * scale), 1))
    return np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), np.uint8)
