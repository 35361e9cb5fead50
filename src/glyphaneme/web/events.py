"""Server-sent events: what changed, told to every open page.

An ASGI application of its own: an open stream waits without holding a thread.
"""

from __future__ import annotations

import asyncio
import json
import logging
import threading
import time
from collections import deque
from typing import TYPE_CHECKING, Any

from glyphaneme.web.guards import SECURITY_HEADERS, is_served
from glyphaneme.web.problems import MEDIA_TYPE, problem_body

if TYPE_CHECKING:
    from collections.abc import Awaitable, Callable, Iterable, MutableMapping

    Message = MutableMapping[str, Any]
    Scope = MutableMapping[str, Any]
    Receive = Callable[[], Awaitable[Message]]
    Send = Callable[[Message], Awaitable[None]]

log = logging.getLogger(__name__)

PATH = "/api/events"
KEEP_ALIVE_S = 10.0
RETRY_S = 1.0
NOTICES_KEPT = 256
MOST_STREAMS = 500
# A page that has just come, or has more to hear than is kept, may miss anything.
CATCH_UP = {"kind": "catch_up"}


class Stream:
    """What one page has yet to be told; used within one event loop alone."""

    def __init__(self) -> None:
        self._waiting: deque[dict[str, Any]] = deque([CATCH_UP])
        self._changed = asyncio.Event()
        self._changed.set()
        self.closed = False

    def put(self, notice: dict[str, Any]) -> None:
        """Have the page told; where it lags too far behind, to ask for everything."""
        if len(self._waiting) >= NOTICES_KEPT:
            self._waiting.clear()
            notice = CATCH_UP
        self._waiting.append(notice)
        self._changed.set()

    def close(self) -> None:
        """End it as soon as what waits is told."""
        self.closed = True
        self._changed.set()

    async def take(self) -> list[dict[str, Any]]:
        """Return what waits, as soon as there is something; nothing after a while."""
        try:
            await asyncio.wait_for(self._changed.wait(), KEEP_ALIVE_S)
        except TimeoutError:
            return []
        self._changed.clear()
        taken = [*self._waiting]
        self._waiting.clear()
        return taken


class Broadcaster:
    """Listens once per process and passes every notice on to all open pages."""

    def __init__(self, listen: Callable[[], Iterable[dict[str, Any]]]) -> None:
        self._listen = listen
        self._streams: set[Stream] = set()
        self._thread: threading.Thread | None = None

    @property
    def open_streams(self) -> int:
        """How many pages are being told."""
        return len(self._streams)

    def subscribe(self) -> Stream:
        """Return a stream that fills with notices from now on."""
        stream = Stream()
        self._streams.add(stream)
        if self._thread is None:
            loop = asyncio.get_running_loop()
            self._thread = threading.Thread(
                target=self._pump, args=(loop,), daemon=True
            )
            self._thread.start()
        return stream

    def unsubscribe(self, stream: Stream) -> None:
        """Stop filling a stream."""
        self._streams.discard(stream)

    def close(self) -> None:
        """End all streams: the process is about to stop."""
        for stream in self._streams:
            stream.close()

    def _pump(self, loop: asyncio.AbstractEventLoop) -> None:
        while not loop.is_closed():
            try:
                for notice in self._listen():
                    loop.call_soon_threadsafe(self._pass_on, notice)
            except OSError:
                log.warning("notices interrupted", extra={"action": "listen_retry"})
            except RuntimeError:  # the loop was closed in between
                return
            time.sleep(RETRY_S)

    def _pass_on(self, notice: dict[str, Any]) -> None:
        for stream in self._streams:
            stream.put(notice)


class EventStreams:
    """Answers `GET /api/events` with notices.

    Their kinds are `project`, `job`, `shelf`, `wall` and `catch_up`.
    """

    def __init__(self, broadcaster: Broadcaster, allowed_hosts: frozenset[str]) -> None:
        self._broadcaster = broadcaster
        self._allowed_hosts = allowed_hosts

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request, for as long as the page stays."""
        host = dict(scope["headers"]).get(b"host", b"").decode("latin-1")
        if not is_served(host, self._allowed_hosts):
            await _refuse(send, 421, "unknown-host", "This address is not served here.")
        elif scope["method"] != "GET":
            await _refuse(send, 405, "http", "Notices can only be listened to.")
        elif self._broadcaster.open_streams >= MOST_STREAMS:
            await _refuse(send, 503, "too-many-streams", "Too many pages are open.")
        else:
            await self._tell(receive, send)

    async def _tell(self, receive: Receive, send: Send) -> None:
        stream = self._broadcaster.subscribe()
        leaving = asyncio.create_task(_wait_until_left(receive, stream))
        try:
            await _begin(send, 200, "text/event-stream")
            while not stream.closed:
                notices = await stream.take()
                text = "".join(f"data: {json.dumps(one)}\n\n" for one in notices)
                await _write(send, text or ": still here\n\n")
            await send({"type": "http.response.body", "body": b""})
        finally:
            self._broadcaster.unsubscribe(stream)
            leaving.cancel()


async def _wait_until_left(receive: Receive, stream: Stream) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass
    stream.close()


async def _refuse(send: Send, status: int, code: str, detail: str) -> None:
    await _begin(send, status, MEDIA_TYPE)
    body = problem_body(status, code, detail).encode()
    await send({"type": "http.response.body", "body": body})


async def _begin(send: Send, status: int, content_type: str) -> None:
    headers = {**SECURITY_HEADERS, "Content-Type": content_type}
    await send(
        {
            "type": "http.response.start",
            "status": status,
            "headers": [
                (name.lower().encode(), value.encode())
                for name, value in {**headers, "Cache-Control": "no-store"}.items()
            ],
        }
    )


async def _write(send: Send, text: str) -> None:
    await send({"type": "http.response.body", "body": text.encode(), "more_body": True})
