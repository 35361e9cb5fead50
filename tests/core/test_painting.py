"""Strokes as pixels, against an independent painter and against laws."""

from __future__ import annotations

import itertools
from typing import TYPE_CHECKING

import cv2
import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core._kernels.masking import TILE
from glyphaneme.core.edits import PaintStroke, RemovePart, apply, decided
from glyphaneme.core.errors import (
    NoSuchWorkError,
    PaintingMissingError,
    StrokeMissingError,
)
from glyphaneme.core.mask import EllipsePart, Mask, PaintedPart
from glyphaneme.core.mask.paintings import Painting, painted_all, painted_on
from glyphaneme.core.mask.strokes import (
    MAX_POINTS,
    NamedStroke,
    Stroke,
    require_strokes_named,
    stroke_id,
    thinned,
)
from glyphaneme.core.render import Needed, View, assets_needed, render
from tests.pictures import composite_of, photo_layer, pyramids

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.place import Rect


WIDTH, HEIGHT = 420, 300
PIXELS = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
LINE = ((60.5, 70.5, 1), (300.5, 200.5, 1))


def stroke(*points: tuple[float, float, float], **fields: object) -> Stroke:
    return Stroke(points=points or LINE, **{"size": 60, **fields})


def shown_by(painting: Painting, view: View | None = None) -> NDArray[np.float64]:
    part = PaintedPart(id="p", last="0" * 64, strokes=1)
    layer = photo_layer("a", PIXELS, mask=Mask(parts=(part,)))
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=None)
    assets = {**pyramids(a=PIXELS), "0" * 64: painting}
    whole = View(0, 0, WIDTH, HEIGHT, 1)
    return render(composite, assets, view or whole)[..., 3].astype(float)


