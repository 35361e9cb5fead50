"""Two windows, lost connections and killed servers."""

from __future__ import annotations

import shutil
from typing import TYPE_CHECKING, Any

import numpy as np
from playwright.sync_api import expect

from tests.browser.hands import Hands

if TYPE_CHECKING:
    from collections.abc import Callable
    from pathlib import Path

    from playwright.sync_api import BrowserContext, Request, Route

    from tests.product import Product


def at_desk(
    context: BrowserContext, product: Product, photos: Path
) -> tuple[Hands, Any]:
    """Begin a picture with one photo, and open it in a window of its own."""
    hands = Hands(context.new_page(), product)
    state = hands.begin(photos / "forest-dusk.jpg")
    hands.open_desk(state)
    return hands, state


def lose_service(product: Product) -> None:
    """Kill the service, and what would start it again."""
    product.kill_launcher()
    product.kill()


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
    hands, state = at_desk(watched_context, own_product, demo_photos)
    hands.open_layer("Forest dusk")

    lose_service(own_product)
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


def test_opening_a_desk_asks_for_each_frame_once(
    watched_context: BrowserContext, shared_product: Product, demo_photos: Path
) -> None:
    hands = Hands(watched_context.new_page(), shared_product)
    state = hands.begin(demo_photos / "forest-dusk.jpg")
    asked: list[Request] = []
    hands.page.on("request", lambda request: asked.append(request))

    hands.open_desk(state)
    # Once notices come, the page asks what it missed before they did.
    address = f"/api/projects/{state['id']}"
    wait_for_page(hands, lambda: sum(one.url.endswith(address) for one in asked) > 1)
    hands.page.wait_for_timeout(300)
    hands.settle()

    bodies = [one.post_data_json for one in asked if one.url.endswith("/frame")]
    assert [body["view"]["fineness"] for body in bodies] == ["fine", "exact"]


def test_a_view_chosen_without_a_connection_is_shown_once_there_is_one(
    watched_context: BrowserContext, own_product: Product, demo_photos: Path
) -> None:
    hands, state = at_desk(watched_context, own_product, demo_photos)
    lose_service(own_product)
    with hands.page.expect_event(
        "requestfailed", lambda request: request.url.endswith("/frame")
    ):
        hands.page.keyboard.press("+")

    with hands.page.expect_response(
        lambda answer: answer.url.endswith("/frame") and answer.ok, timeout=60_000
    ):
        own_product.start()

    fresh = Hands(watched_context.new_page(), own_product)
    fresh.open_desk(state)
    fresh.page.keyboard.press("+")
    # Only then does the stage know that it has something else to show.
    fresh.page.evaluate("() => new Promise(requestAnimationFrame)")
    assert np.array_equal(hands.shown(), fresh.shown())


def test_what_waits_outlives_the_window(
    watched_context: BrowserContext, own_product: Product, demo_photos: Path
) -> None:
    hands, state = at_desk(watched_context, own_product, demo_photos)
    hands.open_layer("Forest dusk")
    lose_service(own_product)
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
    hands, _ = at_desk(watched_context, own_product, demo_photos)

    shutil.rmtree(own_product.home / "cache")
    hands.page.reload()

    shown = hands.shown()
    assert shown.std() > 20


def type_across(hands: Hands, value: int) -> None:
    box = hands.page.get_by_role("textbox", name="Across", exact=True)
    box.fill(str(value))
    box.press("Enter")


def test_two_windows_without_a_connection_keep_a_queue_each(
    watched_context: BrowserContext, own_product: Product, demo_photos: Path
) -> None:
    here = Hands(watched_context.new_page(), own_product)
    there = Hands(watched_context.new_page(), own_product)
    state = here.begin(demo_photos / "forest-dusk.jpg")
    for hands in (here, there):
        hands.open_desk(state)
        hands.open_layer("Forest dusk")
    lose_service(own_product)

    type_across(here, 111)
    type_across(there, 222)
    type_across(here, 333)
    there.page.close()
    own_product.start()
    here.settle()
    # What the closed window left behind is sent by the next one.
    again = Hands(watched_context.new_page(), own_product)
    again.open_desk(state)
    expect(again.page.get_by_role("slider", name="History")).to_be_visible()
    again.settle()

    history = own_product.get(f"/api/projects/{state['id']}/history")
    assert len(history["ticks"]) == 2 + 3
    assert history["other_ways"] == []


