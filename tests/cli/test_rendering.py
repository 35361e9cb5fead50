from __future__ import annotations

import subprocess
import sys
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from tests.commands import Done, run_here
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
