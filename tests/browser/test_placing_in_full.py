"""Crop, corners, bend; several layers as one; the sheet's edges; lining up."""

from __future__ import annotations

import io
import zipfile
from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.hands import Point

if TYPE_CHECKING:
    from pathlib import Path

    from tests.browser.hands import Hands


@pytest.fixture
def lantern(hands: Hands, demo_photos: Path) -> Any:
    """Open a desk with one photo of 550 by 400 pixels in the middle of a sheet."""
    state = hands.begin(demo_photos / "lantern-glow.jpg")
    layer = state["composite"]["layers"][0]
    placement = {**layer["placement"], "scale_x": 0.25, "scale_y": 0.25}
    state = hands.edit(
        state, kind="place_layer", layer_id=layer["id"], placement=placement
    )
    hands.open_desk(state)
    hands.open_layer("Lantern glow")
    return state


@pytest.fixture
def three(hands: Hands, demo_photos: Path) -> Any:
    """Open a desk with three small photos that lie about, the last in front."""
    names = ("forest-dusk", "lantern-glow", "misty-hills")
    state = hands.begin(*(demo_photos / f"{name}.jpg" for name in names))
    for layer, (x, y) in zip(
        state["composite"]["layers"], [(150, 120), (420, 330), (760, 200)], strict=True
    ):
        placement = {
            **layer["placement"],
            "x": x,
            "y": y,
            "scale_x": 0.08,
            "scale_y": 0.08,
        }
        state = hands.edit(
            state, kind="place_layer", layer_id=layer["id"], placement=placement
        )
    hands.open_desk(state)
    return state


def placements(hands: Hands, state: Any) -> list[Any]:
    return [one["placement"] for one in hands.saved(state)["composite"]["layers"]]


def word(hands: Hands, text: str) -> None:
    hands.pile.get_by_role("button", name=text).click()


def moved(point: Point, x: float, y: float) -> Point:
    return Point(point.x + x, point.y + y)


def test_a_frame_is_pulled_by_its_side_and_the_photo_shifted_inside_it(
    hands: Hands, lantern: Any
) -> None:
    word(hands, "All of it: crop the photo")
    before = hands.on_stage(lantern, 450, 300)
    hands.drag(hands.grip("crop-right"), before)
    hands.settle()
    cropped = placements(hands, lantern)[0]

    hands.drag(hands.on_stage(lantern, 300, 300), hands.on_stage(lantern, 260, 300))
    hands.settle()

    shifted = placements(hands, lantern)[0]
    assert cropped["crop"]["width"] == pytest.approx(1100, abs=8)
    assert cropped["x"] == pytest.approx(450 - 137.5, abs=1)
    assert shifted["crop"]["x"] == pytest.approx(cropped["crop"]["x"] + 160, abs=8)
    assert (shifted["x"], shifted["y"]) == (cropped["x"], cropped["y"])
    assert hands.color_at(hands.on_stage(lantern, 600, 300)) == (255, 255, 255)
    assert "only part of it" in hands.sentences()[0]
    hands.page.keyboard.press("Control+z")
    hands.page.keyboard.press("Control+z")
    hands.settle()
    assert placements(hands, lantern)[0]["crop"] is None


def test_proportion_roundness_and_all_of_it_again_are_words(
    hands: Hands, lantern: Any
) -> None:
    word(hands, "All of it: crop the photo")
    hands.page.get_by_role("button", name="Proportion of the frame").click()
    hands.page.get_by_role("option", name="square").click()
    hands.page.get_by_role("radio", name="Round", exact=True).click()
    hands.settle()

    crop = placements(hands, lantern)[0]["crop"]
    assert crop["width"] == crop["height"] == 1600
    assert crop["shape"] == "ellipse"
    assert "only in a circle" in hands.sentences()[0]
    # A corner of the frame is white again, its middle is not.
    assert hands.color_at(hands.on_stage(lantern, 258, 108)) == (255, 255, 255)
    hands.page.get_by_role("button", name="Show all of it").click()
    hands.settle()
    assert placements(hands, lantern)[0]["crop"] is None


