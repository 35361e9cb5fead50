"""Disks that take no more, and folders that cannot be written."""

from __future__ import annotations

import errno
import logging
from contextlib import contextmanager
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:
    from collections.abc import Iterator

log = logging.getLogger(__name__)

FULL: Final = frozenset({errno.ENOSPC, errno.EDQUOT})
CLOSED: Final = frozenset({errno.EROFS, errno.EACCES, errno.EPERM, errno.ENOTDIR})
DISK_FULL: Final = "53100"
"""PostgreSQL's own code for it, its manual's appendix A."""
NO_ROOM: Final = (
    "The disk that everything is kept on is full, or may not be written. What was "
    "saved before is safe; this was not kept. Free some room there and try again."
)


def is_no_room(error: BaseException) -> bool:
    """Tell whether something went wrong because nothing can be written any more.

    Also true of what a database's driver raises, and what is made of that.
    """
    if isinstance(error, OSError):
        return error.errno in FULL | CLOSED
    said_by_driver = getattr(error, "orig", None) or error
    return getattr(said_by_driver, "sqlstate", None) == DISK_FULL


@contextmanager
def keeping_if_there_is_room() -> Iterator[None]:
    """Keep a derived file; where nothing can be written, do without it.

    Raises
    ------
    OSError
        Something else is wrong with it.
    """
    try:
        yield
    except OSError as error:
        if not is_no_room(error):
            raise
        log.warning("no room: %s", error, extra={"action": "no_room"})
