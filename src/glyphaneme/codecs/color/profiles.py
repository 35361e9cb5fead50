"""The colour profiles that ship, and those that follow from published numbers."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Final

import numpy as np
from PIL import ImageCms

from glyphaneme.core.color import decoded

COATED: Final = Path(__file__).with_name("coated-fogra39.icc")
"""Offset printing on coated paper, of the FOGRA39 measurements."""
CURVE_POINTS: Final = 1024
D65: Final = (0.3127, 0.3290, 1.0)
P3_PRIMARIES: Final = (0.680, 0.320, 1.0, 0.265, 0.690, 1.0, 0.150, 0.060, 1.0)
"""Chromaticities x, y and Y of red, green and blue (SMPTE RP 431-2)."""


@cache
def srgb_profile() -> bytes:
    """Return the profile of sRGB (IEC 61966-2-1)."""
    return ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()


@cache
def display_p3_profile() -> bytes:
    """Return the profile of Display P3: P3's primaries, D65, and sRGB's curve."""
    # Imported late: only few files need it, and every start would wait for it.
    from imagecodecs import cms_profile

    return bytes(
        cms_profile(
            "rgb",
            whitepoint=D65,
            primaries=P3_PRIMARIES,
            transferfunction=_srgb_curve(),
        )
    )


@cache
def gray_profile() -> bytes:
    """Return the profile of greys with sRGB's curve."""
    from imagecodecs import cms_profile

    return bytes(cms_profile("gray", transferfunction=_srgb_curve()))


@cache
def coated_profile() -> bytes:
    """Return the printer's profile that ships."""
    return COATED.read_bytes()


def _srgb_curve() -> np.ndarray[tuple[int], np.dtype[np.uint16]]:
    curve = decoded(np.linspace(0, 1, CURVE_POINTS)) * 65535
    return np.asarray(np.round(curve), np.uint16)
