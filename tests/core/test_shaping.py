"""Cropping, pulling corners and bending, as values and as they show."""

from __future__ import annotations

import numpy as np
import pytest
from PIL import Image
from pydantic import ValidationError

from glyphaneme.core.edits import ExchangePhoto, LinkMask, PlaceLayer, apply
from glyphaneme.core.errors import NoSuchWorkError, WarpedError
from glyphaneme.core.mask import Fade, Mask, MattePart, Raster
from glyphaneme.core.mask.layer_part import LayerPart
from glyphaneme.core.mask.shapes import EllipsePart, RectanglePart
from glyphaneme.core.place import (
    Bend,
    Corners,
    Crop,
    Placement,
    canvas_to_source,
    corners_on_canvas,
    source_to_canvas,
)
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.render import (
    FrameCache,
    View,
    reach_of,
    render,
    render_bands,
    render_exact,
)
from glyphaneme.core.values import with_fields
from glyphaneme.core.wording import describe
from tests.pictures import (
    composite_of,
    flat_pixels,
    noise_pixels,
    photo_layer,
    premultiplied,
    pyramids,
    soft_pixels,
)
from tests.posters import poster
from tests.warped import reference

LEANING = Corners(top_left=(0.12, 0.1), top_right=(-0.05, 0.15), bottom_left=(0, -0.1))
DOWN, RIGHT, LEFT, UP, STAYS = (0, 0.1), (0.05, 0), (-0.05, 0), (0, -0.1), (0, 0)
BELLIED = Bend(moves=(STAYS, DOWN, STAYS, RIGHT, STAYS, LEFT, STAYS, UP, STAYS))


def placed(width: int, height: int, **changes: object) -> Placement:
    fields = {"x": width / 2, "y": height / 2, "scale_x": 1.0, "scale_y": 1.0}
    return Placement.model_validate({**fields, **changes})


def shown(
    pixels: np.ndarray, placement: Placement, size: tuple[int, int], **more: object
) -> np.ndarray:
    layer = photo_layer("a", pixels, placement=placement, **more)
    width, height = size
    view = View(0, 0, width, height, 1)
    composite = composite_of(layer, width=width, height=height)
    return render(composite, pyramids(a=pixels), view)


@pytest.mark.parametrize("opaque", [True, False])
@pytest.mark.parametrize("bend", [None, BELLIED])
@pytest.mark.parametrize("shrink", [1, 2.5, 6])
def test_warped_photos_are_averaged_over_what_each_pixel_covers(
    bend, shrink, opaque
) -> None:
    pixels = soft_pixels(88, 66, seed=4)
    if not opaque:
        pixels[..., 3] = soft_pixels(88, 66, seed=9)[..., 0]
    size = (round(110 / shrink), round(84 / shrink))
    placement = placed(
        *size, scale_x=1 / shrink, scale_y=1 / shrink, turn=10,
        corners=LEANING, bend=bend,
    )  # fmt: skip

    out = premultiplied(shown(pixels, placement, size))

    error = out - reference(pixels, placement, size)
    inside = reference(flat_pixels(88, 66, (0, 0, 0, 255)), placement, size)[..., 3]
    assert np.sqrt(np.mean(error[inside > 254] ** 2)) < 1.5
    # Half a level's edge in a few hundred pixels: coverage is a box along each axis.
    assert np.sqrt(np.mean(error**2)) < 2


def test_fine_stripes_seen_at_an_angle_become_grey_and_not_waves() -> None:
    pixels = flat_pixels(600, 600, (255, 255, 255, 255))
    pixels[::2, :, :3] = 0
    lying = Corners(top_left=(0.3, 0.8), top_right=(-0.3, 0.8))
    placement = placed(300, 300, scale_x=0.5, scale_y=0.5, corners=lying)

    out = shown(pixels, placement, (300, 300)).astype(int)

    inside = out[250:295, 100:200]
    assert inside[..., 3].min() == 255
    off = np.abs(inside[..., 0] - 127.5)
    # Black and white by single texels are the hardest there is.
    assert np.percentile(off, 99) < 3
    assert off.max() < 24


def test_corners_that_are_not_pulled_change_nothing() -> None:
    pixels = noise_pixels(90, 70, seed=2, opaque=True)
    straight = shown(pixels, placed(90, 70), (90, 70))

    out = shown(pixels, placed(90, 70, corners=Corners()), (90, 70))

    np.testing.assert_array_equal(out, straight)


