"""Colour that is painted on a photo: hidden at first, and moved along with it."""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import ColorLayer, Composite, GroupLayer, PhotoLayer
from glyphaneme.core.edits import ColorByBrush, PaintStroke, PlaceLayer, apply, decided
from glyphaneme.core.errors import LayerLockedError, NoSuchWorkError
from glyphaneme.core.mask import EllipsePart, Join, LayerPart, Mask, PaintedPart
from glyphaneme.core.mask.paintings import NO_PAINTING, painted_all
from glyphaneme.core.mask.strokes import Stroke
from glyphaneme.core.place import Placement
from glyphaneme.core.render import View, render
from glyphaneme.core.wording import describe
from tests.pictures import composite_of, photo_layer, pyramids

SIDE = 120
WHOLE = View(0, 0, SIDE, SIDE, 1.0)
GREY = np.full((80, 80, 4), 255, np.uint8)
GREY[..., :3] = np.linspace(30, 220, 80, dtype=np.uint8)[:, None, None]
STROKE = Stroke(points=((60, 60, 1),), size=30, softness=0, shows=True)


def photo(**changes: object) -> PhotoLayer:
    place = Placement(x=60, y=60, scale_x=1, scale_y=1)
    return photo_layer("photo", GREY, **{"placement": place, **changes})


def skin(number: int = 1, layer_id: str = "photo") -> ColorByBrush:
    return ColorByBrush(
        layer_id=layer_id,
        color_id=f"skin{number}",
        group_id=f"group{number}",
        part_id="brushed",
        name="Skin",
        color="#c06040",
    )


def after(composite: Composite, *edits: object) -> Composite:
    for edit in edits:
        composite = apply(composite, decided(composite, edit))
    return composite


def painted(composite: Composite, color_id: str = "skin1") -> tuple[Composite, dict]:
    """Paint one dab; return the state and what its strokes leave."""
    edit = PaintStroke(layer_id=color_id, part_id="brushed", stroke=STROKE)
    state = after(composite, edit)
    last = state.layer(color_id).mask.parts[0].last
    return state, {last: painted_all(NO_PAINTING, [STROKE])}


def shown(composite: Composite, paintings: dict | None = None) -> np.ndarray:
    assets = {**pyramids(photo=GREY), **(paintings or {})}
    return render(composite, assets, WHOLE).astype(int)


def sheet(*layers: object) -> Composite:
    return composite_of(*layers, width=SIDE, height=SIDE, background="#2040c0")


def test_nothing_shows_of_a_colour_before_it_is_painted() -> None:
    before = sheet(photo())
    assert (shown(after(before, skin())) == shown(before)).all()


def test_what_is_painted_keeps_light_and_shade_and_takes_on_colour() -> None:
    state, paintings = painted(after(sheet(photo()), skin()))
    found, before = shown(state, paintings), shown(sheet(photo()))
    inside, outside = found[50:70, 50:70], found[80:95, 80:95]
    assert (outside == before[80:95, 80:95]).all()
    assert (inside[..., 0] > inside[..., 2] + 20).all()
    weights = np.array([0.3, 0.59, 0.11])
    luminosity = inside[..., :3] @ weights - before[50:70, 50:70, :3] @ weights
    assert np.abs(luminosity).max() < 1.5


def test_colour_stays_inside_of_what_the_photo_shows() -> None:
    cut = Mask(parts=(EllipsePart(id="e", x=30, y=40, width=20, height=20),))
    state, paintings = painted(after(sheet(photo(mask=cut)), skin()))
    found, before = shown(state, paintings), shown(sheet(photo(mask=cut)))
    beside = np.s_[50:70, 66:74]
    assert (found[beside] == before[beside]).all()
    assert (found != before).any()


def test_colours_lie_over_one_another_in_one_group_that_moves_as_one() -> None:
    state = after(sheet(photo(blend="multiply", opacity=0.5)), skin(), skin(2))
    (group,) = state.layers
    assert isinstance(group, GroupLayer)
    assert [one.id for one in group.layers] == ["photo", "skin1", "skin2"]
    assert (group.blend, group.opacity) == (BlendMode.MULTIPLY, 0.5)
    assert (group.layers[0].blend, group.layers[0].opacity) == (BlendMode.NORMAL, 1.0)
    state, paintings = painted(after(sheet(photo()), skin()))
    place = state.layers[0].placement.model_copy(update={"x": 70})
    moved = after(state, PlaceLayer(layer_id="group1", placement=place))
    before, found = shown(state, paintings), shown(moved, paintings)
    assert np.abs(found[20:100, 40:105] - before[20:100, 30:95]).max() <= 1


def test_a_plain_wash_in_the_photos_shape_is_no_colour_painted_on_it() -> None:
    held = Mask(parts=(LayerPart(id="h", layer_id="photo"),))
    wash = ColorLayer(id="w", name="Wash", color="#ffffff", mask=held)
    photo_group, other = after(sheet(photo(), wash), skin()).layers
    assert isinstance(photo_group, GroupLayer)
    assert other.id == "w"


def test_it_is_said_that_nothing_is_painted_yet() -> None:
    state = after(sheet(photo()), skin())
    said = {one.layer_id: one for one in describe(state)}["skin1"]
    assert "nothing painted yet, only inside the shape of Photo" in said.text
    assert said.recipe[0] == "painted, no stroke yet"
    state, _ = painted(state)
    said = {one.layer_id: one for one in describe(state)}["skin1"]
    assert "only where painted" in said.text


def test_a_part_without_strokes_shows_all_or_nothing_by_how_it_begins() -> None:
    for join, opaque in ((Join.ADD, 0), (Join.KEEP, 255)):
        part = PaintedPart(id="p", join=join)
        wash = ColorLayer(id="w", name="W", color="#ffffff", mask=Mask(parts=(part,)))
        bare = composite_of(wash, width=SIDE, height=SIDE)
        assert (render(bare, {}, WHOLE)[..., 3] == opaque).all()


@pytest.mark.parametrize("fields", [{"strokes": 2}, {"last": "a" * 64}])
def test_a_part_names_a_stroke_only_if_it_has_one(fields: dict) -> None:
    with pytest.raises(ValidationError):
        PaintedPart(id="p", **fields)


def test_only_photos_and_groups_that_are_not_locked_are_painted_on() -> None:
    wash = ColorLayer(id="w", name="Wash", color="#ffffff")
    with pytest.raises(NoSuchWorkError, match="no photo to be painted on"):
        after(sheet(wash), skin(layer_id="w"))
    with pytest.raises(LayerLockedError):
        after(sheet(photo(locked=True)), skin())
