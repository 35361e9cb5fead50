"""Many pictures by one plan: made in the background, paused, gone on with, gathered."""

from __future__ import annotations

import hashlib
import logging
import tempfile
import uuid
import zipfile
from datetime import datetime
from typing import TYPE_CHECKING, Any, BinaryIO, Final, Literal, NamedTuple, cast

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.codecs import PictureRefusedError
from glyphaneme.core.document.naming import Name
from glyphaneme.core.errors import CoreError
from glyphaneme.core.finish import About, FileFormat, FileSettings
from glyphaneme.core.finish.settings import LAYERED
from glyphaneme.core.plans import Filling, empty_slots, plan_json, read_plan
from glyphaneme.core.values import with_fields
from glyphaneme.services.assets import assets_of
from glyphaneme.services.errors import (
    DATABASE_AWAY,
    JobCancelledError,
    NotThereError,
    ServiceError,
    SlotsEmptyError,
)
from glyphaneme.services.file_requests import file_name
from glyphaneme.services.file_writing import write_file
from glyphaneme.services.filing import Making, require_size
from glyphaneme.services.many import unlike
from glyphaneme.services.plans.beginning import begin_from_plan
from glyphaneme.services.plans.finding import found_whole
from glyphaneme.services.profiles import printer_of
from glyphaneme.services.working import (
    MAX_ATTEMPTS,
    OUR_FAULT,
    Job,
    begin_job,
    job_of,
    resume_job,
)
from glyphaneme.store import batches as batches_store
from glyphaneme.store.blobs import blob_pieces, keep_blob
from glyphaneme.store.jobs import find_job
from glyphaneme.store.rows import BatchItemRow, JobKind, JobRow
from glyphaneme.store.waiting import BEHIND

if TYPE_CHECKING:
    from glyphaneme.core.plans import Plan
    from glyphaneme.services.plans.finding import FoundWhole
    from glyphaneme.services.studio import Studio, Visit
    from glyphaneme.services.working import Progress

log = logging.getLogger(__name__)
MOST_ITEMS: Final = 10_000
MOST_LISTED: Final = 100
MOST_BATCHES: Final = 20
LOCK: Final = "batch"
DOUBTFUL: Final = 0.35
"""How unsure a cut-out is that is worth a look."""
REFUSALS: Final = (ServiceError, CoreError, PictureRefusedError)
WORN_OUT: Final = (
    "This one was begun several times, and each time the work was cut off. It may be "
    "too large for this machine; the others went on."
)
Keep = Literal["projects", "files"]


class NewItem(BaseModel):
    """One picture that is to be made."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    name: Name
    filling: Filling


class NewBatch(BaseModel):
    """Many pictures that are to be made, and what becomes of them."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    items: tuple[NewItem, ...] = Field(min_length=1, max_length=MOST_ITEMS)
    keep: Keep = "projects"
    settings: FileSettings | None = None
    """Of the files; as for the web where nothing is said."""


class BatchItem(BaseModel):
    """One picture of a batch, as far as it is."""

    model_config = ConfigDict(frozen=True)

    number: int
    name: str
    state: Literal["waiting", "made", "failed"]
    said: str | None
    is_doubtful: bool
    """Whether its cut-outs are so unsure that it is worth a look."""
    project_id: uuid.UUID | None


class Batch(BaseModel):
    """Many pictures by one plan: what failed first, then what is worth a look."""

    model_config = ConfigDict(frozen=True)

    job: Job
    plan: str
    title: str
    keep: Keep
    count: int
    made: int
    failed: int
    doubtful: int
    begun_at: datetime
    items: list[BatchItem]


class _Request(BaseModel):
    """What is kept of what was asked for."""

    model_config = ConfigDict(frozen=True)

    plan: dict[str, Any]
    keep: Keep
    settings: FileSettings | None
    count: int
    items: str
    """The SHA-256 of what is to be made, by which the same request is known again."""


