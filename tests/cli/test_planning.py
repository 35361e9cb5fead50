"""The commands `plans` and `make`: one picture, one for each row, whatever fails."""

from __future__ import annotations

import hashlib
import json
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from glyphaneme.core.plans import parse_plan, read_plan
from glyphaneme.services.layered_reading import read_layered
from glyphaneme.services.plans.packing import PlanFile, pack_plan
from tests import fonts
from tests.commands import Done, run_here
from tests.cutouts import disks
from tests.pictures import soft_pixels
from tests.tiny_network import write_network

if TYPE_CHECKING:
    from pathlib import Path


@pytest.fixture
def photos(tmp_path: Path) -> Path:
    """Put photos into a folder: a red disk before blue, and two others."""
    write_network(tmp_path / "models")
    pictures = {
        "disk": disks(400, 300, [(200, 160, 80)]).pixels,
        "hills": soft_pixels(320, 240, seed=1),
        "wood": soft_pixels(240, 320, seed=2),
    }
    for name, pixels in pictures.items():
        Image.fromarray(pixels[..., :3]).save(tmp_path / f"{name}.png")
    return tmp_path


def run(photos: Path, *arguments: object) -> Done:
    return run_here(
        *arguments,
        GLYPHANEME_MODELS=str(photos / "models"),
        GLYPHANEME_HOME=str(photos / "home"),
        GLYPHANEME_FONTS=str(fonts.FOLDER),
    )


def pixels_of(path: Path) -> np.ndarray:
    with Image.open(path) as picture:
        return np.asarray(picture.convert("RGBA"))


def test_plans_are_listed_for_people_and_for_programs(photos: Path) -> None:
    said = json.loads(run(photos, "plans", "--json").stdout)

    assert len(said) == 17
    assert set(said[0]) == {"name", "title", "slots"}
    assert said[0]["slots"][2] == {
        "name": "things",
        "suits": "Birds, moths, letters on white.",
        "needed": False,
    }
    lines = run(photos, "plans").stdout.splitlines()
    assert (
        lines[0] == "double-exposure      A double exposure (somebody, place, [things])"
    )


def test_a_picture_is_made_as_wide_as_was_asked(photos: Path) -> None:
    out = photos / "both.jpg"

    done = run(
        photos,
        *("make", "melting", "--width", 200, "-o", out),
        *("--slot", f"photos={photos}/hills.png"),
        *("--slot", f"photos={photos}/wood.png"),
        *("--choice", "way=down"),
    )

    assert done.returncode == 0, done.stderr
    made = pixels_of(out)
    assert made.shape[1] == 200
    assert f"{out}: 200 × {made.shape[0]} pixels" in done.stdout


def test_a_subject_is_cut_out_and_put_on_white(photos: Path) -> None:
    out = photos / "white.png"

    done = run(
        photos,
        *("make", "product-on-white", "--slot", f"product={photos}/disk.png"),
        *("--width", 200, "-o", out),
    )

    assert done.returncode == 0, done.stderr
    made = pixels_of(out)
    assert made[3, 3].tolist() == [255, 255, 255, 255]
    red = made[100, 100].astype(int)
    assert red[0] > 150 > 100 > red[2]
    # It fills the share of the sheet that the plan gives it, whatever the photo did.
    columns = np.flatnonzero((made[..., 2] < 128).any(axis=0))
    assert (columns[-1] - columns[0]) / 200 == pytest.approx(0.85, abs=0.03)


def test_what_does_not_stand_out_is_said_and_the_rest_is_made(photos: Path) -> None:
    plain = photos / "plain.png"
    Image.new("RGB", (80, 60), (0, 0, 200)).save(plain)
    out = photos / "plain-white.png"

    done = run(
        photos,
        *("make", "product-on-white", "--slot", f"product={plain}"),
        *("--width", 50, "-o", out),
    )

    assert done.returncode == 0
    assert "Nothing stands out in Plain" in done.stderr
    assert out.exists()


def test_a_layered_file_holds_the_plans_layers(photos: Path) -> None:
    out = photos / "card.ora"

    done = run(
        photos,
        *("make", "postcard", "--slot", f"photo={photos}/hills.png"),
        *("--words", "greeting=Ahoy", "-o", out),
    )

    assert done.returncode == 0, done.stderr
    with out.open("rb") as file:
        composite = read_layered(file).composite
    assert composite.layer("photo").name == "Hills"
    assert composite.layer("greeting").name == "Ahoy"


