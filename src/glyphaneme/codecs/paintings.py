"""Keeps paintings as files: they are derived from strokes, and save painting them."""

from __future__ import annotations

import zipfile
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.core.mask.paintings import Painting

if TYPE_CHECKING:
    from collections.abc import Iterable


def save_painting(place: Path, painting: Painting) -> None:
    """Write a painting's tiles at full size, all of them or nothing.

    Parameters
    ----------
    place : Path
        The file; another process may write the same painting meanwhile.
    painting : Painting
        With at least one stroke.
    """
    tiles = painting.tiles
    places = np.array(list(tiles), np.int32).reshape(-1, 2)
    pixels = np.array(list(tiles.values()), np.uint16)
    place.parent.mkdir(parents=True, exist_ok=True)
    with NamedTemporaryFile(dir=place.parent, prefix=".draft-", delete=False) as draft:
        np.savez(draft, places=places, pixels=pixels, strokes=painting.strokes)
    Path(draft.name).rename(place)


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
        with np.load(place) as kept:
            places = map(tuple, kept["places"].tolist())
            tiles = dict(zip(places, kept["pixels"], strict=True))
            return Painting(tiles, int(kept["strokes"]))
    except (OSError, ValueError, KeyError, zipfile.BadZipFile):
        return None


def drop_oldest(folder: Path, *, most: int) -> None:
    """Delete the oldest files of a folder beyond so many; they can be made again.

    Parameters
    ----------
    folder : Path
        Where `save_painting` put them.
    most : int
        How many are left.
    """
    for place in _newest_first(folder.glob("*.npz"))[most:]:
        place.unlink(missing_ok=True)


def _newest_first(places: Iterable[Path]) -> list[Path]:
    found = []
    for place in places:
        try:
            found.append((place.stat().st_mtime, place))
        except FileNotFoundError:  # another process was quicker
            continue
    return [place for _, place in sorted(found, reverse=True)]