def test_corners_lie_where_they_are_pulled_whatever_way_the_layer_lies() -> None:
    placement = Placement(
        x=100, y=80, scale_x=0.5, scale_y=2, turn=90, flipped=True, corners=LEANING
    )

    at = corners_on_canvas(placement, width=100, height=40)

    # The top left corner lies 0.12 widths to the right and 0.1 heights down: 38 and 16
    # pixels left of and above the middle; mirrored, scaled, and turned to the right.
    np.testing.assert_allclose(at[0], (100 + 16 * 2, 80 + 38 * 0.5))


@pytest.mark.parametrize(
    "corners",
    [
        {"top_left": (1.2, 0)},
        {"top_left": (1, 1)},
        {"bottom_right": (-0.6, -0.6)},
        {"top_left": (0.5, 0.5)},
        {"top_left": (float("nan"), 0)},
        {"top_left": (20.5, 0)},
    ],
)
def test_corners_that_fold_or_are_no_places_are_refused(corners) -> None:
    with pytest.raises(ValidationError):
        Corners(**corners)


@pytest.mark.parametrize(
    "bend",
    [
        {"moves": ((0, 0),) * 8},
        {"columns": 1, "rows": 9, "moves": ((0, 0),) * 9},
        {"columns": 10, "rows": 2, "moves": ((0, 0),) * 20},
        {"moves": ((0, 0),) * 4 + ((0.7, 0),) + ((0, 0),) * 4},
        {"moves": ((0, 0),) * 4 + ((float("inf"), 0),) + ((0, 0),) * 4},
    ],
)
def test_bends_that_fold_or_lack_points_are_refused(bend) -> None:
    with pytest.raises(ValidationError):
        Bend(**bend)


def test_a_bend_goes_through_the_points_of_its_grid() -> None:
    moved = BELLIED.at(np.array([[0.5, 0], [0, 0.5], [1, 1]]))

    np.testing.assert_allclose(moved, [[0.5, 0.1], [0.05, 0.5], [1, 1]], atol=1e-6)


def test_a_crop_shows_its_part_of_the_photo_and_leaves_that_where_it_lay() -> None:
    pixels = noise_pixels(80, 60, seed=5, opaque=True)
    crop = Crop(x=30, y=20, width=40, height=20)

    out = shown(
        pixels, Placement(x=30, y=20, scale_x=1, scale_y=1, crop=crop), (80, 60)
    )

    np.testing.assert_array_equal(out[10:30, 10:50], pixels[10:30, 10:50])
    out[10:30, 10:50] = 0
    assert not out[..., 3].any()


def test_a_photo_turned_and_enlarged_in_its_frame_maps_as_its_numbers_say() -> None:
    crop = Crop(x=30, y=20, width=40, height=20, zoom=2, turn=90)
    placement = Placement(x=100, y=50, scale_x=3, scale_y=3, crop=crop)

    to_canvas = source_to_canvas(placement, width=80, height=60)
    back = canvas_to_source(placement, width=80, height=60)

    # Ten pixels to the right in the photo are twenty down in the frame, sixty there.
    np.testing.assert_allclose(to_canvas @ (30, 20, 1), (100, 50))
    np.testing.assert_allclose(to_canvas @ (40, 20, 1), (100, 110))
    np.testing.assert_allclose(back @ (100, 110, 1), (40, 20))
    corners = corners_on_canvas(placement, width=80, height=60)
    np.testing.assert_allclose(corners[0], (40, 20))


def test_an_ellipse_leaves_the_share_of_a_frame_that_an_ellipse_has() -> None:
    pixels = flat_pixels(200, 100, (10, 20, 30, 255))
    crop = Crop(x=100, y=50, width=160, height=80, shape="ellipse")

    out = shown(pixels, placed(200, 100, crop=crop), (200, 100))

    assert out[..., 3].sum() / 255 == pytest.approx(np.pi * 80 * 40, rel=0.002)


def test_nothing_shows_beyond_a_frame_whatever_the_mask_adds() -> None:
    pixels = flat_pixels(100, 100, (10, 20, 30, 255))
    crop = Crop(x=50, y=50, width=40, height=40, corner=10)
    whole = RectanglePart(id="w", join="add", x=50, y=50, width=100, height=100)
    mask = Mask(parts=(whole,))

    out = shown(pixels, placed(100, 100, crop=crop), (100, 100), mask=mask)

    assert out[31:69, 40, 3].min() == 255
    assert not out[:, :30, 3].any()
    assert out[30, 30, 3] == 0


