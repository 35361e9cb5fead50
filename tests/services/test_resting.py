"""What is kept in memory is let go of at rest, and comes back as it was."""

from __future__ import annotations

import threading
import uuid
from typing import TYPE_CHECKING

from glyphaneme.core.weighed import WeighedCache
from glyphaneme.services.resting import Activity, Rest

if TYPE_CHECKING:
    import pytest
    from flask.testing import FlaskClient

    from glyphaneme.services.studio import Studio


class Clock:
    """Stands where the test puts it."""

    def __init__(self, monkeypatch: pytest.MonkeyPatch) -> None:
        self.now = 1000.0
        monkeypatch.setattr(
            "glyphaneme.services.resting.time.monotonic", lambda: self.now
        )


def test_everything_is_let_go_of_once_for_each_rest(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    clock = Clock(monkeypatch)
    activity, let_go = Activity(), []
    rest = Rest(activity, lambda: let_go.append(clock.now), after_s=60)

    for seconds in (30, 29, 1, 100, 100):
        clock.now += seconds
        rest.look()
    with activity.going_on():
        rest.look()
    clock.now += 59
    rest.look()
    clock.now += 1
    rest.look()

    assert let_go == [1060, 1320]


def test_nothing_is_let_go_of_while_something_is_under_way(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    clock = Clock(monkeypatch)
    activity = Activity()
    rest = Rest(activity, lambda: None, after_s=60)

    with activity.going_on():
        with activity.going_on():
            clock.now += 500
        clock.now += 500
        assert not rest.look()
    assert not rest.look()
    clock.now += 60

    assert rest.look()


def test_what_several_threads_do_at_once_is_counted_for_each() -> None:
    activity = Activity()
    begun, go_on = threading.Barrier(5), threading.Event()

    def work() -> None:
        with activity.going_on():
            begun.wait()
            go_on.wait()

    threads = [threading.Thread(target=work) for _ in range(4)]
    for thread in threads:
        thread.start()
    begun.wait()
    under_way = activity.idle_s()
    go_on.set()
    for thread in threads:
        thread.join()

    assert under_way == 0
    assert activity.idle_s() > 0


def test_a_mapping_that_was_cleared_weighs_nothing_and_fills_again() -> None:
    recent: WeighedCache[str, int] = WeighedCache(10, lambda weight: weight)
    recent.put("a", 6)
    recent.put("b", 4)

    recent.clear()
    for name in "cd":
        recent.put(name, 5)

    assert recent.get("a") is None
    assert (recent.get("c"), recent.get("d")) == (5, 5)


def test_a_studio_at_rest_keeps_nothing_and_answers_as_before(
    client: FlaskClient, studio: Studio
) -> None:
    canvas = {"width": 60, "height": 40, "ppi": 240, "background": "#d02090"}
    state = client.post(
        "/api/projects", json={"name": "Card", "canvas": canvas}
    ).get_json()
    view = {"x": 0, "y": 0, "width": 60, "height": 40, "scale": 1}
    asked = {"revision": state["head"], "view": view}
    address = f"/api/projects/{state['id']}/frame"
    before = client.post(address, json=asked).data
    assert studio.frames.size > 0
    head = uuid.UUID(state["head"])
    assert studio.states.get(head) is not None

    studio.let_go()

    assert studio.frames.size == 0
    assert studio.states.get(head) is None
    assert client.post(address, json=asked).data == before
