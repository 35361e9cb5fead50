from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import Composite, GroupLayer
from glyphaneme.core.edits import (
    BlendLayer,
    DissolveGroup,
    DuplicateLayer,
    GroupLayers,
    LockLayer,
    MoveLayer,
    PlaceLayer,
    RemoveLayer,
    apply,
)
from glyphaneme.core.errors import (
    DepthLimitError,
    GroupStretchedError,
    LayerLockedError,
    NoSuchWorkError,
    NotTogetherError,
)
from glyphaneme.core.place import Placement, placed_inside, placed_outside
from glyphaneme.core.render import View, render
from glyphaneme.core.wording import describe
from tests.pictures import (
    composite_of,
    noise_pixels,
    photo_layer,
    premultiplied,
    pyramids,
    soft_pixels,
)
from tests.published_blending import laid_over

SIDE = 96
WHOLE = View(x=0, y=0, width=SIDE, height=SIDE, scale=1)
PICTURES = {
    name: noise_pixels(SIDE, SIDE, seed=seed)
    for seed, name in enumerate(("back", "middle", "front"))
}


def pile(**modes: BlendMode) -> Composite:
    """Return three noisy layers, the two front ones with the given modes."""
    layers = [
        photo_layer(name, pixels, blend=modes.get(name, BlendMode.NORMAL))
        for name, pixels in PICTURES.items()
    ]
    return composite_of(*layers, width=SIDE, height=SIDE)


def group(
    state: Composite, *ids: str, group_id: str = "both", **fields: object
) -> Composite:
    together = {"group_id": group_id, "name": "Both", "layer_ids": ids, **fields}
    return apply(state, GroupLayers(**together))


def shown(state: Composite, view: View = WHOLE) -> np.ndarray:
    return render(state, pyramids(**PICTURES), view)


def place(state: Composite, layer_id: str, **changes: object) -> Composite:
    placement = state.layer(layer_id).placement.model_copy(update=changes)
    return apply(state, PlaceLayer(layer_id=layer_id, placement=placement))


@pytest.mark.parametrize("mode", [BlendMode.MULTIPLY, BlendMode.HUE])
def test_group_is_composed_alone_and_then_blended_as_one(mode: BlendMode) -> None:
    state = group(pile(front=BlendMode.SCREEN), "middle", "front")
    state = apply(state, BlendLayer(layer_id="both", mode=mode, opacity=0.6))

    out = shown(state)

    inside = laid_over(
        BlendMode.SCREEN, PICTURES["middle"] / 255, PICTURES["front"] / 255, 1
    )
    wanted = laid_over(mode, PICTURES["back"] / 255, inside, 0.6) * 255
    assert np.abs(premultiplied(out) - premultiplied(wanted)).max() <= 1


def test_plain_group_shows_as_its_members_did() -> None:
    state = pile()

    np.testing.assert_allclose(
        premultiplied(shown(group(state, "middle", "front"))),
        premultiplied(shown(state)),
        atol=1,
    )


@pytest.mark.parametrize("mode", [BlendMode.MULTIPLY, BlendMode.DARKEN])
def test_group_that_blends_as_its_members_do_shows_as_they_did(mode: BlendMode) -> None:
    state = pile(middle=mode, front=mode)
    opaque = {
        name: pixels | np.uint8([0, 0, 0, 255]) for name, pixels in PICTURES.items()
    }
    together = group(state, "middle", "front", mode=mode)

    apart, as_one = (
        render(one, pyramids(**opaque), WHOLE).astype(int) for one in (state, together)
    )
    np.testing.assert_allclose(as_one, apart, atol=1)


def test_groups_in_groups_are_isolated_one_by_one() -> None:
    state = group(pile(front=BlendMode.MULTIPLY), "front", group_id="inner")
    state = group(state, "middle", "inner", group_id="outer")

    # Multiply finds nothing beneath it in its own group.
    np.testing.assert_allclose(
        premultiplied(shown(state)), premultiplied(shown(pile())), atol=1
    )


def test_layer_in_a_hidden_group_needs_no_picture() -> None:
    state = group(pile(), "middle", "front")
    hidden = state.layer("both").model_copy(update={"visible": False})
    state = state.model_copy(update={"layers": (state.layers[0], hidden)})

    out = render(state, pyramids(back=PICTURES["back"]), WHOLE)

    np.testing.assert_array_equal(
        premultiplied(out).round(), premultiplied(PICTURES["back"]).round()
    )


def test_moved_group_moves_all_of_its_members() -> None:
    state = group(pile(), "back", "middle", "front")

    moved = place(state, "both", x=SIDE / 2 + 7, y=SIDE / 2 - 3)

    np.testing.assert_array_equal(
        shown(moved, View(x=7, y=-3, width=SIDE, height=SIDE, scale=1)), shown(state)
    )


