"""Matching: what is offered and pointed at undoes known changes of tones."""

from __future__ import annotations

import itertools
from pathlib import Path

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from glyphaneme.core.document import ColorLayer, Composite
from glyphaneme.core.edits import PartMatch, ToneLayer, apply, describe_edit
from glyphaneme.core.errors import NoSuchWorkError, NothingToMatchError
from glyphaneme.core.match import MOST_PAIRS, by_pairs, offers, sides_of
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.render import View, render
from glyphaneme.core.tone import (
    MAX_TONES,
    ColoringTone,
    CurvesTone,
    InvertTone,
    LightTone,
    MatchTone,
    Tone,
)
from glyphaneme.core.wording import describe
from tests import published_tones as published
from tests.pictures import composite_of, photo_layer
from tests.trying import times

LIBRARY = Path(__file__).parents[2] / "library"
FIELDS = ("light", "warmth", "tint", "contrast", "color")


def published_match(rgb: np.ndarray, tone: MatchTone) -> np.ndarray:
    """Return encoded colours after chroma, contrast and light, each from its source."""
    lab = published.oklab(published.decoded(rgb)) * (1, 2**tone.color, 2**tone.color)
    plain = published.encoded(published.kept_in_gamut(lab))
    spread = np.clip(0.5 + (plain - 0.5) * 2**tone.contrast, 0, 1)
    red = tone.light + tone.warmth - tone.tint / 3
    green = tone.light + 2 * tone.tint / 3
    blue = tone.light - tone.warmth - tone.tint / 3
    gains = 2.0 ** np.array([red, green, blue])
    return published.encoded(np.clip(published.decoded(spread) * gains, 0, 1))


def colors(seed: int = 4, side: int = 96) -> np.ndarray:
    rgba = np.random.default_rng(seed).integers(0, 256, (side, side, 4), np.uint8)
    rgba[..., 3] = 255
    return rgba


COLORS = colors()


def toned(*tones: Tone, pixels: np.ndarray = COLORS) -> np.ndarray:
    height, width = pixels.shape[:2]
    whole = composite_of(
        photo_layer("colors", pixels, tones=tones), width=width, height=height
    )
    pictures = {"colors": build_pyramid(pixels)}
    return render(whole, pictures, View(0, 0, width, height, 1))[..., :3]


MATCHES = [
    MatchTone(light=-1.2),
    MatchTone(light=0.4, warmth=0.3, tint=-0.1),
    MatchTone(contrast=-0.6),
    MatchTone(contrast=0.5, color=-0.7),
    MatchTone(light=0.5, warmth=-0.4, tint=0.2, contrast=-0.3, color=-0.4),
]


@pytest.mark.parametrize("tone", MATCHES, ids=range(len(MATCHES)))
def test_a_match_gives_what_its_formula_says(tone: MatchTone) -> None:
    wanted = published_match(COLORS[..., :3] / 255, tone) * 255
    assert np.abs(toned(tone) - wanted).max() < 0.7


def test_a_neutral_match_changes_no_bit() -> None:
    assert (toned(MatchTone(to="Stage")) == COLORS[..., :3]).all()
    assert MatchTone(to="Stage").is_neutral


@pytest.mark.parametrize("tone", MATCHES[:3], ids=range(3))
def test_a_match_that_is_taken_apart_looks_the_same(tone: MatchTone) -> None:
    difference = toned(*tone.parts()).astype(int) - toned(tone)
    assert np.abs(difference).mean() < 1
    assert np.percentile(np.abs(difference), 99) <= 5


@given(
    st.builds(
        MatchTone,
        light=st.floats(-3, 3),
        warmth=st.floats(-1, 1),
        tint=st.floats(-1, 1),
        contrast=st.floats(-1.5, 1.5),
        color=st.floats(-1.5, 1.5),
    )
)
@times(50)
def test_any_match_can_be_taken_apart(tone: MatchTone) -> None:
    coloring, curves = tone.parts()
    assert -1 <= coloring.saturation <= 1
    for points in (curves.red, curves.green, curves.blue):
        assert all(a[1] <= b[1] for a, b in itertools.pairwise(points))


def changed(image: np.ndarray, change: dict[str, float]) -> np.ndarray:
    """Return a picture as another light and camera would have taken it."""
    light, warmth, contrast = (
        change.get(name, 0.0) for name in ("light", "warmth", "contrast")
    )
    gains = 2.0 ** np.array([light + warmth, light, light - warmth])
    lit = published.encoded(np.clip(published.decoded(image / 255) * gains, 0, 1))
    return np.clip(0.5 + (lit - 0.5) * 2**contrast, 0, 1) * 255


