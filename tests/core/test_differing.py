"""Where pictures differ: what a window of tiles is chosen by."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from glyphaneme.core.render import telling_window

if TYPE_CHECKING:
    from numpy.typing import NDArray

WIDTH, HEIGHT = 120, 80
WHOLE = (0, 0, 1, 1)


def picture() -> NDArray[np.uint8]:
    """Return noise: what all alternatives show alike."""
    noise = np.random.default_rng(4).integers(0, 200, (HEIGHT, WIDTH, 4))
    return noise.astype(np.uint8)


def with_spot(x: int, y: int, side: int = 10, level: int = 50) -> NDArray[np.uint8]:
    spotted = picture()
    spotted[y : y + side, x : x + side, :3] += np.uint8(level)
    return spotted


@given(x=st.integers(0, WIDTH - 10), y=st.integers(0, HEIGHT - 10))
def test_window_lies_round_what_differs(x: int, y: int) -> None:
    found = telling_window([picture(), with_spot(x, y), picture()])

    assert found.width == pytest.approx(found.height)
    assert found.width < 0.3
    assert found.left >= 0
    assert found.top >= 0
    assert found.right <= 1 + 1e-9
    assert found.bottom <= 1 + 1e-9
    # In its middle, as far as the picture's edge lets it.
    half = found.width / 2
    middle = np.clip(((x + 5) / WIDTH, (y + 5) / HEIGHT), half, 1 - half)
    assert (found.at(0, 0.5), found.at(1, 0.5)) == pytest.approx(middle, abs=0.02)


def test_slight_differences_count_as_much_as_strong_ones() -> None:
    strong = with_spot(100, 60, level=50)
    slight = [with_spot(x, 10, level=8) for x in (12, 15, 18, 21)]

    found = telling_window([picture(), picture(), strong, *slight, *[picture()] * 3])

    assert found.right * WIDTH < 60
    assert found.bottom * HEIGHT < 50


def test_what_differs_everywhere_or_nowhere_is_shown_whole() -> None:
    lighter = picture() + np.uint8(20)

    assert telling_window([picture(), lighter]) == WHOLE
    assert telling_window([picture(), picture()]) == WHOLE
    assert telling_window([picture()]) == WHOLE
    # No eye sees two levels.
    assert telling_window([picture(), with_spot(20, 20, level=2)]) == WHOLE


def test_window_is_not_smaller_than_the_least() -> None:
    found = telling_window([picture(), with_spot(50, 40)], least=0.5)
    beyond = telling_window([picture(), with_spot(50, 40)], least=0.9)

    assert found.width == pytest.approx(0.5)
    assert beyond == WHOLE


@pytest.mark.parametrize("size", [(1, 1), (1, 300), (2000, 1)])
def test_smallest_and_longest_pictures_have_a_window(size: tuple[int, int]) -> None:
    plain = np.zeros((*size, 4), np.uint8)
    other = plain.copy()
    other[0, 0] = 255

    found = telling_window([plain, other])

    assert 0 <= found.left < found.right <= 1
    assert 0 <= found.top < found.bottom <= 1
