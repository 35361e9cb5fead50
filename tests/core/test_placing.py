from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from glyphaneme.core.errors import (
    PixelsMissingError,
    PixelsShapeError,
    ViewSizeError,
)
from glyphaneme.core.place import (
    Placement,
    build_pyramid,
    canvas_to_source,
    source_to_canvas,
)
from glyphaneme.core.render import View, render, render_exact, split_frame
from tests.pictures import (
    composite_of,
    flat_pixels,
    noise_pixels,
    photo_layer,
    premultiplied,
    psnr,
    pyramids,
    soft_pixels,
)

if TYPE_CHECKING:
    from pathlib import Path


def shown(
    pixels: np.ndarray, placement: Placement, *, side: int, scale: float = 1
) -> np.ndarray:
    layer = photo_layer("one", pixels, placement=placement)
    view = View(
        x=0, y=0, width=round(side * scale), height=round(side * scale), scale=scale
    )
    return render(
        composite_of(layer, width=side, height=side), pyramids(one=pixels), view
    )


def at_middle(side: int, **changes: float) -> Placement:
    fields = {"x": side / 2, "y": side / 2, "scale_x": 1, "scale_y": 1}
    return Placement(**{**fields, **changes})


@pytest.mark.parametrize(
    ("changes", "turned"),
    [
        ({"turn": 90}, lambda p: np.rot90(p, -1)),
        ({"turn": 180}, lambda p: p[::-1, ::-1]),
        ({"turn": -90}, lambda p: np.rot90(p)),
        ({"flipped": True}, lambda p: p[:, ::-1]),
        ({"upended": True}, lambda p: p[::-1]),
        ({"flipped": True, "turn": 90}, lambda p: np.rot90(p[:, ::-1], -1)),
    ],
)
def test_right_angles_and_flips_move_pixels_exactly(changes, turned) -> None:
    pixels = noise_pixels(70, 70, seed=1, opaque=True)

    out = shown(pixels, at_middle(70, **changes), side=70)

    np.testing.assert_array_equal(out, turned(pixels))


def test_whole_pixel_move_copies_pixels_and_leaves_the_rest_clear() -> None:
    pixels = noise_pixels(20, 10, seed=2)

    out = shown(pixels, Placement(x=15, y=12, scale_x=1, scale_y=1), side=40)

    np.testing.assert_array_equal(out[7:17, 5:25], pixels)
    assert out[..., 3].sum() == pixels[..., 3].sum()


def test_layer_hanging_over_the_canvas_is_cut_at_its_edges() -> None:
    pixels = noise_pixels(30, 30, seed=3, opaque=True)

    out = shown(pixels, Placement(x=0, y=0, scale_x=1, scale_y=1), side=20)

    np.testing.assert_array_equal(out[:15, :15], pixels[15:, 15:])
    assert out[15:].max() == 0


@pytest.mark.parametrize("scale", [0.25, 0.37, 0.5, 1.0, 1.9, 3.0])
def test_picture_scaled_to_the_canvas_fills_it_to_the_last_pixel(scale: float) -> None:
    pixels = flat_pixels(400, 400, (10, 200, 90, 255))
    side = round(400 * scale)

    out = shown(
        pixels, at_middle(side, scale_x=side / 400, scale_y=side / 400), side=side
    )

    np.testing.assert_array_equal(out, flat_pixels(side, side, (10, 200, 90, 255)))


def test_half_covered_edge_pixels_are_half_clear() -> None:
    pixels = flat_pixels(10, 10, (255, 0, 0, 255))

    out = shown(pixels, Placement(x=10.5, y=10, scale_x=1, scale_y=1), side=20)

    assert out[10, 5, 3] == out[10, 15, 3] == 128
    np.testing.assert_array_equal(out[5:15, 6:15, 3], 255)
    np.testing.assert_array_equal(out[10, 5, :3], (255, 0, 0))


def test_see_through_places_leave_no_fringe_of_their_hidden_colour() -> None:
    pixels = flat_pixels(64, 64, (255, 255, 255, 0))
    pixels[16:48, 16:48] = (20, 30, 40, 255)

    out = shown(pixels, at_middle(90, scale_x=1.3, scale_y=1.3, turn=10), side=90)

    visible = out[out[..., 3] > 0]
    assert np.abs(visible[:, :3].astype(int) - (20, 30, 40)).max() <= 1


