from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import Canvas, Composite, Gradient, Stop
from glyphaneme.core.edits import (
    AddColor,
    AddGradient,
    BlendLayer,
    GradeLayer,
    GroupLayers,
    PlaceLayer,
    TintLayer,
    apply,
)
from glyphaneme.core.errors import NoSuchWorkError
from glyphaneme.core.render import View, render
from glyphaneme.core.wording import describe
from tests.pictures import (
    composite_of,
    photo_layer,
    premultiplied,
    pyramids,
    soft_pixels,
)
from tests.published_blending import laid_over

WIDTH, HEIGHT = 160, 120
WHOLE = View(x=0, y=0, width=WIDTH, height=HEIGHT, scale=1)
ORANGE = Stop(color="#ff8000")
BLUE = Stop(color="#102040")


def bare(background: str | None = None) -> Composite:
    return Composite(canvas=Canvas(width=WIDTH, height=HEIGHT, background=background))


def with_gradient(state: Composite, **fields: object) -> Composite:
    gradient = Gradient(
        **{"x": 80, "y": 60, "length": 100, "start": ORANGE, "end": BLUE, **fields}
    )
    edit = AddGradient(layer_id="g", name="Glow", gradient=gradient)
    return apply(state, edit)


def centres() -> tuple[np.ndarray, np.ndarray]:
    rows, columns = np.mgrid[0:HEIGHT, 0:WIDTH] + 0.5
    return columns, rows


def mixed(way: np.ndarray, start: np.ndarray, end: np.ndarray) -> np.ndarray:
    """Mix premultiplied, as CSS Images 4, section 3.4.3 defines it."""
    share = np.clip(way, 0, 1)[..., None]
    premultiplied_ends = [stop * [*[stop[3]] * 3, 1] for stop in (start, end)]
    return premultiplied_ends[0] * (1 - share) + premultiplied_ends[1] * share


def test_colour_lies_over_everything_and_blends() -> None:
    picture = soft_pixels(WIDTH, HEIGHT, seed=1)
    state = composite_of(photo_layer("p", picture), width=WIDTH, height=HEIGHT)
    state = apply(state, AddColor(layer_id="c", name="Wash", color="#2040c0"))
    state = apply(state, BlendLayer(layer_id="c", mode=BlendMode.COLOR, opacity=0.5))

    out = render(state, pyramids(p=picture), WHOLE)

    wash = np.broadcast_to(np.array([0x20, 0x40, 0xC0, 255]) / 255, out.shape)
    wanted = laid_over(BlendMode.COLOR, picture / 255, wash, 0.5) * 255
    assert np.abs(out - wanted).max() <= 0.51


@pytest.mark.parametrize("angle", [0, 37, -120])
def test_linear_gradient_runs_by_its_angle_about_its_middle(angle: float) -> None:
    out = render(with_gradient(bare(), angle=angle), {}, WHOLE)

    x, y = centres()
    turn = np.radians(angle)
    way = 0.5 + ((x - 80) * np.cos(turn) + (y - 60) * np.sin(turn)) / 100
    wanted = mixed(
        way, np.array([1, 128 / 255, 0, 1]), np.array([16, 32, 64, 255]) / 255
    )
    assert np.abs(out - wanted * 255).max() <= 0.52


def test_round_gradient_runs_outwards_to_clear_without_a_fringe() -> None:
    clear = Stop(color="#00ff00", opacity=0)
    state = with_gradient(bare(), shape="round", end=clear)

    out = render(state, {}, WHOLE)

    x, y = centres()
    way = np.hypot(x - 80, y - 60) / 100
    wanted = mixed(way, np.array([1, 128 / 255, 0, 1]), np.array([0, 1, 0, 0]))
    assert np.abs(premultiplied(out) - wanted * 255).max() <= 1
    inside = out[..., 3] > 8
    assert np.abs(out[inside][:, :3].astype(int) - (255, 128, 0)).max() <= 1


