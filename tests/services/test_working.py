"""Long work: progress, cancel, failure, and what people are told of it."""

from __future__ import annotations

import io
import threading
import time
import uuid
from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING

import psycopg
import pytest
from PIL import Image
from sqlalchemy import event, text
from sqlalchemy.exc import OperationalError

from glyphaneme.jobs.worker import work_off
from glyphaneme.services import working
from glyphaneme.services.errors import DATABASE_AWAY, JobCancelledError, NotThereError
from glyphaneme.services.pictures import bring_in
from glyphaneme.services.working import Progress, cancel_job, get_job, run_job
from glyphaneme.store.blobs import blob_pieces, keep_blob
from glyphaneme.store.jobs import add_job, begin_attempt, find_job
from glyphaneme.store.pictures import add_picture
from glyphaneme.store.queue import WAITED_FOR
from glyphaneme.store.rows import JobKind, JobRow, PictureRow

if TYPE_CHECKING:
    from sqlalchemy import Connection

    from glyphaneme.services.studio import Studio


@pytest.fixture
def job(studio: Studio) -> uuid.UUID:
    with studio.sessions.begin() as session:
        sha256 = keep_blob(session, io.BytesIO(b"moths"))
        row, _ = add_picture(
            session,
            PictureRow(sha256=sha256, name="Moths", format="PNG", width=1, height=1),
        )
        return add_job(session, JobRow(kind=JobKind.READ_PICTURE, picture_id=row.id))[
            0
        ].id


def state(studio: Studio, job_id: uuid.UUID) -> working.Job:
    with studio.looking() as visit:
        return get_job(visit, job_id)


def test_work_is_shown_running_and_then_done_with_its_file(
    studio: Studio, job: uuid.UUID
) -> None:
    seen = []

    def work(studio: Studio, row: JobRow, progress: Progress) -> None:
        seen.append(state(studio, row.id))
        progress.finish(io.BytesIO(b"a finished file"))

    run_job(studio, job, work)

    assert (seen[0].state, seen[0].progress) == ("running", 0)
    done = state(studio, job)
    assert (done.state, done.progress) == ("done", 1)
    with studio.sessions() as session:
        row = find_job(session, job)
        assert row is not None
        assert row.result_sha256 is not None
        assert b"".join(blob_pieces(session, row.result_sha256)) == b"a finished file"


def test_reports_may_come_as_often_as_they_like(studio: Studio, job: uuid.UUID) -> None:
    progress = Progress(studio, job, attempt=0)

    for step in range(1000):
        progress.report(step / 1000)

    assert state(studio, job).progress < 0.9
    time.sleep(working.REPORT_EVERY_S)
    progress.report(0.95)
    assert state(studio, job).progress == pytest.approx(0.95)


def test_cancelled_work_stops_at_its_next_report(
    studio: Studio, job: uuid.UUID
) -> None:
    reached = []

    def work(studio: Studio, row: JobRow, progress: Progress) -> None:
        with studio.changing() as visit:
            cancel_job(visit, row.id)
        time.sleep(working.REPORT_EVERY_S)
        progress.report(0.5)
        reached.append("beyond")

    run_job(studio, job, work)

    assert reached == []
    assert state(studio, job).state == "cancelled"


def test_refusal_is_told_in_its_own_words(studio: Studio, job: uuid.UUID) -> None:
    def work(*_: object) -> None:
        raise NotThereError("picture on the shelf")

    run_job(studio, job, work)

    failed = state(studio, job)
    assert failed.state == "failed"
    assert failed.error == (
        "There is no such picture on the shelf; it may have been removed."
    )


def test_unexpected_failure_is_told_kindly_and_raised(
    studio: Studio, job: uuid.UUID
) -> None:
    def work(*_: object) -> None:
        message = "index 7 is out of bounds"
        raise IndexError(message)

    with pytest.raises(IndexError):
        run_job(studio, job, work)

    failed = state(studio, job)
    assert failed.error is not None
    assert "Nothing you made is lost" in failed.error
    assert "index" not in failed.error


def test_job_that_was_cancelled_before_it_began_does_nothing(
    studio: Studio, job: uuid.UUID
) -> None:
    with studio.changing() as visit:
        cancel_job(visit, job)

    run_job(studio, job, lambda *_: pytest.fail("it must not run"))

    assert state(studio, job).state == "cancelled"
    with pytest.raises(JobCancelledError):
        Progress(studio, job, attempt=0).finish()


def test_unknown_job_is_not_there(studio: Studio) -> None:
    with studio.looking() as visit, pytest.raises(NotThereError):
        get_job(visit, uuid.uuid4())
    run_job(studio, uuid.uuid4(), lambda *_: pytest.fail("it must not run"))


def result(studio: Studio, job_id: uuid.UUID) -> bytes:
    with studio.sessions() as session:
        row = find_job(session, job_id)
        assert row is not None
        return b"".join(blob_pieces(session, row.result_sha256 or ""))


