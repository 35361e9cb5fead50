"""A file that tells how far it is written."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from typing import BinaryIO, Protocol

    class Reporting(Protocol):
        """Whatever hears how far some work is, 0..1."""

        def report(self, share: float, /) -> None:
            """Hear it."""


DONE_BEFORE = 0.6
"""Rendering and encoding take about as long as one another."""


class PartOf:
    """Reports a part of some work as its share of the whole."""

    def __init__(self, whole: Reporting, begins: float, share: float) -> None:
        self._whole = whole
        self._begins = begins
        self._share = share

    def report(self, share: float, /) -> None:
        """Hear how far the part is."""
        self._whole.report(self._begins + self._share * share)


class ReportingFile:
    """A file that reports progress, and hears of a cancel, whenever it is written.

    It has no file descriptor, so that encoders write through it. How large it will
    be is not known: the share nears the whole as it grows beyond a usual size.
    """

    def __init__(self, file: BinaryIO, progress: Reporting, *, usual_size: int) -> None:
        self._file = file
        self._progress = progress
        self._usual_size = usual_size

    def write(self, data: bytes) -> int:
        """Write, and report how far that is."""
        written = self._file.write(data)
        share = self._file.tell() / (self._file.tell() + self._usual_size)
        self._progress.report(DONE_BEFORE + (1 - DONE_BEFORE) * share)
        return written

    def seek(self, offset: int, whence: int = io.SEEK_SET) -> int:
        """Go to a place."""
        return self._file.seek(offset, whence)

    def tell(self) -> int:
        """Return the place."""
        return self._file.tell()

    def flush(self) -> None:
        """Write what still waits."""
        self._file.flush()
