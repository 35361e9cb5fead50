"""The Finish page: purposes, what is seen there, and files that leave by it."""

from __future__ import annotations

import json
import re
import time
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.test_access import violations
from tests.pdfs import pdf_facts

if TYPE_CHECKING:
    from collections.abc import Callable
    from pathlib import Path

    from playwright.sync_api import Browser, Page

    from tests.browser.hands import Hands

SIDE = "[aria-label='The file']"


@pytest.fixture
def poster(hands: Hands, photo: Any) -> Any:
    return hands.begin(photo("forest-dusk"), photo("lantern-glow"))


def open_finish(hands: Hands, project: Any, purpose: str = "my own…") -> Page:
    page = hands.page
    page.goto(f"{hands.product.address}/finish/{project['id']}")
    page.get_by_role("radio", name=purpose).click()
    return page


def file_row(page: Page) -> str:
    """Wait until the file is measured, and return what is said of it."""
    row = page.locator("dt:text-is('File') + dd")
    expect(row).to_contain_text(re.compile(r"[kM]B"))
    return row.inner_text()


def test_size_is_told_before_it_is_saved_and_is_the_file_s_own(
    hands: Hands, poster: Any, tmp_path: Path
) -> None:
    page = open_finish(hands, poster, "for a web page")
    told = file_row(page)

    with page.expect_download() as download:
        page.get_by_role("button", name="Save the WebP").click()
    download.value.save_as(tmp_path / "saved.webp")

    size = (tmp_path / "saved.webp").stat().st_size
    assert f"{size / 1000:.1f} kB".replace(".0 kB", " kB") in told
    with Image.open(tmp_path / "saved.webp") as saved:
        assert saved.size == (900, 600)


def test_what_is_changed_is_remembered_for_that_purpose_and_can_be_set_back(
    hands: Hands, poster: Any
) -> None:
    page = open_finish(hands, poster, "for a slide")
    page.get_by_role("button", name="Format").click()
    page.get_by_role("option", name="JPEG, small").click()
    expect(page.get_by_role("button", name="as it was at first")).to_be_visible()

    page.reload()
    page.get_by_role("radio", name="for a slide").click()
    expect(page.get_by_role("button", name="Save the JPEG")).to_be_visible()
    page.get_by_role("button", name="as it was at first").click()

    expect(page.get_by_role("button", name="Save the PNG")).to_be_visible()


def test_part_is_drawn_on_the_picture_by_pointer_and_keys(
    hands: Hands, poster: Any, tmp_path: Path
) -> None:
    page = open_finish(hands, poster)
    page.get_by_role("button", name="the whole picture").click()
    page.get_by_role("radio", name="A part of the sheet").click()
    box = page.get_by_label("The part that is saved").bounding_box()
    assert box
    scale = box["width"] / (900 * 0.8)

    corner = box["x"] + box["width"] - 4, box["y"] + box["height"] - 4
    page.mouse.move(*corner)
    page.mouse.down()
    page.mouse.move(corner[0] - 360 * scale, corner[1] - 240 * scale, steps=4)
    page.mouse.up()
    page.get_by_role("button", name="Its left", exact=True).focus()
    page.keyboard.press("Shift+ArrowRight")

    pixels = page.locator("dt:text-is('Pixels') + dd")
    expect(pixels).to_contain_text("350 × 240")
    with page.expect_download() as download:
        page.get_by_role("button", name="Save the PNG").click()
    download.value.save_as(tmp_path / "part.png")
    with Image.open(tmp_path / "part.png") as saved:
        assert abs(saved.width - 350) <= 1
        assert abs(saved.height - 240) <= 1


def test_single_pixels_are_looked_at_by_keys_as_they_are_written(
    hands: Hands, poster: Any
) -> None:
    page = open_finish(hands, poster)
    glass = page.get_by_role("group", name="Single pixels")
    first = glass.locator("img")
    expect(first).to_be_visible()
    before = first.get_attribute("src")

    glass.focus()
    page.keyboard.press("ArrowRight")
    expect(first).not_to_have_attribute("src", str(before))
    page.get_by_role("button", name="pixel for pixel").click()

    whole = page.get_by_label("The file pixel for pixel").locator("img")
    expect(whole).to_be_visible()
    width = whole.evaluate("(image) => image.naturalWidth")
    assert 860 <= width <= 900


def test_picture_goes_to_the_clipboard(hands: Hands, poster: Any) -> None:
    page = open_finish(hands, poster)
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])

    page.get_by_role("button", name="Copy the picture").click()
    expect(page.get_by_text("The picture is on the clipboard.")).to_be_visible()

    size = page.evaluate(
        """async () => {
          const [item] = await navigator.clipboard.read();
          const picture = await createImageBitmap(await item.getType("image/png"));
          return [picture.width, picture.height];
        }"""
    )
    assert size == [900, 600]