def test_dithered_soft_gradient_is_true_on_average_and_nowhere_off_by_a_level() -> None:
    side = 256
    view = View(x=0, y=0, width=side, height=64, scale=1)
    ends = {"start": Stop(color="#404040"), "end": Stop(color="#484848")}
    state = Composite(canvas=Canvas(width=side, height=64, background=None))
    gradient = Gradient(x=side / 2, y=0, length=side, **ends)
    state = apply(state, AddGradient(layer_id="g", name="Soft", gradient=gradient))

    dithered = render(state, {}, view, rounding="dithered")[..., 0].astype(float)
    plain = render(state, {}, view)[..., 0].astype(float)

    wanted = 0x40 + 8 * (np.arange(side) + 0.5) / side
    assert np.abs(dithered - wanted).max() < 1
    averages = [
        levels.reshape(4, 16, 16, 16).mean((0, 1, 3)) - wanted.reshape(16, 16).mean(1)
        for levels in (dithered, plain)
    ]
    assert np.abs(averages[0]).max() < 0.05
    assert np.abs(averages[1]).max() > 0.2


def test_dither_leaves_whole_levels_alone() -> None:
    picture = soft_pixels(WIDTH, HEIGHT, seed=1)
    state = composite_of(photo_layer("p", picture), width=WIDTH, height=HEIGHT)

    out = render(state, pyramids(p=picture), WHOLE, rounding="dithered")

    np.testing.assert_array_equal(out, picture)


def test_gradient_looks_the_same_at_every_scale() -> None:
    state = with_gradient(bare("#ffffff"), angle=30)

    half = render(state, {}, View(x=0, y=0, width=80, height=60, scale=0.5))

    whole = render(state, {}, WHOLE).reshape(60, 2, 80, 2, 4).mean((1, 3))
    assert np.abs(half - whole).max() <= 1


def test_gradient_moves_and_turns_with_its_group() -> None:
    state = with_gradient(bare(), angle=0)
    grouped = apply(state, GroupLayers(group_id="o", name="One", layer_ids=("g",)))
    place = grouped.layer("o").placement.model_copy(update={"turn": 90, "x": 80})

    turned = apply(grouped, PlaceLayer(layer_id="o", placement=place))

    np.testing.assert_allclose(
        render(turned, {}, WHOLE),
        render(with_gradient(bare(), angle=90), {}, WHOLE),
        atol=1,
    )


def test_colours_stay_editable() -> None:
    state = apply(bare(), AddColor(layer_id="c", name="Wash", color="#000000"))
    state = with_gradient(state)

    state = apply(state, TintLayer(layer_id="c", color="#00ff00"))
    red = Gradient(x=1, y=2, length=3, start=Stop(color="#ff0000"), end=BLUE)
    state = apply(state, GradeLayer(layer_id="g", gradient=red))

    assert state.layer("c").color == "#00ff00"
    assert state.layer("g").gradient.start.color == "#ff0000"


def test_washes_refuse_what_only_photos_can_do() -> None:
    state = apply(bare(), AddColor(layer_id="c", name="Wash", color="#000000"))
    place = PlaceLayer(
        layer_id="c", placement={"x": 1, "y": 1, "scale_x": 1, "scale_y": 1}
    )
    red = Gradient(x=1, y=2, length=3, start=ORANGE, end=BLUE)

    with pytest.raises(NoSuchWorkError, match="a color lies everywhere"):
        apply(state, place)
    with pytest.raises(NoSuchWorkError, match="no gradient of its own"):
        apply(state, GradeLayer(layer_id="c", gradient=red))
    with pytest.raises(ValidationError, match="color"):
        TintLayer(layer_id="c", color="reddish")


def test_washes_say_what_they_do() -> None:
    state = apply(bare(), AddColor(layer_id="c", name="Wash", color="#ffffff"))
    state = with_gradient(state, angle=90, end=Stop(color="#000000", opacity=0))
    state = apply(state, BlendLayer(layer_id="c", mode=BlendMode.COLOR, opacity=0.4))

    assert [sentence.text.replace("\u00a0", " ") for sentence in describe(state)] == [
        "Wash, white over everything, giving only color at 40 %.",
        "Glow, from dark orange to clear, running downwards, shown plainly.",
    ]
