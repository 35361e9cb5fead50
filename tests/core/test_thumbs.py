"""Thumbs of what masks hide lie as the layers do by themselves."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from glyphaneme.core.document import ColorLayer
from glyphaneme.core.edits import LinkMask, apply
from glyphaneme.core.errors import LayerMissingError
from glyphaneme.core.mask import LayerPart, Mask, RectanglePart
from glyphaneme.core.place import Bend, Corners, Placement
from glyphaneme.core.render import hidden_share
from tests.pictures import composite_of, flat_pixels, photo_layer, pyramids

WIDE = flat_pixels(400, 200, (255, 255, 255, 255))
ASSETS = pyramids(a=WIDE, b=WIDE)
LEFT = RectanglePart(id="p", x=100, y=100, width=200, height=200)
"""The left half of a picture of 400 by 200."""


@pytest.mark.parametrize(
    "placed",
    [
        {},
        {"turn": 90, "scale_x": 0.3, "scale_y": 0.3},
        {"turn": 33, "flipped": True, "scale_x": 0.5, "scale_y": 2.0},
        {"x": -5000, "upended": True},
    ],
)
@pytest.mark.parametrize("linked", [True, False])
def test_hidden_half_is_the_same_however_the_layer_lies(
    placed: dict[str, Any], linked: bool
) -> None:
    placement = Placement(**{"x": 150, "y": 80, "scale_x": 1, "scale_y": 1, **placed})
    mask = Mask(parts=(LEFT,))
    layer = photo_layer("a", WIDE, placement=placement, mask=mask)
    state = composite_of(layer, width=300, height=200)
    state = apply(state, LinkMask(layer_id="a", linked=linked))

    share = hidden_share(state, ASSETS, "a", 50)

    assert share.shape == (50, 100)
    assert share[3:47, 3:47].max() < 8
    assert share[3:47, 53:97].min() > 247


def test_hidden_half_of_a_cornered_photo_is_shown_as_if_it_lay_straight() -> None:
    corners = Corners(top_left=(0.3, 0.2), bottom_right=(-0.2, 0))
    bend = Bend(moves=((0, 0), (0, 0.1), (0, 0)) * 3)
    place = {"x": 150, "y": 80, "scale_x": 1, "scale_y": 1}
    placement = Placement(**place, corners=corners, bend=bend)
    layer = photo_layer("a", WIDE, placement=placement, mask=Mask(parts=(LEFT,)))

    share = hidden_share(composite_of(layer, width=300, height=200), ASSETS, "a", 50)

    assert share[3:47, 3:47].max() < 8
    assert share[3:47, 53:97].min() > 247


def test_wash_and_another_layers_shape_are_seen_on_the_canvas() -> None:
    placed = Placement(x=75, y=100, scale_x=0.375, scale_y=1)
    photo = photo_layer("b", WIDE, placement=placed)
    mask = Mask(parts=(LayerPart(id="l", layer_id="b"),))
    wash = ColorLayer(id="w", name="Wash", color="#204060", mask=mask)
    state = composite_of(photo, wash, width=300, height=200)

    share = hidden_share(state, ASSETS, "w", 40)

    assert share.shape == (40, 60)
    assert share[:, 2:28].max() < 8
    assert share[:, 32:58].min() > 247


def test_very_long_layer_and_one_without_a_mask_have_thumbs_too() -> None:
    long = flat_pixels(3000, 2, (255, 255, 255, 255))
    layer = photo_layer("a", long)
    state = composite_of(layer, width=300, height=200)

    share = hidden_share(state, pyramids(a=long), "a", 20)

    assert share.shape == (20, 80)
    assert not np.any(share)
    with pytest.raises(LayerMissingError):
        hidden_share(state, {}, "gone", 20)
