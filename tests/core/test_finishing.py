"""Finished files as values: how large, on what paper, and what is told of them."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from glyphaneme.core.document import Canvas, Composite
from glyphaneme.core.document.apart import only
from glyphaneme.core.document.model import (
    ColorLayer,
    GradientLayer,
    GroupLayer,
    PhotoLayer,
    WordsLayer,
)
from glyphaneme.core.edits import AddGradient, apply
from glyphaneme.core.errors import LayerMissingError, TooManyTilesError
from glyphaneme.core.finish import (
    PURPOSES,
    About,
    FileSettings,
    dimensions_of,
    shown_part,
    soft_layers,
    tiled,
    words_apart,
)
from glyphaneme.core.finish.fitting import Given, fitted
from glyphaneme.core.finish.settings import Tiling
from glyphaneme.core.place import Placement, Rect
from glyphaneme.core.render import View, render_bands, render_deep_bands
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.typesetting import measured
from tests import fonts
from tests.pictures import composite_of, photo_layer, pyramids, soft_pixels
from tests.trying import times

CANVAS = Canvas(width=400, height=300, ppi=100)


def photo(name: str, width: int, height: int, **place: float) -> PhotoLayer:
    placement = Placement(
        x=place.get("x", width / 2), y=place.get("y", height / 2), scale_x=1, scale_y=1
    )
    return photo_layer(name, soft_pixels(width, height, seed=3), placement=placement)


def settings(**fields: Any) -> FileSettings:
    return FileSettings.model_validate(fields)


@pytest.mark.parametrize(
    ("size", "pixels"),
    [
        ({"by": "share", "share": 2.5}, (1000, 750)),
        ({"by": "width", "width": 133}, (133, 100)),
        ({"by": "longest", "longest": 200}, (200, 150)),
        ({"by": "longest", "longest": 4000}, (400, 300)),
        ({"by": "least", "least": 2000}, (2000, 1500)),
        ({"by": "least", "least": 20}, (400, 300)),
        ({"by": "paper", "ppi": 300}, (1200, 900)),
        ({"by": "paper", "width_mm": 50.8, "ppi": 100}, (200, 150)),
        ({"by": "share", "share": 0.001}, (1, 1)),
    ],
)
def test_size_is_what_is_asked_for(size: dict, pixels: tuple[int, int]) -> None:
    made = dimensions_of(CANVAS, settings(size=size))

    assert (made.width, made.height) == pixels


def test_more_pixels_are_finer_ones_on_the_same_paper() -> None:
    plain = dimensions_of(CANVAS, settings())
    double = dimensions_of(CANVAS, settings(size={"by": "share", "share": 2}))

    assert plain.page_mm == double.page_mm
    assert (plain.ppi, double.ppi) == (100, 200)


@times(60)
@given(
    width=st.integers(1, 30_000),
    height=st.integers(1, 30_000),
    bleed=st.floats(0, 20),
    source=st.sampled_from(["enlarged", "beyond"]),
)
def test_page_is_exactly_the_paper_and_its_bleed_whatever_the_pixels(
    width: int, height: int, bleed: float, source: str
) -> None:
    canvas = Canvas(width=width, height=height, ppi=300)
    paper = {"bleed_mm": bleed, "bleed_from": source}

    made = dimensions_of(canvas, settings(format="pdf", paper=paper))

    wide, high = width / 300 * 25.4, height / 300 * 25.4
    assert made.page_mm == pytest.approx((wide + 2 * bleed, high + 2 * bleed))
    assert made.trim_mm == pytest.approx((wide, high))
    # Nothing is stretched: what is rendered has the page's own shape, to a pixel.
    assert abs(made.area.height * made.scale - made.height) <= 0.5 + 1e-6


def test_bleed_shows_the_picture_larger_or_what_lies_beyond_the_sheet() -> None:
    larger = dimensions_of(CANVAS, settings(paper={"bleed_mm": 2.54})).area
    beyond = dimensions_of(
        CANVAS, settings(paper={"bleed_mm": 2.54, "bleed_from": "beyond"})
    ).area

    assert beyond == pytest.approx((-10, -10, 410, 310))
    assert larger.left >= 0
    assert larger.top >= 0
    assert (larger.right, larger.bottom) <= (400 + 1e-9, 300 + 1e-9)


def test_picture_lies_in_the_middle_of_its_ground() -> None:
    made = dimensions_of(CANVAS, settings(ground={"across": 1, "down": 1}))

    assert made.laid is not None
    assert (made.file_width, made.file_height) == (400, 400)
    assert (made.laid.left, made.laid.top) == (0, 50)


@pytest.mark.parametrize(
    "wrong",
    [
        {"format": "jpeg", "bits": 16},
        {"format": "webp", "coloring": {"space": "ink"}},
        {"format": "png", "tiling": {}},
        {"quality": 0},
        {"size": {"by": "share", "share": float("nan")}},
        {"size": {"by": "width", "width": 30_001}},
        {"most_bytes": -1},
        {"paper": {"bleed_mm": float("inf")}},
    ],
)
def test_what_a_format_cannot_hold_is_refused(wrong: dict) -> None:
    with pytest.raises(ValidationError):
        settings(**wrong)


def test_shop_s_listing_is_a_large_white_square_below_ten_megabytes() -> None:
    listing = PURPOSES["listing"].settings
    made = dimensions_of(CANVAS, listing)

    assert made.file_width == made.file_height >= 2000
    assert listing.most_bytes == 10_000_000
    assert listing.ground is not None
    assert listing.ground.color == "#ffffff"


def test_photo_with_too_few_pixels_is_named_also_in_a_group() -> None:
    fine = photo("fine", 400, 300)
    small = photo("small", 100, 100, x=50, y=50)
    group = GroupLayer(
        id="g",
        name="Group",
        width=100,
        height=100,
        placement=Placement(x=200, y=150, scale_x=2, scale_y=2),
        layers=(small,),
    )
    hidden = with_fields(photo("gone", 10, 10), visible=False)
    composite = composite_of(fine, group, hidden, width=400, height=300)

    soft = soft_layers(composite, dimensions_of(composite.canvas, settings()))

    assert [one.layer_id for one in soft] == ["small"]
    assert soft[0].enlarged == pytest.approx(2)
    assert soft[0].own_ppi == pytest.approx(composite.canvas.ppi / 2)


@times(60)
@given(
    width=st.floats(30, 3000),
    height=st.floats(30, 3000),
    overlap=st.floats(0, 30),
    margin=st.floats(0, 15),
)
def test_tiles_cover_a_poster_and_overlap(
    width: float, height: float, overlap: float, margin: float
) -> None:
    tiles = tiled(width, height, Tiling(margin_mm=margin, overlap_mm=overlap))

    assert max(tile.left + tile.width for tile in tiles) == pytest.approx(width)
    assert max(tile.top + tile.height for tile in tiles) == pytest.approx(height)
    for tile in tiles:
        assert tile.width <= 210 - 2 * margin + 1e-6
        beside = [
            one for one in tiles if (one.row, one.column) == (tile.row, tile.column + 1)
        ]
        for one in beside:
            assert tile.left + tile.width - one.left == pytest.approx(overlap, abs=1e-6)


def test_poster_of_too_many_sheets_is_refused() -> None:
    with pytest.raises(TooManyTilesError, match="at most 400 sheets"):
        tiled(9000, 9000, Tiling())


@times(60)
@given(
    most=st.integers(1_000, 2_000_000),
    weight=st.floats(0.01, 8),
    quality=st.integers(36, 100),
)
def test_file_fits_and_is_not_smaller_than_it_must_be(
    most: int, weight: float, quality: int
) -> None:
    def bytes_of(one: Given) -> int:
        return int(1e6 * weight * one.share**2 * (one.quality / 100) ** 2) + 200

    made: list[Given] = []

    def attempt(one: Given) -> int:
        made.append(one)
        return bytes_of(one)

    found = fitted(attempt, most, quality=quality)

    if found is None:
        assert bytes_of(Given(35, 0.02)) > most * 0.8
        return
    assert made[-1] == found
    assert bytes_of(found) <= most
    if found.share < 1:
        assert bytes_of(found) >= 0.9 * most - 400
    elif found.quality < quality:
        assert bytes_of(Given(found.quality + 1, 1.0)) > most


def ramp(width: int, height: int) -> Composite:
    bare = Composite(canvas=Canvas(width=width, height=height, background="#000000"))
    added = AddGradient(
        layer_id="r",
        name="Ramp",
        gradient={
            "start": {"color": "#000000", "opacity": 1},
            "end": {"color": "#ffffff", "opacity": 1},
            "x": width / 2,
            "y": height / 2,
            "length": width,
            "angle": 0,
        },
    )
    return apply(bare, added)


def test_sixteen_bits_are_real() -> None:
    composite = ramp(4400, 2)
    assert isinstance(composite.layers[0], GradientLayer)
    view = View(0, 0, 4400, 2, 1)

    (deep,) = render_deep_bands(composite, {}, view)

    assert len(np.unique(deep[..., 0])) > 4000
    (plain,) = render_bands(composite, {}, view)
    assert np.abs(deep[..., :3] / 257 - plain[..., :3]).max() <= 0.51


def test_deep_bands_are_the_same_however_high_they_are() -> None:
    composite = composite_of(photo("a", 60, 40), width=60, height=40)
    assets = pyramids(a=soft_pixels(60, 40, seed=3))
    view = View(0, 0, 60, 40, 1)

    whole = np.concatenate(list(render_deep_bands(composite, assets, view)))
    parts = np.concatenate(list(render_deep_bands(composite, assets, view, rows=7)))

    np.testing.assert_array_equal(whole, parts)
    np.testing.assert_array_equal(
        (whole[..., :3] / 257).round(), assets["a"].levels[0][..., :3]
    )


def test_only_chosen_layers_are_shown_wherever_they_lie() -> None:
    inner = [ColorLayer(id=one, name=one, color="#ff0000") for one in ("x", "y")]
    group = GroupLayer(
        id="g",
        name="g",
        width=4,
        height=4,
        placement=Placement(x=2, y=2, scale_x=1, scale_y=1),
        layers=tuple(inner),
    )
    back = ColorLayer(id="b", name="b", color="#00ff00", visible=False)
    composite = composite_of(back, group, width=4, height=4)

    shown = only(composite, ["b", "y"])

    assert [layer.id for layer in shown.layers] == ["b", "g"]
    assert shown.layers[0].visible
    kept = shown.layers[1]
    assert isinstance(kept, GroupLayer)
    assert [layer.id for layer in kept.layers] == ["y"]
    with pytest.raises(LayerMissingError):
        only(composite, ["z"])


def test_what_shows_is_found_to_the_pixel_and_nothing_is_nothing() -> None:
    composite = composite_of(
        photo("a", 10, 6, x=20, y=12), width=40, height=30, background=None
    )
    assets = pyramids(a=soft_pixels(10, 6, seed=1))

    assert shown_part(composite, assets, composite) == Rect(15, 9, 25, 15)
    empty = with_fields(composite, layers=())
    assert shown_part(empty, assets, empty) is None


def lettered(*more: Any, **fields: Any) -> tuple[Composite, dict]:
    said = fonts.words("Opening night", "Lobster", size=40)
    faces = {said.setting.fonts[0].id: fonts.face("Lobster")}
    measure = measured(said, faces)
    layer = WordsLayer(
        id="w",
        name="Words",
        words=said,
        measure=measure,
        width=measure.width,
        height=measure.height,
        placement=Placement(x=200, y=150, scale_x=1, scale_y=1),
        **fields,
    )
    return composite_of(layer, *more, width=400, height=300), faces


def test_words_that_nothing_is_done_to_are_letters() -> None:
    composite, assets = lettered(photo("a", 40, 40, x=30, y=30), opacity=0.5)

    left, words = words_apart(composite, assets)

    assert [layer.id for layer in left.layers] == ["a"]
    assert words[0].opacity == 0.5
    assert words[0].found.said[0][0] == "Opening night"


@pytest.mark.parametrize(
    ("more", "fields"),
    [
        ([photo("a", 100, 100, x=200, y=150)], {}),
        ([ColorLayer(id="c", name="c", color="#ff0000", opacity=0.1)], {}),
        ([], {"blend": "multiply"}),
        ([], {"fades": [{"x": 1, "y": 1, "length": 9, "angle": 0}]}),
        ([], {"effects": [{"kind": "soft"}]}),
    ],
)
def test_words_that_something_is_done_to_stay_pixels(more: list, fields: dict) -> None:
    composite, assets = lettered(*more, **fields)

    left, words = words_apart(composite, assets)

    assert (left, words) == (composite, [])


def test_words_whose_font_is_missing_stay_pixels() -> None:
    composite, _ = lettered()

    assert words_apart(composite, {})[1] == []


def test_control_characters_leave_what_a_picture_says_of_itself() -> None:
    about = About(title="Seas\x00on \x1bposter\n")

    assert about.title == "Season poster"
    assert About().is_empty
    with pytest.raises(ValidationError):
        About(author="a" * 301)