def scene(name: str) -> np.ndarray:
    bgr = cv2.imread(str(LIBRARY / name))
    small = cv2.resize(bgr, (320, 240), interpolation=cv2.INTER_AREA)
    return np.ascontiguousarray(cv2.cvtColor(small, cv2.COLOR_BGR2RGBA))


def disk(pixels: np.ndarray, change: dict[str, float]) -> tuple[np.ndarray, np.ndarray]:
    """Cut a disk out of a picture and change it; return it, and the picture."""
    subject = pixels.copy()
    subject[..., :3] = changed(pixels[..., :3], change).round()
    row, column = np.mgrid[: pixels.shape[0], : pixels.shape[1]]
    subject[..., 3] = np.where(np.hypot(row - 120, column - 160) < 70, 255, 0)
    return subject, pixels


def distance(one: np.ndarray, other: np.ndarray) -> float:
    """Return the mean distance of encoded colours in CIE L*a*b*."""
    lab = [
        cv2.cvtColor(np.float32(each[None]), cv2.COLOR_RGB2Lab) for each in (one, other)
    ]
    return float(np.linalg.norm(lab[0] - lab[1], axis=-1).mean())


CHANGES = [
    {"light": -1.0},
    {"light": 0.7},
    {"warmth": 0.4},
    {"light": -0.8, "warmth": -0.3},
]
SCENES = ["brick-wall.jpg", "bark.jpg", "dawn.jpg"]


@pytest.mark.parametrize("change", CHANGES, ids=str)
@pytest.mark.parametrize("name", SCENES)
def test_one_of_the_ways_brings_a_changed_piece_back(name: str, change: dict) -> None:
    subject, behind = disk(scene(name), change)
    inside = subject[..., 3] > 0
    true = behind[inside][:, :3] / 255
    before = distance(subject[inside][:, :3] / 255, true)
    left = [
        distance(published_match(subject[inside][:, :3] / 255, one.tone), true)
        for one in offers(sides_of(subject, behind), "Scene")
    ]
    assert min(left) < 0.5 * before
    assert left[0] < before


def test_ways_are_offered_at_half_and_at_full_strength() -> None:
    found = offers(sides_of(*disk(scene("bark.jpg"), {"light": -1.0})), "Bark")
    half, full = ([one for one in found if one.strength == at] for at in (0.5, 1.0))
    assert [one.title for one in half] == [one.title for one in full]
    assert len({one.title for one in full}) == len(full) > 5
    for one, other in zip(half, full, strict=True):
        assert one.tone.light == pytest.approx(other.tone.light / 2, abs=0.002) or (
            abs(other.tone.light) == 1.5
        )
    only = {one.title: one.tone for one in full}
    assert only["Light only"].warmth == only["Light only"].contrast == 0
    assert only["Cast only"].light == only["Cast only"].color == 0
    assert {one.tone.to for one in found} == {"Bark"}


def spots(pixels: np.ndarray, count: int) -> np.ndarray:
    light = pixels[..., :3].mean(axis=2).ravel()
    order = np.argsort(light)
    at = order[
        np.linspace(0.1, 0.9, count, endpoint=True).__mul__(len(order) - 1).astype(int)
    ]
    return pixels.reshape(-1, 4)[at, :3] / 255


@pytest.mark.parametrize(
    "change", [*CHANGES, {"light": 0.4, "contrast": -0.5}], ids=str
)
def test_three_pairs_bring_a_changed_piece_back(change: dict) -> None:
    true = spots(scene("bark.jpg"), 3)
    these = changed(true * 255, change) / 255
    tone = by_pairs(these, true, "Bark")
    whole = scene("bark.jpg")[..., :3].reshape(-1, 3) / 255
    seen = changed(whole * 255, change) / 255
    before, after = distance(seen, whole), distance(published_match(seen, tone), whole)
    assert after < 0.3 * before


def test_one_pair_changes_neither_contrast_nor_colour() -> None:
    tone = by_pairs(np.array([[0.3, 0.3, 0.3]]), np.array([[0.6, 0.55, 0.5]]), "Wall")
    assert tone.light > 0.5
    assert tone.warmth > 0
    assert tone.contrast == tone.color == 0


def test_one_pair_that_is_far_apart_comes_as_near_as_a_match_can() -> None:
    these = np.array([[190, 130, 60]]) / 255
    those = np.array([[70, 95, 125]]) / 255
    tone = by_pairs(these, those, "Slate")
    was, there, now = (
        published.oklab(published.decoded(one))[0, 0]
        for one in (these, those, published_match(these, tone))
    )
    # Its cast is at its limit; that does not keep its light from getting there.
    assert tone.warmth == -1
    assert abs(now - there) < 0.3 * abs(was - there)