def test_a_table_makes_a_picture_a_row_and_what_fails_stops_no_other(
    photos: Path,
) -> None:
    table = photos / "cards.csv"
    table.write_bytes(
        "\ufeffname,photo,greeting\n"
        'Anna/../x,hills.png,"Ahoy, Anna"\n'
        "Gone,gone.png,\n"
        "Empty,,Nobody\n"
        "灯,wood.png,灯\n"
        "灯,wood.png,again\n".encode()
    )
    folder = photos / "cards"

    done = run(
        photos, "make", "postcard", "--table", table, "-o", folder, "--width", 60
    )

    assert done.returncode == 1
    names = sorted(file.name for file in folder.iterdir())
    assert names == ["Anna-..-x.png", "灯-2.png", "灯.png"]
    assert "row 3: " in done.stderr
    assert "gone.png" in done.stderr
    assert "row 4: There is no photo yet" in done.stderr


BAD: dict[str, tuple[list[str], str]] = {
    "no plan": (["nothing", "-o", "a.png"], "there is no plan called nothing"),
    "no slot": (["postcard", "--slot", "x=a.png", "-o", "a.png"], "no slot called x"),
    "no way": (
        ["melting", "--choice", "way=up", "-o", "a.png"],
        "way is one of",
    ),
    "no photo": (["postcard", "-o", "a.png"], "no photo yet for “A photo”"),
    "no file": (
        ["postcard", "--slot", "photo=gone.png", "-o", "a.png"],
        "gone.png",
    ),
    "no name": (["postcard", "--slot", "gone.png", "-o", "a.png"], "must be NAME="),
    "no format": (["postcard", "-o", "a.xyz"], "must end in one of"),
    "no width": (
        ["postcard", "--slot", "photo=hills.png", "--width", "0", "-o", "a.png"],
        "greater than or equal to 1",
    ),
}


@pytest.mark.parametrize("case", BAD)
def test_what_cannot_be_made_is_said_in_a_sentence(
    photos: Path, case: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.chdir(photos)
    arguments, says = BAD[case]

    done = run(photos, "make", *arguments)

    assert done.returncode != 0
    assert says in done.stderr
    assert not (photos / "a.png").exists()


def test_a_plan_file_of_ones_own_is_taken(photos: Path) -> None:
    file = photos / "own.json"
    value = {
        "glyphaneme_plan": 1,
        "name": "own",
        "title": "Own",
        "sheet": {"width": 40, "height": 30},
        "slots": [{"name": "photo", "title": "A photo"}],
        "layers": [
            {"kind": "photo", "id": "photo", "slot": "photo", "place": {"rule": "fill"}}
        ],
    }
    file.write_text(json.dumps(value))
    assert parse_plan(file.read_bytes()).title == "Own"

    done = run(
        photos,
        *("make", file, "--slot", f"photo={photos}/hills.png"),
        *("-o", photos / "own.png"),
    )

    assert done.returncode == 0, done.stderr
    assert pixels_of(photos / "own.png").shape == (30, 40, 4)


@pytest.mark.parametrize("ending", ["png", "ora"])
def test_what_stays_in_a_plan_file_is_taken_out_of_it(
    photos: Path, ending: str
) -> None:
    green = photos / "green.png"
    Image.new("RGB", (20, 30), (20, 160, 40)).save(green)
    data = green.read_bytes()
    named = hashlib.sha256(data).hexdigest()
    placement = {"x": 10, "y": 15, "scale_x": 1, "scale_y": 1}
    lying = {"width": 20, "height": 30, "placement": placement}
    value = {
        "glyphaneme_plan": 1,
        "name": "own",
        "title": "Own",
        "sheet": {"width": 40, "height": 30},
        "slots": [{"name": "photo", "title": "A photo", "made_with": "0" * 64}],
        "pictures": {"green": named},
        "layers": [
            {"kind": "photo", "id": "p", "slot": "photo", "place": {"rule": "fill"}},
            {"kind": "photo", "id": "g", "picture": "green", **lying},
        ],
    }
    file = photos / "own.json"
    out = photos / f"own.{ending}"
    order = ("make", file, "--slot", f"photo={photos}/disk.png", "-o", out)
    file.write_text(json.dumps(value))
    lacking = run(photos, *order)
    assert lacking.returncode == 1
    assert "not whole" in lacking.stderr
    file.write_bytes(pack_plan(PlanFile(read_plan(value), {named: data}, ())))

    done = run(photos, *order)

    assert done.returncode == 0, done.stderr
    if ending == "png":
        made = pixels_of(out)
        assert made[15, 5, :3].tolist() == [20, 160, 40]
        assert made[15, 38, 2] > 100
        return
    with out.open("rb") as layered:
        unpacked = read_layered(layered)
    assert [layer.name for layer in unpacked.composite.layers] == ["Disk", "Green"]
    assert len(unpacked.pictures) == 2
