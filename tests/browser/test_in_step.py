"""Two windows, lost connections and killed servers."""

from __future__ import annotations

import shutil
from typing import TYPE_CHECKING

from playwright.sync_api import expect

from tests.browser.hands import Hands

if TYPE_CHECKING:
    from pathlib import Path

    from playwright.sync_api import BrowserContext

    from tests.product import Product


def test_two_windows_on_one_picture_stay_in_step(
    watched_context: BrowserContext, shared_product: Product, demo_photos: Path
) -> None:
    here = Hands(watched_context.new_page(), shared_product)
    there = Hands(watched_context.new_page(), shared_product)
    state = here.begin(demo_photos / "forest-dusk.jpg")
    here.open_desk(state)
    there.open_desk(state)

    here.open_layer("Forest dusk", "Blend")
    here.type_number("Strength, exact", 60)
    expect(there.pile).to_contain_text("60")
    there.open_layer("Forest dusk", "Place")
    there.type_number("Across", 123)
    expect(here.page.get_by_role("list", name="Layers")).to_be_visible()
    here.settle()

    layer = here.saved(state)["composite"]["layers"][0]
    assert layer["opacity"] == 0.6
    assert layer["placement"]["x"] == 123
    assert here.sentences() == there.sentences()


def test_edits_made_without_a_connection_wait_and_are_sent(
    watched_context: BrowserContext, own_product: Product, demo_photos: Path
) -> None:
    hands = Hands(watched_context.new_page(), own_product)
    state = hands.begin(demo_photos / "forest-dusk.jpg")
    hands.open_desk(state)
    hands.open_layer("Forest dusk")

    own_product.kill_launcher()
    own_product.kill()
    for label, value in [("Across", "321"), ("Turn", "9")]:
        box = hands.page.get_by_role("textbox", name=label, exact=True)
        box.fill(value)
        box.press("Enter")
    note = hands.page.get_by_role("status").filter(has_text="Connection lost")
    expect(note).to_contain_text("2 changes waiting here")
    own_product.start()

    hands.settle()
    placement = hands.saved(state)["composite"]["layers"][0]["placement"]
    assert (placement["x"], placement["turn"]) == (321, 9)
    history = own_product.get(f"/api/projects/{state['id']}/history")
    assert len(history["ticks"]) == 4


def test_what_waits_outlives_the_window(
    watched_context: BrowserContext, own_product: Product, demo_photos: Path
) -> None:
    hands = Hands(watched_context.new_page(), own_product)
    state = hands.begin(demo_photos / "forest-dusk.jpg")
    hands.open_desk(state)
    hands.open_layer("Forest dusk")
    own_product.kill_launcher()
    own_product.kill()
    box = hands.page.get_by_role("textbox", name="Across", exact=True)
    box.fill("77")
    box.press("Enter")
    expect(
        hands.page.get_by_role("status").filter(has_text="1 change ")
    ).to_be_visible()
    hands.page.close()
    own_product.start()

    again = Hands(watched_context.new_page(), own_product)
    again.open_desk(state)
    expect(again.page.get_by_role("slider", name="History")).to_be_visible()
    again.settle()

    assert again.saved(state)["composite"]["layers"][0]["placement"]["x"] == 77


def test_picture_that_is_not_there_offers_the_way_back(hands: Hands) -> None:
    nowhere = "00000000-0000-4000-8000-000000000000"
    hands.page.goto(f"{hands.product.address}/desk/{nowhere}")

    expect(hands.page.get_by_role("alert")).to_be_visible()
    hands.page.get_by_role("link", name="Back to the wall").click()

    expect(hands.page.get_by_role("region", name="Start")).to_be_visible()


def test_derived_files_may_vanish_while_the_desk_is_open(
    watched_context: BrowserContext, own_product: Product, demo_photos: Path
) -> None:
    hands = Hands(watched_context.new_page(), own_product)
    state = hands.begin(demo_photos / "forest-dusk.jpg")
    hands.open_desk(state)

    shutil.rmtree(own_product.home / "cache")
    hands.page.reload()

    shown = hands.shown()
    assert shown.std() > 20
