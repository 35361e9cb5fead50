"""Strokes from the hand to the database and back into pixels."""

from __future__ import annotations

import shutil
import uuid
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np
import pytest
from sqlalchemy import func, select

from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.edits import AddColor, AddPart, LockLayer, PaintStroke
from glyphaneme.core.mask import PaintedPart
from glyphaneme.core.mask.strokes import Stroke
from glyphaneme.core.weighed import WeighedCache
from glyphaneme.services import editing, painting, projects
from glyphaneme.services.errors import KeyReusedError, NotThereError
from glyphaneme.services.showing import Draft, FrameView, show_frame
from glyphaneme.services.studio import open_studio
from glyphaneme.store.rows import RevisionRow, StrokeRow

if TYPE_CHECKING:
    from pathlib import Path

    from glyphaneme.core.edits import Edit
    from glyphaneme.services.studio import Studio

VIEW = FrameView(x=0, y=0, width=60, height=40, scale=0.2)


@pytest.fixture
def begun(studio: Studio) -> uuid.UUID:
    """Begin a picture with one colour over it."""
    project = uuid.uuid4()
    with studio.changing() as visit:
        canvas = Canvas(width=300, height=200)
        projects.begin_project(
            visit, project_id=project, name="Card", composite=Composite(canvas=canvas)
        )
    edit(studio, project, AddColor(layer_id="wash", name="Wash", color="#ff0000"))
    return project


def edit(
    studio: Studio, project: uuid.UUID, what: Edit, **sent: uuid.UUID
) -> editing.EditAnswer:
    with studio.changing() as visit:
        head = projects.get_project(visit, project).head
        sent = {"key": uuid.uuid4(), "parent": head, **sent}
        return editing.add_edit(visit, project, edit=what, **sent)


def stroke(y: float = 100, **fields: object) -> PaintStroke:
    points = ((20, y, 1), (280, y, 1))
    painted = Stroke(**{"points": points, "size": 40, **fields})
    return PaintStroke(layer_id="wash", part_id="brush", stroke=painted)


def part_of(answer: editing.EditAnswer) -> PaintedPart:
    [part] = answer.state.composite.layers[0].mask.parts
    return part


def count(studio: Studio, row: type) -> int:
    with studio.sessions() as session:
        return session.scalar(select(func.count()).select_from(row)) or 0


def pixels_at(studio: Studio, last: str) -> dict[tuple[int, int], np.ndarray]:
    with studio.looking() as visit:
        return painting.painting_at(visit, last).level_at(0).texels


def test_stroke_sent_twice_is_painted_once(studio: Studio, begun: uuid.UUID) -> None:
    key = uuid.uuid4()
    with studio.looking() as visit:
        head = projects.get_project(visit, begun).head

    answers = [edit(studio, begun, stroke(), key=key, parent=head) for _ in range(2)]

    assert [answer.outcome for answer in answers] == ["applied", "repeated"]
    assert part_of(answers[1]).strokes == 1
    assert count(studio, StrokeRow) == 1
    with pytest.raises(KeyReusedError):
        edit(studio, begun, stroke(y=50), key=key, parent=head)


def test_points_are_kept_once_and_not_in_the_history(
    studio: Studio, begun: uuid.UUID
) -> None:
    edit(studio, begun, stroke())

    with studio.sessions() as session:
        newest = select(RevisionRow).order_by(RevisionRow.depth.desc()).limit(1)
        stored = session.scalar(newest).edit
    assert stored["stroke"] is None
    assert stored["last"]


def test_two_windows_paint_and_both_strokes_stay(
    studio: Studio, begun: uuid.UUID
) -> None:
    with studio.looking() as visit:
        head = projects.get_project(visit, begun).head
    first = edit(studio, begun, stroke(y=40), parent=head)

    second = edit(studio, begun, stroke(y=160), parent=head)

    assert second.outcome == "reapplied"
    assert part_of(second).strokes == 2
    both, one = (pixels_at(studio, part_of(answer).last) for answer in (second, first))
    assert sum(int(tile.sum()) for tile in both.values()) > 1.9 * sum(
        int(tile.sum()) for tile in one.values()
    )


