from __future__ import annotations

import json

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import (
    Canvas,
    Composite,
    Gradient,
    Stop,
    grouping,
    open_composite,
    store_composite,
)
from glyphaneme.core.edits import (
    AddColor,
    AddGradient,
    AddLayer,
    BlendLayer,
    DissolveGroup,
    DuplicateLayer,
    GradeLayer,
    GroupLayers,
    LockLayer,
    MoveLayer,
    NameLayer,
    PlaceLayer,
    RemoveLayer,
    SetCanvas,
    ShowLayer,
    TintLayer,
    apply,
    describe_edit,
    parse_edit,
)
from glyphaneme.core.edits.tinting_sheet import TintSheet
from glyphaneme.core.errors import (
    BeyondLimitsError,
    CoreError,
    LayerExistsError,
    LayerLockedError,
    LayerMissingError,
)
from glyphaneme.core.place import Placement, build_pyramid
from glyphaneme.core.render import View, render
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import describe
from tests.trying import times

IDS = ("a", "b", "c", "d")
ids = st.sampled_from(IDS)


def reaching(least: float, most: float) -> st.SearchStrategy[float]:
    """Return numbers of a range, its ends drawn as often as all between."""
    return st.sampled_from([least, most]) | st.floats(least, most)


positions = reaching(-2e5, 2e5)
scales = reaching(0.0005000001, 200)
angles = reaching(-360, 360)
names = st.sampled_from(["N" * 120, f"Moths {'9' * 114}", "Moths 7", "\u0667 \u0667"])
sides = st.sampled_from([1, 30_000]) | st.integers(1, 30_000)
placements = st.builds(
    Placement,
    x=positions,
    y=positions,
    scale_x=scales,
    scale_y=scales,
    turn=angles,
    flipped=st.booleans(),
    upended=st.booleans(),
) | st.builds(
    # In proportion, as groups must be.
    lambda scale, **rest: Placement(scale_x=scale, scale_y=scale, **rest),
    scale=scales,
    x=positions,
    y=positions,
    turn=angles,
    upended=st.booleans(),
)
gradients = st.builds(
    Gradient,
    shape=st.sampled_from(["linear", "round"]),
    x=positions,
    y=positions,
    length=reaching(1, 2e5),
    angle=angles,
    start=st.builds(Stop, color=st.just("#ff8000"), opacity=st.floats(0, 1)),
    end=st.builds(Stop, color=st.just("#000000"), opacity=st.floats(0, 1)),
)
edits = st.one_of(
    st.builds(
        AddLayer,
        layer_id=ids,
        picture=ids,
        name=names,
        width=sides,
        height=sides,
        index=st.none() | st.integers(0, 9),
        at=st.none() | st.tuples(positions, positions),
    ),
    st.builds(RemoveLayer, layer_id=ids),
    st.builds(DuplicateLayer, layer_id=ids, copy_id=ids),
    st.builds(PlaceLayer, layer_id=ids, placement=placements),
    st.builds(
        BlendLayer,
        layer_id=ids,
        mode=st.sampled_from(BlendMode),
        opacity=st.floats(0, 1),
    ),
    st.builds(
        NameLayer,
        layer_id=ids,
        name=names
        | st.text(min_size=1, max_size=20).filter(lambda name: "\0" not in name),
    ),
    st.builds(ShowLayer, layer_id=ids, visible=st.booleans()),
    st.builds(LockLayer, layer_id=ids, locked=st.booleans()),
    st.builds(MoveLayer, layer_id=ids, index=st.integers(0, 9), into=st.none() | ids),
    st.builds(AddColor, layer_id=ids, name=st.just("Dusk"), color=st.just("#203040")),
    st.builds(AddGradient, layer_id=ids, name=st.just("Glow"), gradient=gradients),
    st.builds(TintLayer, layer_id=ids, color=st.just("#ffffff")),
    st.builds(GradeLayer, layer_id=ids, gradient=gradients),
    st.builds(
        GroupLayers,
        group_id=ids,
        name=st.just("Both"),
        layer_ids=st.lists(ids, min_size=1, max_size=3).map(tuple),
    ),
    st.builds(DissolveGroup, layer_id=ids),
    st.builds(
        SetCanvas,
        canvas=st.builds(Canvas, width=sides, height=sides),
        shift_x=positions,
        shift_y=positions,
    ),
    st.builds(TintSheet, background=st.none() | st.just("#203040")),
)


# Smaller than layers say: what counts here is that no place is read beyond it.
PIXELS = dict.fromkeys(IDS + ("p",), build_pyramid(np.full((3, 4, 4), 200, np.uint8)))


