"""Aligning, spacing and placing several layers; changing the canvas with all on it."""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.document.arranging import bounds_of
from glyphaneme.core.edits import (
    AlignLayers,
    GroupLayers,
    LockLayer,
    PlacedOne,
    PlaceLayers,
    SetCanvas,
    SpaceLayers,
    apply,
    decided,
    describe_edit,
)
from glyphaneme.core.errors import LayerLockedError, NoSuchWorkError, TooFewLayersError
from glyphaneme.core.place import Placement, Rect, source_to_canvas
from glyphaneme.core.render import View, render
from tests.pictures import (
    composite_of,
    flat_pixels,
    photo_layer,
    premultiplied,
    pyramids,
    soft_pixels,
)
from tests.posters import poster

SIZES = {"a": (40, 20), "b": (10, 30), "c": (20, 10)}
MIDDLES = {"a": (30, 20), "b": (100, 60), "c": (180, 90)}
WHOLE = (200, 120)


def three() -> Composite:
    layers = [
        photo_layer(
            name,
            flat_pixels(*size, (1, 2, 3, 255)),
            placement=Placement(
                x=MIDDLES[name][0], y=MIDDLES[name][1], scale_x=1, scale_y=1
            ),
        )
        for name, size in SIZES.items()
    ]
    return composite_of(*layers, width=WHOLE[0], height=WHOLE[1])


def bounds(state: Composite, *ids: str) -> list[Rect[float]]:
    return [bounds_of(state, one) for one in ids or SIZES]


@pytest.mark.parametrize(
    ("side", "to", "axis", "share", "line"),
    [
        ("left", "all", 0, 0.0, 10),
        ("right", "all", 0, 1.0, 190),
        ("centre", "all", 0, 0.5, 100),
        ("top", "first", 1, 0.0, 10),
        ("middle", "first", 1, 0.5, 20),
        ("bottom", "canvas", 1, 1.0, 120),
        ("centre", "canvas", 0, 0.5, 100),
    ],
)
def test_one_side_of_all_lies_on_one_line(side, to, axis, share, line) -> None:
    state = three()

    after = apply(state, AlignLayers(layer_ids=tuple(SIZES), side=side, to=to))

    for before, now in zip(bounds(state), bounds(after), strict=True):
        assert now.at(axis, share) == pytest.approx(line)
        assert now[1 - axis] == pytest.approx(before[1 - axis])
        assert now.size(axis) == pytest.approx(before.size(axis))


def test_gaps_become_equal_between_the_outermost() -> None:
    after = apply(three(), SpaceLayers(layer_ids=("c", "a", "b")))

    a, b, c = bounds(after)
    assert (a.left, c.right) == (10, 190)
    assert b.left - a.right == pytest.approx(c.left - b.right)


def test_gaps_over_the_canvas_count_its_edges() -> None:
    after = apply(
        three(), SpaceLayers(layer_ids=tuple(SIZES), axis="down", over="canvas")
    )

    a, b, c = bounds(after)
    gaps = [a.top, b.top - a.bottom, c.top - b.bottom, 120 - c.bottom]
    assert gaps == pytest.approx([15] * 4)


def test_what_is_turned_and_in_a_group_is_aligned_as_it_is_seen() -> None:
    state = apply(three(), GroupLayers(group_id="g", name="G", layer_ids=("a", "b")))
    group = state.layer("g").placement.model_copy(
        update={"turn": 30, "flipped": True, "scale_x": 1.5, "scale_y": 1.5}
    )
    state = apply(
        state, PlaceLayers(places=(PlacedOne(layer_id="g", placement=group),))
    )

    after = apply(state, AlignLayers(layer_ids=("a", "c"), side="bottom", to="canvas"))

    for one in bounds(after, "a", "c"):
        assert one.bottom == pytest.approx(120)
    assert bounds(after, "b") == bounds(state, "b")


def test_two_layers_have_no_gap_beside_another() -> None:
    with pytest.raises(TooFewLayersError, match="at least 3"):
        apply(three(), SpaceLayers(layer_ids=("a", "b", "a")))


def test_a_wash_cannot_be_aligned_and_a_locked_layer_stays() -> None:
    state = poster()
    wash = next(one.id for one in state.layers if one.kind == "color")
    with pytest.raises(NoSuchWorkError, match="lies everywhere"):
        apply(state, AlignLayers(layer_ids=(wash,), side="left"))
    locked = apply(three(), LockLayer(layer_id="b", locked=True))
    with pytest.raises(LayerLockedError):
        apply(locked, AlignLayers(layer_ids=("a", "b"), side="left"))


def test_more_layers_than_there_can_be_are_refused() -> None:
    with pytest.raises(ValidationError):
        AlignLayers(layer_ids=tuple(f"l{n}" for n in range(201)), side="left")
    with pytest.raises(ValidationError):
        AlignLayers(layer_ids=(), side="left")


def test_what_was_decided_does_not_follow_later_changes_of_the_rule() -> None:
    state = three()

    said = decided(state, AlignLayers(layer_ids=("a", "b"), side="left"))

    assert {one.layer_id: one.placement.x for one in said.places} == {"a": 30, "b": 15}


def test_the_history_names_one_and_counts_several() -> None:
    state = three()
    one = PlacedOne(layer_id="a", placement=state.layer("a").placement)

    assert describe_edit(state, PlaceLayers(places=(one,))) == "A moved"
    both = AlignLayers(layer_ids=("a", "b"), side="left")
    assert describe_edit(state, both) == "2 layers aligned: left"


def carried(state: Composite, **change: float) -> Composite:
    canvas = Canvas(width=150, height=110, ppi=150, background=None)
    return apply(state, SetCanvas(canvas=canvas, **change))


def test_a_picture_is_resized_with_everything_on_it() -> None:
    state = poster()
    assets = pyramids(
        a=soft_pixels(140, 110, seed=1),
        b=soft_pixels(70, 60, seed=2),
        c=soft_pixels(80, 50, seed=3),
    )
    wanted = render(state, assets, View(0, 0, 240, 180, 2))
    canvas = state.canvas.model_copy(update={"width": 240, "height": 180})

    after = apply(state, SetCanvas(canvas=canvas, scale=2))

    out = render(after, assets, View(0, 0, 240, 180, 1))
    assert np.abs(premultiplied(out) - premultiplied(wanted)).max() <= 1


def test_straightening_turns_everything_about_the_corner_and_shifts_it() -> None:
    after = carried(three(), turn=90, shift_x=120, shift_y=5)

    place = after.layer("a").placement
    assert (place.x, place.y, place.turn) == pytest.approx((120 - 20, 5 + 30, 90))
    to_canvas = source_to_canvas(place, width=40, height=20)
    np.testing.assert_allclose(to_canvas @ (40, 10, 1), (100, 55))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({}, "Canvas 150 × 110 px"),
        ({"scale": 0.75}, "Picture resized to 150 × 110 px"),
        ({"turn": 2}, "Straightened, canvas 150 × 110 px"),
    ],
)
def test_the_history_says_what_became_of_the_canvas(change, words) -> None:
    canvas = Canvas(width=150, height=110)
    assert describe_edit(three(), SetCanvas(canvas=canvas, **change)) == words


@pytest.mark.parametrize("change", [{"scale": 0}, {"turn": 400}, {"scale": 1e9}])
def test_no_canvas_is_scaled_to_nothing_or_beyond_all(change) -> None:
    with pytest.raises(ValidationError):
        SetCanvas(canvas=Canvas(width=10, height=10), **change)
