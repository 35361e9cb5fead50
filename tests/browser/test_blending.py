"""Choosing strength and mode by eye."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pytest
from playwright.sync_api import expect

if TYPE_CHECKING:
    from pathlib import Path

    from tests.browser.hands import Hands


@pytest.fixture
def blend(hands: Hands, demo_photos: Path) -> Any:
    state = hands.begin(
        demo_photos / "forest-dusk.jpg", demo_photos / "moths-on-white.jpg"
    )
    hands.open_desk(state)
    hands.open_layer("Moths on white", "Blend")
    return state


def top(hands: Hands, state: Any) -> Any:
    return hands.saved(state)["composite"]["layers"][1]


@pytest.mark.usefixtures("blend")
def test_strip_shows_sixteen_different_renders_of_this_picture(hands: Hands) -> None:
    strip = hands.page.get_by_role("region", name="Try each blend mode")
    tiles = strip.locator("canvas")
    expect(tiles).to_have_count(16)
    expect(tiles.first).to_have_attribute("data-filled", "true")

    pictures = tiles.evaluate_all("tiles => tiles.map((tile) => tile.toDataURL())")

    # Normal and a few others may agree on single pictures; most must not.
    assert len(set(pictures)) >= 14


def test_hover_shows_an_alternative_large_without_taking_it(
    hands: Hands, blend: Any
) -> None:
    corner = hands.on_stage(blend, 150, 60)
    plain = hands.color_at(corner)

    hands.page.get_by_role("option", name="Multiply", exact=True).hover()
    tried = hands.color_at(corner)
    hands.page.mouse.move(640, 30)
    # Only then does the stage know that it has something to show again.
    hands.page.evaluate("() => new Promise(requestAnimationFrame)")

    assert sum(tried) < sum(plain) - 60
    assert hands.color_at(corner) == plain
    assert top(hands, blend)["blend"] == "normal"


def test_strengths_come_as_a_ladder_and_as_a_number(hands: Hands, blend: Any) -> None:
    hands.page.get_by_role("radio", name="40").click()
    hands.settle()
    assert top(hands, blend)["opacity"] == 0.4

    hands.type_number("Strength, exact", 37)

    assert top(hands, blend)["opacity"] == pytest.approx(0.37)
    assert "at 37 %" in hands.sentences()[0]


def test_slider_previews_and_saves_once(hands: Hands, blend: Any) -> None:
    slider = hands.page.get_by_role("slider", name="Strength")
    ticks_before = len(
        hands.product.get(f"/api/projects/{blend['id']}/history")["ticks"]
    )

    slider.focus()
    slider.press("ArrowLeft")
    hands.settle()

    ticks = hands.product.get(f"/api/projects/{blend['id']}/history")["ticks"]
    assert len(ticks) == ticks_before + 1
    assert top(hands, blend)["opacity"] == pytest.approx(0.99)


def test_mode_is_named_in_the_facet_too(hands: Hands, blend: Any) -> None:
    hands.page.get_by_role("button", name="Blend mode").click()
    names = hands.page.get_by_role("dialog", name="Blend mode")
    names.get_by_role("option", name="Luminosity").click()
    hands.settle()

    assert top(hands, blend)["blend"] == "luminosity"


def test_tiles_show_where_ways_differ_and_are_as_high_as_dragged(
    hands: Hands, demo_photos: Path
) -> None:
    state = hands.begin(demo_photos / "moths-on-white.jpg")
    (layer,) = state["composite"]["layers"]
    small = {**layer["placement"], "scale_x": 0.05, "scale_y": 0.05, "x": 700, "y": 150}
    hands.edit(state, kind="place_layer", layer_id=layer["id"], placement=small)
    hands.open_desk(state)
    hands.open_layer("Moths on white", "Blend")
    strip = hands.page.get_by_role("region", name="Try each blend mode")
    expect(strip).to_be_visible()
    empty = strip.bounding_box()
    same = strip.get_by_role("option", name="changes nothing Multiply")
    expect(same).to_be_visible()
    # The stage keeps its size when tiles fill.
    assert strip.bounding_box() == empty
    assert strip.get_by_text("changes nothing").count() < 15

    mark = hands.page.get_by_test_id("tiles-mark")
    expect(mark).to_have_count(0)
    strip.get_by_role("option", name="Screen", exact=True).hover()
    box = mark.bounding_box()
    assert box is not None
    there = hands.on_stage(state, 700, 150)
    assert box["x"] < there.x < box["x"] + box["width"]
    assert box["y"] < there.y < box["y"] + box["height"]
    stage = hands.surface.bounding_box()
    assert stage is not None
    assert box["width"] < stage["width"] / 2

    picture = strip.locator("canvas").first
    before = picture.bounding_box()
    edge = hands.page.get_by_role("separator", name="Height of what can be tried")
    edge.focus()
    hands.page.keyboard.press("ArrowUp")
    hands.page.keyboard.press("ArrowUp")
    expect(edge).to_have_attribute("aria-valuenow", "124")
    wait = "(canvas, wide) => canvas.getBoundingClientRect().width > wide"
    assert before is not None
    hands.page.wait_for_function(
        f"([canvas, wide]) => ({wait})(canvas, wide)",
        arg=[picture.element_handle(), before["width"] + 10],
    )
