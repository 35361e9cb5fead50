"""Drops the oldest of what is kept on disk and can be made again."""

from __future__ import annotations

import shutil
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Iterable
    from pathlib import Path


def drop_oldest(folder: Path, *, most: int) -> None:
    """Delete the oldest files and folders of a folder beyond so many.

    Parameters
    ----------
    folder : Path
        Drafts in it, whose names begin with a dot, are left alone.
    most : int
        How many are left.
    """
    kept = (one for one in folder.iterdir() if not one.name.startswith("."))
    for place in _newest_first(kept)[most:]:
        if place.is_dir():
            shutil.rmtree(place, ignore_errors=True)
        else:
            place.unlink(missing_ok=True)


def _newest_first(places: Iterable[Path]) -> list[Path]:
    found = []
    for place in places:
        try:
            found.append((place.stat().st_mtime, place))
        except FileNotFoundError:  # another process was quicker
            continue
    return [place for _, place in sorted(found, reverse=True)]
