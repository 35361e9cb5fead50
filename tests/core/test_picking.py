"""What lies under a point, front to back, each layer by itself."""

from __future__ import annotations

import numpy as np
import pytest

from glyphaneme.core.document import Composite, Gradient, Stop
from glyphaneme.core.edits import (
    AddColor,
    AddGradient,
    BlendLayer,
    GroupLayers,
    PlaceLayer,
    ShowLayer,
    apply,
)
from glyphaneme.core.place import Placement
from glyphaneme.core.render import layers_under
from tests.pictures import composite_of, flat_pixels, photo_layer, pyramids

RED = flat_pixels(40, 40, (200, 30, 20, 255))
RING = flat_pixels(60, 60, (20, 90, 200, 255))
RING[20:40, 20:40, 3] = 0
PYRAMIDS = pyramids(red=RED, ring=RING)


def pile() -> Composite:
    """Return a ring over a red square, both in the middle, and a veil over all."""
    middle = Placement(x=50, y=40, scale_x=1, scale_y=1)
    state = composite_of(
        photo_layer("red", RED, placement=middle),
        photo_layer("ring", RING, placement=middle),
        width=100,
        height=80,
    )
    veil = AddColor(layer_id="veil", name="Veil", color="#808080")
    state = apply(state, veil)
    return apply(state, BlendLayer(layer_id="veil", mode="multiply", opacity=0.1))


def ids(state: Composite, x: float, y: float, *, most: int = 9) -> list[str]:
    found = layers_under(state, PYRAMIDS, (x, y), side=32, most=most)
    return [one.layer_id for one in found]


def test_all_layers_with_pixels_at_the_point_are_found_front_to_back() -> None:
    assert ids(pile(), 25, 40) == ["veil", "ring"]
    # Through the hole of the ring.
    assert ids(pile(), 50, 40) == ["veil", "red"]
    assert ids(pile(), 35, 40) == ["veil", "ring", "red"]
    assert ids(pile(), 3, 3) == ["veil"]


def test_hidden_layers_and_members_of_hidden_groups_are_not_found() -> None:
    state = apply(
        pile(), GroupLayers(group_id="g", name="G", layer_ids=("red", "ring"))
    )

    assert ids(state, 35, 40) == ["veil", "g", "ring", "red"]
    assert ids(apply(state, ShowLayer(layer_id="ring", visible=False)), 35, 40) == [
        "veil",
        "g",
        "red",
    ]
    assert ids(apply(state, ShowLayer(layer_id="g", visible=False)), 35, 40) == ["veil"]


def test_member_is_found_where_its_group_puts_it() -> None:
    state = apply(pile(), GroupLayers(group_id="g", name="G", layer_ids=("red",)))
    far = Placement(x=90, y=70, scale_x=0.2, scale_y=0.2)

    state = apply(state, PlaceLayer(layer_id="g", placement=far))

    assert ids(state, 90, 70) == ["veil", "g", "red"]
    assert ids(state, 50, 40) == ["veil"]


def test_no_more_are_returned_than_asked_for() -> None:
    assert ids(pile(), 35, 40, most=2) == ["veil", "ring"]


def test_cut_out_is_the_layer_alone_at_full_strength() -> None:
    veil, ring = layers_under(pile(), PYRAMIDS, (25, 40), side=32, most=9)

    assert veil.pixels.shape == (26, 32, 4)
    assert (veil.pixels == (128, 128, 128, 255)).all()
    assert max(ring.pixels.shape[:2]) == 32
    height, width = ring.pixels.shape[:2]
    assert ring.pixels[height // 2, width // 2, 3] == 0
    np.testing.assert_array_equal(ring.pixels[height // 2, 3], (20, 90, 200, 255))


@pytest.mark.parametrize("at", [(-1e6, 1e6), (1e6, 0), (0, -1e6)])
def test_far_outside_only_what_lies_everywhere_is_found(at) -> None:
    ends = {"start": Stop(color="#ffffff"), "end": Stop(color="#000000", opacity=0)}
    glow = Gradient(x=50, y=40, length=40, **ends)
    state = apply(pile(), AddGradient(layer_id="glow", name="Glow", gradient=glow))

    assert set(ids(state, *at)) <= {"veil", "glow"}