def test_what_moves_with_a_warped_photo_is_warped_with_it() -> None:
    pixels = soft_pixels(120, 90, seed=3)
    part = RectanglePart(id="r", join="add", x=40, y=40, width=50, height=40)
    fade = Fade(x=60, y=45, length=80)
    flat = shown(
        pixels, placed(120, 90), (120, 90), mask=Mask(parts=(part,)), fades=(fade,)
    )
    placement = placed(120, 90, corners=LEANING)

    out = shown(pixels, placement, (120, 90), mask=Mask(parts=(part,)), fades=(fade,))

    # As if the photo had its mask and fade as its own transparency.
    wanted = reference(flat, placement, (120, 90))
    assert np.sqrt(np.mean((premultiplied(out) - wanted) ** 2)) < 2


@pytest.mark.parametrize(
    "more",
    [
        {"fades": (Fade(x=60, y=45, length=80),)},
        {"mask": Mask(parts=(EllipsePart(id="e", x=60, y=45, width=80, height=60),))},
    ],
)
def test_a_fade_or_a_mask_alone_is_warped_with_its_photo(more) -> None:
    pixels = soft_pixels(120, 90, seed=3)
    flat = shown(pixels, placed(120, 90), (120, 90), **more)
    placement = placed(120, 90, corners=LEANING)

    out = shown(pixels, placement, (120, 90), **more)

    wanted = reference(flat, placement, (120, 90))
    assert np.sqrt(np.mean((premultiplied(out) - wanted) ** 2)) < 2


def test_what_stays_where_a_warped_photo_moves_is_not_warped() -> None:
    pixels = flat_pixels(120, 90, (10, 20, 30, 255))
    part = RectanglePart(id="r", join="add", x=60, y=45, width=20, height=20)
    mask = Mask(parts=(part,), linked=False)

    out = shown(pixels, placed(120, 90, corners=LEANING), (120, 90), mask=mask)

    alpha = out[..., 3].astype(int)
    assert alpha[35:55, 50:70].min() == 255
    alpha[35:55, 50:70] = 0
    assert not alpha.any()


def test_another_layers_shape_masks_a_warped_photo_where_that_lies() -> None:
    pixels = flat_pixels(120, 90, (10, 20, 30, 255))
    spot = photo_layer(
        "spot",
        flat_pixels(30, 20, (9, 9, 9, 255)),
        placement=Placement(x=60, y=50, scale_x=1, scale_y=1),
        visible=False,
    )
    layer = photo_layer(
        "a",
        pixels,
        placement=placed(120, 90, corners=LEANING, bend=BELLIED),
        mask=Mask(parts=(LayerPart(id="l", join="keep", layer_id="spot"),)),
    )
    assets = pyramids(a=pixels, spot=flat_pixels(30, 20, (9, 9, 9, 255)))

    out = render(
        composite_of(spot, layer, width=120, height=90), assets, View(0, 0, 120, 90, 1)
    )

    alpha = out[..., 3].astype(int)
    assert alpha[42:58, 47:73].min() > 250
    alpha[38:62, 43:77] = 0
    assert alpha.max() == 0


def test_an_export_in_bands_is_the_whole_picture() -> None:
    pixels = soft_pixels(300, 200, seed=8)
    part = EllipsePart(id="e", join="add", x=150, y=100, width=200, height=150)
    layer = photo_layer(
        "a",
        pixels,
        placement=placed(300, 200, corners=LEANING, bend=BELLIED),
        mask=Mask(parts=(part,)),
    )
    composite = composite_of(layer, width=300, height=200)
    whole = View(0, 0, 300, 200, 1)

    bands = np.concatenate(
        list(render_bands(composite, pyramids(a=pixels), whole, rows=32))
    )

    np.testing.assert_array_equal(bands, render(composite, pyramids(a=pixels), whole))


def test_frames_of_a_dragged_corner_are_those_of_the_picture_itself() -> None:
    pixels = soft_pixels(300, 200, seed=8)
    frames = FrameCache(50_000_000)
    part = EllipsePart(id="e", join="add", x=150, y=100, width=200, height=150)
    for pull in (0.0, 0.05, 0.1):
        corners = Corners(top_left=(pull, pull))
        layer = photo_layer(
            "a",
            pixels,
            placement=placed(300, 200, corners=corners),
            mask=Mask(parts=(part,)),
        )
        composite = composite_of(layer, width=300, height=200)
        view = View(0, 0, 150, 100, 0.5)

        frame = frames.render(
            "p", composite, pyramids(a=pixels), view, fineness="exact"
        )

        wanted = render_exact(composite, pyramids(a=pixels), view)
        error = premultiplied(frame) - premultiplied(wanted)
        assert np.sqrt(np.mean(error**2)) < 2


