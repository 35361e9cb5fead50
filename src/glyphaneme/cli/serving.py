"""Runs the whole product: database, web server, worker, and demo data if wanted."""

from __future__ import annotations

import http.client
import os
import socket
import subprocess
import sys
import time
from dataclasses import dataclass
from pathlib import Path

from glyphaneme.cli.postgres import PrivateCluster
from glyphaneme.cli.processes import (
    Watched,
    hear_signals,
    stop_all,
    watch_until_told,
)
from glyphaneme.cli.warming import is_cold, warm_up
from glyphaneme.store.upgrading import prepare_database

READY_WITHIN_S = 90.0
EVERYWHERE = "0.0.0.0"  # noqa: S104  # only where the person asks for it
CHECKOUT = Path(__file__).parents[3]


class ServingError(RuntimeError):
    """The product could not be started; the message tells why."""


@dataclass(frozen=True)
class ServeOptions:
    """Where to serve, where everything lies, and whether to load demo data."""

    host: str
    port: int
    home: Path
    with_demo: bool


def serve(options: ServeOptions) -> None:
    """Start everything, say where it is, and stop it all on Ctrl-C."""
    _require_free_port(options)
    options.home.mkdir(parents=True, exist_ok=True)
    if is_cold():
        _say("Compiling the compositor, once for this machine …")
        warm_up(options.host, options.port)
    given = os.environ.get("GLYPHANEME_DATABASE_URL")
    cluster = None if given else PrivateCluster(options.home)
    watched: list[Watched] = []
    try:
        url = given or (cluster.start() if cluster else "")
        prepare_database(url)
        watched += _start_processes(options, url)
        _wait_until_ready(options, watched)
        if options.with_demo:
            _load_demo(options)
        # Before anyone is told that it is open: they may close it at once.
        told = hear_signals()
        _say(f"Glyphaneme is open at http://{_shown_host(options)}:{options.port}")
        _say("Ctrl-C closes it; everything saved stays.")
        # The database first: what needs it dies without it.
        watch_until_told([*([cluster] if cluster else []), *watched], told)
    finally:
        stop_all(watched)
        if cluster is not None:
            cluster.stop()


def _start_processes(options: ServeOptions, url: str) -> list[Watched]:
    environment = {
        "GLYPHANEME_DATABASE_URL": url,
        "GLYPHANEME_HOME": str(options.home),
        "GLYPHANEME_HOSTS": options.host,
    }
    web = ["-m", "glyphaneme", "web", "--host", options.host]
    web += ["--port", str(options.port)]
    return [
        Watched(web, environment),
        Watched(["-m", "glyphaneme", "worker"], environment),
    ]


def _wait_until_ready(options: ServeOptions, watched: list[Watched]) -> None:
    deadline = time.monotonic() + READY_WITHIN_S
    while not _answers(options):
        if watched[0].process.poll() is not None:
            message = "the web server ended at once; its own words are above"
            raise ServingError(message)
        if time.monotonic() > deadline:
            message = f"the web server did not answer within {READY_WITHIN_S:.0f} s"
            raise ServingError(message)
        time.sleep(0.1)


def _answers(options: ServeOptions) -> bool:
    connection = http.client.HTTPConnection(
        _shown_host(options).strip("[]"), options.port, timeout=5
    )
    try:
        connection.request("GET", "/api/health")
        return connection.getresponse().status == http.HTTPStatus.OK
    except OSError:
        return False
    finally:
        connection.close()


def _load_demo(options: ServeOptions) -> None:
    """Build the demo projects, once, through the public HTTP interface alone.

    Raises
    ------
    ServingError
        The script failed.
    """
    mark = options.home / "demo-loaded"
    if mark.exists():
        return
    _say("Bringing in the demo photos …")
    script = CHECKOUT / "demo" / "build_demo.py"
    address = f"http://{_shown_host(options)}:{options.port}"
    done = subprocess.run([sys.executable, str(script), address], check=False)
    if done.returncode != 0:
        message = "the demo projects could not be built; its own words are above"
        raise ServingError(message)
    mark.touch()


def _require_free_port(options: ServeOptions) -> None:
    with socket.socket(
        socket.AF_INET6 if ":" in options.host else socket.AF_INET
    ) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((options.host, options.port))
        except OSError as cause:
            message = (
                f"port {options.port} on {options.host} must be free: "
                f"{cause.strerror}. Choose another with --port."
            )
            raise ServingError(message) from cause


def _shown_host(options: ServeOptions) -> str:
    return "127.0.0.1" if options.host == EVERYWHERE else _bracketed(options.host)


def _bracketed(host: str) -> str:
    return f"[{host}]" if ":" in host else host


def _say(text: str) -> None:
    sys.stdout.write(f"{text}\n")
    sys.stdout.flush()
