"""Paintings that are kept as files: what comes back, and what does not."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
import pytest

from glyphaneme.codecs import load_painting, save_painting
from glyphaneme.core.mask.paintings import NO_PAINTING, Painting, painted_all
from glyphaneme.core.mask.strokes import Stroke

if TYPE_CHECKING:
    from pathlib import Path

HIDDEN = Stroke(points=((-90, 40, 1), (500, 300, 1)), size=260, softness=0.2)
SHOWN = Stroke(points=((300, 200, 1),), size=90, shows=True)


def kept(painting: Painting, place: Path) -> Painting | None:
    save_painting(place, painting)
    return load_painting(place)


@pytest.mark.parametrize("strokes", [(HIDDEN,), (HIDDEN, SHOWN), (SHOWN, SHOWN)])
def test_what_comes_back_is_the_same_and_is_gone_on_from(
    strokes: tuple[Stroke, ...], tmp_path: Path
) -> None:
    painting = painted_all(NO_PAINTING, strokes)

    again = kept(painting, tmp_path / "painting.npz")

    assert again is not None
    assert again.strokes == len(strokes)
    for one, other in (
        (painting, again),
        (painted_all(painting, [SHOWN]), painted_all(again, [SHOWN])),
    ):
        for place in range(3):
            assert one.level_at(place).shows == other.level_at(place).shows
            wanted, found = one.level_at(place).texels, other.level_at(place).texels
            assert wanted.keys() == found.keys()
            assert all(np.array_equal(wanted[at], found[at]) for at in wanted)


def test_without_all_of_its_pixels_it_is_painted_anew(tmp_path: Path) -> None:
    place = tmp_path / "painting.npz"
    save_painting(place, painted_all(NO_PAINTING, [HIDDEN]))
    with np.load(place) as whole:
        parts = dict(whole)
    assert len(parts["pixels"]) > 2

    for pixels in (
        parts["pixels"][:-1],
        parts["pixels"][:1],
        parts["pixels"][:, :-1],
        parts["pixels"].astype(np.float32),
    ):
        np.savez(place, **{**parts, "pixels": pixels})
        assert load_painting(place) is None


def test_where_nothing_was_kept_there_is_none(tmp_path: Path) -> None:
    assert load_painting(tmp_path / "painting.npz") is None