def test_a_sheet_made_quickly_is_made_again_where_there_is_time() -> None:
    """Masks may be coarse while a hand moves; what rests must not stay so."""
    frames = FrameCache(50_000_000)
    pixels = flat_pixels(120, 90, (10, 20, 30, 255))
    found = Mask(parts=(MattePart(id="m", picture="a", matte="0" * 64, level=0),))
    layer = photo_layer(
        "a", pixels, placement=placed(120, 90, corners=LEANING), mask=found
    )
    composite = composite_of(layer, width=120, height=90)
    name = found.parts[0].raster
    shown = []
    for level in (0, 255):
        raster = Raster(np.full((90, 120), level, np.uint8), 1.0)
        assets = {**pyramids(a=pixels), name: raster}
        frame = frames.render("p", composite, assets, View(0, 0, 120, 90, 1))
        shown.append(frame[45, 60, 3])

    # The matte is what is taken away from, or kept: either way both differ.
    assert sorted(shown) == [0, 255]


def test_an_enormous_frame_is_shown_within_bounds() -> None:
    pixels = flat_pixels(120, 90, (10, 20, 30, 255))
    spot = photo_layer("spot", flat_pixels(30, 20, (9, 9, 9, 255)), visible=False)
    crop = Crop(x=60, y=45, width=200_000, height=2, zoom=200)
    place = placed(120, 90, scale_x=0.001, scale_y=1, crop=crop, corners=LEANING)
    mask = Mask(parts=(LayerPart(id="l", join="keep", layer_id="spot"),))
    layer = photo_layer("a", pixels, placement=place, mask=mask)
    state = composite_of(spot, layer, width=120, height=90)
    assets = pyramids(a=pixels, spot=flat_pixels(30, 20, (9, 9, 9, 255)))

    out = render(state, assets, View(0, 0, 120, 90, 1))

    assert out.shape == (90, 120, 4)


def test_a_bent_layer_reaches_no_further_than_it_is_said_to() -> None:
    pixels = flat_pixels(120, 90, (10, 20, 30, 255))
    bulging = Bend(moves=((0, 0), (0, -0.3), (0, 0), *((0, 0),) * 6))
    layer = photo_layer("a", pixels, placement=placed(240, 240, bend=bulging))
    view = View(0, 0, 240, 240, 1)

    left, top, right, bottom = reach_of(layer, view)

    out = render(composite_of(layer, width=240, height=240), pyramids(a=pixels), view)
    rows, columns = np.nonzero(out[..., 3])
    assert left <= columns.min()
    assert columns.max() < right
    assert top <= rows.min()
    assert rows.max() < bottom
    # The middle of the upper edge lies 27 pixels above where it would.
    assert out[50:54, 120, 3].any()


def test_a_layer_beyond_the_horizon_of_its_corners_shows_nothing_there() -> None:
    steep = Corners(top_left=(0.45, 0.02), top_right=(-0.45, 0.02))
    pixels = flat_pixels(100, 100, (10, 20, 30, 255))

    out = shown(pixels, placed(300, 300, corners=steep), (300, 300))

    assert not out[:100, :, 3].any()
    assert out[190, 150, 3] == 255


def test_a_warp_knows_how_much_it_enlarges() -> None:
    tall = Corners(bottom_left=(0, 1), bottom_right=(0, 1))

    warp = warp_of(placed(50, 50, corners=tall), width=100, height=50)

    assert warp.largest_scale == pytest.approx(2, rel=0.01)


def test_groups_are_neither_cropped_nor_warped() -> None:
    state = poster()
    group = next(one for one in state.layers if one.kind == "group")
    shaped = with_fields(group.placement, corners=LEANING)

    with pytest.raises(NoSuchWorkError, match="cannot be cropped"):
        apply(state, PlaceLayer(layer_id=group.id, placement=shaped))