def test_painting_is_made_again_from_its_strokes_alone(
    studio: Studio, begun: uuid.UUID, tmp_path: Path
) -> None:
    for place in range(15):
        answer = edit(studio, begun, stroke(y=12 * place, shows=place % 3 == 2))
    last = part_of(answer).last
    painted = pixels_at(studio, last)

    fresh = open_studio(studio.sessions, tmp_path / "elsewhere")
    again = pixels_at(fresh, last)

    assert painted.keys() == again.keys()
    assert all(np.array_equal(painted[at], again[at]) for at in painted)


def test_saved_painting_is_gone_on_from_and_a_broken_one_is_not(
    studio: Studio, begun: uuid.UUID
) -> None:
    for place in range(13):
        answer = edit(studio, begun, stroke(y=14 * place))
        pixels_at(studio, part_of(answer).last)
    last = part_of(answer).last
    wanted = pixels_at(studio, last)
    folder = studio.shelf.paintings
    saved = list(folder.glob("*.npz"))
    assert saved

    fresh = open_studio(studio.sessions, folder.parent)
    assert all(np.array_equal(pixels_at(fresh, last)[at], wanted[at]) for at in wanted)
    for place in saved:
        place.write_bytes(b"broken")
    other = open_studio(studio.sessions, folder.parent)
    assert all(np.array_equal(pixels_at(other, last)[at], wanted[at]) for at in wanted)
    shutil.rmtree(folder)


def test_stroke_under_way_is_shown_and_nothing_is_kept(
    studio: Studio, begun: uuid.UUID
) -> None:
    with studio.looking() as visit:
        head = projects.get_project(visit, begun).head
        plain, drafted = (
            show_frame(
                visit, begun, draft=Draft(revision=head, unsaved=edits), view=VIEW
            )
            for edits in ((), (stroke(),))
        )

    assert plain != drafted
    assert count(studio, StrokeRow) == 0


def test_part_that_names_strokes_nobody_painted_is_refused(
    studio: Studio, begun: uuid.UUID
) -> None:
    invented = PaintedPart(id="p", last="a" * 64, strokes=3)

    with pytest.raises(NotThereError):
        edit(studio, begun, AddPart(layer_id="wash", part=invented))
    with studio.looking() as visit:
        assert projects.get_project(visit, begun).composite.layers[0].mask is None


def test_frame_shows_more_unsaved_strokes_than_are_ever_kept(
    studio: Studio, begun: uuid.UUID
) -> None:
    """Ten layers and nine strokes on each in turn, none of it saved."""
    names = [f"l{at}" for at in range(10)]
    layers = [AddColor(layer_id=one, name=one, color="#00ff00") for one in names]
    strokes = [
        PaintStroke(
            layer_id=name,
            part_id=f"{name}-brush",
            stroke=Stroke(points=((20 * at, 20 * turn, 1),), size=20),
        )
        for turn in range(9)
        for at, name in enumerate(names)
    ]
    forgetful = replace(studio, drafts=WeighedCache(1), underway=WeighedCache(1))

    def shown(by: Studio) -> bytes:
        with by.looking() as visit:
            head = projects.get_project(visit, begun).head
            draft = Draft(revision=head, unsaved=(*layers, *strokes))
            return show_frame(visit, begun, draft=draft, view=VIEW).data

    assert shown(forgetful) == shown(studio)


def test_stroke_that_the_newest_state_refuses_leaves_nothing_there(
    studio: Studio, begun: uuid.UUID
) -> None:
    first = edit(studio, begun, stroke(100))
    edit(studio, begun, stroke(50))
    edit(studio, begun, LockLayer(layer_id="wash", locked=True))

    late = edit(studio, begun, stroke(20), parent=first.state.head)

    assert late.outcome == "branched"
    with studio.sessions() as session:
        assert session.scalar(select(func.count()).select_from(StrokeRow)) == 3
