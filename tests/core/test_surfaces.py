"""Blank boards give their corners, and corner-like points are found where they are."""

from __future__ import annotations

from contextlib import suppress
from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest

from glyphaneme.core.align.surfaces import blank_corners, corner_points
from glyphaneme.core.errors import NoSurfaceError
from tests.boards import board

if TYPE_CHECKING:
    from numpy.typing import NDArray


def opaque(grey: NDArray[np.uint8]) -> NDArray[np.uint8]:
    return np.dstack([grey, grey, grey, np.full_like(grey, 255)])


@pytest.mark.parametrize("seed", range(8))
def test_a_board_seen_at_an_angle_gives_its_corners_below_a_pixel(seed: int) -> None:
    scene = board(seed, shade=7.0 * seed, noise=0.7 * seed)
    middle = scene.corners.mean(axis=0)

    found = blank_corners(scene.pixels, [middle - (60, 40), middle + (60, 40)], 14)

    assert np.hypot(*(found - scene.corners).T).max() < 0.5


def test_a_single_touch_is_a_stroke_too() -> None:
    scene = board(3)

    found = blank_corners(scene.pixels, [tuple(scene.corners.mean(axis=0))], 8)

    assert np.hypot(*(found - scene.corners).T).max() < 0.5


def test_a_picture_of_something_on_the_board_is_no_hole_in_it() -> None:
    scene = board(5)
    x, y = scene.corners.mean(axis=0).astype(int)
    cv2.circle(scene.pixels, (int(x) + 40, int(y)), 25, (180, 20, 20, 255), -1)

    found = blank_corners(scene.pixels, [(x - 120, y), (x - 60, y + 60)], 12)

    assert np.hypot(*(found - scene.corners).T).max() < 0.5


def test_what_lies_in_the_shade_belongs_to_it_where_the_stroke_goes_over_it() -> None:
    sheet = np.full((400, 500), 60, np.uint8)
    sheet[100:300, 120:380] = 210
    sheet[100:150, 120:380] = 150

    light = blank_corners(opaque(sheet), [(200, 230), (300, 250)], 10)
    both = blank_corners(opaque(sheet), [(200, 120), (250, 250)], 10)

    assert light[:2, 1] == pytest.approx([150, 150], abs=0.6)
    assert both == pytest.approx(
        np.array([(120, 100), (380, 100), (380, 300), (120, 300)]), abs=0.6
    )


def test_corners_run_clockwise_from_the_top_left() -> None:
    sheet = np.full((300, 300), 30, np.uint8)
    cv2.fillConvexPoly(
        sheet, np.array([(150, 40), (260, 150), (150, 260), (40, 150)]), 220
    )

    found = blank_corners(opaque(sheet), [(150, 150)], 10)

    around = found[1] - found[0], found[3] - found[0]
    assert around[0][0] * around[1][1] - around[0][1] * around[1][0] > 0


@pytest.mark.parametrize(
    "stroke", [[(20, 20)], [(-900, -900), (-800, -900)], [(449, 349), (451, 351)]]
)
def test_where_there_is_no_board_none_is_made_up(stroke: list) -> None:
    round_thing = np.full((700, 900), 40, np.uint8)
    cv2.circle(round_thing, (450, 350), 120, 200, -1)
    noisy = np.random.default_rng(1).integers(0, 60, round_thing.shape, np.uint8)

    with pytest.raises(NoSurfaceError, match="pull the corners by hand"):
        blank_corners(opaque(round_thing + noisy), stroke, 6)


def test_corner_points_lie_on_the_corners_of_a_chessboard() -> None:
    squares = np.kron(np.indices((5, 6)).sum(0) % 2, np.ones((40, 40))) * 180 + 30
    crossings = np.array(
        [(x, y) for x in range(40, 240, 40) for y in range(40, 200, 40)]
    )

    found = corner_points(opaque(squares.astype(np.uint8)))

    for crossing in crossings:
        assert np.hypot(*(found - crossing).T).min() < 0.3


def test_an_even_picture_has_no_corner_points() -> None:
    assert corner_points(opaque(np.full((60, 80), 128, np.uint8))).shape == (0, 2)


def test_corner_points_are_bounded() -> None:
    noisy = np.random.default_rng(2).integers(0, 255, (400, 400), np.uint8)

    assert len(corner_points(opaque(noisy))) == 300


@pytest.mark.parametrize("shape", [(1, 1), (1, 900), (700, 1), (31, 31)])
def test_pictures_without_room_for_edges_have_none(shape: tuple[int, int]) -> None:
    grey = np.random.default_rng(3).integers(0, 255, shape, np.uint8)

    with pytest.raises(NoSurfaceError):
        blank_corners(opaque(grey), [(0, 0), (3, 3)], 5)
    assert corner_points(opaque(grey)).shape == (0, 2)


@pytest.mark.parametrize("radius", [1e-6, 3, 1e9])
@pytest.mark.parametrize("at", [(0, 0), (1e9, -1e9), (50, 20)])
def test_the_finest_and_largest_brushes_and_the_farthest_strokes_break_nothing(
    radius: float, at: tuple[float, float]
) -> None:
    noisy = np.random.default_rng(3).integers(0, 255, (60, 90), np.uint8)

    with suppress(NoSurfaceError):
        found = blank_corners(opaque(noisy), [at], radius)
        assert np.isfinite(found).all()
