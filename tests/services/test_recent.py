"""What is kept in memory, and let go."""

from __future__ import annotations

import pytest

from glyphaneme.services.studio import Recent


def test_what_was_not_asked_for_lately_goes_first() -> None:
    kept: Recent[str, int] = Recent(2)
    kept.put("one", 1)
    kept.put("two", 2)

    assert kept.get("one") == 1
    kept.put("three", 3)

    assert [kept.get(key) for key in ("one", "two", "three")] == [1, None, 3]


def test_values_weigh_no_more_than_the_limit_together() -> None:
    kept: Recent[str, bytes] = Recent(100, len)
    kept.put("small", bytes(40))
    kept.put("middle", bytes(50))
    kept.put("more", bytes(30))

    assert kept.get("small") is None
    assert kept.get("middle") == bytes(50)
    kept.put("middle", bytes(5))
    kept.put("again", bytes(60))
    assert kept.get("more") == bytes(30)


@pytest.mark.parametrize("weight", [100, 101, 10_000])
def test_newest_stays_however_much_it_weighs(weight: int) -> None:
    kept: Recent[str, bytes] = Recent(100, len)
    kept.put("before", bytes(1))

    kept.put("large", bytes(weight))

    assert kept.get("large") == bytes(weight)
    assert kept.get("before") is None
