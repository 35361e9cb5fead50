"""Shows a page of its own while the compositor is compiled, once for a machine."""

from __future__ import annotations

import http.server
import os
import subprocess
import sys
import time
from http import HTTPStatus
from pathlib import Path

from glyphaneme.core import kernels

USUAL_S = 60.0
LOOK_EVERY_S = 0.2
WHOLE = "whole"
"""A file of this name lies beside kernels once all are compiled."""
PAGE = """<!doctype html><html lang="en"><meta charset="utf-8">
<meta http-equiv="refresh" content="1"><title>Glyphaneme is getting ready</title>
<style>body{{font:17px Georgia,serif;background:#f5f1e8;color:#25221d;display:grid;
place-content:center;height:90vh;text-align:center}}progress{{width:22rem}}</style>
<h1>Getting the compositor ready</h1>
<p>It is compiled once on this machine; later starts take seconds.</p>
<p><progress aria-label="Compiling" max="100" value="{percent}"></progress></p>
<p>{words}</p></html>"""


class WarmingError(RuntimeError):
    """The compositor could not be compiled."""


def is_cold() -> bool:
    """Tell whether starting would have to compile first."""
    folder = os.environ.get("NUMBA_CACHE_DIR")
    return folder is not None and not (Path(folder) / WHOLE).exists()


def compile_all() -> None:
    """Compile what is not compiled yet, by a process for each share.

    Raises
    ------
    WarmingError
        The compiler ended with an error.
    """
    _finish(_begin())


def warm_up(host: str, port: int) -> None:
    """Compile, and answer every request meanwhile with how far that is.

    Raises
    ------
    WarmingError
        The compiler ended with an error.
    """
    began = time.monotonic()

    class Answer(http.server.BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            page = _page(time.monotonic() - began).encode()
            self.send_response(HTTPStatus.SERVICE_UNAVAILABLE)
            self.send_header("Content-Type", "text/html; charset=utf-8")
            self.send_header("Content-Length", str(len(page)))
            self.send_header("Retry-After", "1")
            self.end_headers()
            self.wfile.write(page)

        def log_message(self, *_: object) -> None:
            pass

    compiling = _begin()
    try:
        # In this thread: processes may only be started where no other thread runs.
        with http.server.HTTPServer((host, port), Answer) as server:
            server.timeout = LOOK_EVERY_S
            while any(one.poll() is None for one in compiling):
                server.handle_request()
    except BaseException:
        for one in compiling:
            one.kill()
        raise
    _finish(compiling)


def _begin() -> list[subprocess.Popen[bytes]]:
    return [
        subprocess.Popen([sys.executable, "-m", kernels.__name__, str(share)])
        for share in range(len(kernels.SHARES))
    ]


def _finish(compiling: list[subprocess.Popen[bytes]]) -> None:
    """Wait for all; note where the kernels lie that they are whole.

    Raises
    ------
    WarmingError
        The compiler ended with an error.
    """
    statuses = [one.wait() for one in compiling]
    if any(statuses):
        message = "the compositor could not be compiled; the reason is above"
        raise WarmingError(message)
    folder = os.environ.get("NUMBA_CACHE_DIR")
    if folder is not None:
        (Path(folder) / WHOLE).touch()


def _page(passed_s: float) -> str:
    left = USUAL_S - passed_s
    words = f"About {left:.0f} seconds more." if left > 1 else "A moment more."
    # Never full before it is done.
    percent = min(round(100 * passed_s / USUAL_S), 97)
    return PAGE.format(percent=percent, words=words)


if __name__ == "__main__" and is_cold():
    compile_all()
