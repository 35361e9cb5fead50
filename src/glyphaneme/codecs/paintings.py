"""Keeps paintings as files: they are derived from strokes, and save painting them."""

from __future__ import annotations

import zipfile
from pathlib import Path
from tempfile import NamedTemporaryFile

import numpy as np

from glyphaneme.codecs.headers import reading_headers
from glyphaneme.core.mask.paintings import Painting, tile_from

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
    places = np.array(list(painting.tiles), np.int32).reshape(-1, 2)
    channels = [channel for tile in painting.tiles.values() for channel in tile]
    even = np.array(
        [UNEVEN if one.pixels is not None else one.least for one in channels], np.int32
    )
    pixels = [one.pixels for one in channels if one.pixels is not None]
    stacked = np.stack(pixels) if pixels else np.empty((0, 0, 0), np.uint16)
    place.parent.mkdir(parents=True, exist_ok=True)
    with NamedTemporaryFile(dir=place.parent, prefix=".draft-", delete=False) as draft:
        np.savez(
            draft,
            places=places,
            even=even.reshape(-1, 2),
            pixels=stacked,
            strokes=painting.strokes,
        )
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
        with reading_headers, np.load(place) as kept:
            places = map(tuple, kept["places"].tolist())
            uneven = iter(kept["pixels"])
            tiles = {
                place: tile_from(*(next(uneven) if e == UNEVEN else e for e in both))
                for place, both in zip(places, kept["even"].tolist(), strict=True)
            }
            return Painting(tiles, int(kept["strokes"]))
    except (OSError, ValueError, KeyError, StopIteration, zipfile.BadZipFile):
        return None
