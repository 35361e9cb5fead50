"""Pictures on their way in, good ones and bad ones."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import pytest
from playwright.sync_api import expect

from tests.browser.hands import Point
from tests.pictures import png_header, soft_pixels

if TYPE_CHECKING:
    from pathlib import Path

    from tests.browser.hands import Hands


@pytest.fixture
def bad_files(tmp_path: Path, demo_photos: Path) -> dict[str, Path]:
    """Return files that must be refused, by a part of the reason."""
    contents = {
        "empty.jpg": (b"", "empty"),
        "letter.jpg": (
            b"Dear puppets, the curtain rises at eight.\n",
            "not a picture of a kind that is read here",
        ),
        "cut.jpg": (
            (demo_photos / "misty-hills.jpg").read_bytes()[:60000],
            "cut short",
        ),
        "giant.png": (png_header(60_000, 60_000), "60000 × 60000"),
    }
    found = {}
    for name, (content, reason) in contents.items():
        path = tmp_path / name
        path.write_bytes(content)
        found[reason] = path
    return found


def test_bad_files_are_named_with_their_reason_and_the_rest_comes_in(
    hands: Hands, bad_files: dict[str, Path], demo_photos: Path
) -> None:
    state = hands.begin(width=600, height=400)
    hands.open_desk(state)
    good = demo_photos / "workbench.jpg"

    hands.drop_files(hands.on_stage(state, 300, 200), [*bad_files.values(), good])

    expect(hands.page.get_by_role("list", name="Layers")).to_contain_text("Workbench")
    for reason, path in bad_files.items():
        told = hands.page.get_by_role("alert").filter(has_text=path.name)
        expect(told).to_contain_text(reason)
    hands.settle()
    assert len(hands.saved(state)["composite"]["layers"]) == 1
    hands.page.get_by_role("button", name="Dismiss empty.jpg").click()
    expect(hands.page.get_by_role("alert").filter(has_text="empty.jpg")).to_have_count(
        0
    )


def test_large_photo_is_laid_on_whole_and_can_be_dragged_at_once(
    hands: Hands, tmp_path: Path
) -> None:
    path = tmp_path / "twelve-megapixels.jpg"
    pixels = cv2.resize(soft_pixels(800, 600, seed=1), (4000, 3000))
    cv2.imwrite(str(path), pixels[..., 2::-1])
    state = hands.begin(width=1200, height=900)
    hands.open_desk(state)
    middle = hands.on_stage(state, 600, 450)

    hands.drop_files(middle, [path])
    expect(hands.page.get_by_role("list", name="Layers")).to_contain_text("Twelve")
    hands.drag(middle, Point(middle.x + 40, middle.y))
    hands.settle()

    placement = hands.saved(state)["composite"]["layers"][0]["placement"]
    assert placement["scale_x"] == pytest.approx(0.3)
    assert placement["x"] > 620


def test_files_dropped_beside_the_stage_wait_on_the_shelf(
    hands: Hands, demo_photos: Path
) -> None:
    state = hands.begin(width=600, height=400)
    hands.open_desk(state)
    page = hands.page
    shelf = page.get_by_role("button", name="Shelf, ")
    box = shelf.bounding_box()
    assert box is not None

    hands.drop_files(
        Point(box["x"] + 300, box["y"] + 5), [demo_photos / "stage-set.jpg"]
    )
    shelf.click()
    page.get_by_role("searchbox", name="Find a picture").fill("stage")
    page.get_by_role("button", name="Lay on Stage set, ").click()
    hands.settle()

    assert hands.sentences()[0].startswith("Stage set")


def test_chooser_takes_several_files(hands: Hands, demo_photos: Path) -> None:
    state = hands.begin(width=600, height=400)
    hands.open_desk(state)
    hands.page.keyboard.press("s")

    with hands.page.expect_file_chooser() as chooser:
        hands.page.get_by_role("button", name="Bring pictures in…").click()
    chooser.value.set_files(
        [demo_photos / "old-photo-keeper.jpg", demo_photos / "misty-hills.jpg"]
    )

    for name in ("Old photo keeper", "Misty hills"):
        expect(
            hands.page.get_by_role("button", name=f"Lay on {name}, ").first
        ).to_be_visible()


def test_pasted_picture_is_laid_on(hands: Hands) -> None:
    state = hands.begin(width=600, height=400)
    hands.open_desk(state)

    hands.page.evaluate(
        """async () => {
            const canvas = new OffscreenCanvas(40, 30);
            canvas.getContext("2d").fillRect(0, 0, 40, 30);
            const blob = await canvas.convertToBlob();
            const data = new DataTransfer();
            data.items.add(new File([blob], "pasted.png", { type: "image/png" }));
            const paste = new ClipboardEvent("paste", { clipboardData: data });
            window.dispatchEvent(paste);
        }"""
    )
    expect(hands.page.get_by_role("list", name="Layers")).to_contain_text("Pasted")
    hands.settle()

    layer = hands.saved(state)["composite"]["layers"][0]
    assert (layer["width"], layer["height"]) == (40, 30)


def test_photo_dropped_on_the_wall_begins_a_picture_of_its_size(
    hands: Hands, demo_photos: Path
) -> None:
    hands.open_wall()
    box = hands.page.get_by_role("region", name="Start").bounding_box()
    assert box is not None

    middle = Point(box["x"] + box["width"] / 2, box["y"] + 20)
    hands.drop_files(middle, [demo_photos / "puppet-kit-box.jpg"])
    hands.page.wait_for_url("**/desk/*")
    hands.settle()

    project = hands.product.get("/api/projects")["projects"][0]
    layer = hands.saved(project)["composite"]["layers"][0]
    assert (project["width"], project["height"]) == (layer["width"], layer["height"])
    assert hands.sentences() == ["Puppet kit box, filling the picture, shown plainly."]
