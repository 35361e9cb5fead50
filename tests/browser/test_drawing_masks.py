"""Parts of masks that are drawn on the stage: shapes, outlines, even colours."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

if TYPE_CHECKING:
    from pathlib import Path

    from tests.browser.hands import Hands

WIDTH, HEIGHT = 800, 600


@pytest.fixture
def flag(hands: Hands, tmp_path: Path) -> Any:
    """Open a desk with one photo over a black sheet: green, a red square in it."""
    pixels = np.full((HEIGHT, WIDTH, 3), (20, 150, 60), np.uint8)
    pixels[150:350, 250:450] = (200, 30, 30)
    path = tmp_path / "flag.png"
    Image.fromarray(pixels).save(path)
    state = hands.begin(path, width=WIDTH, height=HEIGHT)
    state = hands.edit(state, kind="tint_sheet", background="#000000")
    hands.open_desk(state)
    hands.open_layer("Flag", "Cut")
    return state


def parts(hands: Hands, state: Any) -> list[Any]:
    hands.settle()
    mask = hands.saved(state)["composite"]["layers"][0]["mask"]
    return mask["parts"] if mask else []


def begin(hands: Hands, name: str) -> None:
    hands.page.get_by_role("button", name=name, exact=True).click()


@pytest.mark.parametrize(
    ("keys", "wanted"),
    [
        ((), {"x": 350, "y": 250, "width": 300, "height": 200}),
        (("Shift",), {"x": 350, "y": 300, "width": 300, "height": 300}),
        (("Alt",), {"x": 200, "y": 150, "width": 600, "height": 400}),
    ],
)
def test_circle_is_drawn_from_corner_to_corner(
    hands: Hands, flag: Any, keys: tuple[str, ...], wanted: dict[str, float]
) -> None:
    begin(hands, "a circle")
    mouse, keyboard = hands.page.mouse, hands.page.keyboard

    mouse.move(*hands.on_stage(flag, 200, 150))
    mouse.down()
    for key in keys:
        keyboard.down(key)
    mouse.move(*hands.on_stage(flag, 500, 350), steps=5)
    mouse.up()
    for key in keys:
        keyboard.up(key)

    (part,) = parts(hands, flag)
    thumb = hands.pile.get_by_test_id("hatched-thumb")
    address = thumb.evaluate("(one) => one.style.maskImage")
    hidden = hands.page.request.get(
        hands.page.url.partition("/desk")[0] + address[5:-2]
    )
    assert hidden.headers["content-type"] == "image/png"
    drawn = {name: part[name] for name in wanted}
    assert drawn == pytest.approx(wanted, abs=2)


def test_outline_is_clicked_dragged_closed_and_moved_by_a_corner(
    hands: Hands, flag: Any
) -> None:
    page = hands.page
    begin(hands, "an outline")
    for x, y in ((100, 100), (600, 100)):
        page.mouse.click(*hands.on_stage(flag, x, y))
    page.mouse.move(*hands.on_stage(flag, 600, 400))
    page.mouse.down()
    for step in range(1, 11):
        page.mouse.move(*hands.on_stage(flag, 600 - 50 * step, 400))
    page.mouse.up()
    assert parts(hands, flag) == []
    page.mouse.click(*hands.on_stage(flag, 100, 100))

    (part,) = parts(hands, flag)
    # A free line that is straight is its two ends.
    assert len(part["points"]) == 4
    assert hands.sentences()[0].startswith(
        "Flag, filling the picture, cut to an outline"
    )
    hands.drag(hands.grip("corner-0"), hands.on_stage(flag, 300, 250))
    (part,) = parts(hands, flag)
    assert part["points"][0] == pytest.approx([300, 250], abs=2)
    page.keyboard.press("Escape")
    assert hands.color_at(hands.on_stage(flag, 150, 130)) == (0, 0, 0)
    assert hands.color_at(hands.on_stage(flag, 560, 250))[1] > 120


def test_outline_is_drawn_and_changed_without_a_pointer(
    hands: Hands, flag: Any
) -> None:
    page = hands.page
    page.get_by_role("button", name="an outline", exact=True).focus()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="in the middle", exact=True).focus()
    page.keyboard.press("Enter")
    hands.settle()

    hands.type_number("Corner", 2)
    hands.type_number("Across", 700)
    page.get_by_role("button", name="Add a corner after it").focus()
    page.keyboard.press("Enter")

    (part,) = parts(hands, flag)
    assert len(part["points"]) == 5
    assert part["points"][1][0] == 700


def test_outline_under_way_is_taken_back_and_left(hands: Hands, flag: Any) -> None:
    page = hands.page
    begin(hands, "an outline")
    drawn = page.get_by_test_id("outline-drawn").locator("circle")
    for x, y in ((100, 100), (600, 100), (600, 400)):
        page.mouse.click(*hands.on_stage(flag, x, y))
    page.mouse.move(*hands.on_stage(flag, 300, 300))
    expect(drawn).to_have_count(4)  # the first one has a ring

    page.keyboard.press("Backspace")
    expect(drawn).to_have_count(2)
    page.keyboard.press("Escape")
    expect(drawn).to_have_count(0)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="an outline", exact=True).click()
    page.mouse.click(*hands.on_stage(flag, 100, 100))
    hands.facet("Place").click()
    hands.facet("Cut").click()
    begin(hands, "an outline")
    expect(drawn).to_have_count(0)

    assert parts(hands, flag) == []


def test_even_colour_is_clicked_and_widened_by_dragging(
    hands: Hands, flag: Any
) -> None:
    page = hands.page
    begin(hands, "an even colour")
    start = hands.on_stage(flag, 350, 250)

    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start.x + 40, start.y, steps=4)
    page.mouse.up()

    (part,) = parts(hands, flag)
    assert (part["kind"], part["join"], part["tolerance"]) == ("even", "take", 18)
    page.mouse.click(*hands.on_stage(flag, 50, 50))
    (part,) = parts(hands, flag)
    assert len(part["spots"]) == 2
    page.get_by_role("button", name="take the last one back").click()
    hands.settle()
    page.reload()
    hands.settle()
    page.keyboard.press("Escape")
    assert hands.color_at(hands.on_stage(flag, 350, 250)) == (0, 0, 0)
    assert hands.color_at(hands.on_stage(flag, 350, 450))[1] > 120


def test_shape_of_another_layer_is_kept_as_it_is(hands: Hands, flag: Any) -> None:
    page = hands.page
    state = hands.edit(
        flag, kind="add_color", layer_id="wash", name="Wash", color="#3050ff"
    )
    follows = {
        "kind": "layer",
        "id": "p",
        "layer_id": state["composite"]["layers"][0]["id"],
    }
    hands.edit(state, kind="add_part", layer_id="wash", part=follows)
    hands.open_layer("Wash", "Cut")

    page.get_by_role("button", name="Keep it as it is now").click()
    recipe = page.get_by_role("grid", name="What of Wash shows")
    expect(recipe).to_contain_text("the shape of Flag, as it was")

    hands.settle()
    kept = hands.saved(flag)["composite"]["layers"][1]["mask"]["parts"]
    assert [part["kind"] for part in kept] == ["kept"]
