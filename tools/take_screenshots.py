"""Takes the pictures of `docs/screenshots` from a demo that is running.

    ./glyphaneme demo --port 8765 --home FOLDER
    .venv/bin/python -m tools.take_screenshots http://127.0.0.1:8765 [NAME …]

The demo should be new: its pictures are shown as they lie there.
"""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from playwright.sync_api import expect, sync_playwright

if TYPE_CHECKING:
    from collections.abc import Callable

    from playwright.sync_api import Locator, Page

CHROMIUM = "/usr/bin/chromium"
PICTURES = Path(__file__).parents[1] / "docs/screenshots"
SIZE = {"width": 1280, "height": 800}
ASIDE = (640, 1)
RESTS_WITHIN_MS = 120_000
"""A new demo fills all that is mended in its old photo first."""
SLOWLY_DRAWN_MS = 2000
"""What no attribute tells: fonts, and strips that are being filled."""
ALL_LOADED = """() => [...document.images].every((image) =>
    !image.checkVisibility() ||
    image.getBoundingClientRect().top > innerHeight || image.naturalWidth > 0)"""


class Sitter:
    """A page that goes where its picture is taken."""

    def __init__(self, page: Page, address: str) -> None:
        self.page = page
        self.address = address

    @property
    def pile(self) -> Locator:
        """The layers, in words."""
        return self.page.get_by_role("region", name="The pile")

    def open_wall(self) -> None:
        """Go to where all pictures hang."""
        self.page.goto(self.address)
        expect(self.page.get_by_role("region", name="Start")).to_be_visible()

    def open_picture(self, name: str) -> None:
        """Take a picture from the wall to the desk."""
        self.open_wall()
        self.page.get_by_role("link", name=name).first.click()
        self.rest()

    def rest(self) -> None:
        """Take the hand away, and wait until the stage shows its last frame."""
        self.page.mouse.move(*ASIDE)
        surface = self.page.get_by_test_id("surface")
        expect(surface).to_have_attribute("aria-busy", "false", timeout=RESTS_WITHIN_MS)

    def open_layer(self, picture: str, layer: str, facet: str) -> None:
        """Open a facet of a picture's layer."""
        self.open_picture(picture)
        self.pile.get_by_role("button", name=layer, exact=True).click()
        self.open_facet(facet)

    def open_facet(self, facet: str) -> None:
        """Open a facet of the layer that is open."""
        named = self.pile.locator("button[aria-expanded]").filter(has_text=facet).first
        if named.get_attribute("aria-expanded") != "true":
            named.click()
        self.rest()

    def press(self, word: str) -> None:
        """Press a word of the pile; the last one where it stands more than once."""
        self.pile.get_by_role("button", name=word, exact=True).last.click()
        self.rest()


def wall(sitter: Sitter) -> None:
    """Show where finished and begun pictures hang."""
    sitter.open_wall()


def desk(sitter: Sitter) -> None:
    """Show the pile of sentences, the stage and the shelf."""
    sitter.open_layer("Season poster", "Puppet in profile", "Place")


def try_strip(sitter: Sitter) -> None:
    """Show a picture with each blend mode."""
    sitter.open_layer("Season poster", "Forest at dusk", "Blend")


def cut_out(sitter: Sitter) -> None:
    """Show a puppet without its backdrop, and other ways to find it."""
    sitter.open_layer("Twice on stage", "Puppet at the right", "Cut")
    last = sitter.page.get_by_role("option", name="All but its colour")
    expect(last).to_be_visible(timeout=RESTS_WITHIN_MS)


def cut(sitter: Sitter) -> None:
    """Show a recipe, a soft circle by its grips, and what is hidden hatched."""
    sitter.open_layer("Medallion", "Keeper", "Cut")
    sitter.press("a soft circle")


def finish(sitter: Sitter) -> None:
    """Show a page as it will be cut, in the printer's colours."""
    sitter.open_picture("Season poster")
    sitter.page.get_by_role("button", name="Finish…").click()
    sitter.page.get_by_role("radio", name="for a print shop").click()
    row = sitter.page.locator("dt:text-is('File') + dd")
    expect(row).to_contain_text("MB", timeout=RESTS_WITHIN_MS)


def brush(sitter: Sitter) -> None:
    """Show the brush over what it would hide."""
    sitter.open_layer("Puppet kit", "Kit", "Cut")
    sitter.press("by brush")
    sitter.page.mouse.move(790, 590)


def shadow(sitter: Sitter) -> None:
    """Show a shadow on the ground, dragged by where it falls."""
    sitter.open_layer("Puppet kit", "Kit", "Shadow")
    sitter.press("a shadow to the lower right")


