"""Plans of one's own: made of a picture, listed, taken away, brought in and out."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING
from uuid import UUID

from glyphaneme.core.errors import PlanRefusedError
from glyphaneme.core.mask import MattePart, PaintedPart
from glyphaneme.core.plans import Plan, plan_json, read_plan
from glyphaneme.core.plans.layers import ITSELF, PlanPhoto
from glyphaneme.core.plans.remaking import NewPlan, OwnPicture, plan_of
from glyphaneme.core.render import all_needed
from glyphaneme.core.values import with_fields
from glyphaneme.services.cutting import keep_brought
from glyphaneme.services.errors import (
    NotThereError,
    PlanNotMadeError,
    TooManyPlansError,
)
from glyphaneme.services.painting import keep_named, named_strokes
from glyphaneme.services.pictures import bring_in
from glyphaneme.services.plan_folder import A_PLAN
from glyphaneme.services.plans.packing import (
    INCOMPLETE,
    PlanFile,
    pack_plan,
    staying_mattes,
    unpack_plan,
)
from glyphaneme.services.projects import composite_at, require_project
from glyphaneme.services.showing import write_preview
from glyphaneme.store import plans as plans_store
from glyphaneme.store.blobs import blob_pieces, keep_blob
from glyphaneme.store.mattes import is_kept
from glyphaneme.store.notices import notify
from glyphaneme.store.pictures import find_pictures, pictures_of_files
from glyphaneme.store.rows import PlanRow
from glyphaneme.store.strokes import strokes_counted

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.plans.layers import PlanLayer
    from glyphaneme.services.studio import Visit

MOST_PLANS = 200
EXAMPLE_WIDE = 480
MOST_NAMED_ALIKE = 1000


def make_plan(visit: Visit, project_id: UUID, asked: NewPlan) -> Plan:
    """Make a plan of a picture as it stands, and keep it.

    Raises
    ------
    NotThereError
        There is no such picture, or it does not show a photo that was named.
    PlanNotMadeError
        It has more layers or words than a plan may.
    TooManyPlansError
        There are so many already that no more can be kept.
    """
    project = require_project(visit, project_id)
    composite = composite_at(visit, project.head_id)
    shown = all_needed(composite).pictures
    rows = find_pictures(visit.session, [UUID(one) for one in shown])
    pictures = {str(row.id): OwnPicture(row.sha256, row.name) for row in rows}
    for slot in asked.slots:
        if slot.picture not in pictures:
            what = "photo in this picture"
            raise NotThereError(what)
    try:
        plan = plan_of(composite, asked, pictures)
    except ValueError as cause:
        raise PlanNotMadeError(asked.title) from cause
    example = io.BytesIO()
    write_preview(visit, project.head_id, width=EXAMPLE_WIDE, file=example)
    example.seek(0)
    return _keep(visit, plan, example=keep_blob(visit.session, example))


def find_own(visit: Visit, name: str) -> Plan:
    """Return one of the own plans.

    Raises
    ------
    NotThereError
        None is called that.
    """
    return read_plan(_require(visit, name).document)


def list_own(visit: Visit) -> list[Plan]:
    """Return all own plans, newest first."""
    return [read_plan(row.document) for row in plans_store.list_plans(visit.session)]


def own_example(visit: Visit, name: str) -> bytes:
    """Return a small picture of what an own plan makes: a JPEG or PNG file.

    Raises
    ------
    NotThereError
        There is none.
    """
    example = _require(visit, name).example_sha256
    if example is None:
        raise NotThereError("example")
    return b"".join(blob_pieces(visit.session, example))


def drop_own(visit: Visit, name: str) -> None:
    """Take an own plan away; pictures that it made stay as they are.

    Raises
    ------
    NotThereError
        None is called that.
    """
    if not plans_store.drop_plan(visit.session, name):
        raise NotThereError(A_PLAN)
    notify(visit.session, {"kind": "plans"})


def export_plan(visit: Visit, plan: Plan) -> bytes:
    """Return the file of a plan, with all that stays in it.

    Raises
    ------
    NotThereError
        A picture that stays is gone.
    """
    files = {}
    for sha256 in plan.pictures.values():
        files[sha256] = b"".join(blob_pieces(visit.session, sha256))
        if not files[sha256]:
            raise NotThereError("picture")
    for layer in plan.all_layers():
        for part in staying_mattes(layer):
            files[part.matte] = b"".join(blob_pieces(visit.session, part.matte))
    lasts = {part.last or "" for layer in plan.all_layers() for part in _painted(layer)}
    return pack_plan(PlanFile(plan, files, named_strokes(visit, lasts)))


def import_plan(visit: Visit, data: bytes) -> Plan:
    """Keep a plan that was brought in, and all that stays in it.

    Raises
    ------
    PlanRefusedError
        It is none, it is damaged, or a newer version wrote it.
    PictureRefusedError
        A picture in it cannot be read.
    TooManyPlansError
        There are so many already that no more can be kept.
    """
    packed = unpack_plan(data)
    _bring_pictures(visit, packed)
    keep_named(visit, packed.strokes)
    for layer in packed.plan.all_layers():
        for matte in staying_mattes(layer):
            file = packed.files.get(matte.matte)
            if file is not None:
                keep_brought(visit.session, file, matte.level)
            elif not is_kept(visit.session, matte.matte):
                raise PlanRefusedError(INCOMPLETE)
        for part in _painted(layer):
            if strokes_counted(visit.session, part.last or "") != part.strokes:
                raise PlanRefusedError(INCOMPLETE)
    return _keep(visit, _with_known_mattes(visit, packed.plan))


def _bring_pictures(visit: Visit, packed: PlanFile) -> None:
    """Bring in the pictures that stay in a plan.

    Raises
    ------
    PlanRefusedError
        One is neither in the file nor here.
    """
    wanted = packed.plan.pictures
    here = {row.sha256 for row in pictures_of_files(visit.session, wanted.values())}
    for name, sha256 in wanted.items():
        if sha256 in here:
            continue
        if sha256 not in packed.files:
            raise PlanRefusedError(INCOMPLETE)
        file = io.BytesIO(packed.files[sha256])
        bring_in(visit, file, file_name=f"{name}.png", on_shelf=False)


def _painted(layer: PlanLayer) -> Iterator[PaintedPart]:
    """Yield the parts of a layer's mask that strokes were painted in."""
    for part in layer.mask.parts if layer.mask else ():
        if isinstance(part, PaintedPart) and part.last is not None:
            yield part


