"""Runs the web server until it is told to stop."""

from __future__ import annotations

from typing import TYPE_CHECKING

import uvicorn

if TYPE_CHECKING:
    from types import FrameType

    from glyphaneme.web.events import Broadcaster
    from glyphaneme.web.gateway import Gateway

KEEP_ALIVE_S = 75
GRACE_S = 3


class _Server(uvicorn.Server):
    """Ends open streams first when it is told to stop: they never end by themselves."""

    def __init__(self, config: uvicorn.Config, broadcaster: Broadcaster) -> None:
        super().__init__(config)
        self._broadcaster = broadcaster

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        self._broadcaster.close()
        super().handle_exit(sig, frame)


def run_server(
    gateway: Gateway, broadcaster: Broadcaster, *, host: str, port: int
) -> None:
    """Serve until SIGTERM or SIGINT."""
    config = uvicorn.Config(
        gateway,
        host=host,
        port=port,
        loop="uvloop",
        http="httptools",
        ws="none",
        lifespan="off",
        access_log=False,
        log_level="warning",
        server_header=False,
        proxy_headers=False,
        timeout_keep_alive=KEEP_ALIVE_S,
        timeout_graceful_shutdown=GRACE_S,
    )
    _Server(config, broadcaster).run()
