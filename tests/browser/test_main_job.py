"""The main job from end to end, as a person does it, with real photos."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING, Any

import numpy as np
from PIL import Image
from playwright.sync_api import expect

from glyphaneme.codecs import read_picture
from glyphaneme.core.document import Composite
from glyphaneme.core.place import build_pyramid
from glyphaneme.core.render import View, render
from tests.browser.hands import Point
from tests.pictures import psnr

if TYPE_CHECKING:
    from pathlib import Path

    from numpy.typing import NDArray

    from tests.browser.hands import Hands


def test_two_photos_become_one_saved_picture(
    hands: Hands, demo_photos: Path, tmp_path: Path
) -> None:
    page = hands.page
    puppet = demo_photos / "puppet-profile-studio.jpg"
    forest = demo_photos / "forest-dusk.jpg"

    project, state = begin_by_sentence(hands)

    # Drop two photos on the stage.
    middle = hands.on_stage(state, 590, 886)
    for photo in (puppet, forest):
        hands.drop_files(middle, [photo])
        expect(page.get_by_role("list", name="Layers, front to back")).to_contain_text(
            photo.stem.replace("-", " ").capitalize()
        )
    hands.settle()
    forest_name = "Forest dusk"

    # Drag the forest, and scale it by a corner about its middle.
    before = hands.saved(project)["composite"]["layers"][1]["placement"]
    hands.drag(middle, Point(middle.x + 30, middle.y + 20))
    hands.settle()
    moved = hands.saved(project)["composite"]["layers"][1]["placement"]
    assert moved["x"] > before["x"]
    assert moved["y"] > before["y"]
    corner = hands.grip(2)
    hands.drag(corner, Point(corner.x + 60, corner.y + 60))
    hands.settle()
    scaled = hands.saved(project)["composite"]["layers"][1]["placement"]
    assert scaled["scale_x"] > moved["scale_x"]
    assert scaled["scale_x"] == scaled["scale_y"]

    # Choose Screen by eye.
    hands.open_layer(forest_name, "Blend")
    page.get_by_role("option", name="Screen", exact=True).click()
    hands.settle()
    assert "screened" in hands.sentences()[0]

    # Undo the mode, do it again, and come back after a reload.
    page.keyboard.press("Control+z")
    hands.settle()
    assert "screened" not in hands.sentences()[0]
    page.keyboard.press("Control+Shift+z")
    hands.settle()
    page.reload()
    hands.settle()
    assert "screened" in hands.sentences()[0]

    # Finish: what is saved is what the core renders of this state.
    pixels = finish_as_png(hands, tmp_path / "saved.png")
    np.testing.assert_array_equal(
        pixels, rendered(hands.saved(project)["composite"], puppet, forest)
    )


def test_stage_shows_what_the_core_renders(hands: Hands, demo_photos: Path) -> None:
    lanterns = demo_photos / "lantern-glow.jpg"
    state = hands.begin(lanterns, width=600, height=400)

    hands.open_desk(state)

    shown = hands.shown()
    expected = rendered(state["composite"], lanterns)[..., :3]
    # The middle of an odd stage falls on the pixel after it.
    top = (shown.shape[0] - 400 + 1) // 2
    left = (shown.shape[1] - 600 + 1) // 2
    assert psnr(shown[top : top + 400, left : left + 600], expected) > 38


def test_layered_file_is_saved_and_opened_again(
    hands: Hands, demo_photos: Path, tmp_path: Path
) -> None:
    page = hands.page
    state = hands.begin(
        demo_photos / "forest-dusk.jpg", demo_photos / "moths-on-white.jpg"
    )
    moths = state["composite"]["layers"][1]
    state = hands.edit(
        state, kind="blend_layer", layer_id=moths["id"], mode="multiply", opacity=0.7
    )
    hands.open_desk(state)
    sentences = hands.sentences()

    file = tmp_path / "moth-poster.ora"
    hands.finish(file, purpose="to go on elsewhere")
    hands.open_wall()
    hands.drop_files(Point(640, 110), [file])
    page.get_by_role("button", name="Open it").click()
    page.wait_for_url("**/desk/*")
    hands.settle()

    opened = hands.product.get("/api/projects")["projects"][0]
    assert opened["name"] == "Moth poster"
    assert opened["id"] != state["id"]
    assert hands.sentences() == sentences
    assert hands.saved(opened)["composite"] == state["composite"]


def begin_by_sentence(hands: Hands) -> tuple[Any, Any]:
    """Begin a print of 10 × 15 cm with the wall's sentence."""
    page = hands.page
    hands.open_wall()
    page.get_by_role("button", name="Size").click()
    page.get_by_role("option", name="10 × 15 cm at 300 ppi").click()
    page.get_by_role("button", name="Begin").click()
    hands.settle()
    project = hands.product.get("/api/projects")["projects"][0]
    assert (project["width"], project["height"]) == (1181, 1772)
    return project, hands.saved(project)


def finish_as_png(hands: Hands, path: Path) -> NDArray[np.uint8]:
    hands.finish(path)
    with Image.open(path) as saved:
        assert round(saved.info["dpi"][0]) == 300
        assert "icc_profile" in saved.info
        return np.asarray(saved.convert("RGBA"))


def rendered(composite: dict, *photos: Path) -> NDArray[np.uint8]:
    """Render a composite's whole canvas through the core, layer by layer of photos."""
    model = Composite.model_validate(composite)
    pixels = {
        layer.picture: build_pyramid(read_picture(io.BytesIO(photo.read_bytes())))
        for layer, photo in zip(model.layers, photos, strict=True)
    }
    width, height = model.canvas.width, model.canvas.height
    return render(model, pixels, View(x=0, y=0, width=width, height=height, scale=1))