@pytest.mark.parametrize("turn", [0, 7, 45, 200])
def test_scaled_and_turned_picture_matches_an_area_average(turn: float) -> None:
    side, fine = 240, 4
    pixels = soft_pixels(600, 400, seed=5)
    placement = at_middle(side, scale_x=0.37, scale_y=0.37, turn=turn)
    forward = source_to_canvas(placement, width=600, height=400) * fine
    forward[:, 2] += forward[:, :2] @ (0.5, 0.5) - 0.5

    out = shown(pixels, placement, side=side)

    large = cv2.warpAffine(
        pixels, forward, (side * fine, side * fine), flags=cv2.INTER_LINEAR
    )
    wanted = cv2.resize(large, (side, side), interpolation=cv2.INTER_AREA)
    inside = (out[..., 3] == 255) & (wanted[..., 3] == 255)
    assert inside.sum() > 0.9 * (600 * 0.37 * 400 * 0.37)
    assert psnr(out[inside], wanted[inside]) > 45


@pytest.mark.parametrize("opaque", [True, False])
@pytest.mark.parametrize(("size", "scale"), [(220, 0.55), (256, 0.75), (320, 0.525)])
def test_picture_between_two_levels_is_averaged_over_its_area(
    size: int, scale: float, *, opaque: bool
) -> None:
    pixels = noise_pixels(size, size, seed=4, opaque=opaque)
    side = round(size * scale)

    out = shown(pixels, at_middle(side, scale_x=scale, scale_y=scale), side=side)

    exact = premultiplied(pixels)
    wanted = cv2.resize(exact, (side, side), interpolation=cv2.INTER_AREA)
    assert np.abs(premultiplied(out) - wanted)[1:-1, 1:-1].max() <= 1


@pytest.mark.parametrize("mode", ["normal", "multiply", "luminosity"])
def test_what_is_clear_leaves_what_lies_beneath(mode: str) -> None:
    pixels = flat_pixels(1500, 9, (255, 0, 0, 0))
    pixels[2:5, 1100:1200] = (20, 30, 40, 255)
    pixels[3, 1150] = (255, 0, 0, 0)
    layers = [photo_layer("cut", pixels, blend=mode)]
    composite = composite_of(*layers, width=1500, height=9, background="#6080a0")

    out = render(composite, pyramids(cut=pixels), View(0, 0, 1500, 9, 1))

    untouched = np.all(out == (0x60, 0x80, 0xA0, 255), axis=-1)
    np.testing.assert_array_equal(untouched, pixels[..., 3] == 0)


@given(
    x=st.floats(-500, 500),
    y=st.floats(-500, 500),
    scale_x=st.floats(0.01, 20),
    scale_y=st.floats(0.01, 20),
    turn=st.floats(-360, 360),
    flipped=st.booleans(),
    upended=st.booleans(),
)
def test_map_to_source_undoes_map_to_canvas(**fields: float) -> None:
    placement = Placement(**fields)
    size = {"width": 640, "height": 480}

    there = source_to_canvas(placement, **size) @ (123, 45, 1)
    back = canvas_to_source(placement, **size) @ (*there, 1)

    np.testing.assert_allclose(back, (123, 45), atol=1e-6)


@given(
    x=st.floats(-90, 90),
    y=st.floats(-90, 90),
    scale=st.floats(0.01, 30),
    turn=st.floats(-360, 360),
    stretch=st.floats(0.1, 6),
)
def test_any_placement_renders_within_the_colours_of_the_picture(
    x: float, y: float, scale: float, turn: float, stretch: float
) -> None:
    pixels = flat_pixels(37, 53, (10, 20, 30, 255))
    placement = Placement(x=x, y=y, scale_x=scale, scale_y=scale * stretch, turn=turn)

    out = shown(pixels, placement, side=60)

    visible = out[out[..., 3] > 0]
    assert (
        visible.size == 0
        or np.abs(visible[:, :3].astype(int) - (10, 20, 30)).max() <= 1
    )


def test_layer_smaller_than_a_pixel_keeps_its_colour() -> None:
    pixels = flat_pixels(37, 53, (10, 20, 30, 255))
    placement = Placement(x=1.5, y=0.25, scale_x=1 / 64, scale_y=1 / 128, turn=1)

    out = shown(pixels, placement, side=60)

    assert out[0, 1, 3] > 0
    np.testing.assert_array_equal(out[out[..., 3] > 0][:, :3], [(10, 20, 30)])


