"""Moments get names, hang behind the print, are compared and gone on from."""

from __future__ import annotations

import io
import re
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.hands import Hands, Point
from tests.product import wait_for

if TYPE_CHECKING:
    from pathlib import Path

    from numpy.typing import NDArray
    from playwright.sync_api import Locator


@pytest.fixture
def pair(hands: Hands, demo_photos: Path) -> Any:
    state = hands.begin(
        demo_photos / "forest-dusk.jpg", demo_photos / "lantern-glow.jpg"
    )
    hands.open_desk(state)
    return state


def call_it(hands: Hands, name: str) -> None:
    page = hands.page
    page.get_by_role("button", name="Name this moment").click()
    page.get_by_role("textbox", name="How it is now shall be called").fill(name)
    page.get_by_role("button", name="Keep it under this name").click()
    expect(page.get_by_role("button", name=f"This moment: {name}")).to_be_visible()


def hide_lanterns(hands: Hands) -> None:
    hands.open_layer("Lantern glow")
    hands.page.keyboard.press("o")
    hands.settle()


SHOWN = """(place) => Promise.all(
  [...place.querySelectorAll('img')].map((one) => one.decode())
)"""
"""Until all pictures in a place have come in."""


def seen(place: Locator) -> NDArray[np.int16]:
    """Return the pixels of a place on the page, once they rest."""
    before = np.empty(0, np.int16)

    def at_rest() -> list[NDArray[np.int16]]:
        nonlocal before
        with Image.open(io.BytesIO(place.screenshot())) as picture:
            now = np.asarray(picture.convert("RGB"), np.int16)
        rests = np.array_equal(before, now)
        before = now
        return [now] if rests else []

    return wait_for(at_rest)[0]


def apart(one: NDArray[np.int16], other: NDArray[np.int16]) -> int:
    """Return by how many levels two pictures differ where they differ most."""
    return int(np.abs(one - other).max())


