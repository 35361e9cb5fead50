"""A photo is set into a blank place, its corners rest, and eyes judge where it lies."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.boards import HEIGHT, WIDTH, board
from tests.browser.hands import Point

if TYPE_CHECKING:
    from pathlib import Path

    from tests.boards import Board
    from tests.browser.hands import Hands


@pytest.fixture
def scene() -> Board:
    return board(6)


@pytest.fixture
def sign(hands: Hands, scene: Board, tmp_path: Path, demo_photos: Path) -> Any:
    """Open a desk with a stage set that lies over a blank board."""
    photo = tmp_path / "board-by-the-mill.png"
    Image.fromarray(scene.pixels).convert("RGB").save(photo)
    state = hands.begin(
        photo, demo_photos / "stage-set.jpg", width=WIDTH, height=HEIGHT
    )
    cover = state["composite"]["layers"][1]
    placement = {**cover["placement"], "scale_x": 0.22, "scale_y": 0.22}
    state = hands.edit(
        state, kind="place_layer", layer_id=cover["id"], placement=placement
    )
    hands.open_desk(state)
    hands.open_layer("Stage set")
    return state


def open_corners(hands: Hands) -> None:
    hands.pile.get_by_role("button", name="straight: pull its corners").click()


def corners_on_sheet(hands: Hands, sign: Any) -> np.ndarray:
    """Return where the front photo's corners lie, from the service."""
    placed = hands.saved(sign)["composite"]["layers"][1]
    place, pulls = placed["placement"], placed["placement"]["corners"] or {}
    crop = place["crop"] or placed
    names = ("top_left", "top_right", "bottom_right", "bottom_left")
    homes = ((0, 0), (1, 0), (1, 1), (0, 1))
    return np.array(
        [
            (
                place["x"]
                + (home[0] + pulls.get(name, (0, 0))[0] - 0.5)
                * crop["width"]
                * place["scale_x"],
                place["y"]
                + (home[1] + pulls.get(name, (0, 0))[1] - 0.5)
                * crop["height"]
                * place["scale_y"],
            )
            for name, home in zip(names, homes, strict=True)
        ]
    )


def test_a_rough_stroke_sets_the_photo_into_the_blank_board(
    hands: Hands, sign: Any, scene: Board
) -> None:
    page = hands.page
    open_corners(hands)
    page.get_by_role("button", name="Into a blank place").click()
    expect(hands.pile.get_by_text("Go roughly over the blank place")).to_be_visible()
    hands.settle()
    middle = scene.corners.mean(axis=0)
    # The photo is out of the way meanwhile.
    assert min(hands.color_at(hands.on_stage(sign, *middle))) > 150
    page.keyboard.press("v")
    assert min(hands.color_at(hands.on_stage(sign, *middle))) > 150

    hands.drag(
        hands.on_stage(sign, *(middle - (60, 40))),
        hands.on_stage(sign, *(middle + (60, 40))),
    )
    set_in = hands.pile.get_by_role("button", name="set into four corners: pull")
    expect(set_in).to_be_visible()
    hands.settle()

    found = corners_on_sheet(hands, sign)
    assert np.hypot(*(found - scene.corners).T).max() < 1
    # The word in the sentence opens just that.
    page.keyboard.press("Escape")
    hands.pile.get_by_role("button", name="set into four corners: open").click()
    expect(page.get_by_test_id("corner-grips")).to_be_visible()
    page.keyboard.press("Control+z")
    hands.settle()
    assert hands.saved(sign)["composite"]["layers"][1]["placement"]["corners"] is None


def test_where_nothing_blank_is_found_the_photo_stays_and_a_stroke_may_follow(
    hands: Hands, sign: Any
) -> None:
    page = hands.page
    open_corners(hands)
    page.get_by_role("button", name="Into a blank place").click()
    at = hands.on_stage(sign, 20, 20)
    hands.drag(at, Point(at.x + 8, at.y))

    expect(page.get_by_text("no even area with four sides")).to_be_visible()
    expect(hands.pile.get_by_text("Go roughly over the blank place")).to_be_visible()
    page.get_by_role("button", name="Never mind").click()
    hands.settle()
    assert hands.saved(sign)["composite"]["layers"][1]["placement"]["corners"] is None


