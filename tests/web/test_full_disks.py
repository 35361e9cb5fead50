"""A disk that is full, and a folder that nobody may write to."""

from __future__ import annotations

import logging
import subprocess
import uuid
from dataclasses import replace
from typing import TYPE_CHECKING

import pytest
from flask import Flask
from psycopg.errors import ConnectionException, DiskFull
from sqlalchemy.exc import OperationalError

from glyphaneme.services.kinds import WORK
from glyphaneme.services.room import NO_ROOM
from glyphaneme.services.shelf import PixelShelf
from glyphaneme.services.working import run_job
from glyphaneme.store.pictures import find_picture
from glyphaneme.store.rows import JobKind
from glyphaneme.web.problems import map_problems
from tests.commands import run_here
from tests.services.test_working import state
from tests.web.test_http import bring_in, jpeg

if TYPE_CHECKING:
    from collections.abc import Iterator
    from pathlib import Path

    from flask.testing import FlaskClient

    from glyphaneme.services.studio import Studio

logging.getLogger("glyphaneme").setLevel(logging.CRITICAL)


@pytest.fixture
def full(tmp_path: Path) -> Iterator[Path]:
    """Return a folder of 64 kB that takes no more."""
    folder = tmp_path / "full"
    folder.mkdir()
    mounted = subprocess.run(
        ["/bin/mount", "-t", "tmpfs", "-o", "size=64k", "tmpfs", folder], check=False
    )
    if mounted.returncode:
        pytest.skip("only who may mount a disk can fill one")
    with pytest.raises(OSError, match="No space"), (folder / "filled").open("wb") as it:
        it.write(bytes(100_000))
    yield folder
    subprocess.run(["/bin/umount", folder], check=True)


def test_pictures_are_shown_though_nothing_can_be_kept_of_them(
    client: FlaskClient, studio: Studio, full: Path, tmp_path: Path
) -> None:
    (tmp_path / "note.txt").write_text("a file where a folder should be")

    for width, folder in ((400, full), (500, tmp_path / "note.txt")):
        picture = bring_in(client, jpeg(width, 300)).get_json()
        job = uuid.UUID(picture["job_id"])
        narrow = replace(studio, shelf=PixelShelf(folder / "cache"))
        run_job(narrow, job, WORK[JobKind.READ_PICTURE])
        assert (state(studio, job).state, state(studio, job).error) == ("done", None)
        with narrow.sessions() as session:
            row = find_picture(session, uuid.UUID(picture["id"]))
            assert row is not None
            assert narrow.shelf.thumbnail(session, row.sha256)


@pytest.mark.parametrize(
    ("error", "status", "words"),
    [
        (OperationalError("", {}, DiskFull("could not extend file")), 507, "is full"),
        (OSError(28, "No space left on device"), 507, "is full"),
        (OSError(30, "Read-only file system"), 507, "may not be written"),
        (OperationalError("", {}, ConnectionException("gone")), 503, "not answer"),
        (OSError(5, "Input/output error"), 500, "on our side"),
    ],
)
def test_full_disk_is_told_as_what_it_is(
    error: Exception, status: int, words: str
) -> None:
    app = Flask("full")
    map_problems(app)

    @app.post("/")
    def fail() -> None:
        raise error

    answer = app.test_client().post("/")

    assert answer.status_code == status
    assert words in answer.get_json()["detail"]


def test_work_that_finds_no_room_says_so_and_is_not_begun_again(
    client: FlaskClient, studio: Studio
) -> None:
    job = uuid.UUID(bring_in(client, jpeg()).get_json()["job_id"])

    def work(*_: object) -> None:
        raise OperationalError("", {}, DiskFull("could not extend file"))

    run_job(studio, job, work)

    assert (state(studio, job).state, state(studio, job).error) == ("failed", NO_ROOM)


@pytest.mark.parametrize("command", ["demo", "start", "prepare"])
def test_home_that_cannot_be_written_is_told_in_a_sentence(
    command: str, full: Path
) -> None:
    for home in ("/sys/glyphaneme", full):
        done = run_here(command, "--home", home, "--port", 0)

        assert done.returncode == 1
        assert f"{home} must take what is made here, and does not: " in done.stderr
        assert "--home DIR" in done.stderr
        assert "Traceback" not in done.stderr
