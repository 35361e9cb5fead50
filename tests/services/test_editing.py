from __future__ import annotations

import contextlib
import io
import uuid
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from typing import TYPE_CHECKING

import pytest
from hypothesis import HealthCheck, given
from hypothesis import strategies as st
from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError

from glyphaneme.core.document import Canvas, Composite, Gradient, Stop
from glyphaneme.core.edits import (
    AddGradient,
    AddLayer,
    AddPart,
    BlendLayer,
    DuplicateLayer,
    LockLayer,
    NameLayer,
    RemoveLayer,
    SetCanvas,
    SettleMask,
    ToneLayer,
)
from glyphaneme.core.errors import LayerMissingError
from glyphaneme.core.mask import EllipsePart
from glyphaneme.core.tone import BlurTone, ColoringTone, MonochromeTone
from glyphaneme.core.weighed import WeighedCache
from glyphaneme.services import editing, projects
from glyphaneme.services.errors import (
    KeyReusedError,
    NotThereError,
    PictureMismatchError,
)
from glyphaneme.services.studio import open_studio
from glyphaneme.services.versions import copy_project, name_moment
from glyphaneme.store.blobs import keep_blob
from glyphaneme.store.rows import PictureRow, PictureUseRow, RevisionRow
from tests.trying import times

if TYPE_CHECKING:
    from pathlib import Path

    from glyphaneme.core.edits import Edit
    from glyphaneme.services.projects import ProjectState
    from glyphaneme.services.studio import Studio


class Bench:
    """One project, edited as a page would."""

    def __init__(self, studio: Studio, known: uuid.UUID | None = None) -> None:
        self.studio = studio
        self.id = known or uuid.uuid4()
        if known is not None:
            return
        with studio.changing() as visit:
            projects.begin_project(
                visit,
                project_id=self.id,
                name="Season poster",
                composite=Composite(canvas=Canvas(width=300, height=400)),
            )

    def state(self) -> ProjectState:
        with self.studio.looking() as visit:
            return projects.get_project(visit, self.id)

    def edit(self, edit: Edit, *, key=None, parent=None) -> editing.EditAnswer:
        with self.studio.changing() as visit:
            return editing.add_edit(
                visit,
                self.id,
                key=key or uuid.uuid4(),
                parent=parent or self.state().head,
                edit=edit,
            )

    def stand(
        self, to: uuid.UUID, came_from: uuid.UUID, *, key: uuid.UUID | None = None
    ) -> ProjectState:
        with self.studio.changing() as visit:
            return editing.stand_at(
                visit,
                self.id,
                key=key or uuid.uuid4(),
                to=to,
                came_from=came_from,
            )

    def undo(self) -> ProjectState:
        now = self.state()
        return self.stand(now.undo_to or now.head, now.head)

    def redo(self) -> ProjectState:
        now = self.state()
        return self.stand(now.redo_to or now.head, now.head)

    def history(self) -> editing.History:
        with self.studio.looking() as visit:
            return editing.get_history(visit, self.id)

    def moths(self) -> AddLayer:
        """Put a picture on the shelf and return the edit that lays it on."""
        with self.studio.sessions.begin() as session:
            row = PictureRow(
                sha256=keep_blob(session, io.BytesIO(uuid.uuid4().bytes)),
                name="Moths",
                format="PNG",
                width=30,
                height=20,
            )
            session.add(row)
            session.flush()
            return AddLayer(
                layer_id="m", picture=str(row.id), name="Moths", width=30, height=20
            )


@pytest.fixture
def bench(studio: Studio) -> Bench:
    return Bench(studio)


def wide(width: int) -> SetCanvas:
    return SetCanvas(canvas=Canvas(width=width, height=400))


def test_edit_sent_twice_counts_once(bench: Bench) -> None:
    key, parent = uuid.uuid4(), bench.state().head

    first = bench.edit(wide(500), key=key, parent=parent)
    second = bench.edit(wide(500), key=key, parent=parent)

    assert (first.outcome, second.outcome) == ("applied", "repeated")
    assert first.state == second.state
    assert len(bench.history().ticks) == 2


def test_one_key_for_two_edits_is_refused(bench: Bench) -> None:
    key = uuid.uuid4()
    bench.edit(wide(500), key=key)

    with pytest.raises(KeyReusedError, match="Nothing was changed"):
        bench.edit(wide(600), key=key)