def poster(*names: str) -> Composite:
    state = Composite(canvas=Canvas(width=1000, height=800))
    for name in names:
        state = apply(
            state,
            AddLayer(
                layer_id=name, picture="p", name=name.upper(), width=500, height=400
            ),
        )
    return state


def order(state: Composite) -> list[str]:
    return [layer.id for layer in state.layers]


@times(60)
@given(st.lists(edits, max_size=16))
def test_states_after_any_edits_can_be_stored_opened_described_and_shown(steps) -> None:
    state = poster("a", "b")

    for step in steps:
        before = state.model_dump_json()
        try:
            after = apply(state, step)
        except CoreError:
            after = state
        else:
            assert describe_edit(state, step)
        assert state.model_dump_json() == before
        state = after
        assert open_composite(json.loads(json.dumps(store_composite(state)))) == state

    ids_left = [layer.id for layer in state.all_layers()]
    assert len(set(ids_left)) == len(ids_left)
    assert [sentence.layer_id for sentence in describe(state)] == ids_left
    shown = render(state, PIXELS, View(0, 0, 8, 6, 8 / state.canvas.width))
    assert shown.shape == (6, 8, 4)


def test_copy_of_a_gradient_at_the_limit_can_be_stored() -> None:
    far = Gradient(
        x=199_999,
        y=0,
        length=10,
        start=Stop(color="#ffffff"),
        end=Stop(color="#000000"),
    )
    state = apply(poster(), AddGradient(layer_id="a", name="Far", gradient=far))

    state = apply(state, DuplicateLayer(layer_id="a", copy_id="b"))

    assert open_composite(store_composite(state)) == state
    assert state.layer("b").gradient.x == 200_000


def test_photo_longer_than_any_scale_fits_is_laid_on_as_small_as_it_may_be() -> None:
    tiny = Composite(canvas=Canvas(width=1, height=1))
    edit = AddLayer(layer_id="a", picture="p", name="A", width=30_000, height=1)

    assert apply(tiny, edit).layers[0].placement.scale_x == 0.001


def test_group_of_layers_that_reach_far_out_shows_them_where_they_were() -> None:
    state = poster("a", "b")
    huge = Placement(x=300, y=200, scale_x=200, scale_y=200)
    state = apply(state, PlaceLayer(layer_id="a", placement=huge))

    both = apply(state, GroupLayers(group_id="g", name="Both", layer_ids=("a", "b")))
    apart = apply(both, DissolveGroup(layer_id="g"))

    for layer_id in "ab":
        now, was = apart.layer(layer_id).placement, state.layer(layer_id).placement
        assert (now.x, now.y) == pytest.approx((was.x, was.y))


@given(edits)
def test_stored_edits_are_read_back_as_themselves(edit) -> None:
    assert parse_edit(edit.model_dump(mode="json")) == edit


def test_new_layer_lies_whole_and_in_the_middle_over_the_others() -> None:
    state = apply(
        poster("a"),
        AddLayer(layer_id="big", picture="p", name="Big", width=4000, height=2000),
    )

    assert order(state) == ["a", "big"]
    assert state.layer("big").placement == Placement(
        x=500, y=400, scale_x=0.25, scale_y=0.25
    )


def test_small_layer_keeps_its_size_where_it_was_dropped() -> None:
    state = apply(
        poster(),
        AddLayer(layer_id="s", picture="p", name="S", width=80, height=60, at=(10, 20)),
    )

    assert state.layer("s").placement == Placement(x=10, y=20, scale_x=1, scale_y=1)


@pytest.mark.parametrize(
    ("index", "wanted"),
    [(0, ["c", "a", "b"]), (1, ["a", "c", "b"]), (99, ["a", "b", "c"])],
)
def test_moved_layer_comes_to_the_wanted_place_from_the_back(
    index: int, wanted: list[str]
) -> None:
    state = apply(poster("a", "b", "c"), MoveLayer(layer_id="c", index=index))

    assert order(state) == wanted


def test_duplicate_lies_over_its_original_with_a_name_of_its_own() -> None:
    state = apply(poster("a", "b"), DuplicateLayer(layer_id="a", copy_id="c"))
    state = apply(state, DuplicateLayer(layer_id="c", copy_id="d"))

    assert order(state) == ["a", "c", "d", "b"]
    assert [layer.name for layer in state.layers] == ["A", "A 2", "A 3", "B"]
    assert state.layer("c").placement.x > state.layer("a").placement.x


def test_changing_the_canvas_shifts_layers_and_keeps_those_outside() -> None:
    edit = SetCanvas(canvas=Canvas(width=200, height=200), shift_x=-400, shift_y=10)

    state = apply(poster("a"), edit)

    assert state.canvas.width == 200
    assert (state.layer("a").placement.x, state.layer("a").placement.y) == (100, 410)


