"""Shadows, mended specks, painted colour and matches by hand."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.hands import Point

if TYPE_CHECKING:
    from pathlib import Path

    from tests.browser.hands import Hands


def layers(hands: Hands, state: Any) -> list[Any]:
    return hands.saved(state)["composite"]["layers"]


def photo(folder: Path, name: str, pixels: np.ndarray) -> Path:
    path = folder / f"{name}.png"
    Image.fromarray(pixels.astype(np.uint8)).save(path)
    return path


@pytest.fixture
def dusty(tmp_path: Path) -> Path:
    """Return a grained grey photo with a white speck and a white scratch."""
    random = np.random.default_rng(1)
    pixels = np.clip(120 + random.normal(0, 5, (600, 900, 1)), 0, 255)
    pixels = np.repeat(pixels, 3, axis=2)
    pixels[296:306, 446:456] = 255
    pixels[100:103, 200:420] = 255
    return photo(tmp_path, "dusty", pixels)


@pytest.fixture
def piece(hands: Hands, tmp_path: Path) -> Any:
    """Begin with an orange piece, smaller than the blue ground that it lies on."""
    ground = np.full((600, 900, 3), (70, 95, 125))
    small = np.full((240, 240, 3), (190, 130, 60))
    random = np.random.default_rng(2)
    paths = [
        photo(
            tmp_path,
            name,
            np.clip(one + random.normal(0, 14, one.shape[:2])[..., None], 0, 255),
        )
        for name, one in (("ground", ground), ("piece", small))
    ]
    state = hands.begin(*paths)
    place = {"x": 450, "y": 280, "scale_x": 1, "scale_y": 1}
    layer_id = state["composite"]["layers"][1]["id"]
    state = hands.edit(state, kind="place_layer", layer_id=layer_id, placement=place)
    hands.open_desk(state)
    return state


def test_a_speck_and_a_scratch_are_mended_listed_and_taken_back(
    hands: Hands, dusty: Path
) -> None:
    state = hands.begin(dusty)
    hands.open_desk(state)
    hands.open_layer("Dusty", "Cut")
    hands.page.keyboard.press("r")
    expect(hands.pile).to_contain_text("Click a speck")
    speck, scratch = hands.on_stage(state, 451, 301), hands.on_stage(state, 310, 101)
    assert min(*hands.color_at(speck), *hands.color_at(scratch)) > 200
    hands.page.mouse.click(*speck)
    hands.settle()
    assert abs(np.mean(hands.color_at(speck)) - 120) < 20
    hands.drag(hands.on_stage(state, 190, 101), hands.on_stage(state, 430, 101))
    hands.settle()
    assert abs(np.mean(hands.color_at(scratch)) - 120) < 20
    assert "mended in 2 places" in hands.sentences()[0]

    listed = hands.page.get_by_role("list", name="Mended places of Dusty")
    assert listed.get_by_role("listitem").count() == 2
    listed.get_by_role("button").first.click()
    hands.pile.get_by_text("Mended", exact=True).click()
    expect(hands.pile).to_contain_text("mended in one place")
    assert min(hands.color_at(speck)) > 200
    hands.pile.get_by_role("button", name="Leave it as it was").click()
    hands.settle()
    assert len(layers(hands, state)[0]["mends"]) == 1
    hands.page.keyboard.press("Control+z")
    hands.settle()
    assert len(layers(hands, state)[0]["mends"]) == 2


def test_a_long_stroke_is_mended_in_pieces(hands: Hands, dusty: Path) -> None:
    state = hands.begin(dusty)
    hands.open_desk(state)
    hands.open_layer("Dusty", "Cut")
    hands.pile.get_by_role("button", name="Mend", exact=True).click()
    hands.type_number("Size, exact", 40)
    assert min(hands.color_at(hands.on_stage(state, 310, 101))) > 200
    hands.drag(hands.on_stage(state, 100, 101), hands.on_stage(state, 800, 101))
    hands.settle()
    mends = layers(hands, state)[0]["mends"]
    assert len(mends) > 1
    assert abs(np.mean(hands.color_at(hands.on_stage(state, 310, 101))) - 120) < 20


def test_everything_beneath_is_mended_into_an_empty_layer(
    hands: Hands, piece: Any
) -> None:
    # A wire of the ground that goes on over the piece.
    spots = (hands.on_stage(piece, 315, 280), hands.on_stage(piece, 450, 280))
    before = [np.array(hands.color_at(spot)) for spot in spots]
    across, at = hands.on_stage(piece, 300, 280), hands.on_stage(piece, 600, 280)
    line = {
        "kind": "rectangle",
        "id": "w",
        "x": 450,
        "y": 280,
        "width": 300,
        "height": 4,
    }
    state = hands.edit(
        hands.saved(piece),
        kind="add_color",
        layer_id="wire",
        name="Wire",
        color="#ffffff",
    )
    hands.edit(state, kind="add_part", layer_id="wire", part=line)
    expect(hands.pile).to_contain_text("cut to a rectangle")
    assert min(min(hands.color_at(spot)) for spot in spots) > 240

    hands.pile.get_by_role("button", name="mend everything").click()
    expect(hands.pile).to_contain_text("Click a speck")
    hands.drag(across, at)
    hands.settle()
    for spot, color in zip(spots, before, strict=True):
        assert np.abs(np.array(hands.color_at(spot)) - color).max() < 60
    assert "everything beneath, mended in" in hands.sentences()[0]
    top = layers(hands, piece)[-1]
    assert (top["kind"], top["name"]) == ("mending", "Repairs")

    # It follows what lies beneath: under a coloured veil it takes on that colour.
    first = hands.color_at(spots[1])
    veil = {"kind": "add_color", "layer_id": "veil", "name": "Veil", "color": "#00ff00"}
    state = hands.edit(hands.saved(piece), **veil, index=2)
    hands.edit(state, kind="blend_layer", layer_id="veil", mode="multiply", opacity=1)
    expect(hands.pile).to_contain_text("Veil")
    hands.settle()
    red, _, blue = hands.color_at(spots[1])
    assert red < 20 < first[0]
    assert blue < 20
    listed = hands.page.get_by_role("list", name="Mended places of Repairs")
    listed.get_by_role("button").first.click()
    hands.pile.get_by_role("button", name="Leave it as it was").click()
    hands.settle()
    assert "as it is" in hands.sentences()[0]


def test_a_shadow_is_tried_dragged_and_follows_the_cut_out(
    hands: Hands, piece: Any
) -> None:
    beside = hands.on_stage(piece, 450, 430)
    before = hands.color_at(beside)
    hands.open_layer("Piece", "Shadow")
    strip = hands.page.get_by_role("region", name="Try shadows and outlines")
    expect(strip.locator("canvas").first).to_have_attribute("data-filled", "true")
    strip.get_by_role("option", name="To the right").click()
    hands.settle()
    assert [one["kind"] for one in layers(hands, piece)[1]["effects"]] == ["cast"]
    assert "with a shadow to the lower right" in hands.sentences()[0]

    hands.pile.get_by_role("button", name="a shadow to the lower right").first.click()
    hands.pile.get_by_role("grid").get_by_role("button", name="a shadow").last.click()
    hands.drag(hands.grip("end"), hands.on_stage(piece, 450, 560))
    hands.settle()
    (shadow,) = layers(hands, piece)[1]["effects"]
    assert abs(shadow["direction"]) <= 3
    assert shadow["length"] == pytest.approx(160 / 240, abs=0.05)
    assert sum(hands.color_at(beside)) < sum(before) - 60

    # Cut to a circle that ends higher, it stands there.
    part = {"kind": "ellipse", "id": "c", "x": 120, "y": 60, "width": 90, "height": 90}
    layer_id = layers(hands, piece)[1]["id"]
    hands.edit(hands.saved(piece), kind="add_part", layer_id=layer_id, part=part)
    expect(hands.pile).to_contain_text("cut to a circle")
    foot = hands.on_stage(piece, 450, 160 + 105 + 8)
    assert sum(hands.color_at(foot)) < sum(before) - 60
    assert abs(sum(hands.color_at(hands.on_stage(piece, 450, 520))) - sum(before)) < 40


def test_a_shadow_is_set_by_keys_and_numbers(hands: Hands, piece: Any) -> None:
    hands.open_layer("Piece", "Place")
    hands.page.keyboard.press("h")
    hands.pile.get_by_role("button", name="an outline").click()
    hands.settle()
    slider = hands.page.get_by_role("slider", name="Width", exact=True)
    slider.focus()
    slider.press("ArrowRight")
    hands.settle()
    first = layers(hands, piece)[1]["effects"][0]
    hands.type_number("Width, exact", 20)
    (rim,) = layers(hands, piece)[1]["effects"]
    assert (rim["kind"], rim["width"]) == ("outline", 20)
    # Six thousandths of the sheet's shorter side, and one step.
    assert first["width"] == 5
    assert min(hands.color_at(hands.on_stage(piece, 450, 150))) > 240
    hands.pile.get_by_role("button", name="Take it away").click()
    hands.settle()
    assert layers(hands, piece)[1]["effects"] == []


def test_colour_is_painted_on_a_photo(hands: Hands, dusty: Path) -> None:
    state = hands.begin(dusty)
    hands.open_desk(state)
    hands.open_layer("Dusty", "Tone")
    hands.pile.get_by_role("button", name="Paint on it with").click()
    hands.page.get_by_role("option", name="Blue cloth").click()
    hands.settle()
    at, away = hands.on_stage(state, 600, 400), hands.on_stage(state, 150, 500)
    assert np.ptp(hands.color_at(at)) < 4
    start = Point(at.x - 20, at.y)
    hands.drag(start, Point(at.x + 20, at.y))
    hands.settle()
    red, _, blue = hands.color_at(at)
    assert blue > red + 30
    assert np.ptp(hands.color_at(away)) < 4
    (group,) = layers(hands, state)
    assert [one["name"] for one in group["layers"]] == ["Dusty", "Blue cloth"]
    # Another colour, from those that are often needed.
    hands.page.get_by_role("option", name="#9c3a3a").click()
    hands.settle()
    red, _, blue = hands.color_at(at)
    assert red > blue + 30


def test_a_layer_is_matched_by_a_way_and_by_pairs(hands: Hands, piece: Any) -> None:
    hands.open_layer("Piece", "Tone")
    spots = (hands.on_stage(piece, 450, 280), hands.on_stage(piece, 100, 500))
    colors = [np.array(hands.color_at(at)) for at in spots]
    apart = np.abs(colors[0] - colors[1]).sum()
    hands.pile.get_by_role("button", name="Match it to").click()
    hands.page.get_by_role("option", name="what lies behind").click()
    strip = hands.page.get_by_role("region", name="Try each way to match it")
    expect(strip.locator("canvas").first).to_have_attribute("data-filled", "true")
    hands.settle()
    assert "matched to what lies behind" in hands.sentences()[0]
    inside = hands.on_stage(piece, 450, 280)
    ground = np.array(hands.color_at(hands.on_stage(piece, 100, 500)))
    strip.get_by_role("option", name="By the whole").last.click()
    hands.settle()
    by_way = np.abs(np.array(hands.color_at(inside)) - ground).sum()

    assert by_way < 0.6 * apart
    hands.pile.get_by_role("button", name="This should look like that").click()
    hands.page.mouse.click(*inside)
    hands.page.mouse.click(*hands.on_stage(piece, 100, 500))
    expect(hands.pile).to_contain_text("1 pair so far")
    hands.settle()
    light = [
        np.mean(hands.color_at(at)) for at in (inside, hands.on_stage(piece, 100, 500))
    ]
    assert abs(light[0] - light[1]) < 20
    before = layers(hands, piece)[1]["tones"]
    hands.pile.get_by_role("button", name="Take it apart").click()
    hands.settle()
    assert [one["kind"] for one in before] == ["match"]
    after = layers(hands, piece)[1]["tones"]
    assert [one["kind"] for one in after] == ["coloring", "curves"]


def test_everything_beneath_is_made_to_fit_a_layer(hands: Hands, piece: Any) -> None:
    hands.open_layer("Piece", "Tone")
    hands.pile.get_by_role("button", name="everything beneath fit it").click()
    expect(hands.pile).to_contain_text("matched to Piece")
    hands.settle()
    kinds = [one["kind"] for one in layers(hands, piece)]
    assert kinds == ["photo", "toning", "photo"]