def test_edit_made_on_an_old_state_is_made_again_on_the_new_one(bench: Bench) -> None:
    bench.edit(bench.moths())
    old = bench.state().head
    bench.edit(wide(777))

    answer = bench.edit(
        BlendLayer(layer_id="m", mode="screen", opacity=0.5), parent=old
    )

    assert answer.outcome == "reapplied"
    assert answer.state.composite.canvas.width == 777
    assert answer.state.composite.layers[0].blend == "screen"


def test_edit_that_no_longer_fits_is_kept_as_another_way(bench: Bench) -> None:
    bench.edit(bench.moths())
    old = bench.state().head
    removed = bench.edit(RemoveLayer(layer_id="m"))

    answer = bench.edit(NameLayer(layer_id="m", name="Night moths"), parent=old)

    assert answer.outcome == "branched"
    assert answer.state.head == removed.state.head
    assert [way.id for way in bench.history().other_ways] == [answer.branch]
    assert (
        bench.stand(answer.branch, removed.state.head).composite.layers[0].name
        == "Night moths"
    )


def test_edit_that_does_not_fit_the_present_state_is_refused_and_leaves_nothing(
    bench: Bench,
) -> None:
    with pytest.raises(LayerMissingError):
        bench.edit(LockLayer(layer_id="nobody", locked=True))

    assert len(bench.history().ticks) == 1


def test_new_edit_after_undo_keeps_the_undone_way(bench: Bench) -> None:
    bench.edit(wide(500))
    undone = bench.edit(wide(600)).state.head
    bench.undo()

    bench.edit(wide(700))

    history = bench.history()
    assert [tick.label for tick in history.ticks[1:]] == [
        "Canvas 500 × 400 px",
        "Canvas 700 × 400 px",
    ]
    assert [way.id for way in history.other_ways] == [undone]


def test_undo_from_a_window_that_is_behind_moves_nothing(bench: Bench) -> None:
    start = bench.state().head
    seen = bench.edit(wide(500)).state.head
    newest = bench.edit(wide(600)).state.head

    state = bench.stand(start, came_from=seen)

    assert state.head == newest


@times(8, unchecked=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.sampled_from(["edit", "undo", "redo"]), max_size=40))
def test_undo_and_redo_behave_as_a_pointer_into_a_list(bench: Bench, steps) -> None:
    bench = Bench(bench.studio)
    line, at = [300], 0

    for number, step in enumerate(steps):
        if step == "edit":
            line, at = [*line[: at + 1], 1000 + number], at + 1
            bench.edit(wide(1000 + number))
        elif step == "undo":
            at = max(at - 1, 0)
            bench.undo()
        else:
            at = min(at + 1, len(line) - 1)
            bench.redo()

    assert bench.state().composite.canvas.width == line[at]
    assert len(bench.history().ticks) == len(line)


def test_long_history_is_rebuilt_from_snapshots_alone_in_a_fresh_process(
    bench: Bench, tmp_path: Path
) -> None:
    for width in range(500, 560):
        bench.edit(wide(width))

    fresh = open_studio(bench.studio.sessions, tmp_path)
    with fresh.looking() as visit:
        state = projects.get_project(visit, bench.id)
        snapshots = visit.session.scalar(
            select(func.count()).where(RevisionRow.snapshot.is_not(None))
        )

    assert state.composite.canvas.width == 559
    assert snapshots == 3


def test_layer_of_an_unknown_picture_is_refused(bench: Bench) -> None:
    edit = bench.moths().model_copy(update={"width": 31})

    with pytest.raises(PictureMismatchError, match="Moths is not on the shelf"):
        bench.edit(edit)


def test_removed_project_is_gone_until_it_is_put_back(bench: Bench) -> None:
    with bench.studio.changing() as visit:
        projects.remove_project(visit, bench.id, removed=True)
    with pytest.raises(NotThereError):
        bench.state()

    with bench.studio.changing() as visit:
        projects.remove_project(visit, bench.id, removed=False)

    assert bench.state().name == "Season poster"


