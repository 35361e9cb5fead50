from __future__ import annotations

import subprocess
import sys
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from tests.commands import Done, run_here
from tests.pdfs import boxes_of, pdf_facts, said_by
from tests.posters import PICTURES, poster, repaired_poster, saved, shown

if TYPE_CHECKING:
    from pathlib import Path


@pytest.fixture
def layered(tmp_path: Path) -> Path:
    path = tmp_path / "poster.ora"
    path.write_bytes(saved(poster()).getvalue())
    return path


def run(*arguments: object) -> Done:
    return run_here("render", *arguments)


def test_layered_file_is_rendered_as_on_the_stage(layered: Path) -> None:
    out = layered.with_suffix(".png")

    done = subprocess.run(
        [sys.executable, "-m", "glyphaneme", "render", str(layered), "-o", str(out)],
        capture_output=True,
        text=True,
        check=False,
    )

    assert done.returncode == 0, done.stderr
    with Image.open(out) as picture:
        pixels = np.asarray(picture.convert("RGBA"))
    np.testing.assert_array_equal(pixels, shown(poster(), PICTURES))


@pytest.mark.parametrize(
    ("options", "ending", "size"),
    [
        (["--scale", "0.5"], "jpg", (60, 45)),
        (["--width", "240"], "tif", (240, 180)),
        (["--layer", "Glow"], "webp", (120, 90)),
    ],
)
def test_size_format_and_layer_can_be_chosen(
    layered: Path, options: list[str], ending: str, size: tuple[int, int]
) -> None:
    out = layered.with_name(f"out.{ending}")

    done = run(layered, "-o", out, *options)

    assert done.returncode == 0, done.stderr
    with Image.open(out) as picture:
        assert picture.size == size


@pytest.mark.parametrize(
    ("options", "name", "words"),
    [
        ([], "out.bmp", "must end in one of .png"),
        (["--layer", "Nobody"], "out.png", "no such layer called Nobody"),
        (["--scale", "0"], "out.png", "greater than or equal to"),
    ],
)
def test_what_cannot_be_rendered_is_told_and_leaves_nothing(
    layered: Path, options: list[str], name: str, words: str
) -> None:
    done = run(layered, "-o", layered.with_name(name), *options)

    assert done.returncode == 1
    assert words in done.stderr
    assert [path.name for path in layered.parent.iterdir()] == ["poster.ora"]


def test_a_layer_without_pixels_of_its_own_is_told(layered: Path) -> None:
    layered.write_bytes(saved(repaired_poster()).getvalue())

    done = run(layered, "-o", layered.with_name("out.png"), "--layer", "Repairs")

    assert done.returncode == 1
    assert "has no pixels of its own" in done.stderr
    assert "Traceback" not in done.stderr


def test_several_files_are_made_for_a_purpose_and_one_that_fails_is_told(
    layered: Path,
) -> None:
    folder = layered.with_name("out")
    folder.mkdir()
    broken = layered.with_name("broken.ora")
    broken.write_bytes(b"no archive")

    done = run(layered, broken, layered, "-o", folder, "--for", "listing")

    assert done.returncode == 1
    assert "broken.ora" in done.stderr
    assert sorted(path.name for path in folder.iterdir()) == [
        "poster-2.jpg",
        "poster.jpg",
    ]
    with Image.open(folder / "poster.jpg") as picture:
        assert picture.size == (2000, 2000)


def test_print_shop_s_page_has_the_bleed_that_is_asked_for(layered: Path) -> None:
    out = layered.with_name("out.pdf")

    done = run(layered, "-o", out, "--for", "print-shop", "--bleed", "5mm")

    assert done.returncode == 0, done.stderr
    boxes = boxes_of(out)
    trim, bleed = boxes["TrimBox"], boxes["BleedBox"]
    assert trim[0] - bleed[0] == pytest.approx(5, abs=0.01)
    assert bleed[0] == pytest.approx(10, abs=0.01)


def test_files_become_pages_and_two_are_compared(layered: Path) -> None:
    book, pair = layered.with_name("book.pdf"), layered.with_name("pair.html")

    pages = run(layered, layered, layered, "-o", book, "--pages")
    compared = run(layered, layered, "-o", pair, "--compare")

    assert (pages.returncode, compared.returncode) == (0, 0), compared.stderr
    assert pdf_facts(book)["Pages"] == "3"
    assert pair.read_text().count("data:image/jpeg;base64,") == 2


def test_sixteen_bits_and_a_limit_are_kept(layered: Path) -> None:
    deep, small = layered.with_name("deep.tif"), layered.with_name("small.jpg")

    assert run(layered, "-o", deep, "--bits", "16").returncode == 0
    limited = run(layered, "-o", small, "--under", "3kB", "--width", "600")

    assert limited.returncode == 0, limited.stderr
    assert small.stat().st_size <= 3000
    assert said_by(deep)["IFD0:BitsPerSample"].startswith("16 16 16")


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (["--under", "much"], "a size is written as 500kB"),
        (["--bleed", "3 apples"], "a length is written as 3mm"),
        (["--bits", "16"], "16 bits a channel need a PNG or a TIFF"),
        (["--profile", __file__], "no colour profile"),
        (["--compare"], "two files are compared"),
        (["--quality", "0"], "quality"),
    ],
)
def test_options_that_cannot_be_met_are_told(
    layered: Path, options: list[str], words: str
) -> None:
    done = run(layered, "-o", layered.with_name("out.jpg"), *options)

    assert done.returncode in {1, 2}
    assert words in done.stderr
    assert "Traceback" not in done.stderr
    assert [path.name for path in layered.parent.iterdir()] == ["poster.ora"]
