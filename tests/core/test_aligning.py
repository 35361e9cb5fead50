"""Lining up: by points, by map coordinates, by what pictures show."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest

from glyphaneme.core.align import (
    MapKind,
    aligned_by_content,
    aligned_by_map,
    aligned_by_points,
)
from glyphaneme.core.align.fitting import mapped
from glyphaneme.core.document import grouping
from glyphaneme.core.document.lining_up import lined_up
from glyphaneme.core.edits import GroupLayers, PlacedOne, PlaceLayers, apply
from glyphaneme.core.errors import NoSuchWorkError, NotAlikeError, WarpedError
from glyphaneme.core.place import Corners, Crop, Placement
from glyphaneme.core.place.warping import warp_of
from glyphaneme.core.values import with_fields
from tests.pictures import composite_of, flat_pixels, photo_layer
from tests.posters import poster
from tests.seasons import another_season, seen_through, turned

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite

GRID = np.stack(np.meshgrid(np.linspace(40, 560, 5), np.linspace(40, 410, 5)), -1)
PLACES = GRID.reshape(-1, 2)


def scenery(seed: int, width: int = 600, height: int = 450) -> np.ndarray:
    """Return a picture full of blobs of many sizes, no two places alike."""
    rng = np.random.default_rng(seed)
    light = np.zeros((height, width), np.float32)
    for sigma in (1.5, 4, 12, 40):
        noise = rng.normal(size=(height, width)).astype(np.float32)
        blobs = cv2.GaussianBlur(noise, (0, 0), sigma)
        light += blobs / blobs.std()
    levels = np.clip(128 + 30 * light, 0, 255).astype(np.uint8)
    return np.dstack([levels, levels[::-1], 255 - levels, np.full_like(levels, 255)])


@pytest.mark.parametrize(
    ("kind", "truth"),
    [
        (MapKind.SHIFT, turned(0, 1, 13.4, -8.3)),
        (MapKind.SIMILAR, turned(2, 1.03, -11.3, 7.7)),
        (
            MapKind.PROJECTIVE,
            turned(-1, 0.98, 9, 4) + [[0, 0.02, 0], [0, 0, 0], [4e-5, -3e-5, 0]],
        ),
    ],
)
def test_another_season_is_laid_over_to_a_fraction_of_a_pixel(kind, truth) -> None:
    fixed = scenery(1)
    moving = another_season(seen_through(fixed, truth))

    found = aligned_by_content(moving, fixed, kind)

    off = mapped(found.matrix, mapped(truth, PLACES)) - PLACES
    assert np.hypot(*off.T).mean() < 0.1
    assert found.certainty > 0.9


@pytest.mark.parametrize("seed", range(2, 8))
def test_pictures_of_other_places_are_refused(seed) -> None:
    with pytest.raises(NotAlikeError):
        aligned_by_content(scenery(seed), scenery(1))


def test_pictures_that_share_no_more_than_a_corner_are_refused() -> None:
    fixed, moving = scenery(1), scenery(2)
    moving[:150, :170] = fixed[:150, :170]

    with pytest.raises(NotAlikeError):
        aligned_by_content(moving, fixed)


@pytest.mark.parametrize("size", [(1, 1), (3, 400), (600, 450)])
def test_pictures_without_anything_to_hold_on_to_are_refused(size) -> None:
    blank = flat_pixels(*size, (120, 130, 140, 255))

    with pytest.raises(NotAlikeError):
        aligned_by_content(blank, scenery(1))


def test_the_way_is_reported_and_can_be_stopped_by_it() -> None:
    fixed, shares = scenery(1), []

    aligned_by_content(fixed, fixed, report=shares.append)

    assert shares == sorted(shares)
    assert shares[-1] == 1


def test_two_points_say_shift_scale_and_turn() -> None:
    moving = np.array([[0.0, 0], [10, 0]])

    found = aligned_by_points(moving, np.array([[5.0, 5], [5, 25]]))

    np.testing.assert_allclose(found.matrix, turned(90, 2, 5, 5), atol=1e-12)
    assert found.error == pytest.approx(0)


def test_four_points_say_all_of_a_plane_seen_from_elsewhere() -> None:
    square = np.array([[0.0, 0], [100, 0], [100, 100], [0, 100]])
    target = np.array([[10.0, 12], [90, 30], [95, 80], [5, 99]])

    found = aligned_by_points(square, target, MapKind.PROJECTIVE)

    np.testing.assert_allclose(mapped(found.matrix, square), target, atol=1e-9)
    wanted = cv2.getPerspectiveTransform(
        square.astype(np.float32), target.astype(np.float32)
    )
    np.testing.assert_allclose(found.matrix, wanted, atol=1e-6)


def test_with_a_pair_too_few_a_map_does_less() -> None:
    two = np.array([[0.0, 0], [10, 0]])

    found = aligned_by_points(two, 2 * two, MapKind.PROJECTIVE)

    assert found.matrix[2].tolist() == [0, 0, 1]


@pytest.mark.parametrize(
    "points",
    [
        [[0, 0], [1, 0]],
        [[0, 0], [50, 0], [100, 0], [20, 80]],
    ],
)
def test_points_that_say_too_little_are_refused(points) -> None:
    good = np.array([[0.0, 0], [90, 0], [90, 90], [0, 90]])[: len(points)]

    with pytest.raises(NotAlikeError):
        aligned_by_points(np.array(points, float), good, MapKind.PROJECTIVE)


KEYS = [1, 1, 0, 3, 1024, 0, 1, 1, 1025, 0, 1, 1, 3072, 0, 1, 32632]
ON_THE_MAP = {
    "pixel_scale": [0.1, 0.1, 0],
    "tie_points": [0, 0, 0, 1000, 2000, 0],
    "geo_keys": KEYS,
}


def test_map_coordinates_lay_one_over_the_other_exactly() -> None:
    moving = {
        "pixel_scale": [0.2, 0.2, 0],
        "tie_points": [10, 0, 0, 1003, 1999, 0],
        "geo_keys": KEYS,
    }

    found = aligned_by_map(moving, ON_THE_MAP)

    # A pixel is twice as large; pixel (10, 0) lies 3 m to the right, 1 m down.
    np.testing.assert_allclose(mapped(found.matrix, np.array([[10.0, 0]])), [[30, 10]])
    np.testing.assert_allclose(found.matrix[:2, :2], 2 * np.eye(2))


def test_a_whole_matrix_says_the_same_as_scale_and_tie_point() -> None:
    whole = [0.1, 0, 0, 1000, 0, -0.1, 0, 2000, 0, 0, 0, 0, 0, 0, 0, 1]

    found = aligned_by_map({"transformation": whole, "geo_keys": KEYS}, ON_THE_MAP)

    np.testing.assert_allclose(found.matrix, np.eye(3), atol=1e-6)


def test_points_that_stand_for_middles_of_pixels_count_half_a_pixel_more() -> None:
    keys = [*KEYS[:11], 2, *KEYS[12:]]

    found = aligned_by_map({**ON_THE_MAP, "geo_keys": keys}, ON_THE_MAP)

    np.testing.assert_allclose(found.matrix[:2, 2], [-0.5, -0.5], atol=1e-6)


@pytest.mark.parametrize(
    "other",
    [
        {},
        {"pixel_scale": [0, 0, 0], "tie_points": [0] * 6, "geo_keys": KEYS},
        {**ON_THE_MAP, "geo_keys": [*KEYS[:15], 32633]},
        {**ON_THE_MAP, "pixel_scale": [1e9, 1e9, 0]},
        {**ON_THE_MAP, "pixel_scale": [float("inf"), 1, 0]},
        {**ON_THE_MAP, "tie_points": [0, 0]},
    ],
)
def test_maps_that_do_not_go_together_are_refused(other) -> None:
    with pytest.raises(NotAlikeError):
        aligned_by_map(other, ON_THE_MAP)


def two_photos(**changes: object) -> Composite:
    moving = photo_layer(
        "m",
        flat_pixels(60, 40, (1, 2, 3, 255)),
        placement=Placement(x=5, y=5, scale_x=3, scale_y=1, turn=9, **changes),
    )
    fixed = photo_layer(
        "f",
        flat_pixels(80, 50, (1, 2, 3, 255)),
        placement=Placement(
            x=70, y=60, scale_x=0.5, scale_y=0.5, turn=30, flipped=True
        ),
    )
    return composite_of(fixed, moving, width=200, height=150)


def on_canvas(state: Composite, layer_id: str, points: np.ndarray) -> np.ndarray:
    layer = grouping.on_canvas(state.path_to(layer_id))
    crop = layer.placement.crop
    frame = points if crop is None else points @ crop.to_frame[:, :2].T
    if crop is not None:
        frame = frame + crop.to_frame[:, 2]
    warp = warp_of(layer.placement, width=layer.width, height=layer.height)
    return warp.at(frame / (warp.width, warp.height))


LEANING = turned(8, 1.2, 3, -4) + [[0, 0, 0], [0.05, 0, 0], [5e-4, 2e-4, 0]]


@pytest.mark.parametrize("matrix", [turned(25, 1.4, 7, 9), LEANING])
@pytest.mark.parametrize(
    "changes", [{}, {"crop": Crop(x=20, y=20, width=30, height=20, zoom=2, turn=10)}]
)
@pytest.mark.parametrize("in_group", [False, True])
def test_pixels_come_to_lie_over_those_they_were_matched_with(
    matrix, changes, in_group
) -> None:
    state = two_photos(**changes)
    if in_group:
        state = apply(state, GroupLayers(group_id="g", name="G", layer_ids=("m",)))
        group = with_fields(state.layer("g").placement, turn=40, scale_x=2, scale_y=2)
        moved = PlacedOne(layer_id="g", placement=group)
        state = apply(state, PlaceLayers(places=(moved,)))

    placement = lined_up(state, "m", "f", matrix)

    placed = PlacedOne(layer_id="m", placement=placement)
    after = apply(state, PlaceLayers(places=(placed,), deed="lined up"))
    points = np.array([[0.0, 0], [50, 10], [30, 40]])
    wanted = on_canvas(after, "f", mapped(matrix, points))
    np.testing.assert_allclose(on_canvas(after, "m", points), wanted, atol=1e-6)
    assert (placement.corners is None) == (matrix is not LEANING)


def test_what_cannot_be_lined_up_is_refused_with_its_reason() -> None:
    state = two_photos()
    warped = with_fields(
        state.layer("f").placement, corners=Corners(top_left=(0.1, 0.1))
    )
    bent = apply(
        state, PlaceLayers(places=(PlacedOne(layer_id="f", placement=warped),))
    )
    with pytest.raises(WarpedError, match="F must be straight"):
        lined_up(bent, "m", "f", np.eye(3))
    washes = poster()
    wash = next(one.id for one in washes.layers if one.kind == "color")
    with pytest.raises(NoSuchWorkError, match="no photo"):
        lined_up(washes, wash, "a", np.eye(3))
    folding = np.array([[1, 0, 0], [0, 1, 0], [0.04, 0, 1.0]]) - [
        [0] * 3,
        [0] * 3,
        [0.1, 0, 0],
    ]
    with pytest.raises(NotAlikeError):
        lined_up(state, "m", "f", folding)
