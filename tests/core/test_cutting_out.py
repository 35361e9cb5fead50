"""Mattes: the solver, carrying up, ways, hints, and what is said of the edge."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from glyphaneme.core.cutout import (
    Evidence,
    Guide,
    Guides,
    Laplacian,
    Look,
    box_of,
    carried_up,
    corrected,
    doubtful_places,
    graph_of,
    marks_of,
    matte_found,
    refined,
    rough_matte,
    solved,
    start_of,
    subjects_in,
)
from glyphaneme.core.cutout.finding import WAYS
from glyphaneme.core.cutout.priors import Prior, agreed, sole
from glyphaneme.core.errors import NoSubjectError
from glyphaneme.core.mask import CutWay, Hints, RoughStroke
from glyphaneme.core.place import Rect
from tests.cutouts import Known, disks, error_of, evidence_of
from tests.pictures import flat_pixels
from tests.plain_pymatting import cf_laplacian

NO_HINTS = Hints()
ONE = [(80, 60, 36)]
RING_ROUND_ONE = ((40.0, 20.0), (120.0, 20.0), (120.0, 100.0), (40.0, 100.0))


def found(
    known: Known,
    evidence: Evidence,
    *,
    way: CutWay = CutWay.ITSELF,
    hints: Hints = NO_HINTS,
) -> np.ndarray:
    rows, columns = known.alpha.shape
    marks = marks_of(hints, Rect(0, 0, columns, rows), 1)
    return matte_found(evidence, known.pixels, way=way, hints=hints, marks=marks)


def stroke(*points: tuple[float, float], keeps: bool, size: float = 6) -> RoughStroke:
    return RoughStroke(keeps=keeps, size=size, points=points)


def noise(rows: int, columns: int) -> np.ndarray:
    return np.random.default_rng(3).integers(0, 256, (rows, columns, 3), np.uint8)


@pytest.mark.parametrize("epsilon", [1e-6, 1e-2])
def test_the_laplacian_is_the_published_one(epsilon: float) -> None:
    rgb = noise(14, 17)
    values = np.random.default_rng(4).random((14, 17))
    area = np.zeros((14, 17), np.bool_)
    area[4:9, 5:12] = True
    area[9, 8] = area[7, 13] = True

    applied = Laplacian(rgb, area, epsilon).applied(values)

    whole = cf_laplacian(rgb.astype(np.float64) / 255, epsilon)
    expected = (whole @ values.ravel()).reshape(values.shape)
    np.testing.assert_allclose(applied[area], expected[area], rtol=0, atol=1e-6)
    assert not applied[[0, -1]].any()


def test_the_laplacian_of_all_of_a_picture_is_the_published_one() -> None:
    rgb = noise(9, 11)
    values = np.random.default_rng(4).random((9, 11))

    applied = Laplacian(rgb, np.ones((9, 11), np.bool_), 1e-4).applied(values)

    whole = cf_laplacian(rgb.astype(np.float64) / 255, 1e-4)
    expected = (whole @ values.ravel()).reshape(values.shape)
    np.testing.assert_allclose(applied, expected, rtol=0, atol=1e-6)


def test_the_solver_finds_what_a_direct_one_does() -> None:
    known = disks(26, 22, [(13, 11, 7)])
    rgb = np.ascontiguousarray(known.pixels[..., :3])
    area = np.zeros(known.alpha.shape, np.bool_)
    area[3:19, 3:23] = True
    guess = cv2.GaussianBlur(known.alpha, (0, 0), 1.5)
    belief = np.full(area.shape, 0.05, np.float32)

    matte = solved(Laplacian(rgb, area, 1e-4), area, guess, belief)

    whole = cf_laplacian(rgb.astype(np.float64) / 255, 1e-4).toarray()
    inside, outside = area.ravel(), ~area.ravel()
    system = whole[np.ix_(inside, inside)] + 0.05 * np.eye(inside.sum())
    right = 0.05 * guess.ravel()[inside]
    right -= whole[np.ix_(inside, outside)] @ guess.ravel()[outside]
    expected = np.clip(np.linalg.solve(system, right), 0, 1)
    np.testing.assert_allclose(matte[area], expected, rtol=0, atol=0.02)
    assert (matte[~area] == guess[~area]).all()


def test_a_coarse_matte_is_refined_along_colours() -> None:
    known = disks(320, 240, [(160, 120, 80)])
    rgb = np.ascontiguousarray(known.pixels[..., :3])
    coarse = cv2.resize(known.alpha, (40, 30), interpolation=cv2.INTER_AREA)

    fine = refined(Guides(rgb), coarse)

    plain = cv2.resize(coarse, (320, 240))
    off = np.abs(fine - known.alpha).mean()
    assert off < 0.25 * np.abs(plain - known.alpha).mean()
    assert fine.min() >= 0
    assert fine.max() <= 1


def test_what_is_kept_and_dropped_for_sure_stays_so() -> None:
    known = disks(160, 120, ONE)
    rgb = np.ascontiguousarray(known.pixels[..., :3])
    coarse = cv2.resize(known.alpha, (40, 30), interpolation=cv2.INTER_AREA)
    keep, drop = (np.zeros(known.alpha.shape, np.bool_) for _ in range(2))
    keep[10:16, 10:16] = True
    drop[55:62, 70:90] = True

    fine = refined(Guides(rgb), coarse, keep=keep, drop=drop)

    assert (fine[keep] == 1).all()
    assert (fine[drop] == 0).all()


def test_a_matte_carried_up_follows_the_larger_pictures_edge() -> None:
    known = disks(640, 480, [(320, 240, 150)], softness=2)
    small = cv2.resize(known.pixels, (160, 120), interpolation=cv2.INTER_AREA)
    alpha = cv2.resize(known.alpha, (160, 120), interpolation=cv2.INTER_AREA)

    large = carried_up(known.pixels, Guide(np.ascontiguousarray(small[..., :3])), alpha)

    evenly = cv2.resize(alpha, (640, 480))
    assert error_of(large, known) < 0.7 * np.abs(evenly - known.alpha).mean()
    assert (large[known.alpha == 1].astype(int) > 240).mean() > 0.999
    assert large[5, 5] == 0


def test_a_matte_carried_up_is_its_colour_lines_where_it_is_soft() -> None:
    random = np.random.default_rng(8)
    large = random.integers(0, 256, (96, 128, 3), np.uint8)
    small = np.asarray(cv2.resize(large, (32, 24), interpolation=cv2.INTER_AREA))
    matte = np.zeros((24, 32), np.float32)
    matte[12:], matte[:, 16:24], matte[4:7, 4:9] = 1, 1 - matte[:, 16:24], 0.4
    guide = Guide(small)

    carried = carried_up(large, guide, matte)

    size = (128, 96)
    between = ((matte > 0.02) & (matte < 0.98)).astype(np.uint8)
    soft = cv2.dilate(between, np.ones((3, 3), np.uint8)).astype(np.float32)
    follows = cv2.resize(soft, size) > 0
    lines = cv2.resize(guide.lines(matte), size)
    along = (lines[..., :3] * (large / 255)).sum(-1) + lines[..., 3]
    expected = np.clip(np.where(follows, along, cv2.resize(matte, size)), 0, 1) * 255
    assert 0.05 < follows.mean() < 0.2
    np.testing.assert_allclose(carried, expected, rtol=0, atol=0.6)


def test_colour_lines_explain_a_matte_that_is_made_of_colours() -> None:
    rgb = noise(20, 30)
    matte = np.asarray(rgb @ np.array([0.5, 0.25, 0.125]) / 255 + 0.06, np.float32)
    guides = Guides(rgb)

    lines = guides.at(matte, 1e-7).lines(matte)
    stiff = guides.at(matte, 10.0).lines(matte)

    np.testing.assert_allclose(lines, [[[0.5, 0.25, 0.125, 0.06]] * 30] * 20, atol=1e-3)
    assert np.abs(stiff[..., :3]).max() < 0.05


def test_the_network_is_taken_at_its_word_and_its_edge_is_refined() -> None:
    known = disks(160, 120, ONE)
    evidence = evidence_of(known)

    matte = found(known, evidence)

    assert matte.dtype == np.uint8
    assert error_of(matte, known) < 0.02
    nothing_said = marks_of(NO_HINTS, Rect(0, 0, 160, 120), 1)
    assert error_of(rough_matte(evidence, known.pixels, nothing_said), known) < 0.04


@pytest.mark.parametrize("way", list(WAYS))
def test_every_way_finds_a_plain_subject(way: CutWay) -> None:
    known = disks(240, 180, [(120, 90, 50)])

    assert error_of(found(known, evidence_of(known), way=way), known) < 0.03


def test_inner_gaps_open_where_the_backdrop_shows_through() -> None:
    known = disks(320, 240, [(160, 120, 90)])
    row, column = np.mgrid[0:240, 0:320]
    hole = np.hypot(column - 160, row - 120) < 35
    wall = disks(320, 240, [])
    pixels, alpha = known.pixels.copy(), known.alpha.copy()
    pixels[hole], alpha[hole] = wall.pixels[hole], 0
    ring = Known(pixels, alpha, known.own)
    evidence = evidence_of(ring, seen=known.alpha)

    assert error_of(found(ring, evidence), ring) > 0.04
    assert error_of(found(ring, evidence, way=CutWay.GAPS), ring) < 0.015


@pytest.mark.parametrize("way", [CutWay.ITSELF, CutWay.FINER, CutWay.GAPS])
def test_no_clear_subject_is_said(way: CutWay) -> None:
    known = disks(160, 120, ONE)
    evidence = evidence_of(known, seen=known.alpha * 0.3)

    with pytest.raises(NoSubjectError):
        found(known, evidence, way=way)
    kept = Hints(strokes=(stroke((60, 60), (100, 60), keeps=True),))
    assert error_of(found(known, evidence, way=way, hints=kept), known) < 0.05


def test_strokes_win_over_the_network() -> None:
    known = disks(240, 160, [(60, 80, 34), (180, 80, 34)])
    only_left = disks(240, 160, [(60, 80, 34)])
    evidence = evidence_of(known, seen=only_left.alpha)
    before = found(known, evidence)
    said = (
        stroke((165, 80), (195, 80), keeps=True),
        stroke((45, 80), (75, 80), keeps=False),
    )

    matte = found(known, evidence, hints=Hints(strokes=said))

    assert before[80, 60] > 250
    assert before[80, 180] < 5
    assert (matte[76:85, 170:190] == 255).all()
    assert (matte[76:85, 50:70] == 0).all()
    # The strokes lie in the middle: what is alike goes with them, up to the edge.
    left, right = (disks(240, 160, [(x, 80, 34)]).alpha == 1 for x in (60, 180))
    assert (matte[left] < 127).mean() > 0.9
    assert (matte[right] > 127).mean() > 0.9
    backwards = found(known, evidence, hints=Hints(strokes=said[::-1]))
    assert (backwards == matte).all()


def test_a_ring_bounds_the_subject_and_the_box_that_is_looked_in() -> None:
    known = disks(240, 160, [(60, 80, 34), (180, 80, 34)])
    ring = ((130.0, 30.0), (235.0, 30.0), (235.0, 130.0), (130.0, 130.0))

    matte = found(known, evidence_of(known), hints=Hints(around=ring))

    assert matte[80, 180] == 255
    assert matte[:, :125].max() == 0
    box = box_of(Hints(around=ring), 240, 160)
    assert box == Rect(118, 19, 240, 141)
    marks = marks_of(Hints(around=ring), Rect(0, 0, 240, 160), 1)
    rough = rough_matte(evidence_of(known), known.pixels, marks)
    assert (rough[80, 180], rough[:, :125].max()) == (255, 0)
    outside = Hints(around=((500, 500), (600, 500), (600, 600)))
    assert box_of(outside, 240, 160) == Rect(0, 0, 240, 160)
    assert found(known, evidence_of(known), hints=outside)[80, 60] == 255


def test_of_several_subjects_each_can_be_had_for_itself() -> None:
    known = disks(300, 160, [(80, 80, 50), (220, 80, 34)])
    evidence = evidence_of(known)

    assert subjects_in(evidence) == 2
    large = found(known, evidence, hints=Hints(subject=0))
    small = found(known, evidence, hints=Hints(subject=1))

    assert (large[80, 80], large[80, 220]) == (255, 0)
    assert (small[80, 80], small[80, 220]) == (0, 255)
    with pytest.raises(NoSubjectError):
        found(known, evidence, hints=Hints(subject=2))
    assert subjects_in(evidence_of(disks(160, 120, ONE))) == 0


@pytest.mark.parametrize("size", [(1, 1), (2, 1), (1, 40), (3, 3), (7, 2)])
@pytest.mark.parametrize("way", list(WAYS))
def test_the_smallest_pictures_have_mattes_too(
    size: tuple[int, int], way: CutWay
) -> None:
    pixels = flat_pixels(*size, (90, 120, 30, 255))
    known = Known(pixels, np.ones(size[::-1], np.float32), pixels[..., :3] / 255)
    hints = Hints(strokes=(stroke((0.5, 0.5), keeps=True),))

    matte = found(known, evidence_of(known), way=way, hints=hints)

    assert matte.shape == size[::-1]
    assert matte[0, 0] == 255


def test_a_picture_of_one_colour_has_no_subject_but_what_is_painted() -> None:
    pixels = flat_pixels(120, 90, (90, 120, 30, 255))
    known = Known(pixels, np.zeros((90, 120), np.float32), pixels[..., :3] / 255)
    with pytest.raises(NoSubjectError):
        found(known, evidence_of(known))
    everything = Hints(strokes=(stroke((0, 45), (120, 45), keeps=True, size=200),))

    assert found(known, evidence_of(known), hints=everything).min() == 255


def test_see_through_places_are_looked_at_before_grey() -> None:
    known = disks(160, 120, ONE)
    clear = known.pixels.copy()
    clear[..., 3] = 0
    seen = []

    def look(rgb: np.ndarray, _how: object) -> np.ndarray:
        seen.append(rgb)
        return np.ones((8, 8), np.float32)

    Evidence(clear, look).coarse(CutWay.ITSELF)

    assert (seen[0] == 128).all()


def test_where_strokes_of_both_kinds_cross_neither_counts() -> None:
    said = (
        stroke((10, 30), (50, 30), keeps=True, size=8),
        stroke((30, 10), (30, 50), keeps=False, size=8),
    )

    keep, drop = marks_of(Hints(strokes=said), Rect(0, 0, 60, 60), 1).at((60, 60))

    assert keep[30, 14]
    assert drop[14, 30]
    assert not keep[30, 30]
    assert not drop[30, 30]


def test_doubtful_places_come_largest_first_and_apart() -> None:
    matte = np.zeros((600, 900), np.uint8)
    matte[:, 450:] = 255
    matte[80:90, 100:110] = 128
    matte[300:360, 200:260] = 128
    matte[500:520, 700:720] = 128

    places = doubtful_places(matte)

    assert 200 < places[0].x < 260
    assert 300 < places[0].y < 360
    weights = [place.weight for place in places]
    assert weights == sorted(weights, reverse=True)
    for at, one in enumerate(places):
        for other in places[at + 1 :]:
            assert np.hypot(one.x - other.x, one.y - other.y) > one.reach
    assert any(np.hypot(p.x - 710, p.y - 510) < p.reach for p in places)
    assert doubtful_places(np.full((40, 40), 255, np.uint8)) == []
    assert len(doubtful_places(np.full((900, 900), 128, np.uint8), most=7)) == 7


@pytest.mark.parametrize("wide_is_better", [True, False])
def test_in_a_ring_the_opinion_that_fills_it_counts(wide_is_better: bool) -> None:
    known = disks(160, 120, ONE)
    half = known.alpha.copy()
    half[:, 80:] = 0
    close, wide = (half, known.alpha) if wide_is_better else (known.alpha, half)
    evidence = Evidence(known.pixels, lambda _rgb, _how: close, lambda: wide)

    matte = found(known, evidence, hints=Hints(around=RING_ROUND_ONE))

    assert error_of(matte, known) < 0.02


def half_green() -> tuple[Known, np.ndarray]:
    """Return a disk whose right half has other colours, and what its left half is."""
    known = disks(160, 120, ONE)
    pixels, left = known.pixels.copy(), known.alpha.copy()
    pixels[:, 80:, :2] = np.where(
        known.alpha[:, 80:, None] > 0.5, pixels[:, 80:, 1::-1], pixels[:, 80:, :2]
    )
    left[:, 80:] = 0
    return Known(pixels, known.alpha, known.own), left


def test_in_a_ring_two_looks_outvote_one() -> None:
    known, left = half_green()
    ring = Hints(around=RING_ROUND_ONE)

    def plain_sees_half(_rgb: np.ndarray, how: Look) -> np.ndarray:
        return left if how is Look.PLAIN else known.alpha

    seen_by_all = found(known, evidence_of(known, seen=left), hints=ring)
    outvoted = found(known, Evidence(known.pixels, plain_sees_half), hints=ring)

    assert seen_by_all[60, 95] < 5
    assert error_of(outvoted, known) < 0.02


def test_a_stroke_reaches_as_far_as_opinions_differ() -> None:
    known, left = half_green()
    graph = graph_of(known.pixels[..., :3])
    stroked = Hints(strokes=(stroke((88, 60), (94, 60), keeps=True),))
    marks = marks_of(stroked, Rect(0, 0, 160, 120), 1)
    right = (known.alpha == 1) & (np.arange(160) >= 100)

    doubt = agreed([left, known.alpha]).belief
    priors = (sole(left), Prior(left, doubt))
    believed, doubted = (
        corrected(graph, start_of(graph, prior, marks), marks) for prior in priors
    )

    assert (doubted[right] > 0.5).mean() > (believed[right] > 0.5).mean() + 0.05


def test_another_subject_beyond_the_ring_takes_nothing_from_the_one_in_it() -> None:
    many = [(x, y, 16) for x in (30, 120, 210) for y in (30, 80, 130)]
    known = disks(240, 160, many)
    ring = ((95.0, 5.0), (145.0, 5.0), (145.0, 105.0), (95.0, 105.0))

    matte = found(known, evidence_of(known), hints=Hints(around=ring))

    in_ring = np.zeros(matte.shape, np.bool_)
    in_ring[5:105, 95:145] = True
    found_there = matte[in_ring & (known.alpha == 1)]
    assert found_there.mean() > 220
    assert (found_there > 128).mean() > 0.99
    assert matte[~in_ring].max() == 0


def test_strokes_in_a_ring_ask_no_network_and_another_ring_begins_anew() -> None:
    known = disks(240, 160, [(60, 80, 34), (180, 80, 34)])
    left = ((15.0, 30.0), (110.0, 30.0), (110.0, 130.0), (15.0, 130.0))
    right = tuple((x + 120, y) for x, y in left)
    asked = []

    def look(_rgb: np.ndarray, how: object) -> np.ndarray:
        asked.append(how)
        return known.alpha

    evidence = Evidence(known.pixels, look, lambda: look(known.pixels, "wide"))
    first = found(known, evidence, hints=Hints(around=left))
    before = len(asked)
    dropped = (stroke((30, 40), (40, 40), keeps=False),)
    stroked = found(known, evidence, hints=Hints(around=left, strokes=dropped))

    assert len(asked) == before
    assert np.abs(stroked[60:100, 40:80].astype(int) - first[60:100, 40:80]).max() < 3
    second = found(known, evidence, hints=Hints(around=right))
    assert (second[80, 60], second[80, 180]) == (0, 255)


def wall(opinion: np.ndarray, *strokes: RoughStroke) -> tuple[np.ndarray, np.ndarray]:
    """Return what is left of a wall of one colour, before strokes and after."""
    rows, columns = opinion.shape
    pixels = flat_pixels(columns, rows, (90, 120, 30, 255))
    return stroked(pixels, opinion, *strokes)


def stroked(
    pixels: np.ndarray, opinion: np.ndarray, *strokes: RoughStroke
) -> tuple[np.ndarray, np.ndarray]:
    """Return what is found before strokes and after, with little belief in an opinion.

    For pictures that are no larger than the small copy on which strokes spread.
    """
    rows, columns = opinion.shape
    graph = graph_of(pixels[..., :3])
    prior = Prior(opinion.astype(np.float32), np.full(opinion.shape, 1e-4, np.float32))
    said = [
        marks_of(Hints(strokes=some), Rect(0, 0, columns, rows), 1)
        for some in ((), strokes)
    ]
    start = start_of(graph, prior, said[0])
    before, after = (corrected(graph, start, marks) for marks in said)
    return before, after


def test_far_from_a_stroke_what_is_clear_stays_as_it_was() -> None:
    dropped = stroke((4, 0), (4, 40), keeps=False, size=8)

    before, after = wall(np.full((40, 200), 0.7), dropped)

    assert (after[:, :8] == 0).all()
    assert (after[:, 12] < 0.1).all()
    assert (before[:, 80:] > 0.99).all()
    assert (after[:, 80:] > 0.99).all()


@pytest.mark.parametrize("keeps", [True, False])
def test_what_strokes_say_of_doubtful_places_counts_far_from_them_too(
    keeps: bool,
) -> None:
    doubtful = 0.42 if keeps else 0.58
    strokes = [stroke((x, 0), (x, 40), keeps=keeps, size=2) for x in (4, 12, 20)]

    before, after = wall(np.full((40, 200), doubtful), *strokes)

    assert ((before[:, 120:] > 0.5) != keeps).all()
    assert ((after[:, 120:] > 0.5) == keeps).all()


def test_strokes_find_a_faint_subject_as_they_find_a_clear_one() -> None:
    known = disks(220, 150, [(110, 75, 45)])
    faint = known.pixels.copy()
    faint[..., :3] = 200 + (known.pixels[..., :3].astype(np.int64) - 100) // 12
    keep = stroke((95, 75), (125, 75), keeps=True, size=4)
    around = ((10, 10), (210, 10), (210, 140), (10, 140), (10, 10))
    drop = stroke(*around, keeps=False, size=4)

    for pixels in (known.pixels, faint):
        _, after = stroked(pixels, np.full((150, 220), 0.5), keep, drop)
        assert np.abs(after - known.alpha).mean() < 0.015


def test_a_stroke_runs_along_a_line_that_is_hardly_there() -> None:
    pixels = flat_pixels(220, 120, (200, 200, 200, 255))
    grain = np.random.default_rng(4).normal(0, 6, (120, 220, 1))
    pixels[..., :3] = np.clip(pixels[..., :3] + grain, 0, 255)
    x = np.arange(10, 210)
    y = (60 + 20 * np.sin(x / 25)).astype(np.int64)
    pixels[y, x, :3] = 150
    keep = stroke((10, int(y[0])), (40, int(y[30])), keeps=True, size=1)
    drop = stroke((10, 10), (210, 10), keeps=False, size=4)

    _, after = stroked(pixels, np.full((120, 220), 0.5), keep, drop)

    assert after[y[60:], x[60:]].mean() > 0.75
    assert after[20:, 60:].mean() < 0.1


def test_strokes_that_contradict_one_another_move_no_threshold() -> None:
    strokes = [
        stroke((x, 0), (x, 40), keeps=keeps, size=2)
        for x, keeps in ((4, True), (12, False), (20, True), (28, False))
    ]

    before, after = wall(np.full((40, 200), 0.6), *strokes)

    np.testing.assert_allclose(after[:, 120:], before[:, 120:], atol=0.03)


def test_an_empty_close_look_gives_way_to_the_whole_picture() -> None:
    known = disks(160, 120, ONE)
    ring = RING_ROUND_ONE
    nothing = np.zeros_like(known.alpha)
    evidence = Evidence(known.pixels, lambda _r, _h: nothing, lambda: known.alpha)

    assert error_of(found(known, evidence, hints=Hints(around=ring)), known) < 0.02
