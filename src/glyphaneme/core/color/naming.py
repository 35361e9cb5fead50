"""Plain names for colours, as sentences say them."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np

from glyphaneme.core.color.spaces import levels_of

NAMES: dict[str, str] = {
    "black": "#000000",
    "dark grey": "#454545",
    "mid-grey": "#808080",
    "light grey": "#c0c0c0",
    "white": "#ffffff",
    "ivory": "#fffff0",
    "cream": "#f5e8cc",
    "beige": "#e0d0b0",
    "tan": "#d2b48c",
    "sand": "#b8a48a",
    "taupe": "#8a7866",
    "ochre": "#cc7722",
    "brown": "#8b4513",
    "dark brown": "#4a2c17",
    "chestnut": "#7a4a42",
    "peach": "#f0c0a0",
    "terracotta": "#c4603c",
    "red": "#ff0000",
    "dark red": "#8b0000",
    "crimson": "#dc143c",
    "pink": "#ffc0cb",
    "deep pink": "#ff1493",
    "old rose": "#c08081",
    "salmon": "#fa8072",
    "coral": "#ff7f50",
    "orange": "#ffa500",
    "dark orange": "#ff8c00",
    "gold": "#ffd700",
    "yellow": "#ffff00",
    "pale yellow": "#fff5a0",
    "khaki": "#b8ad72",
    "olive": "#808000",
    "lime": "#bfef45",
    "bright green": "#00ff00",
    "pale green": "#98fb98",
    "green": "#008000",
    "dark green": "#1f4a2c",
    "moss green": "#6a7848",
    "sage": "#a3b18a",
    "sea green": "#2e8b57",
    "teal": "#008080",
    "turquoise": "#40e0d0",
    "sky blue": "#87ceeb",
    "light blue": "#c4dcea",
    "bright blue": "#1e90ff",
    "blue": "#0000ff",
    "royal blue": "#4169e1",
    "navy": "#000080",
    "midnight blue": "#191940",
    "steel blue": "#4682b4",
    "slate grey": "#708090",
    "indigo": "#4b0082",
    "purple": "#800080",
    "violet": "#8f5fd0",
    "magenta": "#ff00ff",
    "lilac": "#c8a2c8",
    "lavender": "#e6e6fa",
    "plum": "#6e3450",
    "mauve": "#916f8a",
}


@lru_cache(maxsize=4096)
def color_name(color: str) -> str:
    """Name a colour as people would.

    Parameters
    ----------
    color : str
        Such as "#ff8000", sRGB.

    Returns
    -------
    str
        The name that lies nearest in CIE L*a*b*.

    References
    ----------
    .. [1] W3C, "CSS Color Module Level 4", section 6.1, for more than half of the
       values; the others are ours, for the browns, pinks and muted colours of photos.

    Examples
    --------
    >>> color_name("#ff8000")
    'dark orange'
    """
    names = list(NAMES)
    far = np.linalg.norm(_lab(*NAMES.values()) - _lab(color), axis=1)
    return names[int(far.argmin())]


def _lab(*colors: str) -> np.ndarray:
    levels = [levels_of(color) for color in colors]
    rgb = np.array([levels], np.float32) / 255
    return np.asarray(cv2.cvtColor(rgb, cv2.COLOR_RGB2LAB)[0])
