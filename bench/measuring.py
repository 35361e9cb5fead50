"""Interleaved rounds, so that a slow moment of the machine falls on everyone."""

from __future__ import annotations

import gc
import os
import statistics
import time
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Mapping


@dataclass
class Timing:
    """What the rounds of one contestant took."""

    cpu_s: list[float] = field(default_factory=list)
    wall_s: list[float] = field(default_factory=list)

    @property
    def cpu(self) -> float:
        """Median of processor seconds."""
        return statistics.median(self.cpu_s)

    @property
    def wall(self) -> float:
        """Median of seconds on the clock."""
        return statistics.median(self.wall_s)


@contextmanager
def processors(count: int) -> Iterator[None]:
    """Let this process, and all threads it starts, use only so many processors."""
    before = os.sched_getaffinity(0)
    _pin(set(sorted(before)[:count]))
    try:
        yield
    finally:
        _pin(before)


def _pin(chosen: set[int]) -> None:
    for task in Path("/proc/self/task").iterdir():
        # A library's thread may have ended since the folder was read.
        with suppress(ProcessLookupError):
            os.sched_setaffinity(int(task.name), chosen)


def measure(
    contestants: Mapping[str, Callable[[], Any]],
    *,
    rounds: int,
    threads: Mapping[str, int] | None = None,
) -> dict[str, Timing]:
    """Run everyone once to warm up, then in turns; return medians by name.

    Each has one processor, or as many as `threads` says of it.
    """
    timings = {name: Timing() for name in contestants}
    for work in contestants.values():
        work()
    for _ in range(rounds):
        for name, work in contestants.items():
            gc.collect()
            with processors((threads or {}).get(name, 1)):
                wall, cpu = time.perf_counter(), time.process_time()
                work()
                timings[name].cpu_s.append(time.process_time() - cpu)
                timings[name].wall_s.append(time.perf_counter() - wall)
    return timings