def test_worker_that_was_taken_for_dead_changes_nothing_any_more(
    studio: Studio, job: uuid.UUID
) -> None:
    def slow(studio: Studio, row: JobRow, progress: Progress) -> None:
        run_job(studio, row.id, lambda *run: run[2].finish(io.BytesIO(b"second")))
        progress.finish(io.BytesIO(b"first"))

    run_job(studio, job, slow)

    assert result(studio, job) == b"second"
    with studio.sessions() as session:
        assert session.scalar(text("SELECT count(*) FROM blob")) == 2


def test_what_an_earlier_attempt_found_is_not_the_result_of_the_later_one(
    studio: Studio, job: uuid.UUID
) -> None:
    def overtaken(studio: Studio, row: JobRow, progress: Progress) -> None:
        with studio.sessions.begin() as session:
            begin_attempt(session, row.id)
        progress.finish(io.BytesIO(b"first"))

    run_job(studio, job, overtaken)

    assert state(studio, job).state == "running"
    assert result(studio, job) == b""


def test_failure_of_an_earlier_attempt_does_not_end_the_later_one(
    studio: Studio, job: uuid.UUID
) -> None:
    def overtaken(studio: Studio, row: JobRow, _: Progress) -> None:
        with studio.sessions.begin() as session:
            begin_attempt(session, row.id)
        raise NotThereError("picture on the shelf")

    run_job(studio, job, overtaken)

    assert state(studio, job).state == "running"


def test_work_delivered_again_after_its_end_is_not_done_again(
    studio: Studio, job: uuid.UUID
) -> None:
    run_job(studio, job, lambda *run: run[2].finish(io.BytesIO(b"done")))

    run_job(studio, job, lambda *_: pytest.fail("it must not run"))

    assert result(studio, job) == b"done"


def test_one_job_run_by_many_workers_at_once_has_one_result(
    studio: Studio, job: uuid.UUID
) -> None:
    together = threading.Barrier(3)

    def work(_studio: Studio, row: JobRow, progress: Progress) -> None:
        together.wait(20)
        progress.finish(io.BytesIO(b"by attempt %d" % row.attempts))

    with ThreadPoolExecutor(4) as pool:
        for run in [pool.submit(run_job, studio, job, work) for _ in range(3)]:
            run.result()

    assert result(studio, job) == b"by attempt 3"
    with studio.sessions() as session:
        assert session.scalar(text("SELECT count(*) FROM blob")) == 2


def test_work_that_kills_its_worker_again_and_again_is_given_up_with_a_reason(
    studio: Studio, job: uuid.UUID
) -> None:
    for _ in range(working.MAX_ATTEMPTS):
        with studio.sessions.begin() as session:
            begin_attempt(session, job)

    run_job(studio, job, lambda *_: pytest.fail("it must not run"))

    ended = state(studio, job)
    assert ended.state == "failed"
    assert "begun 3 times" in (ended.error or "")


def test_work_that_the_database_cut_off_is_done_after_all(
    studio: Studio, job: uuid.UUID
) -> None:
    def cut_off(studio: Studio, *_: object) -> None:
        with studio.sessions() as session, studio.sessions() as other:
            backend = session.scalar(text("SELECT pg_backend_pid()"))
            other.execute(text("SELECT pg_terminate_backend(:pid)"), {"pid": backend})
            session.execute(text("SELECT 1"))

    for _ in range(2):
        with pytest.raises(DATABASE_AWAY):
            run_job(studio, job, cut_off)
        assert state(studio, job).state == "running"

    run_job(studio, job, lambda *run: run[2].finish(io.BytesIO(b"third time")))
    assert result(studio, job) == b"third time"


def test_work_that_is_cut_off_every_time_is_given_up(
    studio: Studio, job: uuid.UUID
) -> None:
    """The queue delivers it again and again; how often it is tried is said here."""

    def cut_off(*_: object) -> None:
        raise OperationalError("SELECT 1", {}, Exception("connection is lost"))

    for _ in range(working.MAX_ATTEMPTS):
        with pytest.raises(DATABASE_AWAY):
            run_job(studio, job, cut_off)
    run_job(studio, job, cut_off)

    assert "the database went away" in (state(studio, job).error or "")


def test_queue_delivers_again_what_a_lost_connection_cut_off(
    studio: Studio, database_url: str
) -> None:
    """The first statement that reads the picture's bytes loses its connection."""
    cut_off = []

    def lose(connection: Connection, _cursor: object, said: str, *_: object) -> None:
        if "FROM blob" in said and not cut_off:
            cut_off.append(said)
            backend = connection.connection.driver_connection.info.backend_pid
            with psycopg.connect(database_url, autocommit=True) as other:
                other.execute("SELECT pg_terminate_backend(%s)", (backend,))

    file = io.BytesIO()
    Image.new("RGB", (40, 30), "navy").save(file, "PNG")
    with studio.changing() as visit:
        brought = bring_in(visit, file, file_name="night.png")
    assert brought.job_id is not None
    engine = studio.sessions.kw["bind"]
    event.listen(engine, "before_cursor_execute", lose)

    until = time.monotonic() + 60
    while state(studio, brought.job_id).state != "done" and time.monotonic() < until:
        work_off(database_url, studio, WAITED_FOR)
    event.remove(engine, "before_cursor_execute", lose)

    assert cut_off
    assert state(studio, brought.job_id).state == "done"
