"""Strokes: kept in the database, painted into pixels when something reads them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.codecs import drop_oldest, load_painting, save_painting
from glyphaneme.core.edits import AddPart, ChangePart, PaintStroke
from glyphaneme.core.mask import PaintedPart
from glyphaneme.core.mask.paintings import NO_PAINTING, painted_all, painted_on
from glyphaneme.core.mask.strokes import MAX_STROKES, NamedStroke, Stroke
from glyphaneme.services.errors import NotThereError
from glyphaneme.services.room import keeping_if_there_is_room
from glyphaneme.store.strokes import keep_stroke, strokes_counted, strokes_up_to

if TYPE_CHECKING:
    from collections.abc import Iterable
    from pathlib import Path

    from glyphaneme.core.document import Composite
    from glyphaneme.core.edits import Edit
    from glyphaneme.core.mask.paintings import Painting
    from glyphaneme.services.studio import Visit

SAVED_AFTER = 12
"""A painting is saved once so many strokes were painted since it was."""
MOST_SAVED = 400


def keep_strokes(visit: Visit, before: Composite, edit: Edit) -> None:
    """Keep the stroke that an edit paints, before it is applied."""
    if isinstance(edit, PaintStroke) and edit.stroke is not None:
        previous, named, stroke = edit.painted_now(before)
        keep_stroke(
            visit.session,
            stroke_id=named,
            previous=previous,
            stroke=stroke.model_dump(mode="json"),
        )


def require_strokes(visit: Visit, edit: Edit) -> None:
    """Require the strokes that a part or a stroke given by name says it has.

    Raises
    ------
    NotThereError
        Some are not kept here.
    """
    if isinstance(edit, AddPart | ChangePart) and isinstance(edit.part, PaintedPart):
        last, strokes = edit.part.last, edit.part.strokes
        if last is not None and strokes_counted(visit.session, last) != strokes:
            raise NotThereError("painting")
    elif (
        isinstance(edit, PaintStroke)
        and edit.last is not None
        and strokes_counted(visit.session, edit.last) is None
    ):
        raise NotThereError("stroke")


def drafted_stroke(visit: Visit, before: Composite, edit: Edit) -> Edit:
    """Paint the stroke of an edit that is not saved; return the edit that names it."""
    if not isinstance(edit, PaintStroke) or edit.stroke is None:
        return edit
    previous, named, stroke = edit.painted_now(before)
    studio = visit.studio
    if _known(visit, named) is None:
        under = painting_at(visit, previous) if previous else NO_PAINTING
        earlier = studio.underway.get(edit.part_id)
        underway = studio.underway.put(edit.part_id, painted_on(under, stroke, earlier))
        visit.painted[named] = studio.drafts.put(named, underway.painting)
    return edit.naming(previous, named, stroke)


def painting_at(visit: Visit, last: str) -> Painting:
    """Return what all strokes up to one leave.

    Raises
    ------
    NotThereError
        There is no such stroke.
    """
    known = _known(visit, last)
    if known is not None:
        return known
    painting, wanted = NO_PAINTING, []
    for kept in strokes_up_to(visit.session, last, most=MAX_STROKES):
        found = _known(visit, kept.id) or load_painting(_place(visit, kept.id))
        if found is not None:
            painting = found
            break
        wanted.append(Stroke.model_validate(kept.stroke))
    if not wanted and not painting.strokes:
        raise NotThereError("painting")
    painting = painted_all(painting, wanted[::-1])
    if len(wanted) >= SAVED_AFTER or painting.strokes % SAVED_AFTER == 0:
        place = _place(visit, last)
        with keeping_if_there_is_room():
            save_painting(place, painting)
            drop_oldest(place.parent, most=MOST_SAVED)
    return visit.studio.paintings.put(last, painting)


def named_strokes(visit: Visit, wanted: Iterable[str]) -> list[NamedStroke]:
    """Return all strokes up to some, each once and after the one before it."""
    found: dict[str, NamedStroke] = {}
    for last in sorted(wanted):
        for kept in strokes_up_to(visit.session, last, most=MAX_STROKES)[::-1]:
            named = NamedStroke.model_validate(
                {"id": kept.id, "previous": kept.previous_id, "stroke": kept.stroke}
            )
            found.setdefault(kept.id, named)
    return list(found.values())


def keep_named(visit: Visit, strokes: Iterable[NamedStroke]) -> None:
    """Keep strokes that came with a file, in their order."""
    for named in strokes:
        keep_stroke(
            visit.session,
            stroke_id=named.id,
            previous=named.previous,
            stroke=named.stroke.model_dump(mode="json"),
        )


def _known(visit: Visit, stroke_id: str) -> Painting | None:
    """Return what strokes leave where that is at hand, and hold it for this visit."""
    found = (
        visit.painted.get(stroke_id)
        or visit.studio.paintings.get(stroke_id)
        or visit.studio.drafts.get(stroke_id)
    )
    if found is not None:
        visit.painted[stroke_id] = found
    return found


def _place(visit: Visit, stroke_id: str) -> Path:
    return visit.studio.shelf.paintings / f"{stroke_id}.npz"
