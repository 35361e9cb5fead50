"""The command `cutout`."""

from __future__ import annotations

import os
import subprocess
import sys
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from tests.commands import Done, run_here
from tests.cutouts import disks
from tests.tiny_network import write_network

if TYPE_CHECKING:
    from pathlib import Path

KNOWN = disks(400, 300, [(110, 150, 60), (300, 150, 50)], softness=6)


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    write_network(tmp_path / "models")
    path = tmp_path / "two moths.png"
    Image.fromarray(KNOWN.pixels[..., :3]).save(path)
    return path


def surroundings(photo: Path) -> dict[str, str]:
    return {
        "GLYPHANEME_MODELS": str(photo.parent / "models"),
        "GLYPHANEME_HOME": str(photo.parent / "home"),
    }


def run(photo: Path, *arguments: object) -> Done:
    return run_here("cutout", *arguments, **surroundings(photo))


def pixels_of(path: Path) -> np.ndarray:
    with Image.open(path) as picture:
        return np.asarray(picture.convert("RGBA"))


def test_the_matte_is_the_alpha_and_the_edge_has_the_subjects_own_colours(
    photo: Path, tmp_path: Path
) -> None:
    out = tmp_path / "cut.png"

    done = subprocess.run(
        [sys.executable, "-m", "glyphaneme", "cutout", str(photo), "-o", str(out)],
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, **surroundings(photo)},
    )

    assert done.returncode == 0, done.stderr
    assert done.stdout.endswith("cut.png: 400 × 300 pixels\n")
    pixels = pixels_of(out)
    assert np.abs(pixels[..., 3] / 255 - KNOWN.alpha).mean() < 0.02
    soft = (KNOWN.alpha > 0.2) & (KNOWN.alpha < 0.8)
    own = np.abs(pixels[..., :3] / 255 - KNOWN.own)[soft].mean()
    assert own < 0.5 * np.abs(KNOWN.pixels[..., :3] / 255 - KNOWN.own)[soft].mean()


def test_a_rectangle_and_strokes_say_what_is_meant(photo: Path, tmp_path: Path) -> None:
    framed, painted = tmp_path / "framed.png", tmp_path / "painted.png"

    run(photo, photo, "-o", framed, "--rect", "230,80,140,140")
    run(photo, photo, "-o", painted, "--drop", "80,150 140,150", "--keep", "300,150")

    for out in (framed, painted):
        alpha = pixels_of(out)[..., 3]
        assert (alpha[150, 110], alpha[150, 300]) == (0, 255)


def test_several_pictures_go_to_a_folder_and_one_that_fails_stops_none(
    photo: Path, tmp_path: Path
) -> None:
    wall = tmp_path / "wall.png"
    Image.fromarray(disks(200, 100, []).pixels[..., :3]).save(wall)
    folder = tmp_path / "out"

    done = run(photo, wall, photo, "-o", folder, "--width", "100")

    assert done.returncode == 1
    assert "No clear subject was found in wall.png" in done.stderr
    assert [path.name for path in folder.iterdir()] == ["two moths.png"]
    assert pixels_of(folder / "two moths.png").shape == (75, 100, 4)


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["-o", "out.jpg"], "must end in .png"),
        (["-o", "out.png", "--width", "0"], "must be above 0"),
        (["-o", "out.png", "--width", "99999"], "at most 30000 on a side"),
        (["-o", "out.png", "--way", "magic"], "cannot be looked for"),
        (["-o", "out.png", "--rect", "1,2"], "left, top, width and height"),
        (["-o", "out.png", "--keep", "nan,3"], "cannot be looked for"),
        (["-o", "out.png", "--keep", "somewhere"], "must be pixels such as"),
    ],
)
def test_what_means_nothing_is_told_and_leaves_nothing(
    photo: Path, arguments: list[str], words: str
) -> None:
    done = run(photo, photo, *arguments)

    assert done.returncode != 0
    assert words in done.stderr
    assert not list(photo.parent.glob("*out*"))


def test_several_pictures_need_a_folder(photo: Path) -> None:
    done = run(photo, photo, photo, "-o", photo.parent / "one.png")

    assert done.returncode == 1
    assert "need a folder" in done.stderr
