"""Event streams: told what happens, bounded, and closed to strangers."""

from __future__ import annotations

import asyncio
import json
import queue
from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING, Any, TypeVar

import pytest

from glyphaneme.store.notices import listen
from glyphaneme.web import events
from glyphaneme.web.events import Broadcaster, EventStreams
from tests.web.test_http import begin, bring_in, jpeg, lay_on

if TYPE_CHECKING:
    from collections.abc import Coroutine, Iterator

    from flask.testing import FlaskClient

ResultT = TypeVar("ResultT")
HOSTS = frozenset({"localhost"})


class Page:
    """A page that listens, as the web server sees it."""

    def __init__(
        self, streams: EventStreams, host: str = "localhost", *, method: str = "GET"
    ) -> None:
        self.sent: asyncio.Queue[dict] = asyncio.Queue()
        self.left = asyncio.Event()
        scope = {"method": method, "headers": [(b"host", host.encode())]}
        self.answering = asyncio.create_task(
            streams(scope, self._receive, self.sent.put)
        )

    async def _receive(self) -> dict:
        await self.left.wait()
        return {"type": "http.disconnect"}

    async def next(self) -> dict:
        return await asyncio.wait_for(self.sent.get(), 10)

    async def hears(self, count: int) -> list[dict]:
        """Return the next notices."""
        heard: list[dict] = []
        while len(heard) < count:
            text = (await self.next())["body"].decode()
            lines = [line for line in text.split("\n\n") if line.startswith("data: ")]
            heard += [json.loads(line[6:]) for line in lines]
        return heard


def run_apart(work: Coroutine[Any, Any, ResultT]) -> ResultT:
    """Run to the end in a thread: in this one the browser's driver has a loop going."""
    with ThreadPoolExecutor(1) as pool:
        return pool.submit(asyncio.run, work).result()


def said_by(source: queue.Queue) -> Iterator[Any]:
    """Yield what a test puts, as the database would tell it."""
    while True:
        yield source.get()


async def opened(streams: EventStreams) -> Page:
    """Return a page that has heard that it may have missed something."""
    page = Page(streams)
    assert (await page.next())["status"] == 200
    assert await page.hears(1) == [{"kind": "catch_up"}]
    return page


def test_page_is_told_of_edits_and_pictures(
    client: FlaskClient, database_url: str
) -> None:
    def edit() -> None:
        project = begin(client)
        lay_on(client, project, bring_in(client, jpeg()).get_json())

    async def listened() -> list[str]:
        streams = EventStreams(Broadcaster(lambda: listen(database_url)), HOSTS)
        page = await opened(streams)
        # Once more when the listening has begun.
        assert await page.hears(1) == [{"kind": "catch_up"}]
        await asyncio.to_thread(edit)
        return [notice["kind"] for notice in await page.hears(4)]

    # The picture comes to the shelf, and then it is used.
    assert run_apart(listened()) == ["wall", "shelf", "shelf", "project"]


def test_page_that_lags_behind_is_told_to_ask_for_everything() -> None:
    source: queue.Queue = queue.Queue()

    async def lag() -> list[dict]:
        streams = EventStreams(Broadcaster(lambda: said_by(source)), HOSTS)
        page = await opened(streams)
        stream = next(iter(streams._broadcaster._streams))
        # Without a pause between them, so that the stream cannot be emptied.
        for number in range(events.NOTICES_KEPT + 3):
            stream.put({"kind": "wall", "number": number})
        return await page.hears(3)

    heard = run_apart(lag())

    assert heard[0] == {"kind": "catch_up"}
    last = events.NOTICES_KEPT + 2
    assert [one["number"] for one in heard[1:]] == [last - 1, last]


def test_page_that_left_is_told_nothing_more() -> None:
    async def leave() -> tuple[int, int]:
        broadcaster = Broadcaster(lambda: said_by(queue.Queue()))
        streams = EventStreams(broadcaster, HOSTS)
        pages = [await opened(streams) for _ in range(3)]
        open_before = broadcaster.open_streams
        pages[0].left.set()
        await asyncio.wait_for(pages[0].answering, 5)
        return open_before, broadcaster.open_streams

    assert run_apart(leave()) == (3, 2)


def test_all_streams_end_when_the_server_stops() -> None:
    async def stop() -> int:
        broadcaster = Broadcaster(lambda: said_by(queue.Queue()))
        streams = EventStreams(broadcaster, HOSTS)
        pages = [await opened(streams) for _ in range(3)]
        broadcaster.close()
        await asyncio.wait_for(asyncio.gather(*(p.answering for p in pages)), 5)
        return broadcaster.open_streams

    assert run_apart(stop()) == 0


@pytest.mark.parametrize(
    ("host", "method", "status"),
    [("evil.example", "GET", 421), ("", "GET", 421), ("localhost", "POST", 405)],
)
def test_strangers_and_odd_requests_are_turned_away(
    host: str, method: str, status: int
) -> None:
    async def ask() -> tuple[dict, dict]:
        streams = EventStreams(Broadcaster(list), HOSTS)
        page = Page(streams, host, method=method)
        return await page.next(), await page.next()

    begun, body = run_apart(ask())

    assert begun["status"] == status
    assert json.loads(body["body"])["detail"]
    assert (b"x-content-type-options", b"nosniff") in begun["headers"]


def test_one_stream_too_many_is_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(events, "MOST_STREAMS", 2)

    async def crowd() -> int:
        streams = EventStreams(Broadcaster(lambda: said_by(queue.Queue())), HOSTS)
        for _ in range(2):
            await opened(streams)
        return (await Page(streams).next())["status"]

    assert run_apart(crowd()) == 503
