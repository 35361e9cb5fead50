"""What is kept in memory weighs what it holds, and is let go."""

from __future__ import annotations

import gc
from weakref import ref

import pytest

from glyphaneme.core.mask import Raster
from glyphaneme.core.mask.paintings import LEVELS, Painting, painted_all
from glyphaneme.core.mask.strokes import Stroke
from glyphaneme.core.render import FrameCache, Laid, View
from glyphaneme.core.render.sheets import Sheets
from glyphaneme.core.weighed import WeighedCache
from tests.pictures import (
    composite_of,
    noise_pixels,
    photo_layer,
    pyramids,
    soft_pixels,
)


def test_what_was_not_asked_for_lately_goes_first() -> None:
    kept: WeighedCache[str, int] = WeighedCache(2)
    kept.put("one", 1)
    kept.put("two", 2)

    assert kept.get("one") == 1
    kept.put("three", 3)

    assert [kept.get(key) for key in ("one", "two", "three")] == [1, None, 3]


def test_values_weigh_no_more_than_the_limit_together() -> None:
    kept: WeighedCache[str, bytes] = WeighedCache(100, len)
    kept.put("small", bytes(40))
    kept.put("middle", bytes(50))
    kept.put("more", bytes(30))

    assert kept.get("small") is None
    assert kept.get("middle") == bytes(50)
    kept.put("middle", bytes(5))
    kept.put("again", bytes(60))
    assert kept.get("more") == bytes(30)


@pytest.mark.parametrize("weight", [100, 101, 10_000])
def test_newest_stays_however_much_it_weighs(weight: int) -> None:
    kept: WeighedCache[str, bytes] = WeighedCache(100, len)
    kept.put("before", bytes(1))

    kept.put("large", bytes(weight))

    assert kept.get("large") == bytes(weight)
    assert kept.get("before") is None


def test_sheets_keep_nothing_alive_that_they_were_rendered_from() -> None:
    sheets, picture = Sheets(), pyramids(a=soft_pixels(40, 30, seed=1))["a"]
    gone = ref(picture)
    made = []

    def make() -> Laid:
        made.append(1)
        return Laid(())

    first = sheets.get("sheet", (picture, None), make)
    assert sheets.get("sheet", (picture, None), make) is first
    del picture
    gc.collect()

    assert gone() is None
    assert sheets.get("sheet", (None, None), make) is not first
    assert len(made) == 2


def test_sheets_without_pixels_are_let_go_too() -> None:
    sheets = Sheets(2**20)

    for at in range(10_000):
        sheets.get(at, (), lambda: Laid(()))

    assert 0 < sheets.size <= 2**20


def test_scenes_without_pixels_are_let_go_too() -> None:
    frames = FrameCache(2**20)
    toned = composite_of(photo_layer("a", soft_pixels(9, 9, seed=1)), width=9, height=9)

    for picture in range(200):
        frames.render(
            picture, toned, pyramids(a=soft_pixels(9, 9, seed=1)), View(0, 0, 3, 3, 1)
        )

    assert 0 < frames.size <= 2**20


@pytest.mark.parametrize("side", [700, 1000])
def test_raster_weighs_what_it_comes_to_hold(side: int) -> None:
    raster = Raster(noise_pixels(side, side, seed=2)[..., 0].copy())
    said = raster.nbytes

    planes = [raster.plane_for(2.0**halvings)[1] for halvings in range(7)]

    held = sum(one.nbytes for one in {id(one): one for one in planes}.values())
    assert 0.5 * said < held + raster._values[0].nbytes * 4 / 3 <= 1.2 * said


def test_painting_weighs_what_it_comes_to_hold() -> None:
    soft = Stroke(points=((0, 0, 1), (900, 700, 1)), size=300)
    painting = painted_all(Painting(), [soft])
    said = painting.nbytes

    painting.level_at(LEVELS - 1)

    assert 0.5 * said < sum(one.nbytes for one in painting.levels.values()) <= said
    assert painting.nbytes == pytest.approx(said, rel=0.2)


def test_what_is_said_to_be_gone_goes_alone() -> None:
    kept: WeighedCache[str, int] = WeighedCache(9)
    for name in ("one", "two", "three"):
        kept.put(name, 1)

    kept.drop(lambda name: name.startswith("t"))

    assert [kept.get(name) for name in ("one", "two", "three")] == [1, None, None]
    assert len(kept) == kept.weight == 1


def test_scene_that_is_larger_than_all_that_is_kept_is_not_kept() -> None:
    pixels = soft_pixels(300, 300, seed=1)
    state = composite_of(photo_layer("a", pixels), width=300, height=300)
    frames = FrameCache(150_000)

    frames.render("large", state, pyramids(a=pixels), View(0, 0, 300, 300, 1))

    assert frames.size < 100_000


def test_raster_is_read_in_the_size_that_is_not_blown_up() -> None:
    raster = Raster(noise_pixels(160, 144, seed=2)[..., 0].copy())

    sizes = [
        (at, plane.rows, plane.columns) for at, plane in map(raster.plane_for, SEEN)
    ]

    assert sizes == [(0, 144, 160), (1, 72, 80), (2, 36, 40), (3, 18, 20), (4, 9, 10)]


SEEN = (1.0, 2.5, 4.0, 8.0, 1000.0)
