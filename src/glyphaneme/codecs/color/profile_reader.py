"""The program that reads colour profiles which people bring; it is run by its path.

It reads a file from its input and writes JSON, and may take little memory and time: a
hostile file ends it, and nothing else.
"""

from __future__ import annotations

import io
import json
import resource
import sys
from typing import Final

import numpy as np
from imagecodecs import cms_profile_validate, cms_transform
from PIL import Image, ImageCms

MEMORY_BYTES: Final = 1536 * 2**20
SECONDS: Final = 15
INKS: Final = {"CMYK": "cmyk", "RGB": "rgb", "GRAY": "gray"}
CHANNELS: Final = {"cmyk": 4, "rgb": 3, "gray": 1}
SAID: Final = {"mntr": "screen", "scnr": "camera or scanner"}
LONGEST_NAME: Final = 80


def facts_of(data: bytes) -> dict[str, str]:
    """Return what a profile says of itself; trying it out raises where it cannot."""
    cms_profile_validate(data)
    opened = ImageCms.ImageCmsProfile(io.BytesIO(data))
    kind = opened.profile.device_class.strip()
    ink = INKS[opened.profile.xcolor_space.strip()]
    name = ImageCms.getProfileDescription(opened).strip().replace("\0", "")
    if kind == "prtr":
        _try_out(data, ink)
    return {
        "class": kind,
        "class_said": SAID.get(kind, "device of another kind"),
        "ink": ink,
        "name": name[:LONGEST_NAME] or "A printer's profile",
    }


def _try_out(data: bytes, ink: str) -> None:
    """Convert some colours there and back, as files and their proofs will be.

    Raises
    ------
    ValueError
        Something else comes back.
    """
    srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    some = np.asarray(Image.linear_gradient("L").convert("RGB"))
    for intent in range(4):
        there = cms_transform(
            some, srgb, data, colorspace="rgb", outcolorspace=ink, intent=intent
        )
        back = cms_transform(
            np.asarray(there),
            data,
            srgb,
            colorspace=ink,
            outcolorspace="rgb",
            intent=intent,
        )
        if np.asarray(back).shape != some.shape:
            message = "the profile must lead to colours and back"
            raise ValueError(message)


if __name__ == "__main__":
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    resource.setrlimit(resource.RLIMIT_NOFILE, (64, 64))
    sys.stdout.write(json.dumps(facts_of(sys.stdin.buffer.read())))
