"""What the web server runs: the Flask application in threads, and event streams."""

from __future__ import annotations

from typing import TYPE_CHECKING

from a2wsgi import WSGIMiddleware

from glyphaneme.web.events import PATH, EventStreams
from glyphaneme.web.problems import MEDIA_TYPE, problem_body

if TYPE_CHECKING:
    from flask import Flask

    from glyphaneme.web.events import Receive, Scope, Send

THREADS = 32
ODD_ADDRESS = problem_body(
    400, "invalid-request", "An address must be ASCII; percent-encode all else."
)


class Gateway:
    """Hands each request to the part that answers it."""

    def __init__(self, app: Flask, streams: EventStreams) -> None:
        self._in_threads = WSGIMiddleware(app, workers=THREADS)  # type: ignore[arg-type]  # start_response's type is narrower there
        self._streams = streams

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request."""
        if scope["type"] == "http" and scope["path"] == PATH:
            await self._streams(scope, receive, send)
        elif scope["type"] == "http" and not scope["query_string"].isascii():
            await _answer_odd_address(send)
        else:
            await self._in_threads(scope, receive, send)  # type: ignore[arg-type]  # typed dictionaries there


async def _answer_odd_address(send: Send) -> None:
    headers = [(b"content-type", MEDIA_TYPE.encode())]
    await send({"type": "http.response.start", "status": 400, "headers": headers})
    await send({"type": "http.response.body", "body": ODD_ADDRESS.encode()})