@pytest.mark.parametrize("free", [False, True])
def test_a_pulled_corner_rests_on_the_boards_corner_but_not_with_alt(
    hands: Hands, sign: Any, scene: Board, *, free: bool
) -> None:
    page = hands.page
    with page.expect_response("**/corner-points"):
        open_corners(hands)
    grip = hands.grip("pull-0")
    corner = hands.on_stage(sign, *scene.corners[0])
    page.mouse.move(*grip)
    page.mouse.down()
    if free:
        page.keyboard.down("Alt")
    page.mouse.move(corner.x + 4, corner.y + 3, steps=6)
    expect(page.get_by_test_id("resting-spot")).to_have_count(0 if free else 1)
    page.mouse.up()
    page.keyboard.up("Alt")
    hands.settle()

    away = np.hypot(*(corners_on_sheet(hands, sign)[0] - scene.corners[0]))
    assert (away > 3) if free else (away < 1.5)
    expect(page.get_by_test_id("resting-spot")).to_have_count(0)


def test_a_divider_shows_the_stage_with_and_without_the_open_layer(
    hands: Hands, sign: Any
) -> None:
    page = hands.page
    hands.pile.get_by_role("button", name="Line it up").click()
    hands.pile.get_by_role("button", name="drag a divider").click()
    divider = page.get_by_role("slider", name="Divider: with Stage set on its left")
    divider.focus()
    divider.press("End")
    without = page.get_by_test_id("without")
    expect(without).to_have_attribute("aria-busy", "false")
    with_it = seen(hands)
    divider.press("Home")
    bare = seen(hands)
    middle = with_it.shape[1] // 2
    about = slice(middle - 60, middle + 60)
    assert np.abs(with_it[:, about] - bare[:, about]).mean() > 20
    for _ in range(100):
        divider.press("ArrowRight")
    half = seen(hands)

    reach = slice(middle - 200, middle - 30), slice(middle + 30, middle + 200)
    assert np.abs(half[:, reach[0]] - with_it[:, reach[0]]).mean() < 2
    assert np.abs(half[:, reach[1]] - bare[:, reach[1]]).mean() < 2
    # It is an aid for the eye, and no edit.
    assert hands.saved(sign)["head"] == sign["head"]
    page.keyboard.press("Escape")
    expect(divider).to_have_count(0)
    # Who works on something else has no line over the picture.
    hands.pile.get_by_role("button", name="drag a divider").click()
    expect(divider).to_have_count(1)
    hands.facet("Cut").click()
    expect(divider).to_have_count(0)


def seen(hands: Hands) -> np.ndarray:
    """Return what the stage looks like, all that lies over it included."""
    hands.settle()
    stage = hands.page.get_by_role("application")
    with Image.open(io.BytesIO(stage.screenshot())) as picture:
        return np.asarray(picture.convert("RGB"), np.int16)


HAS_CHANGED = """([x, y, ...before]) => {
    const surface = document.querySelector('[data-testid="surface"]');
    const box = surface.getBoundingClientRect();
    const context = surface.getContext("2d");
    const now = context.getImageData(x - box.left, y - box.top, 1, 1).data;
    return before.some((value, channel) => Math.abs(now[channel] - value) > 8);
}"""


def test_the_open_layer_blinks_and_is_left_out_by_a_key(
    hands: Hands, sign: Any
) -> None:
    page = hands.page
    middle = hands.on_stage(sign, WIDTH / 2, HEIGHT / 2)
    shown = hands.color_at(middle)
    page.keyboard.down("v")
    hands.settle()
    assert hands.color_at(middle) != shown
    page.keyboard.up("v")
    hands.settle()
    assert hands.color_at(middle) == shown

    hands.pile.get_by_role("button", name="Line it up").click()
    hands.pile.get_by_role("button", name="let it blink").click()
    page.wait_for_function(HAS_CHANGED, arg=[*middle, *shown])
    hands.pile.get_by_role("button", name="let it blink").click()
    hands.settle()
    assert hands.color_at(middle) == shown
    assert hands.saved(sign)["head"] == sign["head"]
