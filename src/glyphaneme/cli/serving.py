"""Runs the whole product: database, web server, worker, and demo data if wanted."""

from __future__ import annotations

import http.client
import os
import socket
import sys
import time
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryFile
from typing import TYPE_CHECKING

from glyphaneme.cli.postgres import PrivateCluster
from glyphaneme.cli.processes import (
    Keeper,
    Watched,
    hear_signals,
    start_beneath_us,
    stop_all,
    watch_until_told,
)
from glyphaneme.cli.warming import is_cold, warm_up
from glyphaneme.store.upgrading import prepare_database

if TYPE_CHECKING:
    import subprocess

READY_WITHIN_S = 90.0
LEAST_ROOM = 2**20
"""Bytes without which nothing begins: a database that finds no room stops at once."""
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


def prepare(home: Path) -> None:
    """Make the private database and its tables where there is none yet."""
    _require_writable(home)
    cluster = PrivateCluster(home)
    if os.environ.get("GLYPHANEME_DATABASE_URL") or cluster.is_made:
        return
    try:
        prepare_database(cluster.start())
    finally:
        cluster.stop()


def serve(options: ServeOptions) -> None:
    """Start everything, say where it is, and stop it all on Ctrl-C."""
    _require_free_port(options)
    _require_writable(options.home)
    if is_cold():
        _say("Compiling the compositor, once for this machine …")
        warm_up(options.host, options.port)
    given = os.environ.get("GLYPHANEME_DATABASE_URL")
    cluster = None if given else PrivateCluster(options.home)
    watched: list[Watched] = []
    loading: DemoLoading | None = None
    try:
        url = given or (cluster.start() if cluster else "")
        prepare_database(url)
        environment = _environment(options, url)
        web = ["-m", "glyphaneme", "web", "--host", options.host]
        watched.append(Watched([*web, "--port", str(options.port)], environment))
        _wait_until_ready(options, watched)
        # Only now: they would take the processors from what is looked at first.
        watched += [
            Watched(["-m", "glyphaneme", name], environment)
            for name in ("worker", "behind")
        ]
        # Before anyone is told that it is open: they may close it at once.
        told = hear_signals()
        _say(f"Glyphaneme is open at http://{_shown_host(options)}:{options.port}")
        _say("Ctrl-C closes it; everything saved stays.")
        # The database first: what needs it dies without it.
        keepers: list[Keeper] = [*([cluster] if cluster else []), *watched]
        if options.with_demo and not _mark_of(options).exists():
            loading = DemoLoading(options)
            keepers.append(loading)
        watch_until_told(keepers, told)
    finally:
        if loading is not None:
            loading.stop()
        stop_all(watched)
        if cluster is not None:
            cluster.stop()


def _require_writable(home: Path) -> None:
    """Make the folder that everything is kept in, and write there for a trial.

    Raises
    ------
    ServingError
        Nothing can be written there.
    """
    try:
        home.mkdir(parents=True, exist_ok=True)
        with TemporaryFile(dir=home) as trial:
            trial.write(bytes(LEAST_ROOM))
    except OSError as error:
        why = (error.strerror or str(error)).lower()
        message = (
            f"{home} must take what is made here, and does not: {why}. Nothing was "
            "changed; free some room there, or name another folder with --home DIR."
        )
        raise ServingError(message) from error


def _environment(options: ServeOptions, url: str) -> dict[str, str]:
    return {
        "GLYPHANEME_DATABASE_URL": url,
        "GLYPHANEME_HOME": str(options.home),
        "GLYPHANEME_HOSTS": options.host,
    }


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


class DemoLoading:
    """Builds the demo projects, once, through the public HTTP interface alone.

    It goes on beside what people do meanwhile; one that was stopped goes on at the
    next start.
    """

    def __init__(self, options: ServeOptions) -> None:
        _say("The demo pictures are being hung; each shows as soon as it is there.")
        script = CHECKOUT / "demo" / "build_demo.py"
        address = f"http://{_shown_host(options)}:{options.port}"
        self._mark = _mark_of(options)
        self._building: subprocess.Popen[bytes] | None = start_beneath_us(
            [str(script), address], {}
        )

    def stop(self) -> None:
        """End it where it is."""
        if self._building is not None:
            self._building.kill()
            self._building.wait()

    def keep_running(self) -> None:
        """Look whether it is done, and say so."""
        if self._building is None or self._building.poll() is None:
            return
        if self._building.returncode == 0:
            self._mark.touch()
            _say("All demo pictures hang.")
        else:
            _say("Not all demo pictures could be hung; why is said above.")
            _say("What hangs can be used; the next start tries again.")
        self._building = None


def _mark_of(options: ServeOptions) -> Path:
    return options.home / "demo-loaded"


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
