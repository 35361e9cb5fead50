"""Long work: progress, cancel, failure, and what people are told of it."""

from __future__ import annotations

import io
import time
import uuid
from typing import TYPE_CHECKING

import pytest

from glyphaneme.services import working
from glyphaneme.services.errors import JobCancelledError, NotThereError
from glyphaneme.services.working import Progress, cancel_job, get_job, run_job
from glyphaneme.store.blobs import blob_pieces, keep_blob
from glyphaneme.store.jobs import add_job, find_job
from glyphaneme.store.pictures import add_picture
from glyphaneme.store.rows import JobRow, PictureRow

if TYPE_CHECKING:
    from glyphaneme.services.studio import Studio


@pytest.fixture
def job(studio: Studio) -> uuid.UUID:
    with studio.sessions.begin() as session:
        sha256 = keep_blob(session, io.BytesIO(b"moths"))
        row, _ = add_picture(
            session,
            PictureRow(sha256=sha256, name="Moths", format="PNG", width=1, height=1),
        )
        return add_job(session, JobRow(kind="read_picture", picture_id=row.id))[0].id


def state(studio: Studio, job_id: uuid.UUID) -> working.Job:
    with studio.sessions() as session:
        return get_job(session, job_id)


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
    progress = Progress(studio, job)

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
        with studio.sessions.begin() as session:
            cancel_job(session, row.id)
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
    with studio.sessions.begin() as session:
        cancel_job(session, job)

    run_job(studio, job, lambda *_: pytest.fail("it must not run"))

    assert state(studio, job).state == "cancelled"
    with pytest.raises(JobCancelledError):
        Progress(studio, job).report(0.1)


def test_unknown_job_is_not_there(studio: Studio) -> None:
    with studio.sessions() as session, pytest.raises(NotThereError):
        get_job(session, uuid.uuid4())
    run_job(studio, uuid.uuid4(), lambda *_: pytest.fail("it must not run"))
