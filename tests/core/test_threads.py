"""What several threads share at once is what one alone would have."""

from __future__ import annotations

import sys
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from typing import TYPE_CHECKING

import numpy as np
import pytest

from glyphaneme.core.mask.paintings import Painting, painted_all, painted_on
from glyphaneme.core.mask.raster import Raster
from glyphaneme.core.mask.strokes import Stroke

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

ASKING = 6
SIZES = (2.0, 4.0, 8.0)
"""How many pixels a shown one covers: halved once, twice, three times."""


@pytest.fixture(autouse=True)
def _switching_often() -> Iterator[None]:
    usual = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    yield
    sys.setswitchinterval(usual)


def at_once(ask: Callable[[float], object]) -> list[object]:
    """Ask from several threads, all of them at the same moment."""
    begin = Barrier(ASKING)

    def asked(size: float) -> object:
        begin.wait(timeout=60)
        return ask(size)

    with ThreadPoolExecutor(ASKING) as threads:
        return list(threads.map(asked, SIZES * (ASKING // len(SIZES))))


@pytest.mark.parametrize("seed", range(12))
def test_sizes_of_a_raster_are_made_once_each(seed: int) -> None:
    values = np.random.default_rng(seed).integers(0, 256, (160, 144), np.uint8)
    raster = Raster(values)

    found = at_once(raster.plane_for)

    alone = Raster(values)
    for size, (halvings, plane) in zip(SIZES * 2, found, strict=True):
        wanted = alone.plane_for(size)
        assert halvings == wanted[0]
        assert (plane.rows, plane.columns) == (wanted[1].rows, wanted[1].columns)
        assert np.array_equal(plane.alive, wanted[1].alive)


@pytest.mark.parametrize("seed", range(6))
def test_sizes_of_a_painting_are_made_once_each(seed: int) -> None:
    stroke = Stroke(points=((seed, 3, 1), (300, 200, 1)), size=60)
    under = painted_all(Painting(), [stroke])

    def ask(size: float) -> object:
        # One more stroke takes over what is there, while others make more of it.
        painted_all(under, [stroke])
        return under.level_for(size)[1]

    found = at_once(ask)

    assert [id(one) for one in found[:3]] == [id(one) for one in found[3:]]
    assert sorted(under.levels) == [0, 1, 2, 3]


def test_a_stroke_goes_on_over_what_it_was_begun_over_alone() -> None:
    stroke = Stroke(points=((5, 5, 1), (60, 50, 1)), size=30)
    longer = Stroke(points=((5, 5, 1), (60, 50, 1), (90, 9, 1)), size=30)
    under, other = painted_all(Painting(), [stroke]), Painting()
    underway = painted_on(under, stroke, None)

    assert underway.goes_on(under, longer)
    assert not underway.goes_on(other, longer)
