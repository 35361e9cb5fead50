"""Masks by other layers, and masks whose pixels follow from their neighbours."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest

from glyphaneme.core.document import (
    ColorLayer,
    Composite,
    Gradient,
    GradientLayer,
    Stop,
)
from glyphaneme.core.edits import (
    AddPart,
    GroupLayers,
    PlaceLayer,
    RemoveLayer,
    ShowLayer,
    apply,
)
from glyphaneme.core.errors import LayerMissingError, MaskCircleError
from glyphaneme.core.mask import EllipsePart, Join, LayerPart, Mask
from glyphaneme.core.place import Placement
from glyphaneme.core.render import FrameCache, View, assets_needed, render, render_bands
from glyphaneme.core.wording import describe
from tests.pictures import composite_of, photo_layer, premultiplied, pyramids

if TYPE_CHECKING:
    from numpy.typing import NDArray

WIDTH, HEIGHT = 240, 180
WHOLE = View(0, 0, WIDTH, HEIGHT, 1)
DISC = np.zeros((90, 90, 4), np.uint8)
row, column = np.mgrid[0:90, 0:90] + 0.5
DISC[..., 3] = np.clip(40.5 - np.hypot(row - 45, column - 45), 0, 1) * 255
DISC[..., :3] = (200, 40, 90)
FOREST = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
ASSETS = pyramids(disc=DISC, forest=FOREST)
AT = Placement(x=100, y=80, scale_x=1, scale_y=1)


def held(quality: str = "shape", **fields: object) -> Composite:
    """Return a forest that is held in a disc, which is hidden itself."""
    part = LayerPart(id="in", layer_id="disc", quality=quality, **fields)
    disc = photo_layer("disc", DISC, placement=AT, visible=False)
    forest = photo_layer("forest", FOREST, mask=Mask(parts=(part,)))
    return composite_of(disc, forest, width=WIDTH, height=HEIGHT)


def alpha(state: Composite, view: View = WHOLE) -> NDArray[np.float64]:
    return render(state, ASSETS, view)[..., 3].astype(float)


def disc_alone(state: Composite, view: View = WHOLE) -> NDArray[np.uint8]:
    disc = state.layer("disc").model_copy(update={"visible": True})
    return render(composite_of(disc, width=WIDTH, height=HEIGHT), ASSETS, view)


def test_layer_is_held_in_the_shape_of_a_hidden_one_and_follows_it() -> None:
    state = held()
    moved = Placement(x=150, y=60, scale_x=0.7, scale_y=0.7, turn=30)

    after = apply(state, PlaceLayer(layer_id="disc", placement=moved))

    for now in (state, after):
        assert np.abs(alpha(now) - disc_alone(now)[..., 3]).max() <= 1
    assert np.abs(alpha(state) - alpha(after)).max() == 255
    assert describe(state)[1].text.startswith(
        "Forest, filling the picture, held in the shape of Disc"
    )


def test_lightness_of_a_layer_counts_with_its_alpha() -> None:
    shown = disc_alone(held())
    light = shown[..., :3] @ [0.3, 0.59, 0.11] * (shown[..., 3] / 255)

    assert np.abs(alpha(held("lightness")) - light).max() <= 1


def test_parts_join_with_the_shape_of_a_layer() -> None:
    inside_out = alpha(held(inverted=True))
    taken = alpha(held(join=Join.TAKE))

    assert np.abs(inside_out - (255 - disc_alone(held())[..., 3])).max() <= 1
    assert np.array_equal(inside_out, taken)


def test_member_of_a_group_is_read_where_it_lies() -> None:
    state = apply(held(), ShowLayer(layer_id="disc", visible=True))
    other = ColorLayer(id="wash", name="Wash", color="#ff0000")
    state = Composite(canvas=state.canvas, layers=(other, *state.layers))
    grouped = apply(
        state, GroupLayers(group_id="g", name="G", layer_ids=("wash", "disc"))
    )

    assert np.array_equal(alpha(state), alpha(grouped))


def test_mask_of_a_layer_that_is_gone_hides_nothing() -> None:
    state = apply(held(), RemoveLayer(layer_id="disc"))

    assert alpha(state).min() == 255
    assert "held in the shape of a layer that is gone" in describe(state)[0].text


def test_everything_that_is_read_is_needed_also_when_hidden() -> None:
    assert assets_needed(held(), WHOLE).pictures == {"disc", "forest"}


def test_circles_are_refused_at_once_and_through_groups() -> None:
    state = held()
    back = LayerPart(id="back", layer_id="forest")
    itself = LayerPart(id="self", layer_id="forest")
    both = GroupLayers(group_id="g", name="G", layer_ids=("disc", "forest"))

    with pytest.raises(MaskCircleError, match="come back"):
        apply(state, AddPart(layer_id="disc", part=back))
    with pytest.raises(MaskCircleError):
        apply(state, AddPart(layer_id="forest", part=itself))
    with pytest.raises(MaskCircleError):
        apply(
            apply(state, both),
            AddPart(layer_id="forest", part=LayerPart(id="o", layer_id="g")),
        )
    with pytest.raises(LayerMissingError):
        apply(
            state, AddPart(layer_id="disc", part=LayerPart(id="x", layer_id="nobody"))
        )


def test_masks_that_read_too_many_in_a_row_are_refused() -> None:
    layers = [ColorLayer(id="l0", name="L0", color="#ffffff")]
    layers += [
        ColorLayer(
            id=f"l{n}",
            name=f"L{n}",
            color="#ffffff",
            mask=Mask(parts=(LayerPart(id="p", layer_id=f"l{n - 1}"),)),
        )
        for n in range(1, 30)
    ]
    state = composite_of(*layers, width=9, height=9)

    with pytest.raises(MaskCircleError, match="too many"):
        apply(state, ShowLayer(layer_id="l0", visible=False))


def test_frames_of_a_drag_follow_the_layer_that_is_read() -> None:
    frames = FrameCache(10_000_000)
    above = GradientLayer(
        id="glow",
        name="Glow",
        gradient=Gradient(
            x=120,
            y=90,
            length=200,
            start=Stop(color="#203040"),
            end=Stop(color="#203040", opacity=0),
        ),
    )
    state = held()
    state = Composite(canvas=state.canvas, layers=(*state.layers, above))

    for step in range(5):
        placement = AT.model_copy(update={"x": 80 + 11 * step})
        state = apply(state, PlaceLayer(layer_id="disc", placement=placement))
        frame = frames.render("poster", state, ASSETS, WHOLE)
        fresh = render(state, ASSETS, WHOLE)
        assert np.abs(premultiplied(frame) - premultiplied(fresh)).max() <= 1.5


def test_bands_are_the_whole_also_where_neighbours_count() -> None:
    part = EllipsePart(id="p", x=120, y=90, width=150, height=100)
    mask = Mask(parts=(part,), softened=9, grown=3.5, smoothed=4)
    state = composite_of(
        photo_layer("forest", FOREST, mask=mask), width=WIDTH, height=HEIGHT
    )

    bands = np.concatenate(list(render_bands(state, ASSETS, WHOLE, rows=50)))

    assert np.abs(bands.astype(int) - render(state, ASSETS, WHOLE)).max() <= 1


@pytest.mark.parametrize("scale", [1, 0.5])
def test_softened_mask_is_a_gaussian_of_its_own_pixels(scale: float) -> None:
    part = EllipsePart(id="p", x=120, y=90, width=150, height=100)
    soft = Mask(parts=(part,), softened=8)
    width, height = round(WIDTH * scale), round(HEIGHT * scale)

    def shown(mask: Mask) -> NDArray[np.float64]:
        layer = photo_layer("forest", FOREST, mask=mask)
        state = composite_of(layer, width=WIDTH, height=HEIGHT)
        return alpha(state, View(0, 0, width, height, scale))

    wanted = cv2.GaussianBlur(shown(Mask(parts=(part,))), (0, 0), 8 * scale)

    inner = np.s_[6:-6, 6:-6]
    assert np.abs(shown(soft) - wanted)[inner].max() <= 2


@pytest.mark.parametrize("grown", [-12, -3.5, 4, 12.5])
def test_grown_circle_is_as_much_larger(grown: float) -> None:
    part = EllipsePart(id="p", x=120, y=90, width=80, height=80)
    layer = photo_layer("forest", FOREST, mask=Mask(parts=(part,), grown=grown))
    state = composite_of(layer, width=WIDTH, height=HEIGHT)

    radius = np.sqrt(alpha(state).sum() / 255 / np.pi)

    assert radius == pytest.approx(40 + grown, abs=0.06 * abs(grown) + 0.1)


def test_smoothed_outline_loses_its_corners_and_keeps_its_edge() -> None:
    cross = [
        EllipsePart(id="a", x=120, y=90, width=160, height=20),
        EllipsePart(id="b", x=120, y=90, width=20, height=160),
    ]
    layer = photo_layer("forest", FOREST, mask=Mask(parts=tuple(cross), smoothed=6))
    state = composite_of(layer, width=WIDTH, height=HEIGHT)

    shown = alpha(state)

    assert shown[90 - 13, 120 + 13] > 128  # the inner corner is filled
    assert shown[90, 120 + 78] < 128  # the tip is taken off
    assert ((shown > 8) & (shown < 247)).mean() < 0.06


def test_soft_masks_of_two_layers_are_two() -> None:
    layers = []
    for name, color, x in (("red", "#ff0000", 25), ("blue", "#0000ff", 75)):
        moon = EllipsePart(id="moon", x=x, y=30, width=30, height=30)
        mask = Mask(parts=(moon,), softened=2.0)
        layers.append(ColorLayer(id=name, name=name, color=color, mask=mask))
    state = composite_of(*layers, width=100, height=60, background="#ffffff")

    frame = render(state, {}, View(0, 0, 100, 60, 1))

    assert frame[30, 25].tolist() == [255, 0, 0, 255]
    assert frame[30, 75].tolist() == [0, 0, 255, 255]
