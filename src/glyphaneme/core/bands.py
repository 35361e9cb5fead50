"""Runs compiled work over bands of rows, on all processors."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from functools import cache
from multiprocessing import cpu_count
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Callable

BAND_ROWS = 64
LITTLE = 2**16
"""Pixels up to which the work is done sooner than handed to other threads."""


def run_bands(work: Callable[[int, int], None], rows: int, columns: int) -> None:
    """Call work(first, last) for bands that together cover all rows.

    Parameters
    ----------
    work : callable
        Takes the first row and the row after the last; must release the GIL for the
        bands to run side by side, and must not fail.
    rows : int
        How many rows there are.
    columns : int
        How many pixels a row has; a little work is one band.

    Examples
    --------
    >>> seen = []
    >>> run_bands(lambda first, last: seen.append((first, last)), 65, 2000)
    >>> sorted(seen)
    [(0, 64), (64, 65)]
    """
    starts = range(0, rows, BAND_ROWS)
    if len(starts) == 1 or rows * columns <= LITTLE:
        work(0, rows)
        return
    ends = (min(start + BAND_ROWS, rows) for start in starts)
    list(_pool().map(work, starts, ends))


@cache
def _pool() -> ThreadPoolExecutor:
    """Make the pool on first use: threads do not survive a fork before it."""
    return ThreadPoolExecutor(cpu_count(), thread_name_prefix="bands")