def test_answer_for_a_desk_that_was_left_does_not_show_on_the_next(
    watched_context: BrowserContext, shared_product: Product, demo_photos: Path
) -> None:
    hands = Hands(watched_context.new_page(), shared_product)
    first = hands.begin(demo_photos / "forest-dusk.jpg")
    second = hands.begin(demo_photos / "moths-on-white.jpg")
    hands.open_desk(first)
    hands.open_layer("Forest dusk")
    held: list[Route] = []
    edits = f"**/projects/{first['id']}/edits"
    hands.page.route(edits, lambda route: held.append(route))

    type_across(hands, 321)
    hands.page.get_by_role("link", name="Wall").click()
    hands.page.get_by_role("link", name=second["name"]).click()
    hands.settle()
    wait_for_page(hands, lambda: len(held) == 1)
    held[0].continue_()
    wait_for_page(hands, lambda: place_of(hands, first)["x"] == 321)
    hands.page.wait_for_timeout(300)

    assert hands.sentences()[0].startswith("Moths on white")
    expect(hands.page.get_by_role("button", name=second["name"])).to_be_visible()


def place_of(hands: Hands, state: dict) -> dict:
    return hands.saved(state)["composite"]["layers"][0]["placement"]


def wait_for_page(hands: Hands, holds: Callable[[], bool]) -> None:
    for _ in range(200):
        if holds():
            return
        hands.page.wait_for_timeout(50)
    raise AssertionError


def test_change_that_the_service_fails_at_is_parked_with_a_way_out(
    watched_context: BrowserContext, shared_product: Product, demo_photos: Path
) -> None:
    hands, state = at_desk(watched_context, shared_product, demo_photos)
    hands.open_layer("Forest dusk")
    failing = f"**/projects/{state['id']}/edits"
    hands.page.route(failing, lambda route: route.fulfill(status=500, body="{}"))

    type_across(hands, 99)
    type_across(hands, 98)
    note = hands.page.get_by_role("alert")
    expect(note).to_contain_text("A change could not be saved", timeout=20_000)
    expect(note).to_contain_text("1 later change waiting behind it")
    note.get_by_role("button", name="Save a copy…").click()
    with hands.page.expect_download() as saving:
        hands.page.get_by_role("button", name="Save the ").click()
    assert saving.value.suggested_filename.endswith(".webp")
    # What waits is kept meanwhile.
    hands.page.get_by_role("link", name="Desk").click()
    expect(note).to_contain_text("1 later change waiting behind it", timeout=20_000)
    hands.page.unroute(failing)
    note.get_by_role("button", name="Leave this change out").click()
    hands.settle()

    expect(note).to_have_count(0)
    history = shared_product.get(f"/api/projects/{state['id']}/history")
    assert place_of(hands, state)["x"] == 98
    assert len(history["ticks"]) == 3


def test_eight_windows_of_one_browser_work_side_by_side(
    watched_context: BrowserContext, shared_product: Product, demo_photos: Path
) -> None:
    windows = [Hands(watched_context.new_page(), shared_product) for _ in range(8)]
    state = windows[0].begin(demo_photos / "forest-dusk.jpg")
    for hands in windows:
        hands.open_desk(state)

    windows[-1].open_layer("Forest dusk", "Blend")
    windows[-1].type_number("Strength, exact", 40)

    for hands in windows:
        expect(hands.pile).to_contain_text("40")
        hands.settle()
    windows[0].page.close()
    windows[-1].type_number("Strength, exact", 70)
    expect(windows[1].pile).to_contain_text("70")
