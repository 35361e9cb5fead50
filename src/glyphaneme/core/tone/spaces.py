"""Colour spaces that tones work in, as matrices of float64, columns of colours."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

TO_XYZ: Final[NDArray[np.float64]] = np.array(
    [
        [0.4124564, 0.3575761, 0.1804375],
        [0.2126729, 0.7151522, 0.0721750],
        [0.0193339, 0.1191920, 0.9503041],
    ]
)
"""Of linear sRGB (IEC 61966-2-1) to CIE XYZ, for its own white, D65."""

BRADFORD: Final[NDArray[np.float64]] = np.array(
    [
        [0.8951, 0.2664, -0.1614],
        [-0.7502, 1.7135, 0.0367],
        [0.0389, -0.0685, 1.0296],
    ]
)
"""Of XYZ to the responses in which whites are adapted to one another (Lam 1985)."""

D65: Final = (0.3127, 0.3290)


def white_at(temperature: float, tint: float) -> tuple[float, float]:
    """Return the white of daylight, moved off its locus.

    Parameters
    ----------
    temperature : float, kelvin
        Correlated colour temperature, 4000..25000.
    tint : float
        How far beyond the locus, in CIE 1960 u, v: above 0 greener.

    Returns
    -------
    (float, float)
        CIE 1931 chromaticity x, y.

    References
    ----------
    .. [1] CIE 15:2004, "Colorimetry", 3.1: the daylight locus.

    Examples
    --------
    >>> [round(one, 4) for one in white_at(6504, 0)]
    [0.3127, 0.3291]
    """
    x, y = _daylight(temperature)
    u, v = _uv(x, y)
    ahead = _uv(*_daylight(temperature * 0.999))
    along = np.array([ahead[0] - u, ahead[1] - v])
    # Across the locus, towards green: away from the way along, turned by a right angle.
    across = np.array([-along[1], along[0]]) / np.hypot(*along)
    u, v = np.array([u, v]) + tint * across * np.sign(across[1])
    down = 2 * u - 8 * v + 4
    return float(3 * u / down), float(2 * v / down)


def adapted(white: tuple[float, float]) -> NDArray[np.float64]:
    """Return what makes D65's white look like another one.

    Parameters
    ----------
    white : (float, float)
        CIE 1931 chromaticity x, y.

    Returns
    -------
    (3, 3) float64
        Multiplies linear sRGB; von Kries in Bradford's responses, at the same Y.

    Examples
    --------
    >>> bool(np.allclose(adapted(D65), np.eye(3), atol=1e-6))
    True
    """
    before, after = (BRADFORD @ _xyz(one) for one in (D65, white))
    to_cone = BRADFORD @ TO_XYZ
    found: NDArray[np.float64] = np.linalg.inv(to_cone) @ (
        (after / before)[:, None] * to_cone
    )
    return found


def _daylight(kelvin: float) -> tuple[float, float]:
    t = 1000 / kelvin
    low = (-4.6070 * t + 2.9678) * t * t + 0.09911 * t + 0.244063
    high = (-2.0064 * t + 1.9018) * t * t + 0.24748 * t + 0.237040
    x = low if kelvin <= 7000 else high
    return x, (-3.000 * x + 2.870) * x - 0.275


def _uv(x: float, y: float) -> tuple[float, float]:
    down = -2 * x + 12 * y + 3
    return 4 * x / down, 6 * y / down


def _xyz(white: tuple[float, float]) -> NDArray[np.float64]:
    x, y = white
    return np.array([x / y, 1.0, (1 - x - y) / y])
