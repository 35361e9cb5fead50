"""The whole product as people run it: started, killed and stopped by tests."""

from __future__ import annotations

import json
import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
STARTS_WITHIN_S = 90


class Product:
    """One running Glyphaneme with a home of its own.

    It keeps what it keeps in a database server of its own, unless told another.
    """

    def __init__(self, database_url: str | None = None) -> None:
        self._database_url = database_url
        # Not below pytest's own folder, which the database's user may not enter.
        self.home = Path(tempfile.mkdtemp(prefix="glyphaneme-home-"))
        self.home.chmod(0o755)
        self.port = free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[str] | None = None

    def start(self, command: str = "start", **environment: str) -> None:
        self.begin(command, **environment)
        self.wait_for_its_word()

    def begin(self, command: str = "start", **environment: str) -> None:
        """Start it without waiting until it is open."""
        if self._database_url is not None:
            environment["GLYPHANEME_DATABASE_URL"] = self._database_url
        self.process = subprocess.Popen(
            [sys.executable, "-m", "glyphaneme", command]
            + ["--home", str(self.home), "--port", str(self.port)],
            stdout=subprocess.PIPE,
            text=True,
            cwd=ROOT,
            env={**os.environ, **environment},
        )

    def wait_for_its_word(self) -> None:
        """Wait until it says that it is open.

        Raises
        ------
        AssertionError
            It ended before.
        """
        assert self.process is not None
        assert self.process.stdout is not None
        for line in self.process.stdout:
            if "is open at" in line:
                return
        message = "the product ended before it was open"
        raise AssertionError(message)

    def stop(self) -> int:
        assert self.process is not None
        self.process.send_signal(signal.SIGINT)
        return self._ended()

    def kill_launcher(self) -> None:
        """Kill the launcher with -9; what it started must see to itself."""
        assert self.process is not None
        self.process.kill()
        self._ended()

    def close(self) -> None:
        """Stop it, if it runs, and remove its home."""
        if self.process is not None and self.process.poll() is None:
            self.stop()
        shutil.rmtree(self.home, ignore_errors=True)

    def _ended(self) -> int:
        assert self.process is not None
        status = self.process.wait(30)
        if self.process.stdout is not None:
            self.process.stdout.close()
        return status

    def processes(self, *words: str) -> list[int]:
        """Return the processes of this product whose command line has all the words."""
        found = []
        for entry in Path("/proc").iterdir():
            if not entry.name.isdigit():
                continue
            try:
                command = (entry / "cmdline").read_bytes().decode().replace("\0", " ")
                home = f"GLYPHANEME_HOME={self.home}\0".encode()
                ours = home in (entry / "environ").read_bytes() + b"\0"
            except OSError:
                continue
            if (ours or str(self.home) in command) and all(
                word in command for word in words
            ):
                found.append(int(entry.name))
        return found

    def kill(self, *words: str) -> None:
        """Kill with -9 what the words name."""
        killed = self.processes(*words)
        assert killed, f"no process has {words}"
        for number in killed:
            os.kill(number, signal.SIGKILL)

    def get(self, path: str) -> Any:
        with urllib.request.urlopen(self.address + path, timeout=30) as answer:
            return json.load(answer)

    def post(self, path: str, body: object) -> Any:
        return json.loads(self.fetch(path, body))

    def fetch(self, path: str, body: object) -> bytes:
        request = urllib.request.Request(
            self.address + path,
            json.dumps(body).encode(),
            {"Content-Type": "application/json"},
        )
        with urllib.request.urlopen(request, timeout=30) as answer:
            found: bytes = answer.read()
        return found

    def health(self) -> int:
        """Return the status of the health check; 0 where there is no answer."""
        try:
            with urllib.request.urlopen(f"{self.address}/api/health", timeout=10) as ok:
                return int(ok.status)
        except urllib.error.HTTPError as error:
            return error.code
        except OSError:
            return 0

    def database_address(self) -> str:
        """Return the database's address as the web server was told."""
        web = self.processes("glyphaneme web")[0]
        given = Path(f"/proc/{web}/environ").read_bytes().split(b"\0")
        return next(one for one in given if b"DATABASE_URL" in one).decode()

    def bring_in(self, path: Path, name: str | None = None) -> Any:
        body = (
            b'--x\r\nContent-Disposition: form-data; name="file"; filename="'
            + (name or path.name).encode()
            + b'"\r\n\r\n'
            + path.read_bytes()
            + b"\r\n--x--\r\n"
        )
        request = urllib.request.Request(
            f"{self.address}/api/pictures",
            body,
            {"Content-Type": "multipart/form-data; boundary=x"},
        )
        with urllib.request.urlopen(request, timeout=60) as answer:
            return json.load(answer)

    def wait_until_open(self) -> None:
        wait_for(self._answers)

    def _answers(self) -> bool:
        try:
            return self.get("/api/health")["status"] == "ok"
        except OSError:
            return False


def wait_for(holds: Any, *, within_s: float = 40) -> Any:
    """Return what `holds` returns as soon as that is true."""
    deadline = time.monotonic() + within_s
    while True:
        found = holds()
        if found:
            return found
        assert time.monotonic() < deadline, "it did not come true in time"
        time.sleep(0.1)


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