def by_opencv(
    points: list[tuple[float, float]], size: float, softness: float
) -> NDArray[np.float64]:
    """Paint with OpenCV's exact distances to a thin line, and the stated edge."""
    fine = 8
    line = np.full((HEIGHT * fine, WIDTH * fine), 255, np.uint8)
    ends = [tuple(round(c * fine) for c in point) for point in points]
    for start, end in itertools.pairwise(ends or []):
        cv2.line(line, start, end, 0, 1)
    if len(ends) == 1:
        line[ends[0][1], ends[0][0]] = 0
    away = cv2.distanceTransform(line, cv2.DIST_L2, cv2.DIST_MASK_PRECISE) / fine
    away = away[fine // 2 :: fine, fine // 2 :: fine]
    band = max(softness * size / 2, 1)
    t = np.clip(0.5 + (size / 2 - softness * size / 4 - away) / band, 0, 1)
    return t * t * (3 - 2 * t) if softness * size / 2 > 1 else t


@pytest.mark.parametrize("softness", [0.2, 0.6, 1])
@pytest.mark.parametrize("points", [LINE, LINE[:1]], ids=["line", "dab"])
def test_stroke_covers_what_an_independent_painter_says(points, softness) -> None:
    painting = painted_all(Painting(), [stroke(*points, softness=softness)])

    wanted = 255 * (1 - by_opencv([p[:2] for p in points], 60, softness))

    # The painter's line lies on its own fine grid: up to an eighth of a pixel off.
    steepest = 1.5 * 255 / (softness * 30)
    assert np.abs(shown_by(painting) - wanted).max() <= 1 + steepest / 8


def test_soft_dab_is_its_formula_within_a_level() -> None:
    dab = stroke((200.0, 150.0, 1), size=160, softness=0.75)
    row, column = np.mgrid[0:HEIGHT, 0:WIDTH] + 0.5
    t = np.clip(0.5 + (80 - 30 - np.hypot(column - 200, row - 150)) / 60, 0, 1)

    shown = shown_by(painted_all(Painting(), [dab]))

    assert np.abs(shown - 255 * (1 - t * t * (3 - 2 * t))).max() <= 1


def test_hidden_is_shown_again_and_strength_adds_up() -> None:
    half = stroke((200, 150, 1), softness=0, strength=0.5)
    back = stroke((200, 150, 1), size=70, softness=0, shows=True)

    once = shown_by(painted_all(Painting(), [half]))
    twice = shown_by(painted_all(Painting(), [half, half]))
    again = shown_by(painted_all(Painting(), [half, half, back]))

    assert once[150, 200] == pytest.approx(127.5, abs=1)
    assert twice[150, 200] == pytest.approx(63.75, abs=1)
    assert again.min() == 255


def test_strokes_give_the_same_whether_painted_at_once_or_one_by_one() -> None:
    random = np.random.default_rng(3)
    strokes = [
        stroke(*((*random.uniform(0, 300, 2), 1) for _ in range(4)), shows=bool(n % 2))
        for n in range(12)
    ]
    at_once = painted_all(Painting(), strokes)
    one_by_one = Painting()
    for one in strokes:
        one_by_one = painted_all(one_by_one, [one])

    views = [View(0, 0, WIDTH, HEIGHT, 1), View(-9, 4, 99, 71, 0.23)]
    for view in views:
        assert np.array_equal(shown_by(at_once, view), shown_by(one_by_one, view))
    assert one_by_one.strokes == 12


@pytest.mark.parametrize("strength", [1.0, 0.4])
def test_stroke_under_way_leaves_what_the_whole_stroke_does(strength: float) -> None:
    random = np.random.default_rng(5)
    path = [(*random.uniform(20, 280, 2), random.uniform(0.2, 1)) for _ in range(14)]
    under = painted_all(Painting(), [stroke(shows=False), stroke((200, 150, 1))])
    under.level_for(1), under.level_for(3)
    underway = None
    views = [View(0, 0, WIDTH, HEIGHT, 1), View(-9, 4, 99, 71, 0.3)]

    for count in range(1, len(path) + 1):
        # The hand moves the end, a little and far, before it goes on.
        x, *rest = path[count - 1]
        for end in ((x + 3, *rest), (x + 250, *rest), (x, *rest)):
            points = (*path[: count - 1], end)
            going = stroke(*points, size=40, strength=strength, shows=True)
            underway = painted_on(under, going, underway)
            whole = painted_all(under, [going])
            for view in views:
                now, wanted = underway.painting, whole
                assert np.array_equal(shown_by(now, view), shown_by(wanted, view))
    assert underway.painting.strokes == under.strokes + 1


def test_another_stroke_is_not_taken_for_one_under_way() -> None:
    first = painted_on(Painting(), stroke((30, 30, 1), (60, 60, 1), (90, 30, 1)), None)
    moved = stroke((30, 30, 1), (60, 90, 1), (90, 30, 1))
    wider = stroke((30, 30, 1), (60, 60, 1), (90, 30, 1), size=77)

    for other in (moved, wider, stroke((30, 30, 1))):
        painting = painted_on(first.under, other, first).painting
        wanted = painted_all(Painting(), [other])
        assert np.array_equal(shown_by(painting), shown_by(wanted))


def test_undone_stroke_leaves_the_very_bytes() -> None:
    first, second = stroke(), stroke((10, 10, 1), (400, 20, 1))
    before = painted_all(Painting(), [first])
    kept = before.level_at(0).texels

    painted_all(before, [second])

    after = before.level_at(0).texels
    assert kept.keys() == after.keys()
    assert all(np.array_equal(kept[at], after[at]) for at in kept)


@pytest.mark.parametrize("scale", [0.5, 0.25, 0.11])
def test_smaller_views_show_the_average(scale: float) -> None:
    back = stroke((200, 150, 1), size=70, shows=True)
    painting = painted_all(Painting(), [stroke(softness=0.3), back])
    width, height = round(WIDTH * scale), round(HEIGHT * scale)
    whole = shown_by(painting).astype(np.float32)

    small = shown_by(painting, View(0, 0, width, height, scale))

    wanted = cv2.resize(whole, (width, height), interpolation=cv2.INTER_AREA)
    assert np.sqrt(np.mean((small - wanted) ** 2)) < 6


def test_only_tiles_that_a_stroke_touches_are_made() -> None:
    painting = painted_all(Painting(), [stroke((200, 150, 1), size=20)])

    tiles = painting.level_at(0).tiles
    assert 1 <= len(tiles) <= 4
    assert all(0 <= row < 4 and 2 <= column < 4 for row, column in tiles)
    assert all(shown == 0 for _, shown in tiles.values())
    assert painting.nbytes < 200_000


@pytest.mark.parametrize("far", [256, 320, 384, 448, 512, 1600])
@pytest.mark.parametrize(("x", "y"), [(1, 0), (-1, 0), (0, 1), (0, -1)])
def test_stroke_far_from_those_before_is_painted_as_with_them(
    far: int, x: int, y: int
) -> None:
    near = stroke((300, 300, 1), size=90)
    beyond = stroke((300 + far * x, 300 + far * y, 1), size=90)
    first = painted_all(Painting(), [near])
    first.level_for(2)

    one_by_one, at_once = (
        painted_all(first, [beyond]),
        painted_all(Painting(), [near, beyond]),
    )

    for place in range(2):
        found, wanted = (each.level_at(place).texels for each in (one_by_one, at_once))
        assert found.keys() == wanted.keys()
        assert all(np.array_equal(found[at], wanted[at]) for at in wanted)
        level = one_by_one.level_at(place)
        # A tile of nothing all round: a mask goes on beyond its planes as at its edge.
        rims = level.places[:, [0, -1]], level.places[:, :, [0, -1]]
        assert all((rim == -1).all() for rim in rims)
        assert np.count_nonzero(level.places != -1) == sum(
            texels[channel].any() for texels in found.values() for channel in range(2)
        )


def test_tile_beside_a_new_stroke_gets_its_new_neighbour() -> None:
    beside = [
        stroke((TILE - 20.0, 100, 1), size=30),
        stroke((TILE + 6.0, 100, 1), size=12, softness=0),
    ]
    view = View(TILE - 4, 96, 64, 64, 8)
    one_by_one = Painting()
    for one in beside:
        one_by_one = painted_all(one_by_one, [one])
        shown = shown_by(one_by_one, view)

    assert np.array_equal(shown, shown_by(painted_all(Painting(), beside), view))


@pytest.mark.parametrize("size", [3, 9])
def test_thin_stroke_leaves_no_tile_out_on_its_way(size: float) -> None:
    row, column = np.mgrid[0:HEIGHT, 0:WIDTH] + 0.5
    for shift in range(0, 64, 7):
        x, y, across, down = 3 + shift, 5, 294, 266
        thin = stroke((x, y, 1), (x + across, y + down, 1), size=size, softness=0)

        shown = shown_by(painted_all(Painting(), [thin]))

        u, v = column - x, row - y
        along = np.clip((u * across + v * down) / (across**2 + down**2), 0, 1)
        away = np.hypot(u - along * across, v - along * down)
        assert shown[away < size / 2 - 0.6].max() == 0


@pytest.mark.parametrize("down", [True, False])
def test_halved_tile_knows_what_begins_right_beyond_it(down: bool) -> None:
    ends = ((159, 20, 1), (159, 280, 1))
    if down:
        ends = tuple((y, x, p) for x, y, p in ends)
    edge = stroke(*ends, size=60, softness=0)  # from 129 on
    view = View(0 if down else 1, 1 if down else 0, 120, 120, 0.5)

    shown = shown_by(painted_all(Painting(), [edge]), view)

    # Half of one of two halved pixels: a quarter is hidden.
    at = (63, 60) if down else (60, 63)
    assert shown[at] == pytest.approx(255 * 0.75, abs=1.5)


def test_edge_of_a_tile_shows_no_seam() -> None:
    middle = 2.0 * TILE
    painting = painted_all(
        Painting(), [stroke((middle, middle, 1), size=100, softness=1)]
    )

    shown = shown_by(painting, View(100, 100, 200, 200, 4))

    assert np.abs(np.diff(shown, axis=1)).max() < 4


def test_inside_out_exchanges_hidden_and_shown() -> None:
    strokes = [stroke(), stroke((200, 150, 1), shows=True)]
    painting = painted_all(Painting(), strokes)
    part = PaintedPart(id="p", last="0" * 64, strokes=2, inverted=True)
    circle = EllipsePart(id="c", x=210, y=150, width=260, height=260)
    layer = photo_layer("a", PIXELS, mask=Mask(parts=(circle, part)))
    composite = composite_of(layer, width=WIDTH, height=HEIGHT, background=None)
    assets = {**pyramids(a=PIXELS), "0" * 64: painting}

    shown = render(composite, assets, View(0, 0, WIDTH, HEIGHT, 1))[..., 3]

    assert shown[150, 200] == 0  # painted to be shown
    assert shown[76, 71] == 255  # painted to be hidden, outside of the circle


def test_missing_painting_is_named() -> None:
    part = PaintedPart(id="p", last="f" * 64, strokes=1)
    layer = photo_layer("a", PIXELS, mask=Mask(parts=(part,)))
    composite = composite_of(layer, width=WIDTH, height=HEIGHT)

    assert assets_needed(composite).paintings == {"f" * 64}
    with pytest.raises(PaintingMissingError, match="ffff"):
        render(composite, pyramids(a=PIXELS), View(0, 0, 9, 9, 1))


def test_only_what_touches_the_view_is_needed() -> None:
    part = PaintedPart(id="p", last="f" * 64, strokes=1)
    near = photo_layer("a", PIXELS)
    far = photo_layer("b", PIXELS, mask=Mask(parts=(part,)))
    far = far.model_copy(
        update={"placement": far.placement.model_copy(update={"x": 5000})}
    )
    composite = composite_of(near, far, width=WIDTH, height=HEIGHT)
    view = View(0, 0, WIDTH, HEIGHT, 1)

    needed = assets_needed(composite, view)
    assert needed == Needed(pictures=frozenset({"a"}))
    assert assets_needed(composite).pictures == {"a", "b"}
    assert render(composite, pyramids(a=PIXELS), view).shape == (HEIGHT, WIDTH, 4)


def test_stroke_names_the_one_before_it() -> None:
    state = composite_of(photo_layer("a", PIXELS), width=WIDTH, height=HEIGHT)
    first = PaintStroke(layer_id="a", part_id="p", stroke=stroke())
    second = PaintStroke(layer_id="a", part_id="p", stroke=stroke(shows=True))

    state = apply(apply(state, first), second)

    [part] = state.layer("a").mask.parts
    assert part.strokes == 2
    assert part.last == stroke_id(stroke_id(None, stroke()), stroke(shows=True))


def test_decided_stroke_keeps_no_points_and_does_the_same() -> None:
    state = composite_of(photo_layer("a", PIXELS), width=WIDTH, height=HEIGHT)
    asked = PaintStroke(layer_id="a", part_id="p", stroke=stroke())

    said = decided(state, asked)

    assert said.stroke is None
    assert apply(state, said) == apply(state, asked)
    assert asked.says(said.model_dump(mode="json"))
    other = asked.model_copy(update={"stroke": stroke(shows=True)})
    assert not other.says(said.model_dump(mode="json"))


def test_shapes_are_not_painted_on_and_removed_parts_are_gone() -> None:
    circle = EllipsePart(id="c", x=1, y=1, width=5, height=5)
    layer = photo_layer("a", PIXELS, mask=Mask(parts=(circle,)))
    state = composite_of(layer, width=WIDTH, height=HEIGHT)

    with pytest.raises(NoSuchWorkError, match="painted"):
        apply(state, PaintStroke(layer_id="a", part_id="c", stroke=stroke()))
    gone = apply(state, RemovePart(layer_id="a", part_id="c"))
    assert gone.layer("a").mask is None


@pytest.mark.parametrize(
    "fields",
    [
        {"points": ()},
        {"points": ((0, 0, 1),) * (MAX_POINTS + 1)},
        {"points": ((float("nan"), 0, 1),)},
        {"points": ((float("inf"), 0, 1),)},
        {"points": ((0, 0, 1.1),)},
        {"points": ((70_000, 0, 1),)},
        {"size": 0},
        {"size": 1e5},
        {"strength": -0.1},
        {"softness": 2},
    ],
)
def test_impossible_strokes_are_refused(fields) -> None:
    with pytest.raises(ValidationError):
        Stroke(**{"points": LINE, "size": 60, **fields})


@pytest.mark.parametrize("size", [1, 60, 300])
def test_stroke_over_too_many_pixels_says_what_to_do(size: int) -> None:
    points = tuple((40_000.0 * (n % 2), n, 1) for n in range(200))

    with pytest.raises(ValidationError, match="paint it in pieces"):
        Stroke(points=points, size=size)


def test_strokes_that_are_not_what_they_say_are_refused() -> None:
    first = NamedStroke(id=stroke_id(None, stroke()), previous=None, stroke=stroke())
    after = stroke_id(first.id, stroke())
    second = NamedStroke(id=after, previous=first.id, stroke=stroke())

    require_strokes_named([first, second])
    for wrong in (
        [second],
        [second, first],
        [first, first.model_copy(update={"id": after})],
    ):
        with pytest.raises(StrokeMissingError):
            require_strokes_named(wrong)


def test_thinned_stroke_looks_the_same_with_fewer_points() -> None:
    dense = tuple((60 + n / 50, 70 + n / 90, 1) for n in range(1900))
    whole = stroke(*dense)

    thin = thinned(whole)

    assert len(thin.points) < len(dense) / 10
    one, other = (shown_by(painted_all(Painting(), [s])) for s in (whole, thin))
    assert np.abs(one - other).max() <= 1


def test_stroke_that_goes_over_too_much_is_refused() -> None:
    # So far that 4000 pixels by the way, and by 4000 for each point, are the most.
    here, wide = (0, 0, 1), {"size": 4000}

    assert stroke(here, (42_000, 0, 1), **wide).area == 200_000_000
    assert stroke(here, (0, 19_000, 1), here, **wide).area == 200_000_000
    for points in [(here, (42_001, 0, 1)), (here, (0, 19_001, 1), here)]:
        with pytest.raises(ValidationError, match="200 million"):
            stroke(*points, **wide)


def texels_of(painting: Painting, reach: Rect[int]) -> NDArray[np.uint16]:
    """Return both channels, (2, H, W), as they lie in planes of that reach."""
    out = np.zeros((2, 24 * TILE, 24 * TILE), np.uint16)
    for (row, column), texels in painting.level_at(0).texels.items():
        y, x = row * TILE - reach.top, column * TILE - reach.left
        out[:, y : y + TILE, x : x + TILE] = texels[:, :TILE, :TILE]
    return out


@pytest.mark.parametrize("seed", range(12))
def test_where_other_strokes_differ_is_found_to_the_pixel(seed: int) -> None:
    random = np.random.default_rng(seed)
    ground = painted_all(Painting(), [stroke((300, 300, 1), size=500, softness=0.2)])
    before = ground.level_at(0)
    places = random.uniform(60, 540, (seed % 3 + 1, seed % 4 + 1, 2)).tolist()
    strokes = [
        stroke(
            *((x, y, 1) for x, y in points),
            size=float(random.uniform(2, 200)),
            shows=bool(random.integers(2)),
        )
        for points in places
    ]
    painting = painted_all(ground, strokes)
    after = painting.level_at(0)

    found = after.differs_from(before)

    assert after.reach == before.reach
    assert before.differs_from(after) == found
    one, other = (texels_of(each, before.reach) for each in (ground, painting))
    _, rows, columns = np.nonzero(one != other)
    # A pixel more on every side: between two middles a mask shows something of both.
    wanted = rows.size and (
        columns.min() - 1,
        rows.min() - 1,
        columns.max() + 2,
        rows.max() + 2,
    )
    assert found == (wanted or None)
