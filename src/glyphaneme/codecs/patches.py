"""Keeps patches of mended photos as files: they are derived, and take time to find."""

from __future__ import annotations

import zipfile
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.codecs.drafting import drafted
from glyphaneme.codecs.headers import reading_headers
from glyphaneme.core.mend import Patch

if TYPE_CHECKING:
    from pathlib import Path


def save_patch(place: Path, patch: Patch) -> None:
    """Write a patch, all of it or nothing.

    Parameters
    ----------
    place : Path
        The file; another process may write the same patch meanwhile.
    patch : Patch
        What to keep.
    """
    with drafted(place) as draft, draft.open("wb") as file:
        np.savez(file, **patch._asdict())


def load_patch(place: Path) -> Patch | None:
    """Read a patch.

    Parameters
    ----------
    place : Path
        Where `save_patch` put it.

    Returns
    -------
    Patch or None
        None where there is none, or not the whole of it.
    """
    try:
        with reading_headers, np.load(place) as kept:
            return Patch(**{name: kept[name] for name in Patch._fields})
    except (OSError, EOFError, ValueError, KeyError, zipfile.BadZipFile):
        return None