def test_versions_are_compared_under_a_divider(hands: Hands, pair: Any) -> None:
    page = hands.page
    call_it(hands, "With lanterns")
    hide_lanterns(hands)
    call_it(hands, "Bare forest")

    page.get_by_role("link", name="Wall").click()
    print_ = page.get_by_role("listitem").filter(has_text=pair["name"])
    print_.get_by_role("link", name="2 versions").click()
    stage = page.get_by_role("region", name="Comparing")
    divider = page.get_by_role("slider", name="Divider: With lanterns on its left")
    expect(stage.locator("img")).to_have_count(2)
    stage.evaluate(SHOWN)
    box = stage.bounding_box()
    assert box is not None
    middle = Point(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    end = Point(box["x"] + box["width"] - 23, middle.y)

    def moved_to(key: str, value: str) -> NDArray[np.int16]:
        divider.press(key)
        expect(divider).to_have_value(value)
        return seen(stage)

    def parts_them() -> bool:
        """Beside the line, each side shows its own moment."""
        lanterns, bare = moved_to("End", "100"), moved_to("Home", "0")
        moved_to("End", "100")
        hands.drag(end, middle)
        expect(divider).to_have_value(re.compile("^(49|5[01])"))
        both, quarter = seen(stage), lanterns.shape[1] // 4
        left, right = np.s_[:, : quarter + 80], np.s_[:, -quarter:-40]
        return (
            apart(lanterns[left], bare[left]) > 50
            and apart(lanterns[right], bare[right]) > 50
            and apart(both[left], lanterns[left]) <= 2
            and apart(both[right], bare[right]) <= 2
        )

    divider.focus()
    # A busy machine paints later than the page says what it has: then once more.
    wait_for(parts_them, within_s=60)


def test_other_moments_are_chosen_for_both_sides(hands: Hands, pair: Any) -> None:
    page = hands.page
    call_it(hands, "With lanterns")
    hide_lanterns(hands)

    page.goto(f"{hands.product.address}/versions/{pair['id']}")
    page.get_by_role("button", name="How they are compared").click()
    page.get_by_role("option", name="side by side").click()
    figures = page.get_by_role("figure")
    expect(figures).to_have_text(["With lanterns", "as it is now"])
    page.get_by_role("button", name="On the left").click()
    page.get_by_role("option", name="as it is now").click()
    expect(figures).to_have_text(["as it is now", "as it is now"])
    page.get_by_role("button", name="How they are compared").click()
    page.get_by_role("option", name="with all others").click()
    expect(figures).to_have_text(["as it is now", "With lanterns"])


def test_a_version_is_opened_or_becomes_a_picture_of_its_own(
    hands: Hands, pair: Any
) -> None:
    page = hands.page
    call_it(hands, "With lanterns")
    hide_lanterns(hands)

    page.goto(f"{hands.product.address}/versions/{pair['id']}")
    page.get_by_role("button", name="As a picture of its own: With lanterns").click()
    page.get_by_role("button", name="Open it").click()
    hands.settle()
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_have_text(f"{pair['name']}, With lanterns")
    assert "hidden" not in hands.sentences()[0]

    page.goto(f"{hands.product.address}/versions/{pair['id']}")
    page.get_by_role("button", name="Open With lanterns").click()
    hands.settle()
    expect(heading).to_have_text(pair["name"])
    expect(
        page.get_by_role("button", name="This moment: With lanterns")
    ).to_be_visible()
    assert hands.saved(pair)["redo_to"] is not None


def test_a_name_is_changed_forgotten_and_given_back(hands: Hands, pair: Any) -> None:
    page = hands.page
    call_it(hands, "Lanterns")

    page.goto(f"{hands.product.address}/versions/{pair['id']}")
    page.get_by_role("button", name="Rename Lanterns").click()
    page.keyboard.type("灯 at dusk")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Forget the name 灯 at dusk").click()
    versions = page.get_by_role("list", name="Versions")
    expect(versions.get_by_role("heading")).to_have_text(["as it is now"])
    page.get_by_role("button", name="Give it back").click()
    expect(versions.get_by_role("heading")).to_have_text(["灯 at dusk"])


def test_a_branch_is_taken_with_one_click_on_the_ruler(hands: Hands, pair: Any) -> None:
    page = hands.page
    hide_lanterns(hands)
    page.keyboard.press("Control+z")
    hands.settle()
    hands.type_number("Across", 300)
    hands.page.reload()
    hands.settle()

    history = page.get_by_role("group", name="History")
    box = history.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 2, box["y"] + box["height"] / 2)
    expect(page.get_by_text("Begun just now")).to_be_visible()
    page.get_by_role("button", name="Go the other way").click()
    hands.settle()

    layers = hands.saved(pair)["composite"]["layers"]
    assert [layer["visible"] for layer in layers] == [True, False]
    assert layers[1]["placement"]["x"] == 450
    expect(page.get_by_role("button", name="1 other way")).to_be_visible()


def test_while_the_ruler_is_dragged_a_render_shows_each_moment(
    hands: Hands, pair: Any
) -> None:
    page = hands.page
    call_it(hands, "With lanterns")
    hide_lanterns(hands)
    box = page.get_by_role("group", name="History").bounding_box()
    assert box is not None
    line = box["y"] + box["height"] - 4
    page.mouse.move(box["x"] + box["width"] - 2, line)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 2 / 3, line, steps=5)
    # Far from the ruler the hand still holds it.
    page.mouse.move(box["x"] + box["width"] * 2 / 3, line + 300, steps=5)
    glimpse = page.locator("figure").filter(
        has_text="With lanterns: Lantern glow laid on"
    )
    expect(glimpse).to_be_visible()
    expect(glimpse.locator("img")).to_be_visible()
    page.mouse.up()
    expect(page.locator("figure")).to_have_count(0)
    hands.settle()

    assert hands.saved(pair)["composite"]["layers"][1]["visible"] is True
    expect(
        page.get_by_role("button", name="This moment: With lanterns")
    ).to_be_visible()


def test_a_copy_is_hung_beside_the_print(hands: Hands, pair: Any) -> None:
    page = hands.page
    page.get_by_role("link", name="Wall").click()
    page.get_by_role("button", name=f"More for {pair['name']}").click()
    page.get_by_role("menuitem", name="Hang a copy beside it").click()

    expect(page.get_by_role("link", name=f"{pair['name']}, copy")).to_be_visible()
    page.get_by_role("button", name="Open it").click()
    hands.settle()
    assert len(hands.sentences()) == 2