def test_a_mask_of_a_warped_photo_cannot_be_let_go_of() -> None:
    pixels = flat_pixels(100, 100, (10, 20, 30, 255))
    part = EllipsePart(id="e", x=50, y=50, width=80, height=80)
    layer = photo_layer(
        "a",
        pixels,
        placement=placed(100, 100, corners=LEANING),
        mask=Mask(parts=(part,)),
    )

    with pytest.raises(WarpedError, match="A must be straight"):
        apply(
            composite_of(layer, width=100, height=100),
            LinkMask(layer_id="a", linked=False),
        )


@pytest.mark.parametrize(
    ("placement", "words"),
    [
        ({"crop": Crop(x=50, y=50, width=50, height=40)}, "only part of it"),
        ({"crop": Crop(x=9, y=9, width=5, height=4, corner=1)}, "with round corners"),
        ({"crop": Crop(x=9, y=9, width=5, height=5, shape="ellipse")}, "in a circle"),
        ({"crop": Crop(x=9, y=9, width=5, height=4, shape="ellipse")}, "an ellipse"),
        ({"corners": LEANING}, "set into four corners"),
        ({"bend": BELLIED}, "bent"),
    ],
)
def test_the_pile_says_how_a_photo_is_shaped(placement, words) -> None:
    pixels = flat_pixels(100, 100, (10, 20, 30, 255))
    layer = photo_layer("a", pixels, placement=placed(100, 100, **placement))

    (sentence,) = describe(composite_of(layer, width=100, height=100))

    assert words in sentence.text


@pytest.mark.parametrize("size", [(60, 40), (30, 60), (400, 90)])
def test_another_photo_fills_the_frame_of_the_one_before(size) -> None:
    pixels = flat_pixels(90, 60, (200, 20, 30, 255))
    layer = photo_layer(
        "a", pixels, placement=Placement(x=70, y=50, scale_x=0.8, scale_y=0.8, turn=15)
    )
    state = composite_of(layer, width=140, height=100)
    before = render(state, pyramids(a=pixels), View(0, 0, 140, 100, 1))
    other = flat_pixels(*size, (200, 20, 30, 255))

    after = apply(
        state,
        ExchangePhoto(
            layer_id="a", picture="b", name="B", width=size[0], height=size[1]
        ),
    )

    out = render(after, pyramids(b=other), View(0, 0, 140, 100, 1))
    # A crop's corner pixels are reckoned by another rule than a photo's.
    error = np.abs(out[..., 3].astype(int) - before[..., 3])
    assert (error > 3).sum() <= 4
    assert after.layers[0].name == "B"


def test_shapes_and_fades_stay_where_a_photo_is_exchanged() -> None:
    pixels = flat_pixels(90, 60, (200, 20, 30, 255))
    part = EllipsePart(id="e", x=45, y=30, width=60, height=40)
    layer = photo_layer(
        "a",
        pixels,
        mask=Mask(parts=(part,)),
        fades=(Fade(x=45, y=30, length=40),),
    )
    state = composite_of(layer, width=90, height=60)
    before = render(state, pyramids(a=pixels), View(0, 0, 90, 60, 1))
    edit = ExchangePhoto(layer_id="a", picture="b", name="B", width=360, height=200)

    after = apply(state, edit)

    other = flat_pixels(360, 200, (200, 20, 30, 255))
    out = render(after, pyramids(b=other), View(0, 0, 90, 60, 1))
    assert np.abs(out[..., 3].astype(int) - before[..., 3]).max() <= 3


def test_a_shaped_placement_is_read_by_another_reader_of_pictures() -> None:
    """The homography is that which Pillow takes for the same four points."""
    pixels = soft_pixels(200, 150, seed=6)
    placement = placed(200, 150, corners=LEANING)
    points = corners_on_canvas(placement, width=200, height=150)
    rows = []
    wanted = []
    square = [(0, 0), (200, 0), (200, 150), (0, 150)]
    for (x, y), (u, v) in zip(points, square, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        wanted += [u, v]
    numbers = np.linalg.solve(np.array(rows), np.array(wanted))
    pillow = Image.fromarray(pixels, "RGBA").transform(
        (200, 150),
        Image.Transform.PERSPECTIVE,
        tuple(numbers),
        Image.Resampling.BILINEAR,
    )

    out = shown(pixels, placement, (200, 150))

    both = (out[..., 3] == 255) & (np.asarray(pillow)[..., 3] == 255)
    error = out[both].astype(int) - np.asarray(pillow)[both]
    assert both.sum() > 20_000
    assert np.sqrt(np.mean(error.astype(float) ** 2)) < 1
