from __future__ import annotations

import numpy as np
import pytest

from glyphaneme.core.color import color_name, palette_of
from glyphaneme.core.errors import PixelsShapeError
from tests.pictures import flat_pixels, noise_pixels, soft_pixels


def levels(color: str) -> np.ndarray:
    return np.array([int(color[at : at + 2], 16) for at in (1, 3, 5)])


def test_colours_of_a_poster_in_few_colours_are_found() -> None:
    colors = ["#101830", "#b04020", "#e0c060", "#f8f8f0"]
    stripes = [flat_pixels(20, 30, (*levels(color), 255)) for color in colors]

    found = palette_of(np.ascontiguousarray(np.concatenate(stripes, axis=1)), count=4)

    for color, wanted in zip(found, colors, strict=True):
        assert np.abs(levels(color) - levels(wanted)).max() <= 2


def test_colours_come_from_dark_to_light_and_none_twice() -> None:
    found = palette_of(soft_pixels(60, 40, seed=4))

    lightness = [levels(color) @ (0.3, 0.59, 0.11) for color in found]
    assert len(set(found)) == len(found) <= 6
    assert lightness == sorted(lightness)


def test_same_picture_always_gives_the_same_colours() -> None:
    picture = noise_pixels(50, 50, seed=9)

    assert palette_of(picture) == palette_of(picture.copy())


def test_see_through_places_do_not_count() -> None:
    picture = flat_pixels(10, 10, (200, 30, 40, 255))
    picture[:5] = (0, 255, 0, 0)

    assert palette_of(picture) == ("#c81e28",)
    assert palette_of(flat_pixels(4, 4, (9, 9, 9, 0))) == ()


def test_other_arrays_are_refused() -> None:
    with pytest.raises(PixelsShapeError, match=r"must be \(H, W, 4\) uint8"):
        palette_of(np.zeros((3, 3, 3), np.uint8))


@pytest.mark.parametrize(
    ("color", "name"),
    [
        ("#ffffff", "white"),
        ("#fdfdfd", "white"),
        ("#808080", "mid-grey"),
        ("#0a0a0c", "black"),
        ("#c0562f", "terracotta"),
        ("#705848", "chestnut"),
        ("#6b7a52", "moss green"),
        ("#30486a", "midnight blue"),
        ("#b5c9d8", "light blue"),
    ],
)
def test_colours_of_photos_have_the_names_that_people_give_them(
    color: str, name: str
) -> None:
    assert color_name(color) == name
