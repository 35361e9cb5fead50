"""Every view, in both themes, passes axe and works without a pointer."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any, Literal

import pytest
from playwright.sync_api import expect

if TYPE_CHECKING:
    from playwright.sync_api import Page

    from tests.browser.hands import Hands

AXE = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
WCAG = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
SCHEMES: dict[Literal["light", "dark"], dict[str, Any]] = {
    "light": {"type": "tag", "values": WCAG},
    "dark": {"type": "rule", "values": ["color-contrast"]},
}


PILE = '[aria-label="The pile"]'
DIALOG = '[role="dialog"]'


def violations(page: Page, within: str = "html") -> list[str]:
    """Return what axe finds by day, and how its colours contrast by night.

    The two themes differ in colours alone. What was looked at before need not be again.
    """
    # Some open as soon as they have come from the server.
    page.locator(within).first.wait_for()
    page.evaluate(AXE.read_text())
    found = []
    for scheme, only in SCHEMES.items():
        page.emulate_media(color_scheme=scheme)
        told: Any = page.evaluate(
            "([within, only]) => axe.run(within, { runOnly: only })", [within, only]
        )
        found += [
            f"{scheme}: {one['id']}: {node['html'][:160]} {node['any'][:1]}"
            for one in told["violations"]
            for node in one["nodes"]
        ]
    page.emulate_media(color_scheme="light")
    return found


@pytest.fixture
def project(hands: Hands, demo_photos: Path) -> Any:
    return hands.begin(
        demo_photos / "forest-dusk.jpg", demo_photos / "lantern-glow.jpg"
    )


def test_every_view_is_free_of_violations(hands: Hands, project: Any) -> None:
    page = hands.page
    hands.open_wall()
    expect(page.get_by_role("list", name="Your pictures")).to_be_visible()
    found = {"wall": violations(page)}

    hands.open_desk(project)
    found["desk"] = violations(page)
    hands.open_layer("Lantern glow", "Place")
    found["place"] = violations(page, PILE)
    hands.open_layer("Lantern glow", "Blend")
    hands.settle()
    found["blend"] = violations(page, PILE)
    hands.open_layer("Lantern glow", "Fade")
    page.get_by_role("option", name="All sides").click()
    hands.settle()
    found["fade"] = violations(page, PILE)
    hands.open_layer("Lantern glow", "Tone")
    for tone in ("light", "levels", "a curve", "one hue alone", "black and white"):
        hands.pile.get_by_role("button", name=tone, exact=True).click()
        hands.settle()
        found[tone] = violations(page, PILE)
    hands.open_layer("Lantern glow", "Cut")
    page.get_by_role("button", name="a circle").click()
    page.get_by_role("button", name="in the middle", exact=True).click()
    hands.settle()
    page.get_by_role("button", name="by brush").click()
    found["cut"] = violations(page, PILE)
    page.get_by_role("application").dispatch_event("contextmenu")
    expect(page.get_by_role("option", name="Forest dusk")).to_be_visible()
    found["fan"] = violations(page)
    page.keyboard.press("Escape")
    hands.pile.get_by_role("button", name="900 × 600 px").click()
    page.keyboard.press("s")
    expect(page.get_by_role("button", name="Lay on Forest dusk")).to_be_visible()
    found["sheet and shelf"] = violations(page)
    page.get_by_role("button", name="Keyboard map").click()
    found["map"] = violations(page, DIALOG)
    page.get_by_role("button", name="Close", exact=True).click()
    assert {view: what for view, what in found.items() if what} == {}


def test_words_and_all_that_sets_them_are_free_of_violations(
    hands: Hands, project: Any
) -> None:
    page = hands.page
    hands.open_desk(project)
    hands.pile.get_by_role("button", name="words", exact=True).click()
    page.keyboard.type("Opening night")
    hands.settle()
    found = {"typing": violations(page)}
    page.keyboard.press("Escape")
    for line in ("straight", "inked with one colour", "without an outline"):
        hands.pile.get_by_role("button", name=line, exact=True).click()
        found[line] = violations(page, PILE)
    hands.pile.get_by_role("button", name="without a panel", exact=True).click()
    page.get_by_text("A panel behind the words").click()
    hands.settle()
    found["panel"] = violations(page, PILE)

    assert {view: what for view, what in found.items() if what} == {}


def test_what_matches_mends_and_throws_shadows_is_free_of_violations(
    hands: Hands, project: Any
) -> None:
    page = hands.page
    hands.open_desk(project)
    hands.open_layer("Lantern glow", "Tone")
    found = {}
    hands.pile.get_by_role("button", name="Match it to").click()
    page.get_by_role("option", name="what lies behind").click()
    expect(hands.pile).to_contain_text("This should look like that")
    hands.settle()
    found["match"] = violations(page, PILE)
    hands.open_layer("Lantern glow", "Shadow")
    for effect in ("a shadow on the ground", "an outline"):
        hands.pile.get_by_role("button", name=effect, exact=True).click()
        hands.settle()
        found[effect] = violations(page, PILE)
    hands.open_layer("Lantern glow", "Cut")
    hands.pile.get_by_role("button", name="Mend", exact=True).click()
    page.mouse.click(*hands.on_stage(project, 450, 300))
    hands.settle()
    page.get_by_role("list", name="Mended places").get_by_role("button").click()
    found["mend"] = violations(page, PILE)

    assert {view: what for view, what in found.items() if what} == {}


def test_what_shapes_chooses_and_lines_up_is_free_of_violations(
    hands: Hands, project: Any
) -> None:
    page = hands.page
    hands.open_desk(project)
    hands.open_layer("Lantern glow", "Place")
    found = {}
    for word in ("crop the photo", "pull its corners", "bend it by a grid"):
        hands.pile.get_by_role("button", name=word).click()
        found[word] = violations(page, PILE)
    hands.pile.get_by_role("button", name="Line it up").click()
    page.get_by_role("button", name="What it is lined up by").click()
    page.get_by_role("option", name="points matched by hand").click()
    page.get_by_role("button", name="Add a place by numbers").click()
    found["points"] = violations(page)
    hands.do("Lantern glow", "Same place, other photo…")
    others = page.get_by_role("menu", name="Same place, other photo…")
    expect(others.get_by_role("menuitem").first).to_be_visible()
    found["other photos"] = violations(page)
    page.keyboard.press("Escape")
    hands.do("Lantern glow", "Choose with others")
    hands.open_layer("Forest dusk", "Place")
    hands.do("Forest dusk", "Choose with others")
    expect(page.get_by_text("2 layers chosen")).to_be_visible()
    found["chosen"] = violations(page, PILE)

    assert {view: what for view, what in found.items() if what} == {}


def test_picture_is_begun_and_saved_without_a_pointer(hands: Hands) -> None:
    hands.open_wall()
    page = hands.page
    page.keyboard.press("Tab")
    for _ in range(40):
        if page.evaluate("document.activeElement.textContent") == "Begin":
            break
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.wait_for_url("**/desk/*")
    hands.settle()

    for _ in range(60):
        if page.evaluate("document.activeElement.textContent") == "Finish…":
            break
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.wait_for_url("**/finish/*")
    page.get_by_role("button", name="Save the WebP").focus()
    with page.expect_download() as download:
        page.keyboard.press("Enter")

    assert download.value.suggested_filename.endswith(".webp")


def test_keyboard_map_opens_and_closes_by_keys(hands: Hands, project: Any) -> None:
    hands.open_desk(project)

    hands.page.keyboard.press("?")
    expect(hands.page.get_by_role("dialog", name="What the keys do")).to_be_visible()
    hands.page.keyboard.press("Escape")

    expect(hands.page.get_by_role("dialog")).to_have_count(0)


def test_try_strip_is_one_stop_for_tab_and_arrow_keys_go_through_it(
    hands: Hands, project: Any
) -> None:
    hands.open_desk(project)
    hands.open_layer("Lantern glow", "Blend")
    strip = hands.page.get_by_role("listbox", name="Try each blend mode")
    expect(strip.get_by_role("option", name="Normal")).to_have_attribute(
        "aria-selected", "true"
    )

    strip.get_by_role("option", name="Normal").focus()
    hands.page.keyboard.press("ArrowRight")
    hands.page.keyboard.press("Enter")
    hands.settle()
    taken = strip.get_by_role("option", selected=True)
    expect(taken).to_be_focused()
    mode = taken.inner_text()
    hands.page.keyboard.press("Tab")

    assert mode != "Normal"
    assert strip.locator(":focus").count() == 0
    layers = hands.saved(project)["composite"]["layers"]
    assert layers[1]["blend"] == mode.lower().replace(" ", "-")


def test_letters_go_on_working_after_clicks_beside_the_work(
    hands: Hands, project: Any
) -> None:
    page = hands.page
    hands.open_desk(project)
    page.keyboard.press("s")
    page.get_by_role("button", name="Lay on Lantern glow").first.click()
    hands.settle()

    page.keyboard.press("s")
    page.keyboard.press("b")
    page.get_by_role("option", name="Screen").click()
    page.keyboard.press("p")
    expect(hands.facet("Place")).to_have_attribute("aria-expanded", "true")
    hands.pile.get_by_role("button", name="pixels and %").click()
    page.keyboard.press("Escape")
    page.keyboard.press("c")
    expect(hands.facet("Cut")).to_have_attribute("aria-expanded", "true")
    page.keyboard.press("p")

    # Not the centimetres that begin with the letter.
    expect(hands.pile.get_by_role("button", name="pixels and %")).to_be_visible()
    hands.settle()
    assert hands.saved(project)["composite"]["layers"][-1]["blend"] == "screen"


def test_number_of_the_sheet_keeps_the_focus_while_it_is_changed(
    hands: Hands, project: Any
) -> None:
    hands.open_desk(project)
    hands.pile.get_by_role("button", name="900 × 600 px").click()
    box = hands.page.get_by_role("textbox", name="Prints at")

    box.fill("300")
    box.press("Enter")
    hands.settle()

    expect(box).to_be_focused()
    assert hands.saved(project)["composite"]["canvas"]["ppi"] == 300


def test_versions_are_free_of_violations(hands: Hands, project: Any) -> None:
    page = hands.page
    hands.open_desk(project)
    page.get_by_role("button", name="Name this moment").click()
    page.get_by_role("textbox", name="How it is now shall be called").fill("Begun")
    found = {"names": violations(page, DIALOG)}
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="This moment: Begun")).to_be_visible()
    hands.open_layer("Lantern glow")
    page.keyboard.press("o")
    hands.settle()
    page.goto(f"{hands.product.address}/versions/{project['id']}")
    expect(page.get_by_role("slider")).to_be_attached()
    found["versions"] = violations(page)

    assert {view: what for view, what in found.items() if what} == {}


def test_the_shelf_and_what_it_tells_are_free_of_violations(
    hands: Hands, project: Any
) -> None:
    page = hands.page
    hands.open_desk(project)
    page.keyboard.press("s")
    page.get_by_role("button", name="About Lantern glow").first.click()
    found = {"about": violations(page, DIALOG)}
    page.keyboard.press("Escape")
    page.get_by_role("button", name="What the shelf shows").click()
    page.get_by_role("option", name="the library").click()
    expect(page.get_by_role("button", name="Lay on Old boards")).to_be_visible()
    found["library"] = violations(page)
    page.keyboard.press("Escape")
    page.keyboard.press("s")
    hands.open_layer("Lantern glow")
    page.get_by_role("button", name="Line it up").click()
    page.get_by_role("button", name="drag a divider").click()
    expect(page.get_by_role("slider", name="Divider")).to_be_attached()
    found["divider"] = violations(page)

    assert {view: what for view, what in found.items() if what} == {}


def test_theme_is_the_systems_until_one_is_chosen_in_any_window(hands: Hands) -> None:
    page = hands.page
    hands.open_wall()
    other = page.context.new_page()
    other.goto(hands.product.address)
    shown = page.locator("html")

    page.emulate_media(color_scheme="dark")
    expect(shown).to_have_attribute("data-theme", "night")
    page.get_by_role("button", name="Day").click()
    expect(shown).to_have_attribute("data-theme", "day")
    expect(other.get_by_role("button", name="Night")).to_be_visible()
    other.get_by_role("button", name="Night").click()
    expect(shown).to_have_attribute("data-theme", "night")
    page.emulate_media(color_scheme="light")
    page.reload()

    expect(shown).to_have_attribute("data-theme", "night")
