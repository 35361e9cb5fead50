"""How well colours are told from one another."""

from __future__ import annotations

from typing import Final

import numpy as np

from glyphaneme.core.color.spaces import levels_of

LEAST: Final = 3.0
"""Of large letters to what they stand on, by WCAG 2.2, 1.4.3."""
DARK, LIGHT = "#25221d", "#fbf9f3"


def contrast_of(one: str, other: str) -> float:
    """Return the contrast ratio of two colours.

    Parameters
    ----------
    one, other : str
        Such as "#ff8000", sRGB.

    Returns
    -------
    float, 1..21
        Lighter to darker.

    References
    ----------
    .. [1] Web Content Accessibility Guidelines (WCAG) 2.2, "contrast ratio" and
       "relative luminance".

    Examples
    --------
    >>> contrast_of("#000000", "#ffffff"), contrast_of("#777777", "#777777")
    (21.0, 1.0)
    """
    darker, lighter = sorted((_luminance(one), _luminance(other)))
    return float((lighter + 0.05) / (darker + 0.05))


def told_from(color: str, ground: str) -> str:
    """Return a colour for letters, or one that is told better from what is behind.

    Parameters
    ----------
    color, ground : str
        Such as "#ff8000", sRGB: of the letters, and of what they stand on.

    Returns
    -------
    str
        The same where it is told well enough; else a dark or a light one.

    Examples
    --------
    >>> told_from("#25221d", "#efe6d2"), told_from("#25221d", "#332b2f")
    ('#25221d', '#fbf9f3')
    """
    if contrast_of(color, ground) < LEAST:
        return max(DARK, LIGHT, key=lambda one: contrast_of(one, ground))
    return color


def _luminance(color: str) -> float:
    """Return the relative luminance, 0..1."""
    encoded = np.array(levels_of(color)) / 255
    low, high = encoded / 12.92, ((encoded + 0.055) / 1.055) ** 2.4
    linear = np.where(encoded <= 0.04045, low, high)
    return float(linear @ [0.2126, 0.7152, 0.0722])
