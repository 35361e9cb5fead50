"""What of a layer shows: painted, cut to shapes, faded out and melted, by hand."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import cv2
import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.hands import Point

if TYPE_CHECKING:
    from pathlib import Path

    from numpy.typing import NDArray

    from tests.browser.hands import Hands

WIDTH, HEIGHT = 800, 600


@pytest.fixture
def white(tmp_path: Path) -> Path:
    """Return a white photo, as large as the sheet."""
    path = tmp_path / "white.png"
    Image.new("RGB", (WIDTH, HEIGHT), "white").save(path)
    return path


@pytest.fixture
def card(hands: Hands, white: Path) -> Any:
    """Open a desk with one white photo over a black sheet."""
    state = hands.begin(white, width=WIDTH, height=HEIGHT)
    state = hands.edit(state, kind="tint_sheet", background="#000000")
    hands.open_desk(state)
    return state


def exported(hands: Hands, path: Path) -> NDArray[np.float64]:
    """Save the picture as PNG by hand, and return its levels of grey."""
    hands.finish(path)
    with Image.open(path) as picture:
        return np.asarray(picture.convert("RGB"))[..., 1].astype(float)


def mask_of(hands: Hands, state: Any) -> Any:
    return hands.saved(state)["composite"]["layers"][0]["mask"]


def paint(hands: Hands, state: Any, *points: tuple[float, float]) -> None:
    mouse = hands.page.mouse
    first, *rest = [hands.on_stage(state, *point) for point in points]
    mouse.move(*first)
    mouse.down()
    for point in rest:
        mouse.move(*point, steps=6)
    mouse.up()
    hands.settle()


def take_brush(hands: Hands) -> None:
    hands.open_layer("White", "Cut")
    hands.page.get_by_role("button", name="by brush").click()


def test_brush_hides_shows_again_and_is_undone(hands: Hands, card: Any) -> None:
    page = hands.page
    take_brush(hands)

    paint(hands, card, (200, 300), (600, 300))
    hidden = hands.saved(card)["composite"]["layers"][0]["mask"]["parts"][0]
    assert (hidden["kind"], hidden["strokes"]) == ("painted", 1)
    assert "cut by brush" in hands.sentences()[0]
    page.keyboard.press("n")
    expect(page.get_by_role("status").filter(has_text="Working on")).to_contain_text(
        "Showing with a soft brush of 120 px at 100 %. N hides instead"
    )
    paint(hands, card, (400, 250), (400, 350))
    assert mask_of(hands, card)["parts"][0]["strokes"] == 2

    page.get_by_role("button", name="Undo").click()
    hands.settle()
    assert mask_of(hands, card)["parts"][0] == hidden
    page.reload()
    hands.settle()
    page.keyboard.press("Escape")
    assert hands.color_at(hands.on_stage(card, 400, 300)) == (0, 0, 0)
    assert hands.color_at(hands.on_stage(card, 400, 100)) == (255, 255, 255)


@pytest.mark.usefixtures("card")
def test_held_key_swaps_the_brush_for_as_long(hands: Hands) -> None:
    page = hands.page
    take_brush(hands)
    working = page.get_by_role("status").filter(has_text="Working on")

    page.keyboard.down("n")
    expect(working).to_contain_text("Showing with")
    page.wait_for_timeout(500)
    page.keyboard.up("n")

    expect(working).to_contain_text("Hiding with")


def test_trace_is_there_before_its_pixels_and_hatching_after(
    hands: Hands, card: Any
) -> None:
    page = hands.page
    take_brush(hands)
    start, end = hands.on_stage(card, 200, 300), hands.on_stage(card, 600, 300)

    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(*end, steps=8)
    trace = page.get_by_test_id("stage-overlay").locator("polyline[data-shows]")
    expect(trace).to_have_count(1)
    page.mouse.up()
    hands.settle()

    expect(trace).to_have_count(0)
    row = hands.shown()[round(hands.on_stage(card, 0, 300).y - 54)]
    assert (row[:, 2].astype(int) - row[:, 1] > 25).sum() > 20  # violet lines


def test_stroke_under_way_asks_for_what_it_changes_alone(
    hands: Hands, card: Any
) -> None:
    page = hands.page
    take_brush(hands)
    paint(hands, card, (100, 100), (150, 100))
    views = []
    page.on(
        "request",
        lambda request: (
            request.url.endswith("/frame")
            and views.append(request.post_data_json["view"])
        ),
    )

    page.mouse.move(*hands.on_stage(card, 200, 300))
    page.mouse.down()
    for x in range(210, 610, 20):
        page.mouse.move(*hands.on_stage(card, x, 300))
        page.wait_for_timeout(30)
    page.wait_for_timeout(500)
    going, parts = hands.shown_now(), list(views)
    page.mouse.up()

    rested = hands.shown()
    assert len(parts) > 3
    assert all(view["width"] <= rested.shape[1] / 2 for view in parts)
    # Parts are rendered quickly, and in fewer pixels where the machine is slow; what
    # rests is rendered finely. Near an edge they may differ, and nowhere else.
    off = np.abs(going.astype(int) - rested.astype(int)).max(axis=-1)
    nearby = np.ones((17, 17), np.uint8)
    spread = cv2.dilate(rested, nearby).astype(int) - cv2.erode(rested, nearby)
    even = spread.max(axis=-1) < 24
    assert even.mean() > 0.5
    assert (off[even] > 8).mean() < 0.002


def test_stroke_beside_the_layer_says_so_and_paints_nothing(
    hands: Hands, card: Any
) -> None:
    layer = card["composite"]["layers"][0]
    place = {**layer["placement"], "x": 200, "scale_x": 0.3, "scale_y": 0.3}
    hands.edit(card, kind="place_layer", layer_id=layer["id"], placement=place)
    hands.settle()
    take_brush(hands)

    paint(hands, card, (700, 100), (700, 200))

    expect(hands.page.get_by_text("White has nothing there")).to_be_visible()
    assert mask_of(hands, card) is None


@pytest.mark.usefixtures("card")
def test_circle_has_the_soft_edge_that_its_number_says(
    hands: Hands, tmp_path: Path
) -> None:
    page = hands.page
    hands.open_layer("White", "Cut")
    page.get_by_role("button", name="a circle").click()
    page.get_by_role("button", name="in the middle", exact=True).click()
    hands.settle()
    for label, value in (
        ("Across", 400),
        ("Down", 300),
        ("Width", 300),
        ("Height", 300),
        ("Softness, exact", 40),
    ):
        hands.type_number(label, value)
    assert "cut to a soft circle" in hands.sentences()[0]

    shown = exported(hands, tmp_path / "circle.png")

    row, column = np.mgrid[0:HEIGHT, 0:WIDTH] + 0.5
    t = np.clip(0.5 - (np.hypot(column - 400, row - 300) - 150) / 40, 0, 1)
    assert np.abs(shown - 255 * t * t * (3 - 2 * t)).max() <= 1


def test_shape_is_moved_and_resized_by_its_grips(hands: Hands, card: Any) -> None:
    page = hands.page
    hands.open_layer("White", "Cut")
    page.get_by_role("button", name="a rectangle").click()
    page.get_by_role("button", name="in the middle", exact=True).click()
    hands.settle()
    before = mask_of(hands, card)["parts"][0]

    middle = hands.grip("middle")
    hands.drag(middle, Point(middle.x + 60, middle.y - 30))
    hands.settle()
    corner = hands.grip("2")
    hands.drag(corner, Point(corner.x - 50, corner.y - 50))
    hands.settle()

    after = mask_of(hands, card)["parts"][0]
    assert after["x"] != before["x"]
    assert after["width"] < before["width"]
    assert after["height"] < before["height"]


def test_recipe_is_made_and_ordered_without_a_pointer(hands: Hands, card: Any) -> None:
    page = hands.page
    hands.open_layer("White", "Cut")
    for name in ("a circle", "a rectangle"):
        page.get_by_role("button", name=name).focus()
        page.keyboard.press("Enter")
        page.get_by_role("button", name="in the middle", exact=True).focus()
        page.keyboard.press("Enter")
        hands.settle()
    recipe = page.get_by_role("grid", name="What of White shows")
    expect(recipe.get_by_role("row")).to_have_count(2)

    recipe.get_by_role("row").nth(1).get_by_role("button", name="Move").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_label("Insert before").first).to_be_attached()
    page.keyboard.press("Home")
    page.keyboard.press("Enter")
    hands.settle()

    kinds = [part["kind"] for part in mask_of(hands, card)["parts"]]
    assert kinds == ["rectangle", "ellipse"]


def test_mask_is_turned_inside_out_weakened_and_unlinked(
    hands: Hands, card: Any
) -> None:
    page = hands.page
    hands.open_layer("White", "Cut")
    page.get_by_role("button", name="a circle").click()
    page.get_by_role("button", name="in the middle", exact=True).click()
    hands.settle()

    page.get_by_role("button", name="Turned inside out or not").click()
    page.get_by_role("option", name="inside out").click()
    hands.settle()
    page.get_by_role("button", name="What it moves with").click()
    page.get_by_role("option", name="not with the layer").click()
    hands.settle()
    mask = mask_of(hands, card)
    assert (mask["inverted"], mask["linked"]) == (True, False)

    page.get_by_role("button", name="Show all of it again").click()
    hands.settle()
    assert mask_of(hands, card) is None


def test_fade_is_chosen_by_eye_dragged_and_reaches_both_ends(
    hands: Hands, card: Any, tmp_path: Path
) -> None:
    page = hands.page
    hands.open_layer("White", "Fade")
    page.get_by_role("option", name="To the left").click()
    hands.settle()
    expect(page.get_by_role("option", name="To the left")).to_have_attribute(
        "aria-selected", "true"
    )
    full = hands.grip("full")
    hands.drag(full, hands.on_stage(card, 700, 300))
    hands.settle()
    gone = hands.grip("gone")
    hands.drag(gone, hands.on_stage(card, 100, 300))
    hands.settle()
    assert "fading out to the left" in hands.sentences()[0]

    row = exported(hands, tmp_path / "fade.png")[300]

    assert row[:95].max() == 0
    assert row[705:].min() == 255
    t = np.clip((np.arange(WIDTH) + 0.5 - 100) / 600, 0, 1)
    assert np.abs(row - 255 * t * t * (3 - 2 * t)).max() <= 5  # dragged by whole pixels


def test_photos_melt_into_one_another_without_a_dip(
    hands: Hands, white: Path, tmp_path: Path
) -> None:
    other = tmp_path / "other.png"
    Image.new("RGB", (WIDTH + 100, HEIGHT), "#ffffff").save(other)
    state = hands.begin(white, other, width=WIDTH, height=HEIGHT)
    state = hands.edit(state, kind="tint_sheet", background="#000000")
    hands.open_desk(state)
    hands.open_layer("Other", "Fade")

    hands.page.get_by_role("button", name="side by side").click()
    hands.settle()

    layers = hands.saved(state)["composite"]["layers"]
    assert [len(layer["fades"]) for layer in layers] == [0, 1]
    shown = exported(hands, tmp_path / "melted.png")
    assert shown.min() >= 254


def test_three_photos_melt_in_one_action(
    hands: Hands, white: Path, tmp_path: Path
) -> None:
    others = [tmp_path / "second.png", tmp_path / "third.png"]
    for place, path in enumerate(others):
        Image.new("RGB", (WIDTH + place, HEIGHT + 1), "#ffffff").save(path)
    state = hands.begin(white, *others, width=WIDTH, height=HEIGHT)
    state = hands.edit(state, kind="tint_sheet", background="#000000")
    hands.open_desk(state)
    hands.open_layer("Third", "Fade")

    hands.page.get_by_role("button", name="Melt it with one more").click()
    hands.page.get_by_role("option", name="White").click()
    hands.page.get_by_role("button", name="one above the other").click()
    hands.settle()

    layers = hands.saved(state)["composite"]["layers"]
    assert [len(layer["fades"]) for layer in layers] == [0, 1, 1]
    places = [layer["placement"]["y"] for layer in layers]
    assert places == sorted(places)
    assert exported(hands, tmp_path / "melted.png").min() >= 254


def test_fade_stays_where_it_is_while_its_photo_moves(hands: Hands, card: Any) -> None:
    page = hands.page
    hands.open_layer("White", "Fade")
    page.get_by_role("button", name="Fade it out").click()
    hands.settle()
    hands.open_layer("White", "Place")
    before = hands.shown()

    hands.open_layer("White", "Fade")
    page.get_by_role("button", name="What the fade moves with").click()
    page.get_by_role("option", name="staying where it is").click()
    hands.settle()
    hands.open_layer("White", "Place")
    kept = hands.shown()
    hands.type_number("Across", 460)

    fade = hands.saved(card)["composite"]["layers"][0]["fades"][0]
    assert fade["linked"] is False
    assert np.abs(before.astype(int) - kept).max() <= 3
    # Where both lie, the photo has gone on beneath a fade that did not.
    at = hands.on_stage(card, 80, 300)
    box = hands.surface.bounding_box()
    row, column = round(at.y - box["y"]), round(at.x - box["x"])
    off = np.abs(hands.shown()[row].astype(int) - before[row])
    assert off[column:].max() <= 4


def test_mask_is_seen_alone_and_by_its_edge(hands: Hands, card: Any) -> None:
    page = hands.page
    hands.open_layer("White", "Cut")
    page.get_by_role("button", name="a circle").click()
    page.get_by_role("button", name="in the middle", exact=True).click()
    hands.settle()
    part = mask_of(hands, card)["parts"][0]
    rim = hands.on_stage(card, part["x"] + part["width"] / 2, part["y"])
    middle = hands.on_stage(card, part["x"], part["y"])
    outside = hands.on_stage(card, 30, 30)

    page.get_by_role("radio", name="Mask").click()
    alone = [hands.color_at(at)[0] for at in (middle, outside)]
    page.get_by_role("radio", name="Edge").click()
    edge = [hands.color_at(at)[0] for at in (middle, outside)]

    assert (alone[0] > 250, alone[1] < 5) == (True, True)
    assert max(edge) < 5
    box = hands.surface.bounding_box()
    row, column = round(rim.y - box["y"]), round(rim.x - box["x"])
    assert hands.shown()[row, column - 3 : column + 4, 0].max() > 200


def test_cut_is_taken_from_another_layer_where_it_lies(hands: Hands, card: Any) -> None:
    page = hands.page
    layer = card["composite"]["layers"][0]
    circle = {
        "kind": "ellipse",
        "id": "c",
        "x": 200,
        "y": 200,
        "width": 100,
        "height": 100,
    }
    state = hands.edit(card, kind="add_part", layer_id=layer["id"], part=circle)
    state = hands.edit(
        state, kind="add_color", layer_id="wash", name="Wash", color="#ff0000"
    )
    hands.settle()
    hands.open_layer("Wash", "Cut")

    page.get_by_role("button", name="Take the cut of").click()
    page.get_by_role("option", name="White").click()
    hands.settle()

    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    assert hands.color_at(hands.on_stage(card, 200, 200)) == (254, 0, 0)
    assert hands.color_at(hands.on_stage(card, 500, 200)) == (0, 0, 0)


def test_open_layer_is_saved_alone_without_what_is_cut_away(
    hands: Hands, photo: Any, tmp_path: Path
) -> None:
    state = hands.begin(photo("forest-dusk"), photo("lantern-glow"))
    hands.open_desk(state)
    hands.open_layer("Lantern glow", "Cut")
    hands.page.get_by_role("button", name="a circle").click()
    hands.page.get_by_role("button", name="in the middle", exact=True).click()
    hands.settle()

    saved_as = hands.finish(tmp_path / "saved.png", part="One layer alone")

    assert saved_as.suggested_filename == "lantern-glow.png"
    with Image.open(tmp_path / "saved.png") as saved:
        alpha = np.asarray(saved)[..., 3]
    assert alpha.shape == (600, 900)
    assert alpha[300, 450] == 255
    assert not alpha[[0, 0, -1, -1], [0, -1, 0, -1]].any()
