from __future__ import annotations

import numpy as np
import pytest

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import Composite, Gradient, Stop
from glyphaneme.core.edits import AddGradient, BlendLayer, GroupLayers, apply
from glyphaneme.core.place import Placement
from glyphaneme.core.render import FrameCache, View, render
from tests.pictures import (
    composite_of,
    noise_pixels,
    photo_layer,
    premultiplied,
    pyramids,
    soft_pixels,
)

WIDTH, HEIGHT = 1500, 150
PICTURES = {
    "paper": soft_pixels(WIDTH, 110, seed=1),
    "cloth": noise_pixels(600, 130, seed=2),
    "lamp": soft_pixels(400, 200, seed=3),
}
PICTURES["lamp"][:, :90, 3] = 0
PYRAMIDS = pyramids(**PICTURES)
DUSK = Gradient(
    x=750,
    y=75,
    length=900,
    angle=20,
    start=Stop(color="#302060", opacity=0.7),
    end=Stop(color="#ffc080", opacity=0),
)


def pile() -> Composite:
    """Return all kinds of layers over a canvas that is clear at its lower edge."""
    turned = Placement(x=700, y=70, scale_x=1.7, scale_y=0.6, turn=4)
    layers = [
        photo_layer("paper", PICTURES["paper"]),
        photo_layer("cloth", PICTURES["cloth"], blend=BlendMode.HUE, opacity=0.8),
        photo_layer("lamp", PICTURES["lamp"], blend=BlendMode.SCREEN, placement=turned),
    ]
    state = composite_of(*layers, width=WIDTH, height=HEIGHT)
    together = GroupLayers(group_id="both", name="Both", layer_ids=("cloth", "lamp"))
    dusk = AddGradient(layer_id="dusk", name="Dusk", gradient=DUSK)
    return apply(apply(state, together), dusk)


WHOLE = View(x=0, y=0, width=WIDTH, height=HEIGHT, scale=1)
EXPORT = premultiplied(render(pile(), PYRAMIDS, WHOLE))


def error(shown: np.ndarray, left: int, top: int) -> float:
    """Return by how many levels a part differs from the same part of the whole."""
    rows, columns = shown.shape[:2]
    wanted = EXPORT[top : top + rows, left : left + columns]
    return float(np.abs(premultiplied(shown) - wanted).max())


@pytest.mark.parametrize("width", [1, 7, 90, 256, 300, 511, 700, 1024, 1025])
def test_part_of_a_view_shows_what_the_whole_shows_there(width: int) -> None:
    left, top = 390, 31
    part = View(x=left, y=top, width=width, height=HEIGHT - top, scale=1)
    assert error(render(pile(), PYRAMIDS, part), left, top) <= 1


@pytest.mark.parametrize("width", [60, 256, 900])
@pytest.mark.parametrize("height", [80, 125], ids=["opaque", "partly clear"])
def test_part_of_a_frame_does_so_over_what_was_kept_beneath(
    width: int, height: int
) -> None:
    frames = FrameCache(10_000_000)
    left, top = 420, 20
    part = View(x=left, y=top, width=width, height=height, scale=1)
    for strength in (0.5, 0.7, 1):
        blend = BlendLayer(layer_id="dusk", mode=BlendMode.NORMAL, opacity=strength)
        shown = frames.render("poster", apply(pile(), blend), PYRAMIDS, part)
    assert frames.size >= width * height * 8
    assert error(shown, left, top) <= 1


@pytest.mark.parametrize("opacity", [0.0, 0.5, 1.0])
def test_what_is_see_through_stays_so(opacity: float) -> None:
    pixels = noise_pixels(40, 30, seed=7)
    layer = photo_layer("cloth", pixels, opacity=opacity)
    state = composite_of(layer, width=60, height=40)

    shown = render(state, pyramids(cloth=pixels), View(0, 0, 60, 40, 1))

    assert not shown[30:].any()
    assert not shown[:, 40:].any()
    wanted = pixels[..., 3].astype(float) * opacity
    np.testing.assert_allclose(shown[:30, :40, 3], wanted, atol=0.51)