def _with_known_mattes(visit: Visit, plan: Plan) -> Plan:
    """Return a plan whose cut-outs are found anew, where they are not kept here."""
    unknown = {
        layer.slot
        for layer in plan.all_layers()
        if isinstance(layer, PlanPhoto) and layer.slot is not None
        for part in (layer.mask.parts if layer.mask else ())
        if isinstance(part, MattePart)
        and part.picture == ITSELF
        and not is_kept(visit.session, part.matte)
    }
    slots = tuple(
        with_fields(slot, made_with=None) if slot.name in unknown else slot
        for slot in plan.slots
    )
    return with_fields(plan, slots=slots)


def _keep(visit: Visit, plan: Plan, example: str | None = None) -> Plan:
    """Keep a plan under its name, or under one like it where that is taken.

    Raises
    ------
    TooManyPlansError
        There are so many already that no more can be kept.
    """
    if plans_store.count_plans(visit.session) >= MOST_PLANS:
        raise TooManyPlansError(MOST_PLANS)
    shipped = visit.studio.plans.plans
    for number in range(1, MOST_NAMED_ALIKE):
        called = plan.name if number == 1 else f"{plan.name[:36]}-{number}"
        if called in shipped:
            continue
        named = with_fields(plan, name=called)
        row = PlanRow(name=called, document=plan_json(named), example_sha256=example)
        if plans_store.add_plan(visit.session, row):
            notify(visit.session, {"kind": "plans"})
            return named
    raise TooManyPlansError(MOST_PLANS)


def _require(visit: Visit, name: str) -> PlanRow:
    row = plans_store.find_plan(visit.session, name)
    if row is None:
        raise NotThereError(A_PLAN)
    return row
