"""The shelf in sets, what is known of its pictures, and the library."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pytest
from playwright.sync_api import expect

from tests.browser.hands import Hands, Point

if TYPE_CHECKING:
    from pathlib import Path

    from playwright.sync_api import Locator


@pytest.fixture
def desk(hands: Hands, demo_photos: Path) -> Any:
    state = hands.begin(demo_photos / "forest-dusk.jpg")
    hands.product.bring_in(demo_photos / "old-photo-keeper.jpg")
    hands.open_desk(state)
    hands.page.keyboard.press("s")
    return state


def show(hands: Hands, what: str) -> None:
    hands.page.get_by_role("button", name="What the shelf shows").click()
    hands.page.get_by_role("option", name=what).click()


def find(hands: Hands, what: str) -> None:
    hands.page.get_by_role("searchbox", name="Find a picture").fill(what)


def tiles(hands: Hands) -> Locator:
    return hands.page.get_by_role("region", name="The shelf").get_by_role(
        "button", name="Lay on"
    )


def test_a_picture_of_the_library_is_found_by_a_word_and_laid_on(
    hands: Hands, desk: Any
) -> None:
    page = hands.page
    show(hands, "the library")
    find(hands, "flying night")
    expect(tiles(hands)).to_have_count(1)
    page.get_by_role("button", name="Lay on Sparks").click()
    hands.settle()
    expect(hands.pile.get_by_role("button", name="Sparks", exact=True)).to_be_visible()

    layers = hands.saved(desk)["composite"]["layers"]
    assert [layer["name"] for layer in layers] == ["Forest dusk", "Sparks"]
    assert layers[1]["width"] == 2400
    show(hands, "my pictures, by where they are used")
    find(hands, "sparks")
    used = page.get_by_role("region", name=desk["name"], exact=True)
    expect(used.get_by_text("from the library")).to_be_visible()


def test_a_picture_of_the_library_is_dragged_to_its_place(
    hands: Hands, desk: Any
) -> None:
    page = hands.page
    show(hands, "the library")
    find(hands, "lace")
    at = hands.on_stage(desk, 250, 300)
    box = hands.surface.bounding_box()
    assert box is not None
    page.get_by_role("button", name="Lay on Scalloped lace").drag_to(
        hands.surface, target_position={"x": at.x - box["x"], "y": at.y - box["y"]}
    )
    name = hands.pile.get_by_role("button", name="Scalloped lace", exact=True)
    expect(name).to_be_visible()
    hands.settle()

    placement = hands.saved(desk)["composite"]["layers"][1]["placement"]
    assert placement["x"] == pytest.approx(250, abs=3)
    assert placement["y"] == pytest.approx(300, abs=3)


@pytest.mark.usefixtures("desk")
def test_what_is_not_on_the_shelf_is_pointed_to_in_the_library(hands: Hands) -> None:
    find(hands, "velvet")
    expect(hands.page.get_by_text("Nothing on the shelf is called")).to_be_visible()

    hands.page.get_by_role("button", name="1 more in the library").click()

    expect(tiles(hands)).to_have_count(1)
    find(hands, "nothing like it")
    expect(hands.page.get_by_text("Nothing in the library is found")).to_be_visible()


def test_a_picture_says_where_it_is_used_is_renamed_and_taken_off(
    hands: Hands, desk: Any
) -> None:
    page = hands.page
    find(hands, desk["name"])
    page.get_by_role("button", name="About Forest dusk").first.click()
    facts = page.get_by_role("dialog", name="About Forest dusk")
    used = facts.get_by_role("list", name="Used in")
    expect(used.get_by_role("link", name=desk["name"])).to_be_visible()

    facts.get_by_role("button", name="Rename").click()
    page.keyboard.type("Évening wood")
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog", name="About Évening wood")).to_be_visible()
    page.get_by_role("button", name="Take off the shelf").click()
    find(hands, "evening")
    expect(tiles(hands)).to_have_count(0)
    page.get_by_role("button", name="Put it back").click()
    expect(tiles(hands)).to_have_count(1)
    picture = hands.saved(desk)["composite"]["layers"][0]["picture"]
    address = f"{hands.product.address}/api/pictures/{picture}"
    page.request.patch(address, data={"name": "Forest dusk"})


def test_sets_follow_where_pictures_are_used(hands: Hands, desk: Any) -> None:
    page = hands.page
    show(hands, "my pictures, by where they are used")
    mine = page.get_by_role("region", name=desk["name"], exact=True)
    expect(mine.get_by_role("button", name="Lay on Forest dusk")).to_be_visible()
    expect(mine.get_by_role("button", name="Lay on Old photo keeper")).to_have_count(0)

    find(hands, "keeper")
    page.get_by_role("button", name="Lay on Old photo keeper").first.click()
    hands.settle()
    expect(mine.get_by_role("button", name="Lay on Old photo keeper")).to_be_visible()
    hands.surface.click(position=Point(2, 2)._asdict())
    page.keyboard.press("Control+z")
    hands.settle()
    expect(mine.get_by_role("button", name="Lay on Old photo keeper")).to_have_count(0)
