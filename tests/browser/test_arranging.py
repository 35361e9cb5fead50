"""Arranging layers on the stage, in the pile and by the keyboard."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pytest
from playwright.sync_api import expect

from tests.browser.hands import Point

if TYPE_CHECKING:
    from pathlib import Path

    from tests.browser.hands import Hands


@pytest.fixture
def pair(hands: Hands, demo_photos: Path) -> Any:
    """Open a desk with two photos, the front one at 40 %."""
    state = hands.begin(
        demo_photos / "forest-dusk.jpg", demo_photos / "lantern-glow.jpg"
    )
    front = state["composite"]["layers"][1]
    placement = {**front["placement"], "scale_x": 0.2, "scale_y": 0.2}
    state = hands.edit(
        state, kind="place_layer", layer_id=front["id"], placement=placement
    )
    hands.open_desk(state)
    return state


def layers(hands: Hands, state: Any) -> list[Any]:
    return hands.saved(state)["composite"]["layers"]


def test_numbers_place_a_layer_exactly(hands: Hands, pair: Any) -> None:
    hands.open_layer("Lantern glow")

    for label, value in [("Across", 111), ("Down", 222), ("Size", 30), ("Turn", -12.5)]:
        hands.type_number(label, value)

    placement = layers(hands, pair)[1]["placement"]
    assert (placement["x"], placement["y"]) == (111, 222)
    assert placement["scale_x"] == placement["scale_y"] == pytest.approx(0.3)
    assert placement["turn"] == -12.5
    assert "turned −12.5°" in hands.sentences()[0]


def test_flips_and_usual_places_take_one_press(hands: Hands, pair: Any) -> None:
    hands.open_layer("Lantern glow")
    page = hands.page

    page.get_by_role("button", name="Flip left–right").click()
    page.get_by_role("button", name="Fill", exact=True).click()
    hands.settle()

    placement = layers(hands, pair)[1]["placement"]
    assert placement["flipped"]
    assert (placement["x"], placement["y"]) == (450, 300)
    assert "filling the picture, mirrored" in hands.sentences()[0]


def test_stem_turns_and_shift_keeps_to_steps(hands: Hands, pair: Any) -> None:
    hands.open_layer("Lantern glow")
    knob = hands.grip("turn")
    middle = hands.on_stage(pair, 450, 300)

    hands.page.keyboard.down("Shift")
    hands.drag(knob, Point(middle.x + 130, middle.y + 6))
    hands.page.keyboard.up("Shift")
    hands.settle()

    assert layers(hands, pair)[1]["placement"]["turn"] == 90


def test_undo_puts_a_dragged_layer_back_exactly(hands: Hands, pair: Any) -> None:
    before = layers(hands, pair)
    middle = hands.on_stage(pair, 450, 300)

    hands.drag(middle, Point(middle.x + 50, middle.y))
    hands.settle()
    hands.page.get_by_role("button", name="Undo").click()
    hands.settle()

    assert layers(hands, pair) == before


def test_keys_work_on_the_open_layer(hands: Hands, pair: Any) -> None:
    keyboard = hands.page.keyboard
    front = pair["composite"]["layers"][1]
    middle = hands.on_stage(pair, 450, 300)
    hands.page.mouse.click(*middle)

    keyboard.press("ArrowRight")
    keyboard.press("Shift+ArrowDown")
    keyboard.press("PageDown")
    hands.settle()

    back = layers(hands, pair)[0]
    assert back["id"] == front["id"]
    assert back["placement"]["x"] == front["placement"]["x"] + 1
    assert back["placement"]["y"] == front["placement"]["y"] + 10

    keyboard.press("l")
    hands.settle()
    assert [layer["name"] for layer in layers(hands, pair)][1].startswith("Lantern")
    keyboard.press("o")
    keyboard.press("k")
    hands.settle()
    copy = layers(hands, pair)[1]
    assert (copy["visible"], copy["locked"]) == (False, True)
    keyboard.press("Delete")
    keyboard.press("k")
    keyboard.press("Delete")
    hands.settle()
    assert len(layers(hands, pair)) == 2


def test_layer_is_dragged_through_the_pile(hands: Hands, pair: Any) -> None:
    handle = hands.pile.get_by_role("button", name="Move Lantern glow in the pile")
    box = handle.bounding_box()
    assert box is not None
    start = Point(box["x"] + 6, box["y"] + 20)

    hands.drag(start, Point(start.x, start.y + 120))
    hands.settle()

    assert hands.sentences()[0].startswith("Forest dusk")
    assert layers(hands, pair)[0]["name"] == "Lantern glow"


def test_layer_is_dragged_through_the_pile_by_keys(hands: Hands, pair: Any) -> None:
    keyboard = hands.page.keyboard
    hands.pile.get_by_role("button", name="Move Lantern glow in the pile").focus()

    keyboard.press("Enter")
    expect(hands.page.get_by_role("button", name="Behind Forest dusk")).to_be_focused()
    keyboard.press("Enter")
    hands.settle()

    assert layers(hands, pair)[0]["name"] == "Lantern glow"
    hands.pile.get_by_role("button", name="Move Lantern glow in the pile").focus()
    keyboard.press("ArrowUp")
    hands.settle()
    assert layers(hands, pair)[1]["name"] == "Lantern glow"


def test_layer_is_renamed_in_its_sentence(hands: Hands, pair: Any) -> None:
    hands.open_layer("Lantern glow")

    hands.do("Lantern glow", "Rename")
    hands.page.get_by_role("textbox", name="Name of Lantern glow").fill("Glow")
    hands.page.keyboard.press("Enter")
    hands.settle()

    assert layers(hands, pair)[1]["name"] == "Glow"


def test_hidden_layer_is_shown_again_by_its_word(hands: Hands, pair: Any) -> None:
    hands.open_layer("Lantern glow")
    hands.page.get_by_role("button", name="Hide").click()
    hands.settle()
    assert "hidden" in hands.sentences()[0]

    hands.pile.get_by_role("button", name="hidden: show it again").click()
    hands.settle()

    assert layers(hands, pair)[1]["visible"]


@pytest.mark.usefixtures("pair")
def test_the_pile_is_as_wide_as_it_was_dragged(hands: Hands) -> None:
    edge = hands.page.get_by_role("separator", name="Width of the pile")
    before = hands.pile.bounding_box()
    assert before is not None
    start = Point(before["x"] + before["width"] - 2, before["y"] + before["height"] / 2)
    hands.drag(start, Point(start.x + 60, start.y))
    hands.drag(Point(start.x + 60, start.y), Point(start.x + 90, start.y))

    hands.page.reload()
    hands.settle()
    after = hands.pile.bounding_box()
    assert after is not None
    assert after["width"] == pytest.approx(before["width"] + 90, abs=2)
    expect(edge).to_have_attribute("aria-valuenow", str(round(after["width"])))
    stage = hands.surface.bounding_box()
    assert stage is not None
    assert stage["x"] == pytest.approx(after["x"] + after["width"], abs=2)


def test_zoom_holds_what_is_under_the_pointer(hands: Hands, pair: Any) -> None:
    point = hands.on_stage(pair, 300, 200)
    before = hands.color_at(point)

    hands.page.mouse.move(*point)
    for _ in range(4):
        hands.page.mouse.wheel(0, -240)
    expect(hands.page.get_by_role("button", name="View: ")).not_to_contain_text("Whole")

    after = hands.color_at(point)
    assert max(abs(a - b) for a, b in zip(before, after, strict=True)) < 30
    hands.page.keyboard.press("0")
    expect(hands.page.get_by_role("button", name="View: ")).to_contain_text("Whole")


def test_backing_shows_through_a_clear_sheet(hands: Hands) -> None:
    state = hands.begin(width=600, height=400)
    canvas = {**state["composite"]["canvas"], "background": None}
    state = hands.edit(state, kind="set_canvas", canvas=canvas)
    hands.open_desk(state)
    middle = hands.on_stage(state, 300, 200)

    hands.page.get_by_role("button", name="Backing black").click()
    black = hands.color_at(middle)
    hands.page.get_by_role("button", name="Backing mid-grey").click()

    assert black == (0, 0, 0)
    assert hands.color_at(middle) == (128, 128, 128)


def test_sheet_grows_without_moving_the_picture_on_it(hands: Hands, pair: Any) -> None:
    hands.pile.get_by_role("button", name="900 × 600 px").click()

    hands.page.get_by_role("button", name="What stays where it is").click()
    hands.page.get_by_role("option", name="the right", exact=True).click()
    hands.type_number("Wide", 1000)
    hands.page.get_by_role("button", name="Make it 1000 × 600").click()
    hands.settle()

    after = hands.saved(pair)["composite"]
    assert after["canvas"]["width"] == 1000
    before = pair["composite"]["layers"][1]["placement"]["x"]
    assert after["layers"][1]["placement"]["x"] == before + 100


def test_history_is_dragged_back_and_the_other_way_is_kept(
    hands: Hands, pair: Any
) -> None:
    page = hands.page
    hands.open_layer("Lantern glow")
    hands.type_number("Across", 100)
    hands.type_number("Across", 200)

    history = page.get_by_role("slider", name="History")
    history.focus()
    history.press("ArrowLeft")
    history.press("ArrowLeft")
    hands.settle()
    hands.type_number("Across", 300)
    page.get_by_role("button", name="1 other way").click()
    page.get_by_role("menuitem").first.click()
    hands.settle()

    assert layers(hands, pair)[1]["placement"]["x"] == 200