def test_corners_are_pulled_one_by_one_and_do_not_fold(
    hands: Hands, lantern: Any
) -> None:
    word(hands, "straight: pull its corners")
    hands.drag(hands.grip("pull-0"), moved(hands.grip("pull-0"), 60, 40))
    hands.settle()
    pulled = placements(hands, lantern)[0]["corners"]

    # Far beyond the opposite corner it stays where it was still possible.
    hands.drag(hands.grip("pull-0"), moved(hands.grip("pull-2"), 80, 80))
    hands.settle()

    scale = hands.on_stage(lantern, 1, 0).x - hands.on_stage(lantern, 0, 0).x
    assert pulled["top_left"][0] == pytest.approx(60 / scale / 550, abs=0.01)
    assert pulled["top_left"][1] == pytest.approx(40 / scale / 400, abs=0.01)
    assert placements(hands, lantern)[0]["corners"] is not None
    assert "set into four corners" in hands.sentences()[0]
    hands.page.get_by_role("button", name="Straight again").click()
    hands.settle()
    assert placements(hands, lantern)[0]["corners"] is None


def test_corners_take_numbers_on_the_sheet(hands: Hands, lantern: Any) -> None:
    word(hands, "straight: pull its corners")

    hands.type_number("Top left, across", 200)

    corners = placements(hands, lantern)[0]["corners"]
    assert corners["top_left"] == pytest.approx([(200 - 175) / 550, 0], abs=1e-6)


def test_a_grid_bends_and_has_more_points_on_demand(hands: Hands, lantern: Any) -> None:
    word(hands, "flat: bend it by a grid")
    hands.drag(hands.grip("grid-1"), moved(hands.grip("grid-1"), 0, 45))
    hands.settle()
    bend = placements(hands, lantern)[0]["bend"]

    hands.page.get_by_role("button", name="Points across").click()
    hands.page.get_by_role("option", name="4").click()
    hands.settle()

    assert bend["moves"][1][1] > 0.08
    assert placements(hands, lantern)[0]["bend"]["columns"] == 4
    # Where the upper edge was pulled down the sheet shows.
    assert hands.color_at(hands.on_stage(lantern, 450, 110)) == (255, 255, 255)
    hands.page.get_by_role("button", name="Flat again").click()
    hands.settle()
    assert placements(hands, lantern)[0]["bend"] is None


def ring_round_all(hands: Hands, state: Any) -> None:
    """Draw a ring round the whole sheet with Shift held."""
    mouse = hands.page.mouse
    hands.page.keyboard.down("Shift")
    mouse.move(*hands.on_stage(state, 10, 10))
    mouse.down()
    for x, y in ((890, 10), (890, 590), (10, 590), (10, 15)):
        mouse.move(*hands.on_stage(state, x, y), steps=4)
    mouse.up()
    hands.page.keyboard.up("Shift")


def test_three_in_a_ring_are_aligned_spaced_and_moved_as_one(
    hands: Hands, three: Any
) -> None:
    ring_round_all(hands, three)
    chosen = hands.page.get_by_role("region", name="Chosen layers")
    expect(chosen).to_contain_text("3 layers chosen")

    chosen.get_by_role("button", name="Tops").click()
    chosen.get_by_role("button", name="across").click()
    hands.settle()

    after = placements(hands, three)
    sizes = [one["height"] for one in hands.saved(three)["composite"]["layers"]]
    tops = [one["y"] - 0.04 * high for one, high in zip(after, sizes, strict=True)]
    assert tops == pytest.approx([tops[0]] * 3)
    widths = [0.08 * one["width"] for one in hands.saved(three)["composite"]["layers"]]
    gaps = [
        after[at + 1]["x"] - after[at]["x"] - (widths[at] + widths[at + 1]) / 2
        for at in range(2)
    ]
    assert gaps[0] == pytest.approx(gaps[1])

    hands.page.locator("[data-stage]").focus()
    hands.page.keyboard.press("ArrowRight")
    hands.settle()
    nudged = placements(hands, three)
    assert [one["x"] for one in nudged] == pytest.approx(
        [one["x"] + 1 for one in after]
    )
    hands.page.keyboard.press("Escape")
    expect(chosen).to_be_hidden()


def test_chosen_layers_are_scaled_about_the_opposite_corner(
    hands: Hands, three: Any
) -> None:
    ring_round_all(hands, three)
    before = placements(hands, three)
    first, last = hands.grip(0), hands.grip(2)

    hands.drag(last, Point((first.x + last.x) / 2, (first.y + last.y) / 2))
    hands.settle()

    after = placements(hands, three)
    for one, other in zip(before, after, strict=True):
        assert other["scale_x"] == pytest.approx(one["scale_x"] / 2, rel=0.02)
    assert after[2]["x"] - after[0]["x"] == pytest.approx(
        (before[2]["x"] - before[0]["x"]) / 2, rel=0.02
    )


