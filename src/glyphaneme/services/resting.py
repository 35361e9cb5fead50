"""Lets go of what is kept in memory, once nothing has been asked for a while."""

from __future__ import annotations

import ctypes
import gc
import threading
import time
from contextlib import contextmanager
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

REST_AFTER_S = 480.0
LOOKS = 16
"""How often it is looked at in that time."""


class Activity:
    """Whether something is being done, and when something was done last."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._under_way = 0
        self._last = time.monotonic()

    @contextmanager
    def going_on(self) -> Iterator[None]:
        """Count what is done within as under way."""
        with self._lock:
            self._under_way += 1
        try:
            yield
        finally:
            with self._lock:
                self._under_way -= 1
                self._last = time.monotonic()

    def idle_s(self) -> float:
        """Return for how many seconds nothing has been done; 0 while something is."""
        with self._lock:
            return 0.0 if self._under_way else time.monotonic() - self._last


class Rest:
    """Has everything let go of once nothing was done for `after_s` seconds."""

    def __init__(
        self, activity: Activity, let_go: Callable[[], None], *, after_s: float
    ) -> None:
        self._activity = activity
        self._let_go = let_go
        self._after_s = after_s
        self._is_resting = False

    def look(self) -> bool:
        """Let go if it is time, once for each rest; tell whether it was."""
        is_due = self._activity.idle_s() >= self._after_s
        begins = is_due and not self._is_resting
        self._is_resting = is_due
        if begins:
            self._let_go()
            give_back()
        return begins

    def look_from_now_on(self) -> None:
        """Look again and again, in a thread that ends with the process."""

        def keep_looking() -> None:
            while True:
                time.sleep(self._after_s / LOOKS)
                self.look()

        threading.Thread(target=keep_looking, name="rest", daemon=True).start()


def give_back() -> None:
    """Give memory that is not used any more back to the system.

    The allocator keeps it otherwise: after a cut-out, more than a gigabyte.
    """
    gc.collect()
    trim = getattr(ctypes.CDLL(None), "malloc_trim", None)
    if trim is not None:
        trim(0)
