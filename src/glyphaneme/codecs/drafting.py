"""Files that come to be all at once: written beside their place, and then put there."""

from __future__ import annotations

import shutil
import time
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Iterator

DRAFT = ".draft-"
"""What folders begin with in which something is being written."""
LEFT_BEHIND_S = 3600.0
"""Nothing takes so long to write: such a draft is of a process that was killed."""


@contextmanager
def drafted(place: Path) -> Iterator[Path]:
    """Write a file or a folder, all of it or nothing.

    Parameters
    ----------
    place : Path
        Where it shall lie; a file that lies there is replaced. Another process may
        write the same meanwhile.

    Yields
    ------
    Path
        Where to write it: nothing is there yet.

    Raises
    ------
    OSError
        A folder lies there already, or the disk takes no more. No draft is left.
    """
    place.parent.mkdir(parents=True, exist_ok=True)
    with TemporaryDirectory(
        dir=place.parent, prefix=DRAFT, ignore_cleanup_errors=True
    ) as folder:
        draft = Path(folder) / place.name
        yield draft
        draft.replace(place)


def drop_drafts(folder: Path, *, older_than: float = LEFT_BEHIND_S) -> None:
    """Delete what processes left behind that were killed while they wrote.

    Parameters
    ----------
    folder : Path
        In which, at any depth, drafts may lie; it may be missing.
    older_than : float, seconds
        Newer drafts may still be written.
    """
    before = time.time() - older_than
    for draft in list(folder.rglob(f"{DRAFT}*")):
        try:
            left_behind = draft.stat().st_mtime < before
        except FileNotFoundError:  # it was finished meanwhile
            continue
        if left_behind and draft.is_dir():
            shutil.rmtree(draft, ignore_errors=True)
        elif left_behind:
            draft.unlink(missing_ok=True)