def test_a_dragged_layer_comes_to_rest_on_anothers_edge_but_not_with_alt(
    hands: Hands, three: Any
) -> None:
    hands.open_layer("Misty hills")
    start = hands.on_stage(three, 760, 200)
    # Its lower edge then lies a pixel above the forest's, at 184.
    hands.drag(start, hands.on_stage(three, 700, 123))
    hands.settle()
    rested = placements(hands, three)[2]

    hands.page.keyboard.down("Alt")
    hands.drag(hands.on_stage(three, 700, 124), hands.on_stage(three, 700, 131))
    hands.page.keyboard.up("Alt")
    hands.settle()

    assert rested["y"] == pytest.approx(124)
    assert placements(hands, three)[2]["y"] == pytest.approx(131, abs=0.7)


def test_control_and_drag_leaves_the_layer_and_moves_a_copy(
    hands: Hands, three: Any
) -> None:
    hands.open_layer("Misty hills")
    hands.page.keyboard.down("Control")
    hands.drag(hands.on_stage(three, 760, 200), hands.on_stage(three, 700, 450))
    hands.page.keyboard.up("Control")
    hands.settle()

    after = placements(hands, three)
    assert len(after) == 4
    assert (after[2]["x"], after[2]["y"]) == (760, 200)
    assert after[3]["x"] == pytest.approx(700, abs=1.5)
    assert after[3]["y"] == pytest.approx(450, abs=1.5)


def test_the_sheet_is_pulled_by_its_edge_and_undone(hands: Hands, lantern: Any) -> None:
    hands.pile.get_by_role("button", name="900 × 600 px").click()
    hands.drag(hands.grip("crop-left"), hands.on_stage(lantern, 200, 300))
    hands.settle()
    canvas = hands.saved(lantern)["composite"]["canvas"]
    shifted = placements(hands, lantern)[0]

    hands.page.keyboard.press("Control+z")
    hands.settle()

    assert canvas["width"] == pytest.approx(700, abs=2)
    assert shifted["x"] == pytest.approx(250, abs=2)
    assert hands.saved(lantern)["composite"]["canvas"]["width"] == 900
    assert placements(hands, lantern)[0]["x"] == 450


def test_a_line_straightens_everything_and_undo_takes_it_back(
    hands: Hands, lantern: Any
) -> None:
    hands.pile.get_by_role("button", name="900 × 600 px").click()
    hands.page.get_by_role("button", name="Straighten by a line").click()
    hands.drag(hands.on_stage(lantern, 200, 300), hands.on_stage(lantern, 700, 326))
    hands.settle()
    turned = placements(hands, lantern)[0]["turn"]
    canvas = hands.saved(lantern)["composite"]["canvas"]

    hands.page.keyboard.press("Control+z")
    hands.settle()

    assert turned == pytest.approx(-np.degrees(np.arctan2(26, 500)), abs=0.3)
    assert canvas["width"] < 900
    assert canvas["width"] / canvas["height"] == pytest.approx(1.5, abs=0.01)
    assert placements(hands, lantern)[0]["turn"] == 0


def test_a_picture_is_resized_with_everything_on_it(hands: Hands, lantern: Any) -> None:
    hands.pile.get_by_role("button", name="900 × 600 px").click()
    hands.page.get_by_role("button", name="What becomes of everything").click()
    hands.page.get_by_role("option", name="until it fills").click()
    hands.type_number("Wide", 450)
    hands.type_number("High", 300)
    hands.page.get_by_role("button", name="Make it 450 × 300").click()
    hands.settle()

    after = placements(hands, lantern)[0]
    assert (after["x"], after["y"]) == (225, 150)
    assert after["scale_x"] == pytest.approx(0.125)


def test_another_photo_takes_the_place_of_one(
    hands: Hands, lantern: Any, demo_photos: Path
) -> None:
    hands.product.bring_in(demo_photos / "moths-on-white.jpg")
    hands.page.reload()
    hands.open_layer("Lantern glow")
    hands.do("Lantern glow", "Same place, other photo…")
    hands.page.get_by_role("menuitem", name="Moths on white").click()
    hands.settle()

    layer = hands.saved(lantern)["composite"]["layers"][0]
    assert layer["name"] == "Moths on white"
    crop = layer["placement"]["crop"]
    wide = crop["width"] * layer["placement"]["scale_x"]
    assert wide == pytest.approx(550, abs=0.1)
    assert "Moths on white" in hands.sentences()[0]