def start_batch(
    visit: Visit, plan: Plan, wanted: NewBatch, *, batch_id: uuid.UUID
) -> Job:
    """Have many pictures made; with the same id, they are made once.

    Raises
    ------
    KeyReusedError
        The id came before with another request.
    """
    request = _Request(
        plan=plan_json(plan),
        keep=wanted.keep,
        settings=wanted.settings,
        count=len(wanted.items),
        items=hashlib.sha256(wanted.model_dump_json().encode()).hexdigest(),
    )
    known = find_job(visit.session, batch_id)
    job = begin_job(
        visit,
        JobRow(
            id=batch_id,
            kind=JobKind.BATCH,
            request=request.model_dump(mode="json"),
            file_name=file_name(plan.title, "zip"),
        ),
        lock=LOCK,
        queue=BEHIND,
    )
    if known is None:
        items = [
            {
                "job_id": batch_id,
                "number": number,
                "name": one.name,
                "filling": one.filling.model_dump(mode="json"),
            }
            for number, one in enumerate(wanted.items, 1)
        ]
        batches_store.add_items(visit.session, items)
    return job


def get_batch(visit: Visit, batch_id: uuid.UUID, *, start: int = 0) -> Batch:
    """Return a batch, and some of its pictures from a place on.

    Raises
    ------
    NotThereError
        There is no such batch.
    """
    row = _require(visit, batch_id)
    batch = _batch(visit, row)
    items = batches_store.list_items(
        visit.session, batch_id, beyond=DOUBTFUL, start=start, most=MOST_LISTED
    )
    return with_fields(batch, items=[_item(one) for one in items])


def list_batches(visit: Visit) -> list[Batch]:
    """Return the newest batches, without their pictures."""
    rows = batches_store.list_batches(visit.session, most=MOST_BATCHES)
    return [_batch(visit, row) for row in rows]


def resume_batch(visit: Visit, batch_id: uuid.UUID) -> Job:
    """Let a batch that rests go on.

    Raises
    ------
    NotThereError
        There is no such batch.
    """
    _require(visit, batch_id)
    return resume_job(visit, batch_id, lock=LOCK, queue=BEHIND)


