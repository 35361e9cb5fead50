"""Taking the backdrop away: mattes that are found once, and kept."""

from __future__ import annotations

import hashlib
import io
from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import decode_matte, encode_matte
from glyphaneme.core.cutout import doubtful_places
from glyphaneme.core.mask import Mask, MattePart, Raster
from glyphaneme.core.render import own_colors_by, own_pyramid
from glyphaneme.services.errors import NetworkMissingError, NotThereError
from glyphaneme.services.matting import (
    Cut,
    CutRequest,
    MatteMade,
    key_of,
    made_matte,
)
from glyphaneme.services.networks import LARGE, LIGHT
from glyphaneme.services.working import Job, begin_job
from glyphaneme.store.blobs import blob_pieces, keep_blob
from glyphaneme.store.mattes import find_matte, is_kept, keep_matte
from glyphaneme.store.pictures import find_picture
from glyphaneme.store.rows import JobKind, JobRow, MatteRow
from glyphaneme.store.waiting import BEHIND

if TYPE_CHECKING:
    import uuid

    from glyphaneme.core.cutout import MatteU8
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.render import Assets
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Progress
    from glyphaneme.store.database import Session
    from glyphaneme.store.rows import PictureRow

LOCK = "cutting"
"""One at a time: a second would only take the processors from the first."""
NEXT_PRIORITY = -10
Haste = Literal["now", "next", "whenever"]
"""Whether somebody waits for it, may look at it next, or does neither."""
BEGUN_SHARE, SEEN_SHARE, FOUND_SHARE = 0.05, 0.5, 0.9


class FoundMatte(BaseModel):
    """A matte that was found; a rough one is followed by a better."""

    model_config = ConfigDict(frozen=True)

    matte: str
    level: int
    subjects: int = 0
    """How many can be told apart; 0 where there is one."""
    rough: bool = False


class CutAnswer(BaseModel):
    """What was found already, or the work that finds it."""

    model_config = ConfigDict(frozen=True)

    found: FoundMatte | None = None
    job: Job | None = None


class NetworkChoice(BaseModel):
    """A network that can be asked for."""

    model_config = ConfigDict(frozen=True)

    name: str
    title: str
    licence: str


def list_networks(studio: Studio) -> list[NetworkChoice]:
    """Return the networks that are there, the one that is asked first foremost."""
    found = studio.networks.manifests
    order = sorted(found, key=lambda name: (name != LARGE, name == LIGHT, name))
    return [NetworkChoice.model_validate(found[name].model_dump()) for name in order]


def start_cut(
    visit: Visit,
    picture_id: uuid.UUID,
    *,
    key: uuid.UUID,
    request: CutRequest,
    haste: Haste = "now",
) -> CutAnswer:
    """Return a matte of a picture, or have it found.

    What was found once is there at once. What is wanted next comes after all that
    somebody waits for; what is wanted whenever that may be stands back besides, and
    holds up nothing else.

    Raises
    ------
    NotThereError
        There is no such picture.
    NetworkMissingError
        There is no network to find it.
    KeyReusedError
        `key` came before with another request.
    """
    row = _require_picture(visit.session, picture_id)
    named = key_of(row.sha256, request, visit.studio.networks)
    kept = find_matte(visit.session, named)
    if kept is not None:
        return CutAnswer(found=_found(kept))
    wanted = JobRow(
        id=key,
        kind=JobKind.CUT_OUT,
        picture_id=picture_id,
        request=request.model_dump(mode="json"),
        file_name=row.name,
    )
    if haste == "whenever":
        return CutAnswer(job=begin_job(visit, wanted, lock=BEHIND, queue=BEHIND))
    priority = NEXT_PRIORITY if haste == "next" else 0
    return CutAnswer(job=begin_job(visit, wanted, lock=LOCK, priority=priority))


class DoubtfulPlace(BaseModel):
    """Where a matte is unsure, in the picture's own pixels."""

    model_config = ConfigDict(frozen=True)

    x: float
    y: float
    reach: float


def list_doubts(visit: Visit, sha256: str, *, level: int) -> list[DoubtfulPlace]:
    """Return where a matte is least sure, the largest places first.

    Raises
    ------
    NotThereError
        There is no such matte.
    """
    if not is_kept(visit.session, sha256):
        raise NotThereError("matte")
    size = 2.0**level
    return [
        DoubtfulPlace(x=one.x * size, y=one.y * size, reach=one.reach * size)
        for one in doubtful_places(matte_of(visit, sha256))
    ]