def test_turned_and_scaled_group_shows_the_same_when_taken_apart() -> None:
    picture = soft_pixels(80, 60, seed=3)
    layers = (
        photo_layer("a", picture),
        photo_layer(
            "b", picture, placement=Placement(x=70, y=50, scale_x=1, scale_y=1)
        ),
    )
    state = group(composite_of(*layers, width=120, height=100), "a", "b")
    state = place(state, "both", scale_x=0.8, scale_y=0.8, turn=21, flipped=True)
    view = View(x=0, y=0, width=120, height=100, scale=1)
    pixels = {"a": pyramids(a=picture)["a"], "b": pyramids(b=picture)["b"]}

    apart = apply(state, DissolveGroup(layer_id="both"))

    assert [layer.id for layer in apart.layers] == ["a", "b"]
    np.testing.assert_allclose(
        premultiplied(render(apart, pixels, view)),
        premultiplied(render(state, pixels, view)),
        atol=1.01,
    )


placements = st.builds(
    Placement,
    x=st.floats(-500, 500),
    y=st.floats(-500, 500),
    scale_x=st.floats(0.05, 10),
    scale_y=st.floats(0.05, 10),
    turn=st.floats(-180, 180),
    flipped=st.booleans(),
    upended=st.booleans(),
)


@given(placements, placements)
def test_taking_out_of_a_group_undoes_putting_in(
    inner: Placement, outer: Placement
) -> None:
    even = outer.model_copy(update={"scale_y": outer.scale_x})
    size = {"width": 300, "height": 200}

    there = placed_outside(inner, group=even, **size)
    back = placed_inside(there, group=even, **size)

    for name in ("x", "y", "scale_x", "scale_y"):
        assert getattr(back, name) == pytest.approx(getattr(inner, name), abs=1e-6)
    assert abs((back.turn - inner.turn + 180) % 360 - 180) < 1e-9
    assert (back.flipped, back.upended) == (inner.flipped, inner.upended)


def test_layer_moved_into_a_group_stays_where_it_shows() -> None:
    state = group(pile(), "middle", "front")
    state = place(state, "both", scale_x=0.5, scale_y=0.5, turn=30)

    moved = apply(state, MoveLayer(layer_id="back", index=0, into="both"))

    assert [layer.id for layer in moved.layer("both").layers] == [
        "back",
        "middle",
        "front",
    ]
    assert moved.layer("back").placement != state.layer("back").placement
    assert np.abs(premultiplied(shown(moved)) - premultiplied(shown(state))).max() <= 1


def test_group_goes_when_its_last_member_does() -> None:
    state = group(pile(), "front")

    assert [one.id for one in apply(state, RemoveLayer(layer_id="front")).layers] == [
        "back",
        "middle",
    ]


def test_copy_of_a_group_has_members_of_its_own() -> None:
    state = group(pile(), "middle", "front")

    copied = apply(state, DuplicateLayer(layer_id="both", copy_id="copy"))

    copy = copied.layer("copy")
    assert isinstance(copy, GroupLayer)
    assert copy.name == "Both 2"
    assert [layer.name for layer in copy.layers] == ["Middle", "Front"]
    assert len({layer.id for layer in copied.all_layers()}) == 7


def test_members_of_a_locked_group_are_locked() -> None:
    state = apply(group(pile(), "front"), LockLayer(layer_id="both", locked=True))

    for edit in (
        MoveLayer(layer_id="front", index=0, into=None),
        MoveLayer(layer_id="back", index=0, into="both"),
    ):
        with pytest.raises(LayerLockedError, match="Both is locked"):
            apply(state, edit)
    with pytest.raises(LayerLockedError, match="Both is locked"):
        place(state, "front", x=3)


def test_members_of_a_locked_group_may_change_places() -> None:
    state = group(pile(), "middle", "front")
    state = apply(state, LockLayer(layer_id="both", locked=True))

    state = apply(state, MoveLayer(layer_id="front", index=0, into="both"))

    assert [one.id for one in state.layer("both").layers] == ["front", "middle"]


def test_layers_are_counted_wherever_they_lie_and_groups_are_not() -> None:
    state = group(group(pile(), "front", group_id="inner"), "middle", "inner")

    assert state.layer_count == len(PICTURES)


def test_what_a_group_cannot_do_is_refused_with_its_reason() -> None:
    state = group(pile(), "front")

    with pytest.raises(GroupStretchedError, match="keep its proportions"):
        place(state, "both", scale_x=2)
    with pytest.raises(NotTogetherError, match="one and the same group"):
        group(state, "back", "front", group_id="other")
    with pytest.raises(NoSuchWorkError, match="put into itself"):
        apply(state, MoveLayer(layer_id="both", index=0, into="both"))
    with pytest.raises(NoSuchWorkError, match="cannot be taken apart"):
        apply(state, DissolveGroup(layer_id="front"))


def test_groups_lie_in_one_another_only_so_deep() -> None:
    state = pile()
    for number in range(8):
        state = group(
            state, "front" if number == 0 else f"g{number - 1}", group_id=f"g{number}"
        )

    with pytest.raises(DepthLimitError, match="at most 8 deep"):
        group(state, "g7", group_id="g8")


def test_group_is_described_after_its_members() -> None:
    state = group(pile(), "middle", "front")

    assert [sentence.text for sentence in describe(state)][1:] == [
        "Middle, filling the picture, shown plainly.",
        "Front, filling the picture, shown plainly.",
        "Both, 2 layers as one, filling the picture, shown plainly.",
    ]
