from __future__ import annotations

from glyphaneme.cli.processes import Patience


def waited(patience: Patience, died_at: float, started_at: float) -> int:
    """Return after how many seconds it is started again."""
    return next(
        seconds
        for seconds in range(100)
        if patience.is_over(died_at + seconds, started_at=started_at)
    )


def test_what_dies_at_once_again_and_again_is_started_ever_later() -> None:
    patience, now = Patience(), 1000.0
    waits = []

    for _ in range(8):
        started_at, now = now, now + 3
        waits.append(waited(patience, now, started_at))
        now += waits[-1]

    assert waits == [0, 1, 2, 4, 8, 16, 30, 30]


def test_what_has_run_for_long_is_started_again_at_once() -> None:
    patience = Patience()
    for start in (0.0, 10.0, 20.0):
        waited(patience, start + 3, start)

    assert waited(patience, 500.0, 100.0) == 0
    assert waited(patience, 503.0, 500.0) == 1
