"""Taking the background away on the desk: one click, rough strokes, ways, the walk."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.test_access import violations

if TYPE_CHECKING:
    from pathlib import Path

    from numpy.typing import NDArray
    from playwright.sync_api import Locator

    from tests.browser.hands import Hands

FOUND_WITHIN_MS = 60_000
"""A machine that others share takes its time."""
WIDTH, HEIGHT = 560, 700
WALL, CLOTH = (150, 170, 225), (170, 40, 30)
"""What the networks of these tests take for backdrop and for subject."""
GROUND = "#d02090"
GROUND_COLOR = (208, 32, 144)


def save_before_wall(path: Path, subject: NDArray[np.bool_]) -> Path:
    """Save a photo of something in red cloth before a pale blue wall."""
    pixels = np.where(subject[..., None], CLOTH, WALL)
    grain = np.random.default_rng(4).normal(0, 3, pixels.shape)
    Image.fromarray(np.clip(pixels + grain, 0, 255).astype(np.uint8)).save(path)
    return path


@pytest.fixture
def puppet(hands: Hands, tmp_path: Path) -> Any:
    """Open a desk with a puppet before a wall, over a sheet of a colour of its own."""
    row, column = np.mgrid[0:HEIGHT, 0:WIDTH]
    head = np.hypot(column - 280, row - 200) < 90
    coat = (row > 260) & (row < 620) & (abs(column - 300) < 60 + (row - 260) / 4)
    path = save_before_wall(tmp_path / "puppet-facing-left.png", head | coat)
    state = hands.begin(path, width=WIDTH, height=HEIGHT)
    state = hands.edit(state, kind="tint_sheet", background=GROUND)
    hands.open_desk(state)
    hands.open_layer("Puppet facing left", "Cut")
    return state


def mask(hands: Hands, state: Any) -> Any:
    hands.settle()
    return hands.saved(state)["composite"]["layers"][0]["mask"]


def take_away(hands: Hands) -> None:
    hands.page.get_by_role("button", name="Take the background away").click()
    found(hands, "its backdrop, found by itself")


def found(hands: Hands, words: str) -> None:
    expect(line(hands, words)).to_be_visible(timeout=FOUND_WITHIN_MS)
    still = {"name": "aria-busy", "value": "false", "timeout": FOUND_WITHIN_MS}
    expect(hands.surface).to_have_attribute(**still)
    hands.settle()


def line(hands: Hands, words: str) -> Locator:
    recipe = hands.pile.get_by_role("grid")
    return recipe.get_by_role("button", name=words, exact=True)


def is_ground(color: tuple[int, ...]) -> bool:
    return bool(np.abs(np.array(color) - GROUND_COLOR).max() <= 6)


def seen(hands: Hands, state: Any, x: float, y: float) -> tuple[int, ...]:
    """Return the colour at a position, without what is hatched over it."""
    hands.page.keyboard.press("p")
    hands.settle()
    color = hands.color_at(hands.on_stage(state, x, y))
    hands.page.keyboard.press("c")
    return color


def test_one_click_takes_the_background_away_for_good_and_not_for_ever(
    hands: Hands, puppet: Any
) -> None:
    page = hands.page

    take_away(hands)

    (part,) = mask(hands, puppet)["parts"]
    assert (part["kind"], part["join"], part["way"]) == ("matte", "take", "itself")
    assert mask(hands, puppet)["cleaned"] == 1
    assert hands.sentences()[0].startswith(
        "Puppet facing left, filling the picture, shown without its backdrop"
    )
    assert is_ground(seen(hands, puppet, 60, 60))
    assert not is_ground(seen(hands, puppet, 300, 420))
    page.keyboard.press("Control+z")
    assert mask(hands, puppet) is None
    page.keyboard.press("Control+Shift+z")
    page.reload()
    hands.settle()
    assert mask(hands, puppet)["parts"] == [part]
    # What was found once is there at once, also for another picture.
    hands.open_layer("Puppet facing left", "Cut")
    page.get_by_role("button", name="Show all of it again").click()
    assert mask(hands, puppet) is None
    page.keyboard.press("a")
    expect(line(hands, "its backdrop, found by itself")).to_be_visible(timeout=3000)
    hands.settle()
    # From any facet the key leads there, and takes nothing away twice.
    page.keyboard.press("p")
    page.keyboard.press("a")
    expect(line(hands, "its backdrop, found by itself")).to_be_visible()
    assert len(mask(hands, puppet)["parts"]) == 1


def test_each_way_can_be_tried_and_taken(hands: Hands, puppet: Any) -> None:
    strip = hands.page.get_by_role("listbox", name="Try each way to take")

    for title in ("By itself", "As one block", "All but its colour"):
        expect(strip.get_by_role("option", name=title)).to_be_visible(
            timeout=FOUND_WITHIN_MS
        )
    strip.get_by_role("option", name="As one block").click()

    found(hands, "its backdrop, as one block")
    (part,) = mask(hands, puppet)["parts"]
    assert part["way"] == "block"
    assert violations(hands.page) == []


@pytest.fixture
def moths(hands: Hands, tmp_path: Path) -> Any:
    """Open a desk with two moths on a pale wall, over a sheet of a colour."""
    row, column = np.mgrid[0:600, 0:800]
    wings = [np.hypot((column - middle) / 1.3, row - 300) < 90 for middle in (220, 580)]
    path = save_before_wall(tmp_path / "two-moths.png", wings[0] | wings[1])
    state = hands.begin(path, width=800, height=600)
    state = hands.edit(state, kind="tint_sheet", background=GROUND)
    hands.open_desk(state)
    hands.open_layer("Two moths", "Cut")
    return state


def paint(hands: Hands, state: Any, *points: tuple[float, float]) -> None:
    mouse = hands.page.mouse
    mouse.move(*hands.on_stage(state, *points[0]))
    mouse.down()
    for point in points[1:]:
        mouse.move(*hands.on_stage(state, *point), steps=6)
    mouse.up()


def test_rough_strokes_say_what_belongs_one_by_one(hands: Hands, moths: Any) -> None:
    page = hands.page
    take_away(hands)
    assert not is_ground(seen(hands, moths, 580, 300))

    page.keyboard.press("n")
    expect(page.get_by_text("Dropping what is roughly painted over")).to_be_visible()
    paint(hands, moths, (540, 300), (620, 300))
    found(hands, "its backdrop, found by itself, 1 rough stroke")
    paint(hands, moths, (580, 260), (580, 340))
    found(hands, "its backdrop, found by itself, 2 rough strokes")

    (part,) = mask(hands, moths)["parts"]
    first = part["hints"]["strokes"][0]
    assert first["keeps"] is False
    assert first["points"][0] == pytest.approx([540, 300], abs=3)
    assert is_ground(seen(hands, moths, 580, 300))
    assert not is_ground(seen(hands, moths, 220, 300))
    assert is_ground(seen(hands, moths, 400, 60))
    page.get_by_role("button", name="(take the last one back)").click()
    found(hands, "its backdrop, found by itself, 1 rough stroke")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    found(hands, "its backdrop, found by itself")
    assert not is_ground(seen(hands, moths, 580, 300))


def test_a_frame_is_dragged_round_what_is_meant_and_given_up(
    hands: Hands, moths: Any
) -> None:
    page = hands.page
    page.get_by_role("button", name="paint roughly over what is to stay").click()
    page.get_by_role("radio", name="Frame").click()

    paint(hands, moths, (430, 150), (740, 450))

    found(hands, "its backdrop, found by itself")
    (part,) = mask(hands, moths)["parts"]
    corners = [tuple(point) for point in part["hints"]["around"]]
    assert corners[0] == pytest.approx((430, 150), abs=3)
    assert corners[2] == pytest.approx((740, 450), abs=3)
    assert is_ground(seen(hands, moths, 220, 300))
    assert not is_ground(seen(hands, moths, 580, 300))
    again = page.get_by_role("button", name="(look everywhere again)")
    again.click()
    expect(again).to_have_count(0, timeout=FOUND_WITHIN_MS)
    hands.settle()
    assert not is_ground(seen(hands, moths, 220, 300))


@pytest.mark.usefixtures("moths")
def test_the_edge_is_walked_along_by_keys(hands: Hands) -> None:
    page = hands.page
    take_away(hands)
    before = hands.shown()

    page.keyboard.press("d")
    expect(page.get_by_text("Doubtful place 1 of")).to_be_visible()
    hands.settle()
    first = hands.shown()
    page.get_by_role("button", name="the next doubtful place").click()
    expect(page.get_by_text("Doubtful place 2 of")).to_be_visible()
    hands.settle()
    second = hands.shown()
    page.keyboard.press("Shift+D")
    hands.settle()

    assert (first != before).any()
    assert (second != first).any()
    assert np.abs(hands.shown().astype(int) - first).mean() < 1


def test_no_clear_subject_is_said_with_a_way_on(hands: Hands, tmp_path: Path) -> None:
    path = tmp_path / "plain-wall.png"
    Image.new("RGB", (400, 300), "#8090a0").save(path)
    state = hands.begin(path, width=400, height=300)
    hands.open_desk(state)
    hands.open_layer("Plain wall", "Cut")

    hands.page.keyboard.press("a")

    said = hands.page.get_by_text("No clear subject was found in Plain wall.")
    expect(said).to_be_visible(timeout=FOUND_WITHIN_MS)
    assert mask(hands, state) is None
    hands.page.get_by_role("button", name="Paint roughly", exact=True).click()
    expect(hands.page.get_by_text("Keeping what is roughly painted")).to_be_visible()
    paint(hands, state, (150, 150), (250, 150))
    found(hands, "its backdrop, found by itself, 1 rough stroke")


def test_backgrounds_of_two_layers_are_found_side_by_side(
    hands: Hands, moths: Any
) -> None:
    page = hands.page
    [layer] = hands.saved(moths)["composite"]["layers"]
    copied = {"layer_id": layer["id"], "copy_id": "copy"}
    state = hands.edit(hands.saved(moths), kind="duplicate_layer", **copied)
    named = {"layer_id": "copy", "name": "Other moths"}
    hands.edit(state, kind="name_layer", **named)
    hands.open_desk(moths)

    for name in ("Two moths", "Other moths"):
        hands.open_layer(name, "Cut")
        page.keyboard.press("a")

    hands.open_layer("Two moths", "Cut")
    found(hands, "its backdrop, found by itself")
    hands.open_layer("Other moths", "Cut")
    found(hands, "its backdrop, found by itself")
    layers = hands.saved(moths)["composite"]["layers"]
    assert [len(one["mask"]["parts"]) for one in layers] == [1, 1]


def test_what_is_being_found_can_be_stopped(hands: Hands, puppet: Any) -> None:
    page = hands.page
    page.get_by_role("button", name="paint roughly over what is to stay").click()
    paint(hands, puppet, (280, 200), (300, 500))

    page.get_by_role("button", name="Stop").click()

    expect(page.get_by_role("button", name="Stop")).to_have_count(0)
    hands.settle()
    assert mask(hands, puppet) is None


def test_all_photos_of_a_group_lose_their_backgrounds_at_once(
    hands: Hands, moths: Any
) -> None:
    page = hands.page
    [layer] = hands.saved(moths)["composite"]["layers"]
    copied = {"layer_id": layer["id"], "copy_id": "copy"}
    state = hands.edit(hands.saved(moths), kind="duplicate_layer", **copied)
    members = {"layer_ids": [layer["id"], "copy"], "group_id": "g", "name": "Swarm"}
    hands.edit(state, kind="group_layers", **members)
    hands.open_desk(moths)
    hands.open_layer("Swarm", "Cut")

    page.get_by_role("button", name="Take the background of 2 photos away").click()

    said = page.get_by_text("2 backgrounds found.")
    expect(said).to_be_visible(timeout=FOUND_WITHIN_MS)
    hands.settle()
    [group] = hands.saved(moths)["composite"]["layers"]
    parts = [one["mask"]["parts"] for one in group["layers"]]
    assert [[part["kind"] for part in one] for one in parts] == [["matte"], ["matte"]]
    assert parts[0][0]["matte"] == parts[1][0]["matte"]


def test_backgrounds_of_the_shelf_are_found_beforehand_and_can_be_stopped(
    hands: Hands, moths: Any, photo: Any
) -> None:
    page = hands.page
    for name in ("wall-poster-frame", "workbench", "puppet-kit-box"):
        hands.product.bring_in(photo(name))
    page.keyboard.press("Escape")
    page.keyboard.press("s")
    expect(page.get_by_role("button", name="Lay on Puppet kit box")).to_be_visible()

    page.get_by_role("button", name="Find all backgrounds beforehand").click()

    running = page.get_by_role("progressbar", name="Backgrounds found")
    expect(running).to_be_visible()
    page.keyboard.press("s")
    expect(running).to_have_count(0)
    page.keyboard.press("s")
    expect(running).to_be_visible()
    page.get_by_role("button", name="Stop", exact=True).click()
    # What was found until then stays, and nothing of it shows.
    again = page.get_by_role("button", name="Find all backgrounds beforehand")
    expect(again).to_be_visible()
    assert mask(hands, moths) is None
