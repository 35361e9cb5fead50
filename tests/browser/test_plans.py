"""From the wall to a finished kind of picture, by pointer and by keyboard."""

from __future__ import annotations

import io
import re
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.test_access import violations
from tests.cutouts import disks
from tests.pictures import soft_pixels

if TYPE_CHECKING:
    from pathlib import Path

    from playwright.sync_api import Locator, Page

    from tests.browser.hands import Hands

MOST_ACTIONS = 6


@pytest.fixture
def shelf(hands: Hands, tmp_path: Path) -> Hands:
    """Bring small photos onto the shelf: a red disk before blue, and others."""
    pictures = {
        "red disk": disks(300, 240, [(150, 130, 70)]).pixels,
        "soft hills": soft_pixels(320, 240, seed=1),
        "soft wood": soft_pixels(240, 320, seed=2),
    }
    for name, pixels in pictures.items():
        file = tmp_path / f"{name}.png"
        Image.fromarray(pixels[..., :3]).save(file)
        hands.product.bring_in(file)
    return hands


class Counting:
    """Does what a newcomer does, and counts it."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.actions = 0

    def press(self, name: str, *, exact: bool = False, role: Any = "button") -> None:
        self.page.get_by_role(role, name=name, exact=exact).first.click()
        self.actions += 1


def to_plan(hands: Hands, name: str) -> None:
    hands.page.goto(f"{hands.product.address}/plan/{name}")


def wait_for_whole(page: Page) -> None:
    # The first cut-out waits for its network to be read.
    expect(page.get_by_text("All of it is there.")).to_be_visible(timeout=60_000)


def at_desk(hands: Hands) -> None:
    hands.page.wait_for_url("**/desk/**")
    hands.pile.wait_for()
    hands.settle()


def free(page: Page, slot: str) -> Locator:
    """Return the first place of a slot that waits for a photo."""
    return page.get_by_role("button", name=re.compile(f"^drop .* for {slot}$")).first


def choose(page: Page, slot: str, *photos: str) -> None:
    free(page, slot).click()
    for photo in photos:
        page.get_by_role("button", name=photo, exact=True).click()


def test_the_plan_of_most_photos_is_whole_after_few_actions(shelf: Hands) -> None:
    plans = shelf.product.get("/api/plans")["plans"]
    plan = max(plans, key=photos_needed)
    assert 3 + photos_needed(plan) <= MOST_ACTIONS
    page = shelf.page
    # On an empty wall all plans are seen at once.
    shelf.begin()
    shelf.open_wall()
    newcomer = Counting(page)
    newcomer.press("all seventeen")
    newcomer.press(plan["title"], exact=True, role="link")
    needed = [slot for slot in plan["slots"] if slot["needed"]]
    free(page, needed[0]["title"]).click()
    newcomer.actions += 1
    for photo in ("Red disk", "Soft hills", "Soft wood"):
        newcomer.press(photo, exact=True)

    wait_for_whole(page)
    expect(page.locator("img[data-frame]")).to_be_visible()
    expect(page.get_by_role("button", name="Go on at the desk")).to_be_enabled()
    assert newcomer.actions <= MOST_ACTIONS


def photos_needed(plan: dict[str, Any]) -> int:
    return sum(slot["least"] for slot in plan["slots"] if slot["needed"])


def test_a_double_exposure_from_the_wall_to_the_desk(shelf: Hands) -> None:
    page = shelf.page
    shelf.open_wall()
    page.get_by_role("link", name="A double exposure").click()
    expect(page.get_by_role("img", name="An example")).to_be_visible()
    expect(page.get_by_role("button", name="Go on at the desk")).to_be_disabled()
    choose(page, "Somebody", "Red disk", "Soft hills")
    wait_for_whole(page)
    expect(page.get_by_text("The outline is clear.")).to_be_visible()
    expect(page.get_by_text("what comes out are three layers")).to_be_visible()

    page.get_by_role("button", name="Go on at the desk").click()
    at_desk(shelf)

    sentences = shelf.sentences()
    assert sentences[1].startswith("Soft hills")
    assert "shown without its backdrop" in sentences[2]
    steps = page.get_by_role("region", name="Steps of a double exposure")
    expect(steps.get_by_text("0 of 4 looked at")).to_be_visible()
    steps.get_by_role("button", name="Paint roughly").click()
    expect(page.get_by_text("Working on Red disk")).to_be_visible()
    steps.get_by_role("button", name="Skip: Is the outline right?").click()
    expect(steps.get_by_text("1 of 4 looked at")).to_be_visible()
    steps.get_by_role("button", name="Bring back: Is the outline right?").click()
    expect(steps.get_by_text("0 of 4 looked at")).to_be_visible()
    steps.get_by_role("button", name="Fold").click()
    expect(steps.get_by_role("listitem")).to_have_count(0)
    page.reload()
    steps.get_by_role("button", name="Show steps").click()
    expect(steps.get_by_role("listitem")).to_have_count(4)


def test_what_a_step_is_about_ticks_it_once_it_is_changed(shelf: Hands) -> None:
    page = shelf.page
    to_plan(shelf, "double-exposure")
    choose(page, "Somebody", "Red disk", "Soft hills")
    wait_for_whole(page)
    page.get_by_role("button", name="One colour over all Try another").click()
    page.wait_for_url("**/desk/**")
    steps = page.get_by_role("region", name="Steps of a double exposure")
    expect(steps.get_by_text("0 of 4 looked at")).to_be_visible()

    project = shelf.product.get(f"/api/projects/{page.url.rpartition('/')[2]}")
    blend = {"kind": "blend_layer", "layer_id": "wash", "mode": "color"}
    shelf.edit(project, **blend, opacity=0.5)

    expect(steps.get_by_text("1 of 4 looked at")).to_be_visible()


def test_photos_are_dropped_exchanged_turned_round_and_taken_out(
    shelf: Hands,
) -> None:
    page = shelf.page
    to_plan(shelf, "melting")
    free(page, "Photos").wait_for()
    file = io.BytesIO()
    Image.fromarray(np.full((60, 80, 3), (20, 90, 40), np.uint8)).save(file, "PNG")
    drop(page, "green.png", file.getvalue())
    expect(page.get_by_role("img", name="In Photos")).to_have_count(1)
    choose(page, "Photos", "Soft hills")
    page.keyboard.press("Escape")
    photos = page.get_by_role("img", name="In Photos")
    expect(photos).to_have_count(2)
    before = [one.get_attribute("src") for one in photos.all()]

    page.get_by_role("button", name="Turn the order round").click()
    assert [one.get_attribute("src") for one in photos.all()] == before[::-1]
    page.get_by_role("button", name="Move photo 1 one place later").click()
    assert [one.get_attribute("src") for one in photos.all()] == before
    page.get_by_role("button", name="Take photo 1 out").click()
    expect(photos).to_have_count(1)
    assert photos.first.get_attribute("src") == before[1]
    expect(page.get_by_role("button", name="Go on at the desk")).to_be_disabled()
    expect(page.get_by_text("Still to come: Photos.")).to_be_visible()


def test_several_files_for_one_slot_each_have_a_place(
    shelf: Hands, tmp_path: Path
) -> None:
    page = shelf.page
    to_plan(shelf, "melting")
    free(page, "Photos").click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="From this computer…").click()
    names = ("red disk", "soft hills", "soft wood")
    chooser.value.set_files([tmp_path / f"{name}.png" for name in names])

    photos = page.get_by_role("img", name="In Photos")
    expect(photos).to_have_count(3)
    assert len({one.get_attribute("src") for one in photos.all()}) == 3


def drop(page: Page, name: str, data: bytes) -> None:
    """Drop a file somewhere on the page."""
    transfer = page.evaluate_handle(
        """([name, bytes]) => {
          const transfer = new DataTransfer();
          transfer.items.add(new File([new Uint8Array(bytes)], name));
          return transfer;
        }""",
        [name, list(data)],
    )
    page.dispatch_event("main", "drop", {"dataTransfer": transfer})


def test_the_way_by_keyboard_alone(shelf: Hands) -> None:
    page = shelf.page
    to_plan(shelf, "postcard")
    free(page, "A photo").focus()
    page.keyboard.press("Enter")
    page.get_by_role("dialog", name="A photo for A photo").wait_for()
    page.get_by_role("searchbox", name="Find a photo").focus()
    page.keyboard.type("hills")
    page.get_by_role("button", name="Soft hills", exact=True).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("textbox", name="Greeting").focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("Ahoy")
    wait_for_whole(page)
    page.get_by_role("button", name="Go on at the desk").focus()
    page.keyboard.press("Enter")
    at_desk(shelf)

    assert shelf.sentences()[1].startswith("‘Ahoy’")


def test_a_plan_of_a_picture_is_made_opened_and_taken_away(shelf: Hands) -> None:
    page = shelf.page
    to_plan(shelf, "postcard")
    choose(page, "A photo", "Soft hills")
    page.get_by_role("button", name="Go on at the desk").click()
    page.wait_for_url("**/desk/**")
    shelf.open_wall()
    more = "More for A postcard with words"
    page.get_by_role("button", name=more).first.click()
    page.get_by_role("menuitem", name="Make a plan of it…").click()
    form = page.get_by_role("dialog", name="A plan of this picture")
    form.get_by_label("What it is called").fill("Card for any town")
    form.get_by_label("What suits it").fill("A wide view")
    found = violations(page, '[role="dialog"]')
    form.get_by_role("button", name="Make the plan").click()
    page.get_by_role("button", name="Open it").click()
    page.wait_for_url("**/plan/card-for-any-town")

    expect(page.get_by_text("A wide view")).to_be_visible()
    choose(page, "Soft hills", "Soft wood")
    wait_for_whole(page)
    page.get_by_role("button", name="More for Card for any town").click()
    page.get_by_role("menuitem", name="Take the plan away").click()
    page.get_by_role("button", name="Put it back").click()
    expect(page.get_by_role("link", name="Card for any town")).to_be_visible()
    assert found == []


def test_many_pictures_by_a_table_with_what_is_missing_told(
    shelf: Hands, tmp_path: Path
) -> None:
    page = shelf.page
    table = tmp_path / "cards.csv"
    table.write_text(
        "name,photo,greeting\nAnna,soft-hills.png,Ahoy\nBela,gone.png,Bye\n"
    )
    to_plan(shelf, "postcard")
    page.get_by_role("link", name="many at once").click()
    page.wait_for_url("**/many")
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="A table…").click()
    chooser.value.set_files(table)
    expect(page.get_by_text("gone.png is not here yet")).to_be_visible()
    page.get_by_role("button", name="Of the shelf or the library…").click()
    page.get_by_role("button", name="Soft wood", exact=True).click()
    page.keyboard.press("Escape")
    found = violations(page)

    page.get_by_role("button", name="Make 2 pictures").click()

    expect(page.get_by_text("2 of 2 made")).to_be_visible(timeout=60_000)
    links = page.get_by_role("article").first.get_by_role("link")
    assert links.all_inner_texts() == ["Anna", "Soft wood"]
    links.first.click()
    at_desk(shelf)
    assert any("‘Ahoy’" in one for one in shelf.sentences())
    assert found == []


def test_the_plan_s_page_is_free_of_violations_also_where_it_is_narrow(
    shelf: Hands,
) -> None:
    page = shelf.page
    to_plan(shelf, "double-exposure")
    free(page, "Somebody").wait_for()
    found = violations(page)
    free(page, "Somebody").click()
    page.get_by_role("button", name="Red disk", exact=True).wait_for()
    found += violations(page, '[role="dialog"]')
    page.get_by_role("button", name="Red disk", exact=True).click()
    page.get_by_role("button", name="Soft hills", exact=True).click()
    wait_for_whole(page)
    found += violations(page)
    page.set_viewport_size({"width": 700, "height": 900})
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= 700
    page.set_viewport_size({"width": 1280, "height": 800})
    assert found == []


def test_two_windows_fill_one_plan_each_for_itself(shelf: Hands) -> None:
    page = shelf.page
    to_plan(shelf, "postcard")
    choose(page, "A photo", "Soft hills")
    other = page.context.new_page()
    other.goto(page.url)

    expect(free(other, "A photo")).to_be_visible()
    choose(other, "A photo", "Soft wood")
    for one in (page, other):
        one.get_by_role("button", name="Go on at the desk").click()
        one.wait_for_url("**/desk/**")
    assert page.url != other.url
    other.close()
