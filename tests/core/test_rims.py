"""The view that marks what is left of an old backdrop."""

from __future__ import annotations

import numpy as np
import pytest

from glyphaneme.core.cutout.own_colors import with_own_colors
from glyphaneme.core.render import rim_of
from tests.cutouts import disks
from tests.pictures import flat_pixels

KNOWN = disks(320, 240, [(160, 120, 80)], softness=8)
ALPHA = (KNOWN.alpha * 255 + 0.5).astype(np.uint8)
WALL = (40, 70, 150, 255)


def cut_from(pixels: np.ndarray) -> np.ndarray:
    cut = pixels.copy()
    cut[..., 3] = ALPHA
    return cut


def marked(cut: np.ndarray, behind: tuple[int, ...]) -> float:
    """Return how much of the soft edge is marked."""
    shown = rim_of(cut, KNOWN.pixels, flat_pixels(320, 240, behind))
    assert (shown[..., 3] == 255).all()
    edge = (KNOWN.alpha > 0.2) & (KNOWN.alpha < 0.9)
    away = np.abs(np.hypot(*(np.indices((240, 320)).T - [120, 160]).T) - 80) > 12
    assert shown[away, 0].max() < 0.31 * 255
    return float((shown[edge, 0] > 0.5 * 255).mean())


@pytest.mark.parametrize("behind", [(255, 255, 255, 255), (230, 200, 60, 255)])
def test_a_rim_is_marked_until_it_is_cleaned(behind: tuple[int, ...]) -> None:
    clean = with_own_colors(KNOWN.pixels, ALPHA)

    assert marked(cut_from(KNOWN.pixels), behind) > 0.6
    assert marked(cut_from(clean), behind) < 0.1


def test_what_looks_like_what_lies_behind_now_is_no_rim() -> None:
    assert marked(cut_from(KNOWN.pixels), WALL) < 0.05


def test_a_layer_that_shows_whole_or_not_at_all_has_no_rim() -> None:
    for alpha in (0, 255):
        cut = KNOWN.pixels.copy()
        cut[..., 3] = alpha
        shown = rim_of(cut, KNOWN.pixels, flat_pixels(320, 240, (255, 255, 255, 255)))
        assert shown[..., 0].max() <= 0.31 * 255
