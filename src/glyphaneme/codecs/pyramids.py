"""Keeps pyramids as raw files that are mapped into memory, not read."""

from __future__ import annotations

import json
import mmap
import shutil
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.codecs.drafting import drafted
from glyphaneme.codecs.headers import reading_headers
from glyphaneme.core.place import Pyramid

if TYPE_CHECKING:
    from pathlib import Path

FACTS = "facts.json"


def save_pyramid(folder: Path, pyramid: Pyramid) -> None:
    """Write a pyramid into a folder, all of it or nothing.

    Parameters
    ----------
    folder : Path
        Where it shall lie; another process may write the same pyramid meanwhile.
    pyramid : Pyramid
        What to keep.

    Raises
    ------
    OSError
        The disk takes no more.
    """
    try:
        _save(folder, pyramid)
    except OSError:
        # It may be there already: pyramids of one picture are all alike.
        if load_pyramid(folder) is None:
            shutil.rmtree(folder, ignore_errors=True)
            _save(folder, pyramid)


def _save(folder: Path, pyramid: Pyramid) -> None:
    with drafted(folder) as draft:
        draft.mkdir()
        for number, level in enumerate(pyramid.levels):
            np.save(draft / f"{number}.npy", level)
        facts = {"levels": len(pyramid.levels), "opaque": pyramid.opaque}
        (draft / FACTS).write_text(json.dumps(facts))


def load_pyramid(folder: Path, *, to_change: bool = False) -> Pyramid | None:
    """Map a pyramid into memory.

    Parameters
    ----------
    folder : Path
        Where `save_pyramid` put it.
    to_change : bool
        Whether its pixels may be changed. What is changed takes memory, and is never
        written: the file stays as it is.

    Returns
    -------
    Pyramid or None
        None where there is none, or not the whole of it.
    """
    try:
        facts = json.loads((folder / FACTS).read_text())
        with reading_headers:
            levels = tuple(
                np.load(folder / f"{number}.npy", mmap_mode="c" if to_change else "r")
                for number in range(facts["levels"])
            )
    except (OSError, EOFError, ValueError, KeyError):
        return None
    if to_change:
        # Plain arrays: to let go of the pages of a mapped one would undo its changes.
        levels = tuple(map(np.asarray, levels))
    return Pyramid(levels=levels, opaque=facts["opaque"])


def held_by(pyramid: Pyramid) -> int:
    """Return how much memory a pyramid takes that no file stands behind.

    Parameters
    ----------
    pyramid : Pyramid
        Mapped or not.

    Returns
    -------
    int, bytes
        Of its levels that are not mapped to be read.
    """
    return sum(
        level.nbytes for level in pyramid.levels if not isinstance(level, np.memmap)
    )


def let_go(pyramid: Pyramid) -> None:
    """Take a mapped pyramid's pages out of memory; they come back when they are read.

    Parameters
    ----------
    pyramid : Pyramid
        As `load_pyramid` returned it; one in memory stays there.
    """
    finer = () if pyramid.finer is None else (pyramid.finer,)
    for level in (*pyramid.levels, *finer):
        mapped = getattr(level, "_mmap", None)
        if isinstance(mapped, mmap.mmap):
            mapped.madvise(mmap.MADV_DONTNEED)
