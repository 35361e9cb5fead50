"""What is measured of a plan's picture, what is said of photos, and matched tones."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import pytest

from glyphaneme.core.place import build_pyramid
from glyphaneme.core.plans import (
    Filling,
    FoundCut,
    Known,
    PhotoFacts,
    Side,
    Subject,
    filled,
    read_plan,
)
from glyphaneme.core.plans.completing import completed
from glyphaneme.core.plans.judging import Seen, advice_on, measured_of, notes_on
from glyphaneme.core.render import View, render
from glyphaneme.core.values import with_fields
from tests.pictures import flat_pixels, soft_pixels

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.document import Composite
    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.plans import Plan

SIDE = 200


def plan(*layers: dict[str, Any], **sheet: Any) -> Plan:
    return read_plan(
        {
            "glyphaneme_plan": 1,
            "name": "p",
            "title": "P",
            "sheet": {"width": SIDE, "height": SIDE, "background": "#ffffff", **sheet},
            "slots": [
                {"name": "behind", "title": "Behind"},
                {"name": "front", "title": "Front", "whole": True},
            ],
            "layers": [
                {"kind": "photo", "id": "behind", "slot": "behind"}
                | {"place": {"rule": "fill"}},
                *layers,
            ],
            "steps": [
                {
                    "name": "step",
                    "question": "Is it?",
                    "advice": "Look.",
                    "layers": ["front"],
                    "facet": "tone",
                    "link": "look",
                    "judged": {"measure": "contrast", "beyond": 0.1, "says": "Pale."},
                }
            ],
        }
    )


FRONT: dict[str, Any] = {
    "kind": "photo",
    "id": "front",
    "slot": "front",
    "place": {
        "rule": "fit",
        "area": {"left": 0.25, "top": 0.25, "width": 0.5, "height": 0.5},
    },
}


def facts(name: str, pixels: NDArray[np.uint8], **known: Any) -> PhotoFacts:
    high, wide = pixels.shape[:2]
    return PhotoFacts(picture=name, name=name, width=wide, height=high, **known)


def subject(**changes: Any) -> Subject:
    whole = {"left": 10, "top": 10, "right": 90, "bottom": 90, "x": 50, "y": 50}
    return Subject(**{**whole, "is_found": True, "certainty": 0.9, **changes})


class Sight:
    """A plan filled with two photos, and what renders it."""

    def __init__(
        self,
        made: Plan,
        behind: NDArray[np.uint8],
        front: NDArray[np.uint8],
        **known: Any,
    ) -> None:
        self.plan = made
        self.filling = Filling(photos={"behind": ("behind",), "front": ("front",)})
        self.photos = {
            "behind": facts("behind", behind),
            "front": facts("front", front, **known),
        }
        self.known = Known(self.photos)
        self._assets = {
            "behind": build_pyramid(behind),
            "front": build_pyramid(front),
        }

    def __call__(self, part: Composite, pile: tuple[Layer, ...]) -> NDArray[np.uint8]:
        view = View(0, 0, SIDE, SIDE, 1)
        return render(part, self._assets, view, pile=pile)

    @property
    def picture(self) -> Seen:
        made = filled(self.plan, self.filling, self.known).composite
        return Seen(made, self.photos, self)


GREY = flat_pixels(100, 100, (128, 128, 128, 255))
DARK = flat_pixels(200, 200, (60, 60, 60, 255))


def test_contrast_is_the_spread_of_luma_where_the_layer_shows_on_something() -> None:
    halves = np.concatenate([GREY[:50] * 0, GREY[:50] * 0 + 200])
    halves[..., 3] = 255

    spread = Sight(plan(FRONT), DARK, halves)
    even = Sight(plan(FRONT), DARK, GREY)

    assert measured_of("contrast", spread.picture, "front") == pytest.approx(
        100 / 255, abs=0.01
    )
    assert measured_of("contrast", even.picture, "front") == pytest.approx(0, abs=1e-3)
    step = spread.plan.steps[0]
    assert advice_on(step, spread.picture) is None
    assert advice_on(step, even.picture) == "Pale."


def test_the_bare_sheet_counts_nothing_for_contrast() -> None:
    half_white = flat_pixels(100, 100, (255, 255, 255, 255))
    half_white[:, :50, :3] = 40
    alone = plan(FRONT | {"place": {"rule": "fill"}})
    sight = Sight(alone, flat_pixels(2, 2, (0, 0, 0, 0)), half_white)

    # With the white half it would be 0.42; along the edge between them there is some.
    found = measured_of("contrast", sight.picture, "front")
    assert found is not None
    assert found < 0.1


def test_tone_gap_is_the_difference_of_lightness_to_what_lies_beneath() -> None:
    sight = Sight(plan(FRONT), DARK, GREY)

    # CIE L* of the two greys: 53.59 and 25.33.
    found = measured_of("tone_gap", sight.picture, "front")
    assert found == pytest.approx((53.59 - 25.33) / 100, abs=0.003)
    assert measured_of("tone_gap", sight.picture, "behind") is None


@pytest.mark.parametrize(
    ("known", "cut_off"),
    [
        ({"subject": subject()}, 0.0),
        ({"subject": subject(touches=(Side.LEFT,))}, 1.0),
        ({}, None),
    ],
)
def test_a_subject_is_cut_off_by_its_photo_or_by_the_sheet(
    known: dict[str, Any], cut_off: float | None
) -> None:
    sight = Sight(plan(FRONT), DARK, GREY, **known)
    assert measured_of("cut_off", sight.picture, "front") == (
        cut_off if cut_off is None else pytest.approx(cut_off, abs=1e-6)
    )


def test_a_subject_half_outside_the_sheet_is_half_cut_off() -> None:
    area = {"left": 0.75, "top": 0.25, "width": 0.5, "height": 0.5}
    made = plan(FRONT | {"place": {"rule": "fit", "area": area}})
    sight = Sight(made, DARK, GREY, subject=subject())

    assert measured_of("cut_off", sight.picture, "front") == pytest.approx(
        0.5, abs=0.01
    )


def test_only_an_outline_that_was_found_is_judged() -> None:
    sure = Sight(plan(FRONT), DARK, GREY, subject=subject(certainty=0.7))
    glance = Sight(plan(FRONT), DARK, GREY, subject=subject(is_found=False))

    assert measured_of("outline", sure.picture, "front") == pytest.approx(0.3)
    assert measured_of("outline", glance.picture, "front") is None


def said(sight: Sight, slot: str = "front") -> list[tuple[str, str]]:
    made = filled(sight.plan, sight.filling, sight.known).composite
    notes = notes_on(sight.plan, sight.plan.slot(slot), sight.photos[slot], made)
    return [(note.kind, note.says) for note in notes]


def test_what_is_good_is_said_before_what_is_poor() -> None:
    cut = FRONT | {"cut": {}}
    touching = subject(touches=(Side.LEFT, Side.TOP, Side.BOTTOM))
    found = FoundCut(matte="a" * 64)
    sight = Sight(plan(cut), DARK, GREY, subject=touching, cut=found)

    assert said(sight) == [
        ("good", "The outline is clear."),
        ("good", "Large enough: 100 × 100 px."),
        (
            "poor",
            "The subject touches three edges. Choose a photo that shows all of it.",
        ),
    ]


def test_an_unsure_outline_and_a_small_photo_are_said() -> None:
    cut = FRONT | {"cut": {}, "place": {"rule": "fill"}}
    unsure = subject(certainty=0.4)
    found = FoundCut(matte="a" * 64)
    sight = Sight(plan(cut), DARK, GREY, subject=unsure, cut=found)

    poor = [says for kind, says in said(sight) if kind == "poor"]
    assert poor[0].startswith("The outline is unsure")
    assert poor[1] == (
        "It is 100 px wide; sharp in print up to 1.3 cm. A larger one does better."
    )


def test_a_panorama_of_which_next_to_nothing_shows_is_said() -> None:
    sight = Sight(plan(FRONT), flat_pixels(2000, 200, (9, 9, 9, 255)), GREY)
    assert said(sight, "behind")[-1] == (
        "poor",
        "Only 10 % of it is in sight. One of other proportions shows more.",
    )


def test_tones_are_matched_once_the_cut_out_is_found() -> None:
    matched = FRONT | {"cut": {}, "matched": {"to": "behind", "strength": 1.0}}
    bright = soft_pixels(100, 100, seed=1)
    dark = (soft_pixels(200, 200, seed=2) // 3).astype(np.uint8)
    dark[..., 3] = 255
    waiting = Sight(plan(matched), dark, bright)
    made = completed(waiting.plan, waiting.filling, waiting.known, waiting).composite
    assert made.layer("front").tones == ()  # type: ignore[union-attr]

    there = Sight(plan(matched), dark, bright, is_cut=True)
    made = completed(there.plan, there.filling, there.known, there).composite
    (tone,) = made.layer("front").tones  # type: ignore[union-attr]
    assert (tone.kind, tone.to) == ("match", "behind")
    assert tone.light < -0.3
    half = plan(FRONT | {"cut": {}, "matched": {"to": "behind", "strength": 0.5}})
    there.plan = half
    made = completed(half, there.filling, there.known, there).composite
    (weak,) = made.layer("front").tones  # type: ignore[union-attr]
    assert weak.light == pytest.approx(tone.light / 2, abs=0.01)


def test_on_a_bare_sheet_there_is_nothing_to_match() -> None:
    matched = FRONT | {"cut": {}, "matched": {}}
    made = plan(matched)
    alone = with_fields(made, layers=made.layers[1:])
    sight = Sight(alone, DARK, soft_pixels(100, 100, seed=1), is_cut=True)

    found = completed(alone, sight.filling, sight.known, sight).composite

    assert found.layer("front").tones == ()  # type: ignore[union-attr]