def test_sheet_tinted_keeps_its_size_whatever_that_became_meanwhile() -> None:
    larger = SetCanvas(canvas=Canvas(width=70, height=50, ppi=96))
    tinted = TintSheet(background="#102080")

    state = apply(apply(poster("a"), larger), tinted)

    assert state.canvas == Canvas(width=70, height=50, ppi=96, background="#102080")
    assert apply(state, TintSheet(background=None)).canvas.background is None
    assert describe_edit(state, tinted) == "Sheet made navy"
    assert describe_edit(state, TintSheet(background=None)) == "Sheet made clear"


@pytest.mark.parametrize(
    "edit",
    [
        RemoveLayer(layer_id="a"),
        BlendLayer(layer_id="a", mode="screen", opacity=0.5),
        PlaceLayer(layer_id="a", placement=Placement(x=1, y=1, scale_x=1, scale_y=1)),
    ],
)
def test_locked_layer_refuses_changes_until_it_is_unlocked(edit) -> None:
    locked = apply(poster("a"), LockLayer(layer_id="a", locked=True))

    with pytest.raises(LayerLockedError, match="A is locked"):
        apply(locked, edit)
    assert apply(apply(locked, LockLayer(layer_id="a", locked=False)), edit) is not None


def test_copy_of_a_locked_layer_is_not_locked() -> None:
    locked = apply(poster("a"), LockLayer(layer_id="a", locked=True))

    copied = apply(locked, DuplicateLayer(layer_id="a", copy_id="b"))

    assert {one.id: one.locked for one in copied.layers} == {"a": True, "b": False}


def test_edit_of_an_unknown_layer_names_it() -> None:
    with pytest.raises(LayerMissingError, match="got id gone"):
        apply(poster("a"), ShowLayer(layer_id="gone", visible=False))


def test_same_layer_id_twice_is_refused() -> None:
    with pytest.raises(LayerExistsError, match="a again"):
        apply(
            poster("a"),
            AddLayer(layer_id="a", picture="p", name="A", width=1, height=1),
        )


@pytest.mark.parametrize(
    "value",
    [
        {"kind": "blend_layer", "layer_id": "a", "mode": "screen", "opacity": 1.5},
        {"kind": "blend_layer", "layer_id": "a", "mode": "melt", "opacity": 1},
        {"kind": "name_layer", "layer_id": "a", "name": ""},
        {"kind": "name_layer", "layer_id": "../a", "name": "x"},
        {"kind": "rub_out", "layer_id": "a"},
    ],
)
def test_values_out_of_range_are_no_edits(value: dict[str, object]) -> None:
    with pytest.raises(ValidationError):
        parse_edit(value)


@pytest.mark.parametrize(
    ("edit", "sentence"),
    [
        (
            BlendLayer(layer_id="a", mode="screen", opacity=0.8),
            "A, in the middle, screened at 80\u00a0%.",
        ),
        (
            PlaceLayer(
                layer_id="a", placement=Placement(x=500, y=400, scale_x=2, scale_y=2)
            ),
            "A, filling the picture, shown plainly.",
        ),
        (
            PlaceLayer(
                layer_id="a",
                placement=Placement(
                    x=900, y=700, scale_x=1, scale_y=1, turn=-7.5, flipped=True
                ),
            ),
            "A, in the lower right, mirrored, turned \u22127.5°, shown plainly.",
        ),
        (
            PlaceLayer(
                layer_id="a", placement=Placement(x=9000, y=0, scale_x=1, scale_y=1)
            ),
            "A, outside the picture, shown plainly.",
        ),
        (
            ShowLayer(layer_id="a", visible=False),
            "A, hidden, in the middle, shown plainly.",
        ),
        (
            LockLayer(layer_id="a", locked=True),
            "A, in the middle, shown plainly, locked.",
        ),
    ],
)
def test_sentence_says_what_the_layer_does(edit, sentence: str) -> None:
    assert describe(apply(poster("a"), edit))[0].text == sentence


def test_value_out_of_range_is_refused_at_the_very_edit(monkeypatch) -> None:
    with pytest.raises(ValidationError, match="less than or equal to 200000"):
        with_fields(Placement(x=0, y=0, scale_x=1, scale_y=1), x=200_001)

    # Were it not kept within the limits, it would still not be stored.
    monkeypatch.setattr(grouping, "kept_position", float)
    far = Placement(x=200_000, y=0, scale_x=1, scale_y=1)
    state = apply(poster("a"), PlaceLayer(layer_id="a", placement=far))
    with pytest.raises(BeyondLimitsError, match="must lie within the limits; x"):
        apply(state, DuplicateLayer(layer_id="a", copy_id="b"))