def test_what_pairs_hardly_say_is_hardly_changed() -> None:
    light = np.array([[0.2], [0.5], [0.8]])
    these = np.repeat(light, 3, axis=1) + np.array([0.004, 0, -0.004])
    those = np.repeat(light, 3, axis=1) + np.array([0.012, 0, -0.012])
    # Three times the chroma, but of greys: far below what is seen.
    assert abs(by_pairs(these, those, "Greys").color) < 0.3


def test_what_the_subject_covers_does_not_count_as_its_backdrop() -> None:
    subject, behind = disk(scene("bark.jpg"), {})
    behind = behind.copy()
    behind[subject[..., 3] > 0, :3] = 255
    behind[subject[..., 3] == 0, :3] = 90
    sides = sides_of(subject, behind)
    assert {*sides.behind.colors.ravel().tolist()} == {90 / 255}


def test_pairs_that_contradict_one_another_give_something_within_limits() -> None:
    these = np.array(
        [[0, 0, 0], [1, 1, 1], [0.5, 0.5, 0.5], [1, 0, 0], [0, 0, 1]], float
    )
    tone = by_pairs(these, these[::-1], "Nothing")
    assert len(these) == MOST_PAIRS
    assert all(abs(getattr(tone, field)) <= 1.5 for field in FIELDS)


def test_too_little_to_compare_is_said() -> None:
    pixels = scene("bark.jpg")
    clear = np.zeros_like(pixels)
    with pytest.raises(NothingToMatchError):
        sides_of(clear, pixels)
    with pytest.raises(NothingToMatchError):
        sides_of(pixels, clear)


def test_a_layer_that_covers_everything_is_compared_with_what_it_covers() -> None:
    pixels = scene("bark.jpg")
    darker = pixels.copy()
    darker[..., :3] //= 2
    light = {one.title: one.tone for one in offers(sides_of(darker, pixels), "Bark")}
    assert light["By the whole"].light > 0.5


def test_even_colours_on_both_sides_give_something() -> None:
    red, blue = np.full((40, 40, 4), 255, np.uint8), np.full((40, 40, 4), 255, np.uint8)
    red[..., :3], blue[..., :3] = (200, 20, 20), (20, 20, 200)
    red[:, 20:, 3] = 0
    for one in offers(sides_of(red, blue), "Blue"):
        assert all(np.isfinite(getattr(one.tone, field)) for field in FIELDS)


def layer_with(*tones: Tone) -> Composite:
    wash = ColorLayer(id="wash", name="Wash", color="#ffffff")
    return composite_of(
        photo_layer("colors", COLORS, tones=tones), wash, width=96, height=96
    )


def test_a_match_is_said_before_other_tones() -> None:
    tones = (
        InvertTone(),
        LightTone(brightness=0.4, contrast=0.3),
        MatchTone(to="Stage", light=1),
    )
    said = describe(layer_with(*tones))[0].text
    assert "matched to Stage" in said


def test_a_match_becomes_a_change_of_colour_and_curves_in_its_place() -> None:
    match = MatchTone(light=0.5, color=-0.2, works=False)
    composite = layer_with(InvertTone(), match, LightTone(brightness=0.2))
    edit = PartMatch(layer_id="colors", place=1)
    tones = apply(composite, edit).layer("colors").tones
    assert [type(one) for one in tones] == [
        InvertTone,
        ColoringTone,
        CurvesTone,
        LightTone,
    ]
    assert [one.works for one in tones] == [True, False, False, True]
    assert describe_edit(composite, edit) == "Colors its match taken apart"


def test_what_is_no_match_cannot_be_taken_apart() -> None:
    full = layer_with(*(MatchTone(light=0.1),) * MAX_TONES)
    for composite, layer_id, place in (
        (layer_with(InvertTone()), "colors", 0),
        (layer_with(MatchTone()), "colors", 1),
        (layer_with(MatchTone()), "wash", 0),
        (full, "colors", 0),
    ):
        with pytest.raises(NoSuchWorkError):
            apply(composite, PartMatch(layer_id=layer_id, place=place))


@pytest.mark.parametrize(
    "changes",
    [
        {"light": 3.01},
        {"warmth": float("nan")},
        {"contrast": float("inf")},
        {"color": -1.6},
        {"to": ""},
        {"to": "a" * 121},
        {"to": "a\x00b"},
    ],
)
def test_what_is_no_match_is_refused(changes: dict) -> None:
    with pytest.raises(ValidationError):
        ToneLayer.model_validate(
            {"layer_id": "colors", "tones": [{"kind": "match", **changes}]}
        )
