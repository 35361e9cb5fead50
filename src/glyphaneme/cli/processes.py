"""The processes of a running Glyphaneme: watched, started again, stopped together."""

from __future__ import annotations

import ctypes
import os
import signal
import subprocess
import sys
import time
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence

PR_SET_PDEATHSIG = 1
PATIENCE_S = 8.0
PAUSE_S = 0.2
# A process that dies sooner than this is started again later each time.
SOON_S = 20.0
FIRST_WAIT_S = 1.0
LONGEST_WAIT_S = 30.0
_LIBC = ctypes.CDLL(None)


def _die_with_parent() -> None:
    """Ask Linux to end this process when the launcher is killed."""
    _LIBC.prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def start_beneath_us(
    arguments: Sequence[str], environment: Mapping[str, str]
) -> subprocess.Popen[bytes]:
    """Start Python in a session of its own; it ends when this process does."""
    return subprocess.Popen(  # our own arguments, no shell
        [sys.executable, *arguments],
        env={**os.environ, **environment},
        stdin=subprocess.DEVNULL,
        start_new_session=True,
        preexec_fn=_die_with_parent,  # before any thread exists
    )


@dataclass
class Patience:
    """How long something that has died stays so: ever longer where it dies soon."""

    _waits_s: float = 0.0
    _died_at: float | None = None

    def is_over(self, now: float, *, started_at: float) -> bool:
        """Tell whether what is dead shall be started again; asked again and again."""
        if self._died_at is None:
            self._died_at = now
            if now - started_at > SOON_S:
                self._waits_s = 0.0
        if now - self._died_at < self._waits_s:
            return False
        self._died_at = None
        self._waits_s = min(max(2 * self._waits_s, FIRST_WAIT_S), LONGEST_WAIT_S)
        return True


@dataclass
class Watched:
    """A process that shall run for as long as we do."""

    arguments: list[str]
    environment: dict[str, str]
    process: subprocess.Popen[bytes] = field(init=False)
    started_at: float = field(init=False)
    _patience: Patience = field(init=False, default_factory=Patience)

    def __post_init__(self) -> None:
        """Start at once."""
        self.start()

    def start(self) -> None:
        """Start it, apart from the terminal's group: Ctrl-C reaches us alone."""
        self.started_at = time.monotonic()
        self.process = start_beneath_us(self.arguments, self.environment)

    def keep_running(self) -> None:
        """Start it again if it has died: at once, but not again and again."""
        if self.process.poll() is None:
            return
        if self._patience.is_over(time.monotonic(), started_at=self.started_at):
            self.start()


def stop_all(watched: list[Watched]) -> None:
    """Ask all to end, and end those that do not."""
    for one in watched:
        if one.process.poll() is None:
            one.process.terminate()
    deadline = time.monotonic() + PATIENCE_S
    for one in watched:
        try:
            one.process.wait(max(0.0, deadline - time.monotonic()))
        except subprocess.TimeoutExpired:
            os.killpg(one.process.pid, signal.SIGKILL)
            one.process.wait()


class Keeper(Protocol):
    """Something that starts again what has died."""

    def keep_running(self) -> None:
        """Look once; return soon."""


def hear_signals() -> list[int]:
    """Return a list that from now on fills with what tells us to stop."""
    told: list[int] = []
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, lambda number, _frame: told.append(number))
    return told


def watch_until_told(keepers: Sequence[Keeper], told: list[int]) -> None:
    """Keep all running until `told` says to stop."""
    while not told:
        for keeper in keepers:
            keeper.keep_running()
        time.sleep(PAUSE_S)
