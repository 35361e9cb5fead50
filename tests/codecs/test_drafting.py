"""Files come to be all at once, and nothing is left of those that did not."""

from __future__ import annotations

import os
import time
from typing import TYPE_CHECKING

import numpy as np
import pytest

from glyphaneme.codecs import drafted, drop_drafts, load_pyramid, save_pyramid
from glyphaneme.codecs.drafting import DRAFT
from glyphaneme.core.place import build_pyramid
from tests.pictures import noise_pixels

if TYPE_CHECKING:
    from pathlib import Path


def names(folder: Path) -> list[str]:
    return sorted(one.name for one in folder.iterdir())


def test_a_file_is_there_when_it_is_whole_and_not_before(tmp_path: Path) -> None:
    place = tmp_path / "deep" / "note.txt"

    with drafted(place) as draft:
        draft.write_text("moths")
        assert not place.exists()

    assert place.read_text() == "moths"
    assert names(place.parent) == ["note.txt"]


def test_nothing_is_left_of_a_write_that_failed(tmp_path: Path) -> None:
    place = tmp_path / "note.txt"
    place.write_text("before")

    def fail() -> None:
        with drafted(place) as draft:
            draft.write_text("half of i")
            raise OSError("disk is full")

    with pytest.raises(OSError, match="disk is full"):
        fail()

    assert place.read_text() == "before"
    assert names(tmp_path) == ["note.txt"]


def test_drafts_of_killed_processes_go_and_those_under_way_stay(tmp_path: Path) -> None:
    inner = tmp_path / "pyramids" / "ab"
    for name in ("old", "new"):
        (inner / f"{DRAFT}{name}").mkdir(parents=True)
        (inner / f"{DRAFT}{name}" / "0.npy").write_bytes(b"half")
    (tmp_path / f"{DRAFT}file").write_bytes(b"half")
    long_ago = time.time() - 4000
    for left in (inner / f"{DRAFT}old", tmp_path / f"{DRAFT}file"):
        os.utime(left, (long_ago, long_ago))

    drop_drafts(tmp_path)

    assert names(inner) == [f"{DRAFT}new"]
    assert names(tmp_path) == ["pyramids"]
    drop_drafts(tmp_path / "nowhere")


def test_a_pyramid_that_is_damaged_is_written_anew(tmp_path: Path) -> None:
    pixels = noise_pixels(40, 30, seed=1)
    save_pyramid(tmp_path / "one", build_pyramid(pixels))
    (tmp_path / "one" / "0.npy").write_bytes(b"")
    assert load_pyramid(tmp_path / "one") is None

    save_pyramid(tmp_path / "one", build_pyramid(pixels))
    found = load_pyramid(tmp_path / "one")

    assert found is not None
    np.testing.assert_array_equal(found.levels[0], pixels)
    save_pyramid(tmp_path / "one", build_pyramid(pixels))
    assert names(tmp_path) == ["one"]
