"""Keeps paintings as files: they are derived from strokes, and save painting them."""

from __future__ import annotations

import zipfile
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.codecs.drafting import drafted
from glyphaneme.codecs.headers import reading_headers
from glyphaneme.core.mask.levels import level_from
from glyphaneme.core.mask.paintings import Painting

if TYPE_CHECKING:
    from pathlib import Path

UNEVEN = -1
"""Stands for a channel that has pixels, where the others have their value."""


def save_painting(place: Path, painting: Painting) -> None:
    """Write a painting's tiles at full size, all of them or nothing.

    Parameters
    ----------
    place : Path
        The file; another process may write the same painting meanwhile.
    painting : Painting
        With at least one stroke.
    """
    tiles = painting.level_at(0).tiles
    both = [one for tile in tiles.values() for one in tile]
    even = [one if isinstance(one, int) else UNEVEN for one in both]
    with drafted(place) as draft, draft.open("wb") as file:
        np.savez(
            file,
            places=np.array(list(tiles), np.int64).reshape(-1, 2),
            even=np.array(even).reshape(-1, 2),
            pixels=np.array([one for one in both if not isinstance(one, int)]),
            strokes=painting.strokes,
        )


def load_painting(place: Path) -> Painting | None:
    """Read a painting.

    Parameters
    ----------
    place : Path
        Where `save_painting` put it.

    Returns
    -------
    Painting or None
        None where there is none, or not the whole of it.
    """
    try:
        with reading_headers, np.load(place) as kept:
            corners, even = (kept[name].astype(np.int64) for name in ("places", "even"))
            level = level_from(corners, even, kept["pixels"])
            return Painting(level, int(kept["strokes"]))
    except (OSError, EOFError, ValueError, KeyError, zipfile.BadZipFile):
        return None