def test_pyramid_halves_by_averaging_colours_with_their_alpha() -> None:
    pixels = flat_pixels(64, 64, (0, 0, 0, 0))
    pixels[::2, ::2] = (200, 100, 50, 255)

    half = build_pyramid(pixels).levels[1]

    np.testing.assert_array_equal(half[5, 5], (200, 100, 50, 64))


def test_pyramid_chooses_a_level_that_is_not_blown_up() -> None:
    pyramid = build_pyramid(flat_pixels(256, 256, (1, 2, 3, 255)))

    chosen = [pyramid.level_for(scale) for scale in (4, 1, 0.51, 0.5, 0.3, 0.25, 0.001)]

    assert chosen == [0, 0, 0, 1, 1, 2, 4]


def test_frame_equals_the_area_scaled_export() -> None:
    below, above = soft_pixels(800, 600, seed=1), soft_pixels(500, 500, seed=2)
    composite = composite_of(
        photo_layer("below", below),
        photo_layer(
            "above",
            above,
            blend="screen",
            opacity=0.6,
            placement=Placement(x=400, y=300, scale_x=0.9, scale_y=0.9, turn=7),
        ),
        width=800,
        height=600,
        background="#ffffff",
    )
    pixels = pyramids(below=below, above=above)

    frame = render(composite, pixels, View(x=0, y=0, width=240, height=180, scale=0.3))
    export = render(composite, pixels, View(x=0, y=0, width=800, height=600, scale=1))

    wanted = cv2.resize(export, (240, 180), interpolation=cv2.INTER_AREA)
    assert psnr(frame, wanted) > 43


@pytest.mark.parametrize("scale", [0.2, 0.3, 0.55, 0.85])
def test_fine_frame_of_photos_equals_the_area_scaled_export(
    demo_photos: Path, scale: float
) -> None:
    names = ("misty-hills", "lantern-glow", "moths-on-white")
    photos = {
        name: np.array(Image.open(demo_photos / f"{name}.jpg").convert("RGBA"))
        for name in names
    }
    modes = ("normal", "screen", "color-burn")
    layers = [
        photo_layer(
            name,
            photos[name],
            blend=mode,
            placement=Placement(x=400, y=300, scale_x=0.7, scale_y=0.7, turn=turn),
        )
        for name, mode, turn in zip(names, modes, (0, 0, -14), strict=True)
    ]
    composite = composite_of(*layers, width=800, height=600, background="#ffffff")
    pixels = pyramids(**photos)
    width, height = round(800 * scale), round(600 * scale)

    frame = render_exact(composite, pixels, View(0, 0, width, height, scale))
    export = render(composite, pixels, View(0, 0, 800, 600, 1))

    wanted = cv2.resize(export, (width, height), interpolation=cv2.INTER_AREA)
    assert psnr(frame, wanted) > 43


def test_split_frame_over_a_backing_equals_the_frame_over_it() -> None:
    frame = noise_pixels(50, 40, seed=8)

    color, veil = split_frame(frame)

    assert veil is not None
    over_white = color + veil[..., None].astype(float)
    alpha = frame[..., 3:] / 255
    wanted = frame[..., :3] * alpha + 255 * (1 - alpha)
    assert np.abs(over_white - wanted).max() <= 0.51


def test_split_frame_of_an_opaque_frame_has_no_veil() -> None:
    color, veil = split_frame(noise_pixels(9, 9, seed=1, opaque=True))

    assert veil is None
    assert color.shape == (9, 9, 3)


def test_render_names_the_picture_it_lacks() -> None:
    layer = photo_layer("moths", flat_pixels(4, 4, (0, 0, 0, 255)))

    with pytest.raises(PixelsMissingError, match="moths is absent"):
        render(composite_of(layer, width=4, height=4), {}, View(0, 0, 4, 4, 1))


@pytest.mark.parametrize(
    "view", [View(0, 0, 0, 4, 1), View(0, 0, 4, 70_000, 1), View(0, 0, 4, 4, 0)]
)
def test_render_refuses_views_it_cannot_fill(view: View) -> None:
    with pytest.raises(ViewSizeError, match="a view must have"):
        render(composite_of(width=4, height=4), {}, view)


def test_pyramid_refuses_arrays_that_are_not_rgba() -> None:
    with pytest.raises(PixelsShapeError, match=r"got \(4, 4, 3\)"):
        build_pyramid(np.zeros((4, 4, 3), np.uint8))
