"""Groups, colours and gradients, by hand and by eye."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pytest
from playwright.sync_api import expect

from tests.browser.hands import Point

if TYPE_CHECKING:
    from pathlib import Path

    from playwright.sync_api import Locator

    from tests.browser.hands import Hands


@pytest.fixture
def trio(hands: Hands, demo_photos: Path) -> Any:
    """Open a desk with the forest, and two small photos over it."""
    state = hands.begin(
        demo_photos / "forest-dusk.jpg",
        demo_photos / "lantern-glow.jpg",
        demo_photos / "puppet-kit-box.jpg",
    )
    for layer, x in zip(state["composite"]["layers"][1:], (300, 500), strict=True):
        place = {**layer["placement"], "x": x, "scale_x": 0.1, "scale_y": 0.1}
        state = hands.edit(
            state, kind="place_layer", layer_id=layer["id"], placement=place
        )
    hands.open_desk(state)
    return state


def layers(hands: Hands, state: Any) -> list[Any]:
    return hands.saved(state)["composite"]["layers"]


def test_layers_are_put_together_moved_as_one_and_taken_apart(
    hands: Hands, trio: Any
) -> None:
    hands.open_layer("Puppet kit box")
    hands.do("Puppet kit box", "Put together with Lantern glow")
    hands.settle()
    assert hands.sentences()[0].startswith(
        "Lantern glow and Puppet kit box, 2 layers as one"
    )

    start = hands.on_stage(trio, 500, 300)
    hands.drag(start, Point(start.x, start.y + 60))
    hands.settle()
    hands.do("Lantern glow and Puppet kit box", "Take apart")
    hands.settle()

    before = [one["placement"] for one in trio["composite"]["layers"]]
    after = [one["placement"] for one in layers(hands, trio)]
    assert after[0] == before[0]
    moves = [b["y"] - a["y"] for a, b in zip(before[1:], after[1:], strict=True)]
    assert moves[0] == pytest.approx(moves[1])
    assert moves[0] > 30
    assert after[1]["x"] == pytest.approx(before[1]["x"])


def test_layers_are_dragged_into_a_group_and_out_again(hands: Hands, trio: Any) -> None:
    hands.open_layer("Puppet kit box")
    hands.do("Puppet kit box", "Put together with Lantern glow")
    hands.settle()
    hands.page.keyboard.press("Escape")
    row = hands.pile.get_by_role("listitem")

    hands.drag(_head(row.last), _head(row.first))
    hands.settle()

    (group,) = layers(hands, trio)
    names = [one["name"] for one in group["layers"]]
    assert names == ["Lantern glow", "Puppet kit box", "Forest dusk"]

    hands.open_layer("Lantern glow and Puppet kit box")
    hands.open_layer("Forest dusk")
    row.first.evaluate("(row) => row.scrollIntoView({ block: 'start' })")
    start, edge = _head(row.filter(has_text="Forest dusk").last), _head(row.first)
    hands.drag(start, Point(start.x, edge.y - 32))
    hands.settle()

    behind, front = layers(hands, trio)
    assert (len(behind["layers"]), front["name"]) == (2, "Forest dusk")
    placed = trio["composite"]["layers"][0]["placement"]
    assert front["placement"] == pytest.approx(placed)


def _head(row: Locator) -> Point:
    """Return the middle of a row's picture."""
    box = row.bounding_box()
    assert box is not None
    return Point(box["x"] + 40, box["y"] + 36)


def test_second_click_takes_a_member_and_drags_it_alone(
    hands: Hands, trio: Any
) -> None:
    page = hands.page
    hands.open_layer("Puppet kit box")
    page.keyboard.press("u")
    hands.settle()
    before = layers(hands, trio)[1]["layers"]
    start = hands.on_stage(trio, 300, 300)

    page.mouse.click(*start)
    expect(page.get_by_role("status").filter(has_text="Working on")).to_contain_text(
        "Working on Lantern glow: its place"
    )
    hands.drag(start, Point(start.x, start.y - 40))
    hands.settle()

    after = layers(hands, trio)[1]["layers"]
    assert after[0]["placement"]["y"] < before[0]["placement"]["y"] - 30
    assert after[1] == before[1]
    hands.do("Lantern glow", "Take out of Lantern glow and Puppet")
    hands.settle()
    assert [one["name"] for one in layers(hands, trio)][-1] == "Lantern glow"


def test_group_blends_as_one(hands: Hands, trio: Any) -> None:
    hands.open_layer("Puppet kit box")
    hands.page.keyboard.press("u")
    hands.settle()

    hands.page.keyboard.press("b")
    hands.page.get_by_role("option", name="Multiply", exact=True).click()
    hands.type_number("Strength, exact", 50)

    group = layers(hands, trio)[1]
    assert (group["blend"], group["opacity"]) == ("multiply", 0.5)


def test_colour_is_taken_from_the_picture_and_can_be_any(
    hands: Hands, trio: Any
) -> None:
    page = hands.page
    page.get_by_role("button", name="colour", exact=True).click()
    hands.settle()
    middle = hands.on_stage(trio, 450, 80)

    before = layers(hands, trio)[-1]["color"]
    offered = page.get_by_role("listbox", name="Colours from the picture")
    offered.get_by_role("option").first.click()
    hands.settle()
    wanted = layers(hands, trio)[-1]["color"][1:]
    assert f"#{wanted}" != before
    levels = tuple(int(wanted[at : at + 2], 16) for at in (0, 2, 4))
    shown = hands.color_at(middle)
    assert max(abs(a - b) for a, b in zip(shown, levels, strict=True)) <= 2

    page.get_by_label("Any colour").fill("#336699")
    hands.settle()

    assert layers(hands, trio)[-1]["color"] == "#336699"
    assert hands.sentences()[0].startswith("Colour, steel blue over everything")


def test_gradient_is_dragged_by_its_ends_and_chosen_by_eye(
    hands: Hands, trio: Any
) -> None:
    page = hands.page
    page.get_by_role("button", name="gradient", exact=True).click()
    hands.settle()

    end = hands.grip("end")
    hands.drag(end, Point(end.x + 90, end.y - 120))
    hands.settle()
    assert page.evaluate("String(getSelection())") == ""
    dragged = layers(hands, trio)[-1]["gradient"]
    assert 0 < dragged["angle"] < 90

    page.get_by_role("option", name="To the right", exact=True).click()
    hands.settle()
    across = layers(hands, trio)[-1]["gradient"]
    assert (across["angle"], across["length"], across["x"]) == (0, 900, 450)
    page.get_by_role("radio", name="Round").click()
    page.get_by_role("button", name="Exchange its ends").click()
    hands.settle()

    round_one = layers(hands, trio)[-1]["gradient"]
    assert round_one["shape"] == "round"
    assert round_one["start"]["opacity"] == 0
    assert "from clear to terracotta, outwards" in hands.sentences()[0]