def test_database_itself_refuses_a_revision_of_another_project(bench: Bench) -> None:
    other = Bench(bench.studio)

    with pytest.raises(IntegrityError, match="fk_revision_parent"):
        with bench.studio.sessions.begin() as session:
            session.add(
                RevisionRow(
                    id=uuid.uuid4(),
                    project_id=bench.id,
                    parent_id=other.state().head,
                    depth=1,
                    edit={"kind": "none"},
                    label="stray",
                )
            )


def test_undo_sent_again_counts_once(bench: Bench) -> None:
    bench.edit(wide(500))
    before = bench.edit(wide(600)).state
    key = uuid.uuid4()

    first = bench.stand(before.undo_to, before.head, key=key)
    bench.redo()
    again = bench.stand(before.undo_to, before.head, key=key)

    assert first.composite.canvas.width == 500
    assert again.composite.canvas.width == 600


def test_one_key_for_two_moves_is_refused(bench: Bench) -> None:
    root = bench.state().head
    head = bench.edit(wide(500)).state.head
    key = uuid.uuid4()
    bench.stand(root, head, key=key)

    with pytest.raises(KeyReusedError):
        bench.stand(head, root, key=key)


def test_every_change_gives_a_state_a_higher_version(bench: Bench) -> None:
    def renamed() -> None:
        with bench.studio.changing() as visit:
            projects.rename_project(visit, bench.id, "Night")

    seen = [bench.state().changes]
    old = bench.state().head
    bench.edit(bench.moths())
    changes = [
        lambda: bench.edit(RemoveLayer(layer_id="m")),
        lambda: bench.edit(NameLayer(layer_id="m", name="Gone"), parent=old),
        bench.undo,
        bench.redo,
        renamed,
    ]

    for change in changes:
        with contextlib.suppress(LayerMissingError):
            change()
        seen.append(bench.state().changes)

    # The edit that fits neither state changed nothing.
    assert seen[2] == seen[1]
    assert sorted(set(seen)) == [*seen[:2], *seen[3:]]


def test_redo_after_switching_to_another_way_follows_that_way(bench: Bench) -> None:
    start = bench.edit(wide(500)).state
    left = bench.edit(wide(600)).state
    bench.undo()
    bench.edit(wide(700))
    now = bench.state()

    bench.stand(left.head, now.head)
    bench.stand(start.head, left.head)

    assert bench.state().redo_to == left.head
    assert bench.redo().composite.canvas.width == 600


def test_edits_made_at_the_same_moment_all_count_one_after_the_other(
    bench: Bench,
) -> None:
    parent = bench.state().head

    with ThreadPoolExecutor(8) as pool:
        edits = [
            pool.submit(bench.edit, wide(1000 + number), parent=parent)
            for number in range(24)
        ]
    outcomes = [edit.result().outcome for edit in edits]

    history = bench.history()
    assert (outcomes.count("applied"), outcomes.count("reapplied")) == (1, 23)
    assert len(history.ticks) == 25
    assert history.other_ways == []
    assert bench.state().changes == 24


def test_project_at_the_limits_opens_in_a_process_that_knows_nothing(
    bench: Bench, tmp_path: Path
) -> None:
    far = Gradient(
        x=199_999,
        y=-199_999,
        length=200_000,
        start=Stop(color="#ffffff"),
        end=Stop(color="#000000"),
    )
    bench.edit(AddGradient(layer_id="g0", name="Far", gradient=far))

    for number in range(60):
        last = bench.edit(
            DuplicateLayer(layer_id=f"g{number}", copy_id=f"g{number + 1}")
        )

    fresh = open_studio(bench.studio.sessions, tmp_path)
    with fresh.looking() as visit:
        assert projects.get_project(visit, bench.id) == last.state


def test_edit_whose_transaction_failed_leaves_no_trace_when_it_is_sent_again(
    bench: Bench, tmp_path: Path
) -> None:
    bench.edit(bench.moths())
    parent, key = bench.state().head, uuid.uuid4()
    named = NameLayer(layer_id="m", name="Night moths")
    with bench.studio.looking() as visit:
        editing.add_edit(visit, bench.id, key=key, parent=parent, edit=named)
        visit.session.rollback()
    bench.edit(wide(777))

    answer = bench.edit(named, key=key, parent=parent)

    assert answer.outcome == "reapplied"
    assert answer.state.composite.canvas.width == 777
    assert bench.state().composite.canvas.width == 777
    fresh = open_studio(bench.studio.sessions, tmp_path)
    with fresh.looking() as visit:
        assert projects.get_project(visit, bench.id) == bench.state()


