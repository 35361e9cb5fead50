"""Tones by hand: starts to try, levels by handles, curves by points or the picture."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from playwright.sync_api import expect

from tests.browser.hands import Point

if TYPE_CHECKING:
    from pathlib import Path

    from tests.browser.hands import Hands


@pytest.fixture
def dusk(hands: Hands, demo_photos: Path) -> Any:
    state = hands.begin(demo_photos / "forest-dusk.jpg")
    hands.open_desk(state)
    hands.open_layer("Forest dusk", "Tone")
    return state


def tones(hands: Hands, state: Any, layer: int = 0) -> Any:
    return hands.saved(state)["composite"]["layers"][layer]["tones"]


def add(hands: Hands, name: str) -> None:
    hands.pile.get_by_role("button", name=name, exact=True).click()
    hands.settle()


def test_a_start_is_tried_taken_and_exchanged_for_another(
    hands: Hands, dusk: Any
) -> None:
    strip = hands.page.get_by_role("region", name="Try tones on this picture")
    expect(strip.locator("canvas").first).to_have_attribute("data-filled", "true")
    plain = hands.shown()

    strip.get_by_role("option", name="Plain greys").hover()
    tried = hands.shown()
    assert tones(hands, dusk) == []
    assert np.abs(tried - tried.mean(-1, keepdims=True)).max() < 6
    strip.get_by_role("option", name="Plain greys").click()
    hands.settle()
    assert [one["kind"] for one in tones(hands, dusk)] == ["monochrome"]
    assert "in black and white" in hands.sentences()[0]

    strip.get_by_role("option", name="Warm").click()
    hands.settle()
    assert [one["kind"] for one in tones(hands, dusk)] == ["warmth"]
    strip.get_by_role("option", name="As it is").click()
    hands.settle()
    hands.page.mouse.move(640, 30)
    # A level in few pixels is some levels in the blocks of a JPEG, here and there.
    off = np.abs(hands.shown().astype(int) - plain)
    assert off.mean() < 0.05
    assert off.max() < 16


def test_a_slider_of_light_shows_at_once_and_saves_once(
    hands: Hands, dusk: Any
) -> None:
    add(hands, "light")
    before = hands.shown().mean()
    slider = hands.page.get_by_role("slider", name="Exposure")
    slider.focus()
    for _ in range(4):
        slider.press("ArrowRight")
    hands.settle()

    assert tones(hands, dusk)[0]["exposure"] == pytest.approx(0.2)
    hands.type_number("Exposure, exact", 1)
    assert tones(hands, dusk)[0]["exposure"] == 1
    assert hands.shown().mean() > before + 10
    assert "much lighter" in hands.sentences()[0]


def test_levels_are_set_by_their_handles_and_by_pointing(
    hands: Hands, dusk: Any
) -> None:
    add(hands, "levels")
    darkest = hands.page.get_by_role("slider", name="Darkest")
    darkest.focus()
    for _ in range(5):
        darkest.press("ArrowRight")
    hands.settle()
    assert tones(hands, dusk)[0]["all"]["darkest"] == pytest.approx(5 / 255)
    hands.type_number("Middle", 1.5)
    assert tones(hands, dusk)[0]["all"]["middle"] == pytest.approx(1.5)

    hands.page.get_by_role("button", name="Point at what is grey").click()
    point = hands.on_stage(dusk, 450, 200)
    hands.page.mouse.click(*point)
    hands.settle()
    levels = tones(hands, dusk)[0]
    assert {levels[one]["middle"] for one in ("red", "green", "blue")} != {1}
    color = np.array(hands.color_at(point)[:3], int)
    assert np.ptp(color) < 14

    hands.page.get_by_role("button", name="for each colour").click()
    hands.settle()
    assert tones(hands, dusk)[0]["red"]["darkest"] > 0


def test_pointing_ends_with_the_levels_that_asked_for_it(
    hands: Hands, dusk: Any
) -> None:
    add(hands, "levels")
    add(hands, "light")
    hands.pile.get_by_role("button", name="levels as they are", exact=True).click()
    hands.page.get_by_role("button", name="Point at what is white").click()
    status = hands.page.get_by_role("status").filter(has_text="Working on")
    expect(status).to_contain_text("Press on something that is white")
    hands.pile.get_by_role("button", name="light as it is", exact=True).click()

    expect(status).not_to_contain_text("Press on something")
    before = tones(hands, dusk)
    hands.page.mouse.click(*hands.on_stage(dusk, 450, 200))
    hands.settle()
    assert tones(hands, dusk) == before


def test_a_curve_has_points_that_are_dragged_moved_by_key_and_let_go(
    hands: Hands, dusk: Any
) -> None:
    add(hands, "a curve")
    box = hands.page.get_by_role("group", name="The curve").bounding_box()
    assert box is not None
    start = Point(box["x"] + 0.4 * box["width"], box["y"] + 0.6 * box["height"])
    hands.drag(start, Point(start.x, box["y"] + 0.3 * box["height"]))
    hands.settle()

    (_, (x, y), _) = tones(hands, dusk)[0]["all"]
    assert (x, y) == (pytest.approx(0.4, abs=0.02), pytest.approx(0.7, abs=0.02))
    peg = hands.page.get_by_role("button", name="Point from 10")
    peg.focus()
    peg.press("Shift+ArrowDown")
    hands.settle()
    assert tones(hands, dusk)[0]["all"][1][1] == pytest.approx(y - 10 / 255)
    hands.page.get_by_role("button", name="Point from 10").press("Delete")
    hands.settle()
    assert len(tones(hands, dusk)[0]["all"]) == 2


def test_the_curve_is_led_on_the_picture_itself(hands: Hands, dusk: Any) -> None:
    add(hands, "a curve")
    spot = hands.on_stage(dusk, 450, 120)
    x, y = spot
    before = sum(hands.color_at(spot)[:3])
    hands.page.keyboard.down("Alt")
    hands.page.mouse.move(x, y)
    hands.page.mouse.down()
    with hands.page.expect_response("**/tone-color"):
        hands.page.mouse.move(x, y - 20)
    hands.page.mouse.move(x, y - 60, steps=6)
    hands.page.mouse.up()
    hands.page.keyboard.up("Alt")
    hands.settle()

    ((x0, y0),) = tones(hands, dusk)[0]["all"][1:-1]
    assert y0 > x0 + 0.1
    assert sum(hands.color_at(spot)[:3]) > before + 45


def test_lines_are_switched_off_ordered_and_taken_away(hands: Hands, dusk: Any) -> None:
    add(hands, "black and white")
    add(hands, "a negative")
    hands.page.get_by_text("At work").click()
    hands.settle()
    assert [one["works"] for one in tones(hands, dusk)] == [True, False]

    handle = hands.page.get_by_role("button", name="Move as a negative")
    handle.focus()
    handle.press("Enter")
    hands.page.keyboard.press("ArrowUp")
    hands.page.keyboard.press("ArrowUp")
    hands.page.keyboard.press("Enter")
    hands.settle()
    assert [one["kind"] for one in tones(hands, dusk)] == ["invert", "monochrome"]
    hands.pile.get_by_role("button", name="as a negative", exact=True).click()
    hands.page.get_by_role("button", name="Take this tone away").click()
    hands.settle()
    assert [one["kind"] for one in tones(hands, dusk)] == ["monochrome"]


@pytest.mark.usefixtures("dusk")
def test_everything_is_toned_and_undone(hands: Hands) -> None:
    hands.page.keyboard.press("Escape")
    before = hands.sentences()
    hands.pile.get_by_role("button", name="tone everything").click()
    hands.settle()
    hands.page.keyboard.press("t")
    add(hands, "black and white")

    assert hands.sentences()[0].startswith("Tones, everything beneath, ")
    assert hands.sentences()[0].endswith("in black and white")
    grey = hands.shown()
    assert np.abs(grey - grey.mean(-1, keepdims=True)).max() < 6
    hands.page.keyboard.press("Escape")
    hands.page.keyboard.press("Control+z")
    hands.settle()
    hands.page.keyboard.press("Control+z")
    hands.settle()
    assert hands.sentences() == before


def test_a_layer_takes_the_tones_of_another(hands: Hands, demo_photos: Path) -> None:
    state = hands.begin(
        demo_photos / "forest-dusk.jpg", demo_photos / "moths-on-white.jpg"
    )
    state = hands.edit(
        state,
        kind="tone_layer",
        layer_id=state["composite"]["layers"][0]["id"],
        tones=[{"kind": "warmth", "warmth": 50}],
    )
    hands.open_desk(state)
    hands.open_layer("Moths on white", "Tone")
    hands.page.get_by_role("button", name="another layer Take the tones of").click()
    hands.page.get_by_role("option", name="Forest dusk").click()
    hands.settle()

    assert tones(hands, state, 1)[0]["warmth"] == 50