def test_the_meadows_are_lined_up_by_what_they_show(
    hands: Hands, demo_photos: Path
) -> None:
    spring, tent = (demo_photos / f"meadow-{name}.tif" for name in ("spring", "tent"))
    state = hands.begin(spring, tent, width=2400, height=1800)
    hands.open_desk(state)
    hands.open_layer("Meadow tent")

    word(hands, "Line it up")
    hands.page.get_by_role("button", name="Line it up", exact=True).click()
    expect(hands.page.get_by_text("% sure")).to_be_visible(timeout=60_000)
    hands.settle()

    still, laid = placements(hands, state)
    # A spring pixel is 1.04 times the tent's, and 54 and 37 further.
    assert laid["scale_x"] == pytest.approx(1.04 * still["scale_x"], rel=1e-3)
    left = laid["x"] - 2300 * laid["scale_x"] / 2
    top = laid["y"] - 1740 * laid["scale_y"] / 2
    assert left == pytest.approx(54, abs=2)
    assert top == pytest.approx(37, abs=2)

    # Across the divider every path goes on where it was.
    word(hands, "drag a divider")
    expect(hands.page.get_by_test_id("without")).to_have_attribute("aria-busy", "false")
    left_side, right_side = hands.beside_divider()
    alike = {
        shift: np.corrcoef(left_side[50:-50], np.roll(right_side, shift)[50:-50])[0, 1]
        for shift in range(-40, 41)
    }
    assert abs(max(alike, key=lambda shift: alike[shift])) <= 2
    word(hands, "drag a divider")

    hands.page.get_by_role("button", name="Cut the sheet to what both show").click()
    hands.settle()
    canvas = hands.saved(state)["composite"]["canvas"]
    assert (canvas["width"], canvas["height"]) == (
        pytest.approx(2400 - 54, abs=10),
        pytest.approx(1800 - 37, abs=50),
    )

    with hands.page.expect_download() as coming:
        hands.page.get_by_role("button", name="Save both as a pair").click()
    with zipfile.ZipFile(coming.value.path()) as pack:
        names = pack.namelist()
        sizes = {Image.open(io.BytesIO(pack.read(name))).size for name in names}
    assert names == ["1-meadow-spring.jpg", "2-meadow-tent.jpg"]
    assert sizes == {(canvas["width"], canvas["height"])}


def test_photos_of_other_places_stay_where_they_are_with_a_sentence(
    hands: Hands, demo_photos: Path
) -> None:
    state = hands.begin(demo_photos / "workbench.jpg", demo_photos / "misty-hills.jpg")
    hands.open_desk(state)
    before = placements(hands, state)
    hands.open_layer("Misty hills")

    word(hands, "Line it up")
    hands.page.get_by_role("button", name="Line it up", exact=True).click()

    expect(hands.page.get_by_text("too little in common")).to_be_visible(timeout=60_000)
    assert placements(hands, state) == before


def test_points_matched_by_hand_line_photos_up(hands: Hands, demo_photos: Path) -> None:
    spring, tent = (demo_photos / f"meadow-{name}.tif" for name in ("spring", "tent"))
    state = hands.begin(spring, tent, width=2400, height=1800)
    hands.open_desk(state)
    hands.open_layer("Meadow tent")
    still, front = placements(hands, state)
    word(hands, "Line it up")
    hands.page.get_by_role("button", name="What it is lined up by").click()
    hands.page.get_by_role("option", name="points matched by hand").click()
    line_up = hands.page.get_by_role("button", name="Line it up", exact=True)
    expect(line_up).to_be_disabled()

    # A spring pixel is 1.04 times the tent's, and 54 and 37 further.
    for x, y in ((300, 300), (1900, 1400)):
        here = [
            front[axis] + (at - size / 2) * front[f"scale_{axis}"]
            for axis, at, size in (("x", x, 2300), ("y", y, 1740))
        ]
        there = [
            still[axis] + (1.04 * at + shift - size / 2) * still[f"scale_{axis}"]
            for axis, at, shift, size in (("x", x, 54, 2400), ("y", y, 37, 1800))
        ]
        hands.page.mouse.click(*hands.on_stage(state, *here))
        expect(hands.page.get_by_text("Now point at the same place")).to_be_visible()
        hands.page.mouse.click(*hands.on_stage(state, *there))
        expect(hands.page.get_by_text("Now point at the same place")).to_be_hidden()
    expect(hands.page.get_by_test_id("glass")).to_be_visible()
    line_up.click()
    # The service reckons it first: only then there is something to save.
    expect(hands.page.get_by_text("Meadow tent lined up")).to_be_visible()
    hands.settle()

    laid = placements(hands, state)[1]
    # A pixel of the screen is some two of the sheet.
    assert laid["scale_x"] == pytest.approx(1.04 * still["scale_x"], rel=5e-3)
    assert laid["x"] == pytest.approx(54 + 1.04 * 1150, abs=6)
    assert laid["y"] == pytest.approx(37 + 1.04 * 870, abs=6)