def test_a_copy_sent_again_says_nothing_of_what_it_shows_now(bench: Bench) -> None:
    bench.edit(bench.moths())
    copy = uuid.uuid4()

    def copied() -> Bench:
        with bench.studio.changing() as visit:
            copy_project(visit, bench.id, copy_id=copy)
        return Bench(bench.studio, copy)

    def uses() -> int:
        with bench.studio.sessions() as session:
            mine = PictureUseRow.project_id == copy
            return session.query(PictureUseRow).filter(mine).count()

    other = copied()
    assert uses() == 1
    other.edit(RemoveLayer(layer_id="m"))
    copied()

    assert uses() == 0


def test_history_tells_what_is_new_where_the_way_goes_on(bench: Bench) -> None:
    first, second = (bench.edit(wide(at)).state.head for at in (500, 600))
    with bench.studio.changing() as visit:
        name_moment(visit, bench.id, first, "Wide")

    def told(after: uuid.UUID) -> tuple:
        with bench.studio.looking() as visit:
            history = editing.get_history(visit, bench.id, after=after)
        names = [(one.id, one.name) for one in history.names]
        return history.follows, [tick.id for tick in history.ticks], names

    assert told(first) == (first, [second], [(first, "Wide")])
    assert told(second) == (second, [], [(first, "Wide")])
    bench.undo()
    third = bench.edit(wide(700)).state.head
    assert told(first) == (first, [third], [(first, "Wide")])
    way = [tick.id for tick in bench.history().ticks]
    for elsewhere in (second, uuid.uuid4()):
        assert told(elsewhere) == (None, way, [(first, "Wide")])


BLUR, GREY = BlurTone(radius=3), MonochromeTone()


def test_two_windows_that_change_a_list_keep_both_changes(bench: Bench) -> None:
    bench.edit(bench.moths())
    start = bench.edit(ToneLayer(layer_id="m", tones=(BLUR, GREY))).state.head
    softer, warmer = BlurTone(radius=9), ColoringTone(saturation=0.5)
    bench.edit(ToneLayer(layer_id="m", tones=(softer, GREY)))

    late, key = ToneLayer(layer_id="m", tones=(BLUR, GREY, warmer)), uuid.uuid4()
    answer = bench.edit(late, key=key, parent=start)

    assert answer.outcome == "reapplied"
    assert answer.state.composite.layer("m").tones == (softer, GREY, warmer)
    # Sent again it is known by what was asked, though something else is stored.
    assert bench.edit(late, key=key, parent=start).outcome == "repeated"
    with pytest.raises(KeyReusedError):
        bench.edit(ToneLayer(layer_id="m", tones=()), key=key, parent=start)
    forgetful = Bench(replace(bench.studio, states=WeighedCache(1)), bench.id)
    assert forgetful.state().composite == answer.state.composite


def test_a_change_of_a_line_that_is_gone_is_another_way(bench: Bench) -> None:
    bench.edit(bench.moths())
    start = bench.edit(ToneLayer(layer_id="m", tones=(BLUR, GREY))).state.head
    bench.edit(ToneLayer(layer_id="m", tones=(GREY,)))

    late = ToneLayer(layer_id="m", tones=(BlurTone(radius=9), GREY))
    answer = bench.edit(late, parent=start)

    assert answer.outcome == "branched"
    assert answer.state.composite.layer("m").tones == (GREY,)


def test_two_windows_that_settle_a_mask_keep_both_settings(bench: Bench) -> None:
    bench.edit(bench.moths())
    moon = EllipsePart(id="moon", x=5, y=5, width=9, height=9)
    start = bench.edit(AddPart(layer_id="m", part=moon)).state.head
    settled = {"layer_id": "m", "inverted": False, "strength": 1.0}
    bench.edit(SettleMask(**settled, softened=4))

    answer = bench.edit(SettleMask(**settled, grown=2), parent=start)

    mask = answer.state.composite.layer("m").mask
    assert (mask.softened, mask.grown) == (4, 2)
