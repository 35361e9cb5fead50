"""Masks and fades stay where they show, whatever they are measured in."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
import pytest

from glyphaneme.core.document import Canvas, ColorLayer, Composite
from glyphaneme.core.edits import (
    CopyFades,
    CopyMask,
    DissolveGroup,
    GroupLayers,
    LinkFade,
    LinkMask,
    MeltPhotos,
    PlaceLayer,
    SetCanvas,
    apply,
)
from glyphaneme.core.errors import NoSuchWorkError, NotTogetherError
from glyphaneme.core.mask import Fade, Mask, RectanglePart
from glyphaneme.core.place import Placement
from glyphaneme.core.render import View, render
from tests.pictures import composite_of, flat_pixels, photo_layer, pyramids

if TYPE_CHECKING:
    from numpy.typing import NDArray

WIDTH, HEIGHT = 300, 200
WHOLE = View(0, 0, WIDTH, HEIGHT, 1)
WHITE = flat_pixels(400, 300, (255, 255, 255, 255))
ASSETS = pyramids(a=WHITE, b=WHITE)
TURNED = Placement(x=140, y=90, scale_x=0.9, scale_y=0.6, turn=25, flipped=True)
EVEN = Placement(x=150, y=110, scale_x=0.8, scale_y=0.8, turn=-40, upended=True)
PART = RectanglePart(id="p", x=190, y=140, width=120, height=90, turn=15, softness=12)
AWAY = (0.9, 0.1, -12.0, -0.1, 1.1, 7.0)
FADES = (
    Fade(x=200, y=150, length=180, angle=70),
    Fade(x=9, y=9, length=99, linked=False),
)


def alpha(state: Composite) -> NDArray[np.int64]:
    return render(state, ASSETS, WHOLE)[..., 3].astype(int)


def photo(placement: Placement = TURNED, **mask: object) -> Composite:
    fields = Mask(parts=(PART,), to_mask=AWAY, **mask)
    layer = photo_layer("a", WHITE, placement=placement, mask=fields)
    return composite_of(layer, width=WIDTH, height=HEIGHT)


@pytest.mark.parametrize("linked", [True, False])
def test_mask_shows_the_same_when_it_is_linked_and_unlinked(linked: bool) -> None:
    state = photo(linked=linked)

    other = apply(state, LinkMask(layer_id="a", linked=not linked))

    assert other.layer("a").mask.linked is not linked
    assert np.abs(alpha(state) - alpha(other)).max() <= 1
    back = apply(other, LinkMask(layer_id="a", linked=linked))
    assert back.layer("a").mask.to_mask == pytest.approx(AWAY)


def test_photo_moves_beneath_a_mask_that_stays() -> None:
    state = apply(photo(EVEN), LinkMask(layer_id="a", linked=False))
    moved = EVEN.model_copy(update={"x": 160})

    after = apply(state, PlaceLayer(layer_id="a", placement=moved))

    inner = np.s_[60:150, 100:200]
    assert np.abs(alpha(state) - alpha(after))[inner].max() <= 1


def test_what_lies_everywhere_has_no_place_to_move() -> None:
    wash = ColorLayer(id="w", name="W", color="#ffffff", mask=Mask(parts=(PART,)))
    state = composite_of(wash, width=WIDTH, height=HEIGHT)

    with pytest.raises(NoSuchWorkError):
        apply(state, LinkMask(layer_id="w", linked=False))


@pytest.mark.parametrize("linked", [True, False])
def test_groups_and_canvases_carry_masks_and_fades_along(linked: bool) -> None:
    wash = ColorLayer(
        id="w", name="W", color="#00ff00", mask=Mask(parts=(PART,)), fades=FADES
    )
    state = photo(linked=linked)
    layer = state.layer("a").model_copy(update={"fades": FADES})
    state = Composite(canvas=state.canvas, layers=(wash, layer))
    grouped = apply(state, GroupLayers(group_id="g", name="G", layer_ids=("w", "a")))
    placed = apply(grouped, PlaceLayer(layer_id="g", placement=EVEN))

    loose = apply(placed, DissolveGroup(layer_id="g"))

    assert np.abs(alpha(state) - alpha(grouped)).max() <= 1
    assert np.abs(alpha(placed) - alpha(loose)).max() <= 2
    canvas = Canvas(width=WIDTH, height=HEIGHT, background=None)
    shifted = apply(state, SetCanvas(canvas=canvas, shift_x=30, shift_y=-20))
    assert np.abs(alpha(shifted)[:-20, 30:] - alpha(state)[20:, :-30]).max() <= 1


def test_mask_is_copied_to_where_it_lies_into_another_group_too() -> None:
    state = photo(TURNED)
    other = photo_layer("b", WHITE, placement=EVEN)
    wash = ColorLayer(id="w", name="W", color="#00ff00")
    state = Composite(canvas=state.canvas, layers=(state.layer("a"), other, wash))
    state = apply(state, GroupLayers(group_id="g", name="G", layer_ids=("b",)))
    state = apply(state, GroupLayers(group_id="h", name="H", layer_ids=("w",)))

    for target in ("b", "w"):
        state = apply(state, CopyMask(layer_id=target, from_id="a"))

    alone = [
        state.model_copy(update={"layers": (state.path_to(name)[0],)})
        for name in ("a", "b", "w")
    ]
    wanted, *copies = map(alpha, alone)
    inner = np.s_[70:130, 110:180]
    for copy in copies:
        assert np.abs(copy - wanted)[inner].max() <= 1
    with pytest.raises(NoSuchWorkError, match="none to give"):
        apply(state, CopyMask(layer_id="a", from_id="g"))


@pytest.mark.parametrize("linked", [True, False])
def test_fade_shows_the_same_when_it_is_linked_and_unlinked(linked: bool) -> None:
    fade = Fade(x=200, y=150, length=180, angle=70, linked=linked)
    layer = photo_layer("a", WHITE, placement=EVEN, fades=(fade,))
    state = composite_of(layer, width=WIDTH, height=HEIGHT)

    other = apply(state, LinkFade(layer_id="a", place=0, linked=not linked))
    back = apply(other, LinkFade(layer_id="a", place=0, linked=linked))

    assert other.layer("a").fades[0].linked is not linked
    assert np.abs(alpha(other) - alpha(state)).max() <= 1
    assert back.layer("a").fades[0].length == pytest.approx(180)
    # Only what is linked moves along.
    away = apply(other, PlaceLayer(layer_id="a", placement=TURNED))
    same = away.layer("a").fades == other.layer("a").fades
    assert same
    with pytest.raises(NoSuchWorkError, match="no such fade"):
        apply(state, LinkFade(layer_id="a", place=1, linked=linked))


def test_fades_are_copied_in_proportion() -> None:
    small = flat_pixels(200, 150, (255, 255, 255, 255))
    one = photo_layer("a", WHITE, fades=(Fade(x=100, y=150, length=100, angle=180),))
    other = photo_layer("b", small)
    state = composite_of(one, other, width=WIDTH, height=HEIGHT)

    [fade] = apply(state, CopyFades(layer_id="b", from_id="a")).layer("b").fades

    assert (fade.x, fade.y, fade.length, fade.angle) == (50, 75, 50, 180)


@pytest.mark.parametrize("axis", ["across", "down"])
@pytest.mark.parametrize("order", [("a", "b", "c"), ("c", "b", "a"), ("b", "a", "c")])
def test_photos_melt_in_a_row_without_a_dip(axis, order) -> None:
    names = {"a": 20, "b": 150, "c": 280}
    layers = [
        photo_layer(
            name,
            WHITE,
            placement=Placement(x=names[name], y=names[name], scale_x=1, scale_y=1),
        )
        for name in order
    ]
    state = composite_of(*layers, width=WIDTH, height=HEIGHT, background="#000000")

    melted = apply(state, MeltPhotos(layer_ids=order, axis=axis, overlap=40))

    assets = pyramids(a=WHITE, b=WHITE, c=WHITE)
    assert render(melted, assets, WHOLE)[..., 0].min() >= 254
    fades = {layer.id: len(layer.fades) for layer in melted.layers}
    assert sum(fades.values()) == 2
    assert fades[order[0]] == 0
    front = melted.layer(order[-1])
    shown = render(melted.model_copy(update={"layers": (front,)}), assets, WHOLE)[
        ..., 0
    ]
    assert (shown == 0).any()


def test_only_photos_that_lie_together_melt() -> None:
    wash = ColorLayer(id="w", name="W", color="#00ff00")
    photos = [photo_layer(name, WHITE) for name in ("a", "b")]
    state = composite_of(*photos, wash, width=WIDTH, height=HEIGHT)
    apart = apply(state, GroupLayers(group_id="g", name="G", layer_ids=("b",)))

    with pytest.raises(NoSuchWorkError, match="melt"):
        apply(state, MeltPhotos(layer_ids=("a", "w"), overlap=9))
    with pytest.raises(NotTogetherError):
        apply(apart, MeltPhotos(layer_ids=("a", "b"), overlap=9))
    with pytest.raises(NotTogetherError):
        apply(state, MeltPhotos(layer_ids=("a", "a"), overlap=9))