def known_matte(visit: Visit, sha256: str, request: CutRequest) -> FoundMatte | None:
    """Return a matte of a picture that was found before, by its file."""
    try:
        named = key_of(sha256, request, visit.studio.networks)
    except NetworkMissingError:
        return None
    kept = find_matte(visit.session, named)
    return None if kept is None else _found(kept)


def matte_of(visit: Visit, sha256: str) -> MatteU8:
    """Return a matte by its name.

    Raises
    ------
    NotThereError
        There is no such matte.
    """
    data = b"".join(blob_pieces(visit.session, sha256))
    if not data:
        raise NotThereError("matte")
    return decode_matte(data)


def cut_out(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Find a matte, and keep it; a rough one is shown on the way.

    Raises
    ------
    NoSubjectFoundError
        Nothing stands out, and nobody said where to look.
    """
    request = CutRequest.model_validate(job.request)
    with studio.sessions() as session:
        if job.picture_id is None:
            return
        row = _require_picture(session, job.picture_id)
        named = key_of(row.sha256, request, studio.networks)
        kept = find_matte(session, named)
        pyramid = studio.shelf.pyramid(session, row.sha256)
    if kept is not None:
        progress.finish(found=_found(kept).model_dump())
        return
    progress.report(BEGUN_SHARE)
    cut = Cut.of(studio, row.sha256, pyramid, request)
    if request.begins and cut.evidence.stands_out:
        rough, level = cut.rough()
        progress.report(SEEN_SHARE)
        progress.show(
            io.BytesIO(encode_matte(rough)),
            lambda sha256: FoundMatte(
                matte=sha256, level=level, rough=True
            ).model_dump(),
        )
    made = made_matte(cut, row.name)
    progress.report(FOUND_SHARE)

    def kept_by(session: Session, sha256: str) -> dict[str, object]:
        return _keep(session, named, made, sha256).model_dump()

    # Before it is told: the first frame with the cut shows the subject's own colours.
    _make_ready(studio, str(job.picture_id), pyramid, made)
    progress.finish(io.BytesIO(made.file), kept=kept_by)


def found_now(studio: Studio, picture_id: uuid.UUID, request: CutRequest) -> FoundMatte:
    """Return a matte of a picture, found on the spot unless it was found before.

    Raises
    ------
    NotThereError
        There is no such picture.
    NetworkMissingError
        There is no network to find it.
    NoSubjectFoundError
        Nothing stands out, and nobody said where to look.
    """
    with studio.sessions() as session:
        row = _require_picture(session, picture_id)
        named = key_of(row.sha256, request, studio.networks)
        kept = find_matte(session, named)
        if kept is not None:
            return _found(kept)
        pyramid = studio.shelf.pyramid(session, row.sha256)
    made = made_matte(Cut.of(studio, row.sha256, pyramid, request), row.name)
    _make_ready(studio, str(picture_id), pyramid, made)
    with studio.sessions.begin() as session:
        return _keep(session, named, made, keep_blob(session, io.BytesIO(made.file)))


def _keep(session: Session, named: str, made: MatteMade, sha256: str) -> FoundMatte:
    found = MatteRow(key=named, sha256=sha256, level=made.level, subjects=made.subjects)
    keep_matte(session, found)
    return _found(found)


def _make_ready(
    studio: Studio, picture: str, pyramid: Pyramid, made: MatteMade
) -> None:
    """Reckon the subject's own colours, and keep them."""
    named = hashlib.sha256(made.file).hexdigest()
    part = MattePart(id=LOCK, picture=picture, matte=named, level=made.level)
    own = own_colors_by(picture, Mask(parts=(part,), cleaned=1.0))
    if own is None or studio.shelf.own_colors(own.name) is not None:
        return
    assets: Assets = {picture: pyramid, part.raster: Raster(made.matte, part.share)}
    studio.shelf.keep_own_colors(own.name, own_pyramid(own, assets))


def keep_brought(session: Session, data: bytes, level: int) -> str:
    """Keep a matte that came with a file; return its name.

    Raises
    ------
    PictureRefusedError
        It is none.
    """
    decode_matte(data)
    sha256 = keep_blob(session, io.BytesIO(data))
    named = hashlib.sha256(f"brought {sha256}".encode()).hexdigest()
    keep_matte(session, MatteRow(key=named, sha256=sha256, level=level, subjects=0))
    return sha256


def _require_picture(session: Session, picture_id: uuid.UUID) -> PictureRow:
    row = find_picture(session, picture_id)
    if row is None:
        raise NotThereError("picture")
    return row


def _found(row: MatteRow) -> FoundMatte:
    return FoundMatte(matte=row.sha256, level=row.level, subjects=row.subjects)
