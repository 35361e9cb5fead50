"""What the database keeps, and what it refuses by itself."""

from __future__ import annotations

import hashlib
import io
import uuid
from typing import TYPE_CHECKING

import pytest
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError, IntegrityError

from glyphaneme.store.blobs import (
    PIECE_BYTES,
    blob_pieces,
    blob_size,
    keep_blob,
)
from glyphaneme.store.jobs import (
    add_job,
    change_open_job,
    find_job,
    open_jobs,
    pictures_being_read,
)
from glyphaneme.store.notices import CATCH_UP, listen, notify
from glyphaneme.store.pictures import add_picture, find_pictures, list_pictures
from glyphaneme.store.projects import (
    add_project,
    add_revision,
    is_ancestor,
    leaves,
    list_projects,
    mark_removed,
    path_from_root,
    path_from_snapshot,
    stand_at,
)
from glyphaneme.store.rows import JobKind, JobRow, PictureRow, RevisionRow

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy.orm import Session

    from glyphaneme.services.studio import Studio


@pytest.fixture
def session(studio: Studio) -> Iterator[Session]:
    with studio.sessions() as session:
        yield session


def count(session: Session, table: str) -> int:
    return session.scalar(text(f"SELECT count(*) FROM {table}"))


def picture(session: Session, data: bytes = b"moths", **fields: object) -> PictureRow:
    sha256 = keep_blob(session, io.BytesIO(data))
    row = PictureRow(
        **{
            "sha256": sha256,
            "name": "Moths",
            "format": "PNG",
            "width": 4,
            "height": 3,
            **fields,
        }
    )
    return add_picture(session, row)[0]


def project(session: Session) -> tuple[uuid.UUID, uuid.UUID]:
    """Return a new project's id and its root revision's."""
    row, _ = add_project(
        session,
        project_id=uuid.uuid4(),
        name="Poster",
        snapshot={"root": True},
        label="Begun",
    )
    return row.id, row.head_id


def revision(
    session: Session,
    project_id: uuid.UUID,
    parent: uuid.UUID,
    depth: int,
    snapshot: dict | None = None,
) -> uuid.UUID:
    row = RevisionRow(
        id=uuid.uuid4(),
        project_id=project_id,
        parent_id=parent,
        depth=depth,
        edit={"depth": depth},
        snapshot=snapshot,
        label=f"Step {depth}",
    )
    add_revision(session, row)
    return row.id


@pytest.mark.parametrize("size", [0, 1, PIECE_BYTES, PIECE_BYTES + 1])
def test_bytes_come_back_in_pieces_as_they_were(session: Session, size: int) -> None:
    data = bytes(range(256)) * (size // 256) + bytes(size % 256)

    sha256 = keep_blob(session, io.BytesIO(data))

    assert sha256 == hashlib.sha256(data).hexdigest()
    assert b"".join(blob_pieces(session, sha256)) == data
    assert blob_size(session, sha256) == size


def test_same_bytes_are_stored_once(session: Session) -> None:
    first = keep_blob(session, io.BytesIO(b"same"))
    second = keep_blob(session, io.BytesIO(b"same"))

    assert first == second
    assert count(session, "blob_piece") == 1


def test_picture_of_the_same_bytes_is_the_one_that_is_there(session: Session) -> None:
    first = picture(session, name="Moths")
    again = picture(session, name="Other name")

    assert again.id == first.id
    assert again.name == "Moths"
    assert [row.id for row in find_pictures(session, [first.id, uuid.uuid4()])] == [
        first.id
    ]


def test_shelf_lists_the_newest_picture_first(session: Session) -> None:
    names = ["One", "Two", "Three"]
    for name in names:
        picture(session, name.encode(), name=name)
        session.commit()

    assert [row.name for row in list_pictures(session)] == names[::-1]


@pytest.mark.parametrize(
    "fields", [{"width": 0}, {"height": -1}, {"name": ""}, {"sha256": "0" * 64}]
)
def test_database_refuses_pictures_that_cannot_be(
    session: Session, fields: dict[str, object]
) -> None:
    with pytest.raises(IntegrityError):
        picture(session, **fields)


def test_path_is_walked_from_the_nearest_snapshot_only(session: Session) -> None:
    project_id, root = project(session)
    one = revision(session, project_id, root, 1)
    two = revision(session, project_id, one, 2, snapshot={"two": True})
    three = revision(session, project_id, two, 3)

    steps = path_from_snapshot(session, three)

    assert [step.id for step in steps] == [two, three]
    assert steps[0].snapshot == {"two": True}
    assert path_from_root(session, three) == [root, one, two, three]


def test_ways_end_in_leaves_and_know_their_ancestors(session: Session) -> None:
    project_id, root = project(session)
    one = revision(session, project_id, root, 1)
    left = revision(session, project_id, one, 2)
    right = revision(session, project_id, one, 2)

    assert set(leaves(session, project_id)) == {left, right}
    assert is_ancestor(session, root, right)
    assert is_ancestor(session, right, right)
    assert not is_ancestor(session, left, right)


def test_removed_project_is_off_the_list_and_the_last_changed_comes_first(
    session: Session,
) -> None:
    ids = []
    for _ in range(3):
        ids.append(project(session)[0])
        session.commit()
    rows = {row.id: row for row in list_projects(session)}

    mark_removed(rows[ids[1]], removed=True)
    stand_at(session, rows[ids[0]], rows[ids[0]].head_id, tip=rows[ids[0]].tip_id)
    session.commit()

    assert [row.id for row in list_projects(session)] == [ids[0], ids[2]]


def test_database_refuses_revisions_that_cannot_be(session: Session) -> None:
    project_id, root = project(session)
    session.commit()

    with pytest.raises(IntegrityError):
        revision(session, project_id, root, 0)
    session.rollback()
    with pytest.raises(IntegrityError):
        revision(session, project_id, uuid.uuid4(), 1)
    session.rollback()
    session.execute(text("UPDATE project SET head_id = :id"), {"id": uuid.uuid4()})
    with pytest.raises(IntegrityError):
        session.commit()


def test_job_that_is_over_is_not_changed_any_more(session: Session) -> None:
    row = picture(session)
    job, _ = add_job(session, JobRow(kind=JobKind.READ_PICTURE, picture_id=row.id))

    assert pictures_being_read(session, [row.id]) == {row.id}
    assert change_open_job(session, job.id, state="done", progress=1.0) is not None
    assert change_open_job(session, job.id, state="running") is None
    assert pictures_being_read(session, [row.id]) == set()
    assert open_jobs(session) == []
    found = find_job(session, job.id)
    assert found is not None
    assert found.state == "done"


def test_database_refuses_jobs_that_cannot_be(session: Session) -> None:
    row = picture(session)
    job, _ = add_job(session, JobRow(kind=JobKind.READ_PICTURE, picture_id=row.id))
    session.commit()

    for changes in ({"progress": 1.5}, {"state": "asleep"}):
        with pytest.raises(DBAPIError):
            change_open_job(session, job.id, **changes)
        session.rollback()


def test_listener_hears_what_is_committed_and_nothing_else(
    session: Session, database_url: str
) -> None:
    heard = listen(database_url)
    first = next(heard)

    notify(session, {"kind": "wall"})
    session.rollback()
    notify(session, {"kind": "shelf"})
    session.commit()

    assert first == CATCH_UP
    assert next(heard) == {"kind": "shelf"}
    heard.close()


def test_lost_server_is_told_to_the_listener() -> None:
    with pytest.raises(ConnectionError):
        next(listen("postgresql://nobody@127.0.0.1:9/nothing?connect_timeout=2"))
