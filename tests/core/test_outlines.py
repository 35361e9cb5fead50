"""Outlines by hand: their distances against OpenCV's, at any size and softness."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.mask import EllipsePart, Join, Mask, OutlinePart
from glyphaneme.core.place import Placement
from glyphaneme.core.render import View, render
from tests.posters import composite_of, photo_layer, pyramids

if TYPE_CHECKING:
    from numpy.typing import NDArray

    F64 = NDArray[np.float64]

WIDTH, HEIGHT = 240, 160
PIXELS = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
PYRAMIDS = pyramids(a=PIXELS)
LEAF = ((20.5, 80), (70, 22), (150, 30.25), (221, 90), (140, 85), (96, 141))
LEVEL = 1 / 255


def alpha_of(part: OutlinePart, view: View, **fields: object) -> F64:
    layer = photo_layer("a", PIXELS, mask=Mask(parts=(part,)), **fields)
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=None)
    return render(composite, PYRAMIDS, view)[..., 3] / 255


def by_opencv(part: OutlinePart, view: View) -> F64:
    """Return a part's value by its definition, from another library's distances."""
    corners = np.array(part.points, np.float32).reshape(-1, 1, 2)
    away = np.empty((view.height, view.width))
    for row, column in np.ndindex(away.shape):
        at = (view.x + (column + 0.5) / view.scale, view.y + (row + 0.5) / view.scale)
        away[row, column] = -cv2.pointPolygonTest(corners, at, measureDist=True)
    pixel = 1 / view.scale
    t = np.clip(0.5 - away / max(part.softness, pixel), 0, 1)
    return t * t * (3 - 2 * t) if part.softness > pixel else t


@pytest.mark.parametrize("softness", [0, 1.5, 12, 60, 180])
@pytest.mark.parametrize(
    "view",
    [
        View(0, 0, WIDTH, HEIGHT, 1),
        View(30, 20, 120, 90, 3),
        View(5, 3, 70, 47, 0.3),
        View(128, 78, 90, 60, 16),
    ],
)
def test_outline_shows_what_its_distance_says(softness: float, view: View) -> None:
    part = OutlinePart(id="o", points=LEAF, softness=softness)

    shown = alpha_of(part, view)

    off = np.abs(shown - by_opencv(part, view))
    # Very soft edges are reckoned in larger pixels: it shows where two sides meet.
    assert off.max() < (2 if softness > 128 else 1.2) * LEVEL
    assert off.mean() < 0.4 * LEVEL


def test_soft_edge_is_smooth_where_the_outline_lies_far_outside_the_view() -> None:
    part = OutlinePart(
        id="o",
        points=((-900, -900), (120, -900), (120, 900), (-900, 900)),
        softness=200,
    )

    shown = alpha_of(part, View(140, 60, 300, 200, 8))

    x = 140 + (np.arange(300) + 0.5) / 8
    t = np.clip(0.5 - (x - 120) / 200, 0, 1)
    wanted = np.broadcast_to(t * t * (3 - 2 * t), shown.shape)
    assert np.abs(shown - wanted).max() < 1.2 * LEVEL


def test_crossing_lines_leave_out_what_lies_inside_twice() -> None:
    star = tuple(
        (
            120 + 75 * math.sin(4 * math.pi * k / 5),
            80 - 75 * math.cos(4 * math.pi * k / 5),
        )
        for k in range(5)
    )

    shown = alpha_of(OutlinePart(id="o", points=star), View(0, 0, WIDTH, HEIGHT, 1))

    assert shown[80, 120] == 0
    assert shown[30, 120] == 1


def test_outline_joins_and_turns_inside_out_like_any_part() -> None:
    view = View(0, 0, WIDTH, HEIGHT, 1)
    leaf = OutlinePart(id="o", points=LEAF, softness=8)
    turned = leaf.model_copy(update={"inverted": True})
    circle = EllipsePart(id="c", x=120, y=80, width=90, height=90)
    both = Mask(parts=(circle, leaf.model_copy(update={"join": Join.TAKE})))
    layer = photo_layer("a", PIXELS, mask=both)
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=None)

    taken = render(composite, PYRAMIDS, view)[..., 3] / 255

    shown = alpha_of(leaf, view)
    assert np.abs(alpha_of(turned, view) + shown - 1).max() < 1.01 * LEVEL
    assert taken[112, 150] > 0.9
    assert taken[60, 120] < 0.1


def test_outline_moves_with_its_photo() -> None:
    part = OutlinePart(id="o", points=LEAF)
    moved = Placement(x=WIDTH / 2 + 7, y=HEIGHT / 2 - 4, scale_x=1, scale_y=1)
    whole = View(0, 0, WIDTH, HEIGHT, 1)

    shown = alpha_of(part, whole, placement=moved)

    before = alpha_of(part, whole)
    assert np.abs(shown[:-4, 7:] - before[4:, :-7]).max() < 1.01 * LEVEL


@pytest.mark.parametrize("scale", [1e-3, 1, 64])
def test_outline_that_reaches_to_the_limits_is_shown(scale: float) -> None:
    far = ((-9e4, -9e4), (9e4, -9e4), (9e4, 9e4), (-9e4, 9e4))
    part = OutlinePart(id="o", points=far, softness=5000)

    shown = alpha_of(part, View(0, 0, 40, 30, scale))

    assert shown.shape == (30, 40)
    assert shown[0, 0] == 1 or scale < 1


def test_outline_without_an_inside_shows_next_to_nothing() -> None:
    flat = OutlinePart(id="o", points=((50, 50), (50, 50), (50, 50)))

    assert alpha_of(flat, View(0, 0, WIDTH, HEIGHT, 1)).sum() < 1


@pytest.mark.parametrize(
    "points",
    [
        ((1, 1), (5, 5)),
        tuple((float(k), 1.0) for k in range(1001)),
        ((1, 1), (5, math.nan), (9, 9)),
        ((1, 1), (5, math.inf), (9, 9)),
        ((1, 1), (5, 1e9), (9, 9)),
    ],
)
def test_what_is_no_outline_is_refused(points: tuple[tuple[float, float], ...]) -> None:
    with pytest.raises(ValidationError, match="points"):
        OutlinePart(id="o", points=points)
