"""Colours as they are written, and in the spaces that they are reckoned in."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any

import numpy as np
from pydantic import Field

if TYPE_CHECKING:
    from numpy.typing import NDArray

Color = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]

TO_CONES = np.array(
    [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
)
TO_LAB = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)


def decoded(encoded: NDArray[np.floating[Any]]) -> NDArray[np.float64]:
    """Return the linear light of sRGB values (IEC 61966-2-1).

    Parameters
    ----------
    encoded : (...) float, 0..1
        Components.

    Returns
    -------
    (...) float64
        0..1.
    """
    low, high = encoded / 12.92, ((np.maximum(encoded, 0) + 0.055) / 1.055) ** 2.4
    return np.asarray(np.where(encoded <= 0.04045, low, high), np.float64)


def encoded(linear: NDArray[np.floating[Any]]) -> NDArray[np.float64]:
    """Return the sRGB values of linear light (IEC 61966-2-1).

    Parameters
    ----------
    linear : (...) float, 0..1
        Components.

    Returns
    -------
    (...) float64
        0..1.
    """
    low, high = linear * 12.92, 1.055 * np.maximum(linear, 0) ** (1 / 2.4) - 0.055
    return np.asarray(np.where(linear <= 0.0031308, low, high), np.float64)


def oklab(linear: NDArray[np.floating[Any]]) -> NDArray[np.float64]:
    """Return the Oklab coordinates of linear sRGB.

    Parameters
    ----------
    linear : (..., 3) float
        R, G, B.

    Returns
    -------
    (..., 3) float64
        Lightness 0..1, a, b.

    References
    ----------
    .. [1] B. Ottosson, "A perceptual color space for image processing", 2020.

    Examples
    --------
    >>> oklab(np.ones(3)).round(4).tolist()
    [1.0, 0.0, 0.0]
    """
    return np.asarray(np.cbrt(linear @ TO_CONES.T) @ TO_LAB.T)


def from_oklab(lab: NDArray[np.floating[Any]]) -> NDArray[np.float64]:
    """Return the linear sRGB of Oklab coordinates.

    Parameters
    ----------
    lab : (..., 3) float
        Lightness, a, b.

    Returns
    -------
    (..., 3) float64
        R, G, B, which may lie beyond 0..1.

    Examples
    --------
    >>> from_oklab(np.array([1.0, 0, 0])).round(4).tolist()
    [1.0, 1.0, 1.0]
    """
    cones = (lab @ np.linalg.inv(TO_LAB).T) ** 3
    return np.asarray(cones @ np.linalg.inv(TO_CONES).T)


def levels_of(color: str) -> tuple[int, int, int]:
    """Return the levels of a colour.

    Parameters
    ----------
    color : str
        Such as "#ff8000", sRGB.

    Returns
    -------
    tuple of three int, 0..255
        Red, green, blue.

    Examples
    --------
    >>> levels_of("#ff8000")
    (255, 128, 0)
    """
    red, green, blue = (int(color[at : at + 2], 16) for at in (1, 3, 5))
    return red, green, blue


def oklab_of(color: str) -> tuple[float, float, float]:
    """Return the Oklab coordinates of a colour.

    Parameters
    ----------
    color : str
        Such as "#ff8000", sRGB.

    Returns
    -------
    tuple of three floats
        Lightness, a, b.

    Examples
    --------
    >>> [round(one, 3) for one in oklab_of("#ff0000")]
    [0.628, 0.225, 0.126]
    """
    rgb = np.array(levels_of(color)) / 255
    light, a, b = oklab(decoded(rgb)).tolist()
    return light, a, b
