"""Pictures on their way in, good ones and bad ones."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import cv2
import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.browser.hands import Point
from tests.pictures import png_header, soft_pixels

if TYPE_CHECKING:
    from collections.abc import Callable

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


def test_photos_dropped_together_lie_side_by_side_and_melt(
    hands: Hands, demo_photos: Path
) -> None:
    state = hands.begin(width=600, height=300)
    hands.open_desk(state)
    two = [demo_photos / "forest-dusk.jpg", demo_photos / "moths-on-white.jpg"]

    hands.drop_files(hands.on_stage(state, 300, 150), two)

    note = hands.page.get_by_role("log").filter(has_text="2 photos lie on the sheet.")
    expect(note).to_be_visible()
    hands.settle()
    first, last = hands.saved(state)["composite"]["layers"]
    assert (first["placement"]["x"], last["placement"]["x"]) == (150, 450)
    word = hands.pile.get_by_role("button", name="Moths on white", exact=True)
    expect(word).to_have_attribute("aria-expanded", "true")

    note.get_by_role("button", name="Melt them").click()
    hands.settle()
    melted = hands.saved(state)["composite"]["layers"]
    assert [len(one["fades"]) for one in melted] == [0, 1]


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
    kit = demo_photos / "puppet-kit-box.jpg"
    hands.drop_files(middle, [kit, demo_photos / "moths-on-white.jpg"])
    hands.page.wait_for_url("**/desk/*")
    word = hands.pile.get_by_role("button", name="Moths on white", exact=True)
    expect(word).to_have_attribute("aria-expanded", "true")
    expect(hands.facet("Place")).to_have_attribute("aria-expanded", "true")
    hands.settle()

    project = hands.product.get("/api/projects")["projects"][0]
    layer = hands.saved(project)["composite"]["layers"][0]
    assert (project["width"], project["height"]) == (layer["width"], layer["height"])
    assert hands.sentences()[1] == (
        "Puppet kit box, filling the picture, shown plainly."
    )


def choose(hands: Hands, *paths: Path) -> None:
    with hands.page.expect_file_chooser() as chooser:
        hands.page.get_by_role("button", name="Bring pictures in…").click()
    chooser.value.set_files([str(path) for path in paths])


def test_photos_of_every_kind_are_brought_in_and_laid_on_in_their_order(
    hands: Hands, photo: Callable, demo_photos: Path, tmp_path: Path
) -> None:
    heic = Path(__file__).parents[1] / "codecs" / "files" / "turned.heic"
    names = ["Moths", "Meadow", "Phone", "Glow"]
    sources = [
        photo("moths-on-white"),
        demo_photos / "meadow-spring.tif",
        heic,
        photo("lantern-glow"),
    ]
    files = []
    for name, source in zip(names, sources, strict=True):
        files.append(tmp_path / f"{name}{source.suffix}")
        # A byte more: to others these are pictures of their own, under their own names.
        files[-1].write_bytes(source.read_bytes() + b"\0")
    state = hands.begin()
    hands.open_desk(state)

    hands.drop_files(hands.on_stage(state, 450, 300), files)

    expect(hands.pile.get_by_text("4 layers")).to_be_visible(timeout=30_000)
    hands.settle()
    layers = hands.saved(state)["composite"]["layers"]
    assert len({layer["picture"] for layer in layers}) == 4
    assert (layers[2]["width"], layers[2]["height"]) == (40, 64)
    assert [layer["name"] for layer in layers] == names


def test_word_photo_opens_the_shelf_and_an_empty_sheet_is_offered_what_comes(
    hands: Hands, photo: Callable
) -> None:
    state = hands.begin()
    hands.open_desk(state)
    hands.pile.get_by_role("button", name="photo", exact=True).click()
    expect(hands.page.get_by_label("Find a picture")).to_be_visible()

    choose(hands, photo("workbench"), photo("stage-set"))
    log = hands.page.get_by_role("log")
    log.get_by_role("button", name="Lay them on").click()
    hands.settle()

    names = [one["name"] for one in hands.saved(state)["composite"]["layers"]]
    assert names == ["Workbench", "Stage set"]


def test_picture_that_is_on_the_shelf_already_is_pointed_out_there(
    hands: Hands, photo: Callable
) -> None:
    state = hands.begin(photo("workbench"))
    hands.open_desk(state)
    hands.page.get_by_role("button", name="Shelf").click()

    choose(hands, photo("workbench"))

    log = hands.page.get_by_role("log")
    expect(log).to_contain_text("Workbench: on the shelf already")
    print_of_it = hands.page.get_by_role("button", name="Lay on Workbench")
    expect(print_of_it).to_have_attribute("data-marked", "true")


def test_folder_is_brought_in_with_all_that_lies_in_it(
    hands: Hands, photo: Callable, tmp_path: Path
) -> None:
    folder = tmp_path / "evening"
    (folder / "more").mkdir(parents=True)
    for name, inside in (("misty-hills", "a.jpg"), ("lantern-glow", "more/b.jpg")):
        (folder / inside).write_bytes(photo(name).read_bytes() + b"\0\0")
    (folder / "letter.txt").write_text("no picture")
    (folder / ".hidden").write_text("nor this")
    state = hands.begin()
    hands.open_desk(state)

    hands.drop_files(hands.on_stage(state, 450, 300), [folder])

    expect(hands.pile.get_by_text("2 layers")).to_be_visible(timeout=30_000)
    refused = hands.page.get_by_role("alert")
    expect(refused).to_have_count(1)
    expect(refused).to_contain_text("letter.txt")
    refused.get_by_role("button", name="Try again").click()
    expect(refused).to_contain_text("not a picture of a kind")


def test_note_of_a_file_with_pages_is_said(hands: Hands, tmp_path: Path) -> None:
    page = Image.new("RGB", (40, 30), "#a8412a")
    page.save(tmp_path / "pages.tif", save_all=True, append_images=[page, page])
    hands.open_desk(hands.begin())
    hands.page.get_by_role("button", name="Shelf").click()

    choose(hands, tmp_path / "pages.tif")

    expect(hands.page.get_by_role("log")).to_contain_text("Pages: It has 3 pages")
