"""Reaching the layer that is meant, where several lie over one another."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pytest
from playwright.sync_api import expect

if TYPE_CHECKING:
    from collections.abc import Callable

    from playwright.sync_api import Locator

    from tests.browser.hands import Hands, Point


@pytest.fixture
def poster(hands: Hands, photo: Callable) -> Any:
    """Return a picture of a puppet with a grain over it that covers everything."""
    state = hands.begin(photo("puppet-facing-left"), photo("paper-texture"))
    puppet, grain = state["composite"]["layers"]
    place = {"x": 450, "y": 300, "scale_x": 1.5, "scale_y": 1.5}
    for edit in (
        {"kind": "place_layer", "layer_id": grain["id"], "placement": place},
        {"kind": "blend_layer", "layer_id": grain["id"], "mode": "multiply"},
    ):
        state = hands.edit(state, **edit, **({"opacity": 1} if "mode" in edit else {}))
    hands.open_desk(state)
    return {**state, "puppet": puppet["name"], "grain": grain["name"]}


def working_on(hands: Hands) -> Locator:
    return hands.page.get_by_role("status").filter(has_text="Working on")


def fan(hands: Hands) -> Locator:
    return hands.page.get_by_role("listbox", name="Layers under this point")


def hold(hands: Hands, at: Point) -> None:
    hands.page.mouse.move(*at)
    hands.page.mouse.down()
    expect(fan(hands)).to_be_visible()


def middle(hands: Hands, state: Any) -> Point:
    return hands.on_stage(state, 450, 300)


def test_click_passes_over_a_veil_and_with_alt_takes_it(
    hands: Hands, poster: Any
) -> None:
    hands.page.mouse.click(*middle(hands, poster))
    expect(working_on(hands)).to_contain_text(poster["puppet"])

    hands.page.keyboard.press("Escape")
    hands.page.keyboard.down("Alt")
    hands.page.mouse.click(*middle(hands, poster))
    hands.page.keyboard.up("Alt")

    expect(working_on(hands)).to_contain_text(poster["grain"])


def test_press_and_hold_fans_out_all_layers_and_letting_go_takes_one(
    hands: Hands, poster: Any
) -> None:
    hold(hands, middle(hands, poster))

    leaves = fan(hands).get_by_role("option")
    expect(leaves).to_have_count(2)
    assert [text.split("\n")[0] for text in leaves.all_inner_texts()] == [
        poster["grain"],
        poster["puppet"],
    ]
    for leaf in leaves.all():
        assert leaf.locator("img").evaluate("(image) => image.naturalWidth") > 20
    box = leaves.first.bounding_box()
    assert box is not None
    hands.page.mouse.move(box["x"] + 40, box["y"] + 20)
    hands.page.mouse.up()

    expect(fan(hands)).to_have_count(0)
    expect(working_on(hands)).to_contain_text(poster["grain"])


def test_fan_is_worked_by_keys_alone(hands: Hands, poster: Any) -> None:
    stage = hands.page.get_by_role("application")
    stage.focus()
    stage.dispatch_event("contextmenu")
    expect(fan(hands)).to_be_visible()
    hands.page.keyboard.press("2")
    expect(working_on(hands)).to_contain_text(poster["puppet"])

    stage.focus()
    stage.dispatch_event("contextmenu")
    expect(fan(hands).get_by_role("option").first).to_be_focused()
    hands.page.keyboard.press("Enter")
    expect(working_on(hands)).to_contain_text(poster["grain"])

    stage.focus()
    stage.dispatch_event("contextmenu")
    expect(fan(hands)).to_be_visible()
    hands.page.keyboard.press("Escape")
    expect(fan(hands)).to_have_count(0)


def test_drag_is_no_press_and_hold(hands: Hands, poster: Any) -> None:
    start = middle(hands, poster)
    hands.page.mouse.click(*start)
    hands.page.mouse.move(*start)
    hands.page.mouse.down()
    hands.page.mouse.move(start.x + 30, start.y, steps=5)
    hands.page.wait_for_timeout(700)
    hands.page.mouse.up()
    hands.settle()

    expect(fan(hands)).to_have_count(0)
    moved = hands.saved(poster)["composite"]["layers"][0]["placement"]
    assert moved["x"] > 455


def test_delete_outside_stage_and_pile_takes_nothing_away(
    hands: Hands, poster: Any
) -> None:
    hands.page.mouse.click(*middle(hands, poster))
    hands.page.get_by_role("button", name="Finish…").focus()
    hands.page.keyboard.press("Delete")
    hands.settle()
    assert len(hands.saved(poster)["composite"]["layers"]) == 2

    hands.page.get_by_role("application").focus()
    hands.page.keyboard.press("Delete")
    hands.settle()

    assert len(hands.saved(poster)["composite"]["layers"]) == 1