def test_comparing_page_works_without_a_network_by_pointer_and_keys(
    hands: Hands, poster: Any, tmp_path: Path
) -> None:
    page = open_finish(hands, poster)
    page.get_by_role("button", name="the whole picture").click()
    page.get_by_role("radio", name="Before and after").click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Save the page").click()
    file = tmp_path / "pair.html"
    download.value.save_as(file)
    expect(page.get_by_label("What a page shows it by")).to_have_value(
        re.compile(r"<iframe src=\"\w+.*\.html\"")
    )

    alone = alone_with(page.context.browser, file)
    slider = alone.get_by_role("slider")
    expect(slider).to_have_value("50")
    box = alone.locator(".pair").bounding_box()
    assert box
    alone.mouse.move(box["x"] + box["width"] / 2, box["y"] + 50)
    alone.mouse.down()
    alone.mouse.move(box["x"] + box["width"] / 4, box["y"] + 60, steps=3)
    alone.mouse.up()
    expect(slider).to_have_value("25")
    alone.keyboard.press("ArrowRight")

    expect(slider).to_have_value("26")
    shown = alone.locator(".before").evaluate(
        "(image) => getComputedStyle(image).clipPath"
    )
    assert "74%" in shown
    alone.context.close()


def alone_with(browser: Browser | None, file: Path) -> Page:
    """Open a file in a window without a network; nothing may be told of it."""
    assert browser is not None
    context = browser.new_context(offline=True)
    alone = context.new_page()
    told: list[str] = []
    alone.on("console", lambda message: told.append(message.text))
    alone.goto(file.as_uri())
    assert told == []
    return alone


def test_several_pictures_leave_in_one_file(
    hands: Hands, photo: Any, tmp_path: Path
) -> None:
    for one in ("forest-dusk", "lantern-glow"):
        hands.begin(photo(one))
    hands.open_wall()
    page = hands.page
    page.get_by_role("button", name="Finish several…").click()
    page.get_by_role("button", name="Choose all").click()
    page.get_by_role("button", name="As what").click()
    page.get_by_role("option", name="pages of one PDF").click()

    with page.expect_download(timeout=60_000) as download:
        page.get_by_role("button", name="Save them").click()
    download.value.save_as(tmp_path / "all.pdf")

    assert int(pdf_facts(tmp_path / "all.pdf")["Pages"]) >= 2


def test_purpose_is_handed_on_and_brought_in(
    hands: Hands, poster: Any, tmp_path: Path
) -> None:
    page = open_finish(hands, poster, "for a message")
    with page.expect_download() as download:
        page.get_by_role("button", name="hand it on").click()
    file = tmp_path / "purpose.json"
    download.value.save_as(file)
    told = json.loads(file.read_text())
    told["name"] = "for the club's paper"
    file.write_text(json.dumps(told))

    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="bring one in").click()
    chooser.value.set_files(str(file))
    own = page.get_by_role("radio", name="for the club's paper")
    expect(own).to_be_checked()
    page.get_by_role("button", name="Take it away").click()

    expect(own).to_have_count(0)


def test_finish_page_is_free_of_violations(hands: Hands, poster: Any) -> None:
    page = open_finish(hands, poster, "for a print shop")
    file_row(page)
    found = {"whole": violations(page)}
    for word in ("quality 95", "no bleed|3 mm bleed", "coated paper", "unsigned"):
        page.get_by_role("button", name=re.compile(word)).first.click()
        found[word] = violations(page, SIDE)
    page.get_by_role("button", name="the whole picture").click()
    page.get_by_role("radio", name="A part of the sheet").click()
    found["part"] = violations(page)

    assert {view: what for view, what in found.items() if what} == {}


def test_held_key_shows_the_printer_s_colours(hands: Hands, poster: Any) -> None:
    green = {"kind": "tint_sheet", "background": "#00ff00"}
    state = hands.edit(poster, **green)
    for layer in state["composite"]["layers"]:
        state = hands.edit(
            state, kind="show_layer", layer_id=layer["id"], visible=False
        )
    hands.open_desk(state)
    before = hands.shown()
    middle = before.shape[0] // 2, before.shape[1] // 2
    assert before[middle][1] > 250

    hands.page.get_by_role("application").focus()
    hands.page.keyboard.down("q")
    # No ink is as green as a screen.
    assert is_soon(lambda: hands.shown()[middle][1] < 200)
    hands.page.keyboard.up("q")

    assert is_soon(
        lambda: np.abs(hands.shown()[middle].astype(int) - before[middle]).max() <= 2
    )


def is_soon(shows: Callable[[], bool]) -> bool:
    """Look again and again whether something shows; False where it never does."""
    until = time.monotonic() + 20
    while not shows():
        if time.monotonic() > until:
            return False
    return True