def make_batch(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Make all pictures of a batch; one that cannot be made stops no other.

    Cut off, it goes on with the one that it was at.
    """
    request = _Request.model_validate(job.request)
    work = _Work(studio, read_plan(request.plan), request, progress)
    while True:
        with studio.sessions.begin() as session:
            item = batches_store.begin_next(session, job.id)
            counts = batches_store.count_items(session, job.id)
        done = request.count - counts.get("waiting", 0)
        # Paused or stopped, it ends here.
        progress.tell(done / (request.count + 1), _found(counts))
        if item is None:
            break
        ended = work.ended(item)
        with studio.sessions.begin() as session:
            batches_store.end_item(session, job.id, item.number, **ended)
    if request.keep == "projects" or not counts.get("made"):
        progress.finish(found=_found(counts))
        return
    with tempfile.TemporaryFile() as file:
        target = cast("BinaryIO", file)
        _pack(studio, job.id, _settings(request), target)
        target.seek(0)
        progress.finish(target, found=_found(counts))
    with studio.sessions.begin() as session:
        batches_store.let_files_go(session, job.id)


def _found(counts: dict[str, int]) -> dict[str, Any]:
    return {"made": counts.get("made", 0), "failed": counts.get("failed", 0)}


class _Work(NamedTuple):
    studio: Studio
    plan: Plan
    request: _Request
    progress: Progress

    def ended(self, item: BatchItemRow) -> dict[str, object]:
        """Make one picture; return what became of it.

        Raises
        ------
        JobCancelledError
            The batch was paused or stopped.
        DATABASE_AWAY
            It is to be begun again.
        """
        if item.tries > MAX_ATTEMPTS:
            return {"state": "failed", "said": WORN_OUT}
        try:
            return self._made(item)
        except (JobCancelledError, *DATABASE_AWAY):
            raise
        except REFUSALS as refusal:
            return {"state": "failed", "said": str(refusal)}
        except Exception:
            log.exception("picture of a batch", extra={"action": "batch_item_failed"})
            return {"state": "failed", "said": OUR_FAULT}

    def _made(self, item: BatchItemRow) -> dict[str, object]:
        """Make one picture.

        Raises
        ------
        SlotsEmptyError
            Photos are missing that it needs.
        """
        studio, plan = self.studio, self.plan
        filling = with_fields(Filling.model_validate(item.filling), name=item.name)
        lacking = empty_slots(plan, filling)
        if lacking:
            raise SlotsEmptyError([slot.title for slot in lacking])
        share = (item.number - 1) / (self.request.count + 1)
        watching = _Watching(self.progress, share)
        found = found_whole(studio, plan, filling, watching)
        _require_photos(filling, found)
        ended: dict[str, object] = {
            "state": "made",
            "doubt": _doubt(found),
            "said": " ".join(found.in_vain) or None,
        }
        if self.request.keep == "projects":
            new = {"project_id": uuid.uuid5(item.job_id, str(item.number))}
            with studio.changing() as visit:
                begin_from_plan(visit, plan, filling, **new, found=found)
            return {**ended, **new}
        with tempfile.TemporaryFile() as file:
            target = cast("BinaryIO", file)
            _write(studio, found, _settings(self.request), target, watching)
            target.seek(0)
            with studio.sessions.begin() as session:
                return ended | {"file_sha256": keep_blob(session, target)}


class _Watching:
    """Hears of one picture only whether the batch was paused or stopped."""

    def __init__(self, progress: Progress, share: float) -> None:
        self._progress = progress
        self._share = share

    def report(self, _share: float, /) -> None:
        """Hear it."""
        self._progress.report(self._share)


def _require_photos(filling: Filling, found: FoundWhole) -> None:
    """Require that all photos are there.

    Raises
    ------
    NotThereError
        One is not.
    """
    for pictures in filling.photos.values():
        for picture in pictures:
            if picture not in found.result.known.photos:
                what = "photo on the shelf"
                raise NotThereError(what)


def _doubt(found: FoundWhole) -> float | None:
    """Return how unsure the least sure cut-out is; 1 where one was sought in vain."""
    if found.in_vain:
        return 1.0
    doubts = [
        1 - facts.subject.certainty
        for facts in found.result.known.photos.values()
        if facts.cut is not None and facts.subject is not None
    ]
    return max(doubts, default=None)


def _settings(request: _Request) -> FileSettings:
    return request.settings or FileSettings(format=FileFormat.JPEG, quality=90)


def _write(
    studio: Studio,
    found: FoundWhole,
    settings: FileSettings,
    target: BinaryIO,
    progress: _Watching,
) -> None:
    composite = found.result.composite
    if settings.format == LAYERED:
        message = "Layered files are saved from pictures on the wall: hang them there."
        raise ServiceError(message)
    with studio.looking() as visit:
        assets = assets_of(visit, composite)
        profile, printer = printer_of(visit, settings.coloring)
    making = Making(
        composite,
        composite.layers,
        assets,
        settings,
        profile=profile,
        printer=printer,
        about=About(),
    )
    require_size(making.dimensions, settings)
    write_file(making, target, progress)


def _pack(
    studio: Studio, job_id: uuid.UUID, settings: FileSettings, target: BinaryIO
) -> None:
    """Write all files of a batch into one ZIP."""
    ending = FileFormat(settings.format).facts.ending
    names = set[str]()
    with studio.sessions() as session, zipfile.ZipFile(target, "w") as pack:
        for name, sha256 in batches_store.made_files(session, job_id):
            entry = unlike(file_name(name, ending), names)
            with pack.open(entry, "w", force_zip64=True) as packed:
                for piece in blob_pieces(session, sha256):
                    packed.write(piece)


def _require(visit: Visit, batch_id: uuid.UUID) -> JobRow:
    row = find_job(visit.session, batch_id)
    if row is None or row.kind != JobKind.BATCH:
        raise NotThereError("batch")
    return row


def _batch(visit: Visit, row: JobRow) -> Batch:
    request = _Request.model_validate(row.request)
    counts = batches_store.count_items(visit.session, row.id)
    return Batch(
        job=job_of(row),
        plan=str(request.plan["name"]),
        title=str(request.plan["title"]),
        keep=request.keep,
        count=request.count,
        made=counts.get("made", 0),
        failed=counts.get("failed", 0),
        doubtful=batches_store.count_doubtful(visit.session, row.id, beyond=DOUBTFUL),
        begun_at=row.created_at,
        items=[],
    )


def _item(row: BatchItemRow) -> BatchItem:
    fields = {name: getattr(row, name, None) for name in BatchItem.model_fields}
    is_doubtful = row.doubt is not None and row.doubt > DOUBTFUL
    return BatchItem.model_validate(fields | {"is_doubtful": is_doubtful})
