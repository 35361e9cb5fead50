"""Server-sent events: what changed, told to every open page."""

from __future__ import annotations

import json
import logging
import queue
import threading
import time
from typing import TYPE_CHECKING, Any

from flask import Response, current_app
from flask_openapi3 import APIBlueprint, Tag

if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Iterator

api = APIBlueprint("events", __name__, url_prefix="/api", abp_tags=[Tag(name="events")])
log = logging.getLogger(__name__)

BROADCASTER_KEY = "glyphaneme-broadcaster"
KEEP_ALIVE_S = 10.0
RETRY_S = 1.0
NOTICES_KEPT = 256
# A page that has just come may have missed anything.
CATCH_UP = {"kind": "catch_up"}


class Broadcaster:
    """Listens once per process and passes every notice on to all open pages."""

    def __init__(self, listen: Callable[[], Iterable[dict[str, Any]]]) -> None:
        self._listen = listen
        self._pages: set[queue.Queue[dict[str, Any]]] = set()
        self._lock = threading.Lock()
        self._thread: threading.Thread | None = None

    def subscribe(self) -> queue.Queue[dict[str, Any]]:
        """Return a queue that fills with notices from now on."""
        page: queue.Queue[dict[str, Any]] = queue.Queue(NOTICES_KEPT)
        with self._lock:
            self._pages.add(page)
            if self._thread is None:
                self._thread = threading.Thread(target=self._pump, daemon=True)
                self._thread.start()
        return page

    def unsubscribe(self, page: queue.Queue[dict[str, Any]]) -> None:
        """Stop filling a queue."""
        with self._lock:
            self._pages.discard(page)

    def _pump(self) -> None:
        while True:
            try:
                for notice in self._listen():
                    self._pass_on(notice)
            except OSError:
                log.warning("notices interrupted", extra={"action": "listen_retry"})
            time.sleep(RETRY_S)

    def _pass_on(self, notice: dict[str, Any]) -> None:
        with self._lock:
            for page in self._pages:
                try:
                    page.put_nowait(notice)
                except queue.Full:
                    log.warning("slow page", extra={"action": "notice_dropped"})


@api.get("/events", responses={200: {"content": {"text/event-stream": {}}}})
def get_events() -> Response:
    """Stream notices: `project`, `job`, `shelf`, `wall` and `catch_up`."""
    broadcaster: Broadcaster = current_app.extensions[BROADCASTER_KEY]
    page = broadcaster.subscribe()
    response = Response(_stream(page), content_type="text/event-stream")
    response.headers["Cache-Control"] = "no-store"
    response.call_on_close(lambda: broadcaster.unsubscribe(page))
    return response


def _stream(page: queue.Queue[dict[str, Any]]) -> Iterator[str]:
    yield f"data: {json.dumps(CATCH_UP)}\n\n"
    while True:
        try:
            notice = page.get(timeout=KEEP_ALIVE_S)
        except queue.Empty:
            yield ": still here\n\n"
        else:
            yield f"data: {json.dumps(notice)}\n\n"
