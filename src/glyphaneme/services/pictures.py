"""Bringing pictures in, and looking at what is on the shelf."""

from __future__ import annotations

import re
import uuid
from datetime import datetime
from pathlib import PurePosixPath, PureWindowsPath
from typing import TYPE_CHECKING, BinaryIO, NamedTuple

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import identify_picture, media_type_of, read_picture
from glyphaneme.services.errors import (
    LibraryPictureError,
    NamelessFileError,
    NotThereError,
)
from glyphaneme.services.studio import stream_file
from glyphaneme.store import pictures as pictures_store
from glyphaneme.store.blobs import blob_size, keep_blob
from glyphaneme.store.jobs import add_job, pictures_being_read
from glyphaneme.store.notices import notify
from glyphaneme.store.queue import enqueue
from glyphaneme.store.rows import JobKind, JobRow, PictureRow
from glyphaneme.store.uses import list_uses

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.services.studio import Visit


LONGEST_NAME = 80


class UsedIn(BaseModel):
    """A project that shows a picture."""

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    name: str


class Picture(BaseModel):
    """A picture on the shelf; `ready` once it has been read in."""

    model_config = ConfigDict(frozen=True)

    id: uuid.UUID
    name: str
    format: str
    width: int
    height: int
    ready: bool
    note: str | None
    """What people should know of how it was taken, such as that its file has pages."""
    has_map: bool
    """Whether its file says where on a map it lies."""
    on_shelf: bool
    """Whether somebody brought it in; else it comes from the library alone."""
    library: str | None
    """What the product's own library calls it."""
    used_in: list[UsedIn]
    """The projects that show it as they stand, last changed first."""
    created_at: datetime


class BroughtIn(Picture):
    """A picture that was just brought in; `job_id` reads it in, where it is new."""

    job_id: uuid.UUID | None
    was_there: bool


def bring_in(
    visit: Visit, file: BinaryIO, *, file_name: str, on_shelf: bool = True
) -> BroughtIn:
    """Keep a file as a picture that is called as the file is, and have it read in.

    The whole file is decoded first, so that what cannot be shown is refused at once
    and leaves nothing behind (`PictureRefusedError`). What is not for the shelf stays
    there all the same, where it was brought in for it before or is later.
    """
    return bring_in_as(visit, file, name=name_from_file(file_name), on_shelf=on_shelf)


def bring_in_as(
    visit: Visit,
    file: BinaryIO,
    *,
    name: str,
    on_shelf: bool,
    library: str | None = None,
) -> BroughtIn:
    """Keep a file as a picture under a name, and have it read in, as `bring_in` does.

    `library` is what the product's own library calls it.
    """
    facts = identify_picture(file)
    read_picture(file)
    row, added = pictures_store.add_picture(
        visit.session,
        PictureRow(
            sha256=keep_blob(visit.session, file),
            name=name,
            format=facts.format,
            width=facts.width,
            height=facts.height,
            note=facts.note,
            map_tags=facts.map_tags,
            on_shelf=on_shelf,
            library=library,
        ),
    )
    row.on_shelf = row.on_shelf or on_shelf
    row.library = row.library or library
    job_id = _have_it_read(visit, row) if added else None
    picture = _picture(row, _beside(visit, [row.id]))
    return BroughtIn(**picture.model_dump(), job_id=job_id, was_there=not added)


def name_from_file(file_name: str) -> str:
    """Turn a file's name into one for people: "forest-dusk.jpg" to "Forest dusk".

    Raises
    ------
    NamelessFileError
        Nothing of the name can be read.
    """
    base = PureWindowsPath(PurePosixPath(file_name).name).name
    stem = base.rsplit(".", 1)[0] if not base.startswith(".") else base[1:]
    words = re.sub(r"[_\-\s]+", " ", "".join(filter(str.isprintable, stem))).strip()
    if not words:
        raise NamelessFileError
    return (words[0].upper() + words[1:])[:LONGEST_NAME]


def list_shelf(visit: Visit) -> list[Picture]:
    """Return all pictures of the shelf and those of the library, newest first."""
    rows = pictures_store.list_pictures(visit.session)
    beside = _beside(visit, [row.id for row in rows])
    return [_picture(row, beside) for row in rows]


def get_picture(visit: Visit, picture_id: uuid.UUID) -> Picture:
    """Return one picture."""
    row = _require(visit, picture_id)
    return _picture(row, _beside(visit, [row.id]))


def rename_picture(visit: Visit, picture_id: uuid.UUID, name: str) -> None:
    """Call a picture something else; layers keep the names that they have.

    Raises
    ------
    NotThereError
        There is no such picture.
    LibraryPictureError
        It is one of the library, which nobody owns.
    """
    row = _require(visit, picture_id)
    if row.library is not None:
        raise LibraryPictureError(row.name)
    row.name = name
    notify(visit.session, {"kind": "shelf"})


def put_on_shelf(visit: Visit, picture_id: uuid.UUID, *, on_shelf: bool) -> None:
    """Take a picture off the shelf or put it back; projects keep what they show.

    Raises
    ------
    NotThereError
        There is no such picture.
    """
    _require(visit, picture_id).on_shelf = on_shelf
    notify(visit.session, {"kind": "shelf"})


def get_thumbnail(visit: Visit, picture_id: uuid.UUID) -> bytes:
    """Return a small copy of a picture, as a JPEG or PNG file."""
    return visit.studio.shelf.thumbnail(
        visit.session, _require(visit, picture_id).sha256
    )


class OriginalFile(NamedTuple):
    """A picture's file as it was brought in, piece by piece."""

    media_type: str
    size: int
    pieces: Iterator[bytes]


def original_file(visit: Visit, picture_id: uuid.UUID) -> OriginalFile:
    """Return a picture's file as it was brought in."""
    row = _require(visit, picture_id)
    return OriginalFile(
        media_type=media_type_of(row.format),
        size=blob_size(visit.session, row.sha256),
        pieces=stream_file(visit.studio, row.sha256),
    )


def _have_it_read(visit: Visit, row: PictureRow) -> uuid.UUID:
    job, _ = add_job(
        visit.session, JobRow(kind=JobKind.READ_PICTURE, picture_id=row.id)
    )
    enqueue(visit.session, job.kind, job.id)
    notify(visit.session, {"kind": "shelf"})
    return job.id


def _require(visit: Visit, picture_id: uuid.UUID) -> PictureRow:
    row = pictures_store.find_picture(visit.session, picture_id)
    if row is None:
        raise NotThereError("picture")
    return row


class _Beside(NamedTuple):
    """What is known of pictures beside their rows."""

    being_read: set[uuid.UUID]
    uses: dict[uuid.UUID, list[UsedIn]]


def _beside(visit: Visit, pictures: list[uuid.UUID]) -> _Beside:
    uses: dict[uuid.UUID, list[UsedIn]] = {}
    only = pictures[0] if len(pictures) == 1 else None
    for use in list_uses(visit.session, only):
        used_in = UsedIn(id=use.project_id, name=use.project_name)
        uses.setdefault(use.picture_id, []).append(used_in)
    return _Beside(pictures_being_read(visit.session, pictures), uses)


def _picture(row: PictureRow, beside: _Beside) -> Picture:
    return Picture(
        id=row.id,
        name=row.name,
        format=row.format,
        width=row.width,
        height=row.height,
        ready=row.id not in beside.being_read,
        note=row.note,
        has_map=row.map_tags is not None,
        on_shelf=row.on_shelf,
        library=row.library,
        used_in=beside.uses.get(row.id, []),
        created_at=row.created_at,
    )
