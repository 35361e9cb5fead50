"""Mending: holes of known truth are filled better than by what libraries offer."""

from __future__ import annotations

from pathlib import Path

import cv2
import numpy as np
import pytest
from pydantic import ValidationError

from glyphaneme.core.document import ColorLayer, PhotoLayer
from glyphaneme.core.edits import (
    ExchangePhoto,
    MendPhoto,
    RemoveMend,
    SwitchMend,
    apply,
    describe_edit,
)
from glyphaneme.core.errors import (
    MendExistsError,
    MendMissingError,
    MendsLimitError,
    NoSuchWorkError,
)
from glyphaneme.core.mask import EllipsePart, Mask
from glyphaneme.core.mend import (
    MAX_MENDS,
    Mend,
    filled,
    lay_patch,
    patch_for,
    patch_names,
    smoothed_over,
)
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.render import View, assets_needed, mended_copy, render
from glyphaneme.core.wording import describe
from tests.pictures import composite_of, noise_pixels, photo_layer

DEMO = Path(__file__).parents[2] / "demo"
PHOTOS = ("stage-set", "workbench", "forest-dusk", "puppet-facing-left", "misty-hills")
GRAIN = 4.0


def grained(name: str) -> np.ndarray:
    """Return a demo photo, smaller, with as much grain as films have."""
    photo = cv2.imread(str(DEMO / f"{name}.jpg"))
    scale = 1400 / max(photo.shape[:2])
    small = cv2.resize(photo, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    random = np.random.default_rng(len(name))
    noise = random.normal(0, GRAIN, small.shape[:2])
    noise = cv2.GaussianBlur(noise, (0, 0), 0.6) / 0.47
    return np.clip(small + noise[..., None], 0, 255).round().astype(np.uint8)


def holes(shape: tuple[int, ...], random: np.random.Generator) -> list[np.ndarray]:
    """Return a speck, a scratch and a wire somewhere."""
    height, width = shape[:2]
    found = []
    for wide, long in ((14, 1), (5, 110), (18, 160)):
        hole = np.zeros((height, width), np.uint8)
        x, y = random.integers(170, width - 170), random.integers(170, height - 170)
        angle = random.uniform(0, np.pi)
        way = np.array([np.cos(angle), np.sin(angle)]) * long / 2
        ends = [
            tuple(np.round((x, y) + sign * way).astype(int).tolist())
            for sign in (-1, 1)
        ]
        cv2.line(hole, *ends, 1, wide)
        found.append(hole > 0)
    return found


def decibels(error: np.ndarray) -> float:
    return float(10 * np.log10(255**2 / max(np.mean(error**2), 0.05)))


def errors(
    fill: np.ndarray, truth: np.ndarray, hole: np.ndarray
) -> tuple[float, float]:
    """Return the PSNR inside of a hole, plain and with both blurred."""
    soft = [cv2.GaussianBlur(one.astype(float), (0, 0), 1.5) for one in (fill, truth)]
    plain = decibels((fill.astype(float) - truth)[hole])
    return plain, decibels((soft[0] - soft[1])[hole])


def variance(image: np.ndarray, where: np.ndarray) -> float:
    fine = image.astype(float) - cv2.GaussianBlur(image.astype(float), (0, 0), 1.2)
    return float(fine[where].var())


def test_holes_are_filled_better_than_by_telea_and_keep_their_grain() -> None:
    random = np.random.default_rng(11)
    gains, soft_gains, grains = [], [], []
    for name in PHOTOS:
        truth = grained(name)
        for hole in holes(truth.shape, random):
            rows, columns = np.nonzero(hole)
            part = np.s_[
                rows.min() - 150 : rows.max() + 150,
                columns.min() - 150 : columns.max() + 150,
            ]
            spoilt = truth.copy()
            spoilt[hole] = 255
            mask = hole[part]
            ours = np.round(filled(spoilt[part].astype(np.float32), mask))
            theirs = cv2.inpaint(
                spoilt[part], mask.astype(np.uint8), 5, cv2.INPAINT_TELEA
            )
            mine, other = (errors(one, truth[part], mask) for one in (ours, theirs))
            gains.append(mine[0] - other[0])
            soft_gains.append(mine[1] - other[1])
            grains.append(variance(ours, mask) / variance(truth[part], mask))
    assert np.mean(soft_gains) > 1
    assert np.mean(gains) > -0.5
    assert 0.6 < np.median(grains) < 1.5


def test_what_is_known_is_not_touched() -> None:
    image = noise_pixels(90, 80, seed=3)[..., :3].astype(np.float32)
    hole = np.zeros((80, 90), bool)
    hole[30:45, 40:60] = True
    assert (filled(image, hole)[~hole] == image[~hole]).all()


def test_a_pattern_is_continued() -> None:
    row, column = np.mgrid[0:140, 0:140]
    stripes = np.where((column + row) // 7 % 2, 200.0, 60.0)
    image = np.repeat(stripes[..., None], 3, axis=2).astype(np.float32)
    hole = np.zeros((140, 140), bool)
    hole[60:80, 55:85] = True
    spoilt = image.copy()
    spoilt[hole] = 0
    found = filled(spoilt, hole)
    assert np.abs(found - image)[hole].mean() < 12


def test_the_smooth_fill_solves_laplaces_equation() -> None:
    row, column = np.mgrid[0:60, 0:70].astype(np.float32)
    saddle = (column - 30) ** 2 - (row - 25) ** 2 + 3 * column
    image = np.repeat(saddle[..., None], 3, axis=2)
    hole = np.hypot(row - 30, column - 33) < 14
    spoilt = image.copy()
    spoilt[hole] = -1e4
    # x² - y² is harmonic, on a grid too: it is found again.
    assert np.abs(smoothed_over(spoilt, hole) - image).max() < 0.05


@pytest.mark.parametrize("hole", [(0, 40, 0, 40), (0, 6, 30, 60), (74, 80, 84, 90)])
def test_holes_at_the_edge_and_in_corners_are_filled(hole: tuple[int, ...]) -> None:
    image = np.full((80, 90, 3), 120, np.float32)
    mask = np.zeros((80, 90), bool)
    mask[hole[0] : hole[1], hole[2] : hole[3]] = True
    image[mask] = 0
    assert np.abs(filled(image, mask) - 120).max() < 1


def test_a_picture_that_is_a_hole_all_over_stays_as_it_is() -> None:
    image = np.full((20, 20, 3), 80, np.float32)
    assert (filled(image, np.ones((20, 20), bool)) == image).all()


def speck(x: float, y: float, size: float = 8, name: str = "m") -> Mend:
    return Mend(id=name, points=((x, y),), size=size)


def spoilt_photo() -> np.ndarray:
    """Return a grey photo with a white speck and a white scratch."""
    pixels = np.full((200, 260, 4), 255, np.uint8)
    pixels[..., :3] = 110
    cv2.circle(pixels, (60, 50), 3, (255, 255, 255, 255), -1)
    cv2.line(pixels, (100, 60), (220, 170), (255, 255, 255, 255), 3)
    return pixels


SPECK = speck(60.5, 50.5, 12, "speck")
SCRATCH = Mend(id="scratch", points=((96, 56), (224, 174)), size=9)


def test_what_was_brushed_over_is_gone_at_every_size() -> None:
    pyramid = build_pyramid(spoilt_photo())
    levels = tuple(map(np.array, pyramid.levels))
    for mend in (SPECK, SCRATCH):
        lay_patch(levels, patch_for(levels[0], mend))
    assert np.abs(levels[0][..., :3].astype(int) - 110).max() <= 1
    for level, wanted in zip(levels, build_pyramid(levels[0]).levels, strict=True):
        assert (level == wanted).all()


def test_alpha_stays_as_it_is() -> None:
    pixels = noise_pixels(200, 200, seed=1)
    levels = (pixels.copy(),)
    lay_patch(levels, patch_for(pixels, speck(100, 100, 30)))
    assert (levels[0][..., 3] == pixels[..., 3]).all()
    assert (levels[0][..., :3] != pixels[..., :3]).any()


def test_nothing_is_filled_where_a_picture_is_clear_nor_from_there() -> None:
    pixels = np.full((200, 200, 4), 255, np.uint8)
    pixels[..., :3] = 110
    pixels[:, 100:] = (255, 0, 0, 0)
    for roughly in (False, True):
        patch = patch_for(pixels, speck(98, 100, 30), roughly=roughly)
        assert patch.columns.max() == 99
        assert np.abs(patch.colors[:, :3].astype(int) - 110).max() <= 1


def test_a_long_wire_goes_through_many_squares_and_is_filled_once() -> None:
    pixels = np.full((900, 1100, 4), 255, np.uint8)
    pixels[..., :3] = 90
    wire = Mend(id="w", points=((40, 40), (560, 500), (1060, 860)), size=6)
    patch = patch_for(pixels, wire)
    places = patch.rows.astype(np.int64) * 1100 + patch.columns
    assert len(places) == len(np.unique(places))
    assert len(places) == pytest.approx(wire.length * 6, rel=0.15)
    assert np.abs(patch.colors[:, :3].astype(int) - 90).max() <= 1
    assert (patch.colors[:, 3] == 255).all()


def test_a_mend_covers_a_disk_of_its_size() -> None:
    one = speck(50, 50, 20)
    covered = one.hole(one.area(100, 100, 4)).sum()
    assert covered == pytest.approx(np.pi * 100, rel=0.06)


def test_what_lies_beside_the_photo_fills_nothing() -> None:
    pixels = spoilt_photo()
    for x, y in ((-400, 20), (5000, 50), (60_000, 60_000)):
        assert len(patch_for(pixels, speck(x, y)).rows) == 0


def test_a_place_is_named_by_what_it_may_see() -> None:
    near, far = speck(70, 60, name="b"), speck(900, 900, name="c")
    alone = patch_names("p", [near, far], 1000, 1000)
    after = patch_names("p", [speck(60, 50, name="a"), near, far], 1000, 1000)
    assert after[1] != alone[0]
    assert after[2] == alone[1]
    assert patch_names("q", [near], 1000, 1000) != patch_names("p", [near], 1000, 1000)
    moved = near.model_copy(update={"id": "x", "works": False})
    assert patch_names("p", [moved], 1000, 1000) == alone[:1]


def mended_layer(*mends: Mend, **changes: object) -> PhotoLayer:
    return photo_layer("old", spoilt_photo(), mends=mends, **changes)


def shown(layer: object) -> np.ndarray:
    whole = composite_of(layer, width=260, height=200, background="#000000")
    pyramid = build_pyramid(spoilt_photo())
    mended = assets_needed(whole).mended
    assets = {one.name: mended_copy(one, pyramid) for one in mended}
    return render(whole, {"old": pyramid, **assets}, View(0, 0, 260, 200, 1))


def test_a_layer_shows_its_photo_mended_unless_that_is_off() -> None:
    assert (
        np.abs(shown(mended_layer(SPECK, SCRATCH))[..., :3].astype(int) - 110).max()
        <= 1
    )
    off = SPECK.model_copy(update={"works": False})
    found = shown(mended_layer(off, SCRATCH))
    assert found[50, 60, 0] == 255
    assert found[110, 155, 0] == 110
    assert (shown(mended_layer(off)) == shown(mended_layer())).all()


def test_edges_are_cleaned_of_what_is_mended() -> None:
    part = EllipsePart(id="e", x=130, y=100, width=200, height=150, softness=4)
    cleaned = Mask(parts=(part,), cleaned=1.0)
    whole = composite_of(mended_layer(SPECK, mask=cleaned), width=260, height=200)
    needed = assets_needed(whole)
    (own,), (mended,) = needed.own_colors, needed.mended
    assert own.picture == mended.name


def test_places_are_added_switched_off_and_taken_back() -> None:
    composite = composite_of(mended_layer(), width=260, height=200)
    for mend in (SPECK, SCRATCH):
        edit = MendPhoto(layer_id="old", mend=mend)
        composite = apply(composite, edit)
    assert describe_edit(composite, edit) == "Old mended: a scratch, 9 px"
    (said,) = describe(composite)
    assert "mended in 2 places" in said.text
    assert said.mends == ("a speck, 12 px", "a scratch, 9 px")
    off = apply(composite, SwitchMend(layer_id="old", mend_id="speck", works=False))
    assert "mended in one place" in describe(off)[0].text
    gone = apply(off, RemoveMend(layer_id="old", mend_id="scratch"))
    assert "mended" not in describe(gone)[0].text
    assert [one.id for one in gone.layer("old").mends] == ["speck"]


def test_another_photo_is_not_mended_where_the_one_before_was() -> None:
    composite = composite_of(mended_layer(SPECK), width=260, height=200)
    edit = ExchangePhoto(layer_id="old", picture="new", name="New", width=50, height=50)
    assert apply(composite, edit).layer("old").mends == ()


def test_what_cannot_be_mended_is_refused() -> None:
    wash = ColorLayer(id="w", name="Wash", color="#ffffff")
    composite = composite_of(mended_layer(SPECK), wash, width=260, height=200)
    with pytest.raises(NoSuchWorkError, match="no photo to be mended"):
        apply(composite, MendPhoto(layer_id="w", mend=SCRATCH))
    with pytest.raises(MendExistsError):
        apply(composite, MendPhoto(layer_id="old", mend=SPECK))
    with pytest.raises(MendMissingError):
        apply(composite, RemoveMend(layer_id="old", mend_id="gone"))
    full = tuple(speck(5, 5, name=f"m{at}") for at in range(MAX_MENDS))
    composite = composite_of(mended_layer(*full), width=260, height=200)
    with pytest.raises(MendsLimitError):
        apply(composite, MendPhoto(layer_id="old", mend=SPECK))


@pytest.mark.parametrize(
    "changes",
    [
        {"points": ()},
        {"points": ((0, 0),) * 401},
        {"points": ((float("nan"), 0),)},
        {"points": ((60_001, 0),)},
        {"size": 0.5},
        {"size": 101},
        {"size": float("inf")},
        {"points": ((0, 0), (1900, 0)), "size": 7},
        {"points": ((0, 0), (3000, 0)), "size": 1},
        {"id": "no id"},
    ],
)
def test_what_is_no_place_to_mend_is_refused(changes: dict) -> None:
    with pytest.raises(ValidationError):
        Mend(**{"id": "m", "points": ((5, 5),), "size": 8, **changes})
