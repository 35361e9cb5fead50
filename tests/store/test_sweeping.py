"""The sweep lets go of what nobody needs, and of nothing else."""

from __future__ import annotations

import io
import threading
from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING

import pytest
from sqlalchemy import text

from glyphaneme.services.sweeping import sweep
from glyphaneme.store.blobs import blob_pieces, keep_blob
from glyphaneme.store.jobs import add_job, change_open_job
from glyphaneme.store.projects import add_standing
from glyphaneme.store.rows import JobKind, JobRow, StandingRow
from tests.store.test_keeping import count, picture, project

if TYPE_CHECKING:
    import uuid
    from collections.abc import Iterator

    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

    from glyphaneme.services.studio import Studio


def bytes_left(studio: Studio) -> set[bytes]:
    with studio.sessions() as session:
        return {
            b"".join(blob_pieces(session, sha256))
            for (sha256,) in session.execute(text("SELECT sha256 FROM blob"))
        }


def aged(session: Session, table: str, row_id: uuid.UUID, column: str) -> None:
    session.execute(
        text(
            f"UPDATE {table} SET {column} = now() - interval '20 days' WHERE id = :id"
        ),
        {"id": row_id},
    )


def export(session: Session, data: bytes) -> uuid.UUID:
    """Add a finished file."""
    job, _ = add_job(
        session,
        JobRow(
            kind=JobKind.EXPORT,
            project_id=project(session)[0],
            request={"format": "png"},
        ),
    )
    sha256 = keep_blob(session, io.BytesIO(data))
    change_open_job(session, job.id, state="done", progress=1.0, result_sha256=sha256)
    return job.id


def test_old_files_go_with_their_bytes_and_pictures_stay(studio: Studio) -> None:
    with studio.sessions.begin() as session:
        picture(session, b"on the shelf")
        export(session, b"new")
        aged(session, "job", export(session, b"old"), "changed_at")
        keep_blob(session, io.BytesIO(b"of nobody"))

    sweep(studio)

    assert bytes_left(studio) == {b"on the shelf", b"new"}
    with studio.sessions() as session:
        assert count(session, "blob_piece") == 2


def test_work_that_is_not_over_is_kept_however_old(studio: Studio) -> None:
    with studio.sessions.begin() as session:
        row = picture(session)
        job, _ = add_job(session, JobRow(kind=JobKind.READ_PICTURE, picture_id=row.id))
        aged(session, "job", job.id, "changed_at")

    sweep(studio)

    with studio.sessions() as session:
        assert count(session, "job") == 1


def test_old_moves_are_forgotten_and_new_ones_kept(studio: Studio) -> None:
    with studio.sessions.begin() as session:
        project_id, root = project(session)
        for age in ("old", "new"):
            move = StandingRow(project_id=project_id, to_id=root)
            move.id = project(session)[0]
            add_standing(session, move)
            if age == "old":
                aged(session, "standing", move.id, "created_at")

    sweep(studio)

    with studio.sessions() as session:
        assert count(session, "standing") == 1


@pytest.fixture
def mattes(engine: Engine) -> Iterator[None]:
    """Make a table that refers to blobs, and that the sweep was not written for."""
    with engine.begin() as connection:
        connection.execute(text("CREATE SCHEMA later"))
        connection.execute(
            text('CREATE TABLE later."Matte" ("of" varchar REFERENCES public.blob)')
        )
    yield
    with engine.begin() as connection:
        connection.execute(text("DROP SCHEMA later CASCADE"))


@pytest.mark.usefixtures("mattes")
def test_bytes_that_a_later_table_refers_to_are_kept(studio: Studio) -> None:
    with studio.sessions.begin() as session:
        sha256 = keep_blob(session, io.BytesIO(b"a matte"))
        keep_blob(session, io.BytesIO(b"of nobody"))
        session.execute(
            text('INSERT INTO later."Matte" VALUES (:sha256)'), {"sha256": sha256}
        )

    sweep(studio)

    assert bytes_left(studio) == {b"a matte"}


@pytest.mark.parametrize("was_there", [True, False])
def test_upload_under_way_keeps_its_bytes(studio: Studio, *, was_there: bool) -> None:
    if was_there:
        with studio.sessions.begin() as session:
            keep_blob(session, io.BytesIO(b"moths"))
    with studio.sessions.begin() as session:
        keep_blob(session, io.BytesIO(b"moths"))
        sweeping = threading.Thread(target=sweep, args=(studio,))
        sweeping.start()
        sweeping.join(20)
        assert not sweeping.is_alive()
        picture(session, b"moths")

    sweep(studio)

    assert bytes_left(studio) == {b"moths"}


def test_uploads_beside_many_sweeps_all_succeed(studio: Studio) -> None:
    done = threading.Event()

    def go_on_sweeping() -> None:
        while not done.is_set():
            sweep(studio)

    def bring_in(number: int) -> None:
        # Half of them find bytes that nobody refers to, and that may be swept now.
        data = b"moth %d" % (number // 2)
        with studio.sessions.begin() as session:
            keep_blob(session, io.BytesIO(data))
            if number % 2:
                picture(session, data)

    with ThreadPoolExecutor(6) as pool:
        sweepers = [pool.submit(go_on_sweeping) for _ in range(2)]
        try:
            list(pool.map(bring_in, range(120)))
        finally:
            done.set()
        for sweeper in sweepers:
            sweeper.result()
    sweep(studio)

    assert bytes_left(studio) == {b"moth %d" % number for number in range(60)}
