"""Profiles that people bring: read by a process with limits, and checked there."""

from __future__ import annotations

from pathlib import Path
from typing import Final, NamedTuple

from glyphaneme.codecs.apart import read_apart
from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode

READER: Final = Path(__file__).with_name("profile_reader.py")
MAX_PROFILE_BYTES: Final = 16 * 2**20
SECONDS: Final = 20


class ProfileFacts(NamedTuple):
    """What a printer's profile says of itself."""

    name: str
    ink: str
    """Which channels: cmyk, rgb or gray."""


def read_profile(data: bytes) -> ProfileFacts:
    """Read a printer's profile.

    Parameters
    ----------
    data : bytes
        The file.

    Returns
    -------
    ProfileFacts
        Its name, and which channels it speaks of.

    Raises
    ------
    PictureRefusedError
        It is too large, damaged, no profile, or none of a printer.
    """
    if len(data) > MAX_PROFILE_BYTES:
        raise PictureRefusedError(
            RefusalCode.TOO_HEAVY,
            f"A profile may have at most {MAX_PROFILE_BYTES // 2**20} MB. Nothing was "
            "kept; ask the print shop for a smaller one.",
        )
    found = read_apart(READER, data, seconds=SECONDS)
    if found is None:
        raise PictureRefusedError(
            RefusalCode.DAMAGED,
            "This is no colour profile, or it is damaged. Nothing was kept; ask the "
            "print shop for its profile again: a file that ends in .icc or .icm.",
        )
    if found["class"] != "prtr":
        raise PictureRefusedError(
            RefusalCode.UNKNOWN,
            f"“{found['name']}” describes a {found['class_said']}, not a printer. "
            "Nothing was kept; bring the profile of the print shop.",
        )
    return ProfileFacts(found["name"], found["ink"])