def fade(sitter: Sitter) -> None:
    """Show a fade, dragged by its ends."""
    sitter.open_layer("Two skies", "Forest at dusk", "Fade")


def corners(sitter: Sitter) -> None:
    """Show a poster set into a frame on a wall by its four corners."""
    sitter.open_layer("Poster on the wall", "Stage", "Place")
    sitter.press("set into four corners: pull its corners")


def words(sitter: Sitter) -> None:
    """Show a title that is being typed, and tried in each font."""
    sitter.open_layer("Season poster", "‘Opening night’", "Words")
    sitter.page.get_by_role("button", name="Type on the stage").click()


def plan(sitter: Sitter) -> None:
    """Show a plan's page, filled."""
    page = sitter.page
    page.goto(f"{sitter.address}/plan/double-exposure")
    page.get_by_role("button", name="drop a photo, or choose one").first.click()
    for photo in ("Puppet profile studio", "Forest dusk"):
        page.get_by_role("button", name=photo, exact=True).first.click()
    whole = page.get_by_text("All of it is there.")
    expect(whole).to_be_visible(timeout=RESTS_WITHIN_MS)


def steps(sitter: Sitter) -> None:
    """Show the steps of a plan above its layers."""
    sitter.open_picture("Keeper and apprentice")
    region = sitter.page.get_by_role("region", name="Steps of")
    expect(region).to_be_visible(timeout=RESTS_WITHIN_MS)


def many(sitter: Sitter) -> None:
    """Show photos that a plan shall make a picture each of."""
    page = sitter.page
    page.goto(f"{sitter.address}/plan/product-on-white/many")
    page.get_by_role("button", name="Of the shelf or the library…").click()
    for photo in ("Puppet kit box", "Puppet facing left", "Puppet profile studio"):
        page.get_by_role("button", name=photo, exact=True).first.click()
    page.keyboard.press("Escape")


def versions(sitter: Sitter) -> None:
    """Show two versions of the poster under a divider."""
    sitter.open_wall()
    sitter.page.get_by_role("link", name="2 versions").first.click()
    expect(sitter.page.get_by_role("region", name="Comparing")).to_be_visible()


def library(sitter: Sitter) -> None:
    """Show the library on the open shelf."""
    sitter.open_picture("Evening postcard")
    sitter.page.keyboard.press("s")
    sitter.page.get_by_role("button", name="What the shelf shows").click()
    sitter.page.get_by_role("option", name="the library").click()


def levels(sitter: Sitter) -> None:
    """Show three handles beneath the histogram, and tones to begin with."""
    sitter.open_layer("Two skies", "Brought back", "Tone")
    untouched = "levels as they are"
    laid = sitter.pile.get_by_role("button", name=untouched, exact=True).count()
    sitter.press(untouched if laid else "levels")


def match(sitter: Sitter) -> None:
    """Show a puppet matched to the stage, with ways to try and both histograms."""
    sitter.open_layer("Twice on stage", "Puppet at the right", "Tone")
    sitter.press("matched to Stage")


def mend(sitter: Sitter) -> None:
    """Show an old photo, mended and painted with colour."""
    sitter.open_picture("Old keeper, in colour")
    names = sitter.pile.get_by_role("button", name="Keeper", exact=True)
    names.first.click()
    names.last.click()
    sitter.open_facet("Cut")
    sitter.press("Mend")
    sitter.pile.get_by_role("button", name="a scratch, 13 px").last.click()


VIEWS: tuple[Callable[[Sitter], None], ...] = (
    *(wall, desk, try_strip, cut_out, cut, finish, brush, shadow, fade, corners),
    *(plan, steps, many, versions, library, levels, match, words, mend),
)


def main() -> None:
    """Take all pictures, or those that are named."""
    names = {view.__name__.replace("_", "-"): view for view in VIEWS}
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("address", help="of the running demo")
    parser.add_argument("views", nargs="*", choices=[*names, []], help="all if none")
    parser.add_argument("--folder", type=Path, default=PICTURES)
    options = parser.parse_args()
    flags = ["--disable-gpu", "--no-sandbox", "--force-color-profile=srgb"]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=flags)
        for name in options.views or names:
            page = browser.new_page(viewport=SIZE)
            names[name](Sitter(page, options.address))
            page.wait_for_function(ALL_LOADED)
            page.wait_for_timeout(SLOWLY_DRAWN_MS)
            page.screenshot(path=options.folder / f"{name}.png")
            page.close()
        browser.close()


if __name__ == "__main__":
    main()
