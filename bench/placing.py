"""Figures of four corners, bends, and lining up."""

from __future__ import annotations

import itertools
import time
from typing import TYPE_CHECKING, Any

import numpy as np

from bench.figures import FRAME, WARM_FRAMES, Engine, Figure
from bench.measuring import measure
from bench.workload import photo
from glyphaneme.core.align import MapKind, aligned_by_content
from glyphaneme.core.align.fitting import mapped
from glyphaneme.core.document import Canvas, Composite, PhotoLayer
from glyphaneme.core.errors import NotAlikeError
from glyphaneme.core.place import Bend, Corners, Placement, build_pyramid
from glyphaneme.core.render import FrameCache, View, render
from glyphaneme.core.values import with_fields
from tests.seasons import another_season, seen_through, turned
from tests.warped import reference

if TYPE_CHECKING:
    from collections.abc import Iterator

    from bench.workload import Pixels

LEANING = Corners(top_left=(0.12, 0.1), top_right=(-0.05, 0.15), bottom_left=(0, -0.1))
STAYS, DOWN, UP = (0, 0), (0, 0.08), (0, -0.05)
BELLIED = Bend(moves=(STAYS, DOWN, STAYS, STAYS, STAYS, STAYS, STAYS, UP, STAYS))
SHRUNK = (1, 1.5, 2, 3, 4, 6)
WRONG_PAIRS = 30


def warped_frames(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    """Measure frames of a layer dragged by a corner against the same one turned."""
    view = FRAME._replace(scale=FRAME.width / engine.whole.width)
    cache = FrameCache(2**30)
    steps = itertools.count()
    place = engine.composite.layers[1].placement

    def frame(name: str, **changes: Any) -> Any:
        def run() -> Any:
            step = next(steps) % 50
            pull = 0.05 + step / 1000
            fields = {
                key: value(pull, step) if callable(value) else value
                for key, value in changes.items()
            }
            placement = with_fields(place, **fields)
            layers = list(engine.composite.layers)
            layers[1] = with_fields(layers[1], placement=placement)
            composite = with_fields(engine.composite, layers=tuple(layers))
            return cache.render(name, composite, engine.pyramids, view)

        return run

    moves = {
        "turned": frame("turned", turn=lambda _, step: 7 + step / 10),
        "cornered": frame(
            "cornered", corners=lambda pull, _: Corners(top_left=(pull, pull))
        ),
        "bent": frame(
            "bent",
            corners=lambda pull, _: Corners(top_left=(pull, pull)),
            bend=BELLIED,
        ),
    }
    for work in moves.values():
        for _ in range(WARM_FRAMES):
            work()
    took = measure(moves, rounds=rounds)
    share = took["cornered"].cpu / took["turned"].cpu
    yield Figure("frame, a corner dragged, against the layer turned", share, 2, 1.3)
    share = took["bent"].cpu / took["turned"].cpu
    yield Figure("the same with a bend", share, 4, 2)


def warped_exactness() -> Iterator[Figure]:
    """Measure warped sampling against 8 by 8 samples a pixel in float64."""
    pixels = photo(480, 360, seed=3)
    for name, bend in (("four corners", None), ("corners and bend", BELLIED)):
        worst = max(_error(pixels, shrink, bend) for shrink in SHRUNK)
        label = f"{name}, shrunk 1 to 6 times, RMS levels"
        yield Figure(label, worst, 2, 1, unit="")


def _error(pixels: Pixels, shrink: float, bend: Bend | None) -> float:
    width, height = round(600 / shrink), round(440 / shrink)
    placement = Placement(
        x=width / 2,
        y=height / 2,
        scale_x=1 / shrink,
        scale_y=1 / shrink,
        turn=10,
        corners=LEANING,
        bend=bend,
    )
    layer = PhotoLayer(
        id="a",
        name="A",
        picture="a",
        width=pixels.shape[1],
        height=pixels.shape[0],
        placement=placement,
    )
    canvas = Canvas(width=width, height=height, background=None)
    composite = Composite(canvas=canvas, layers=(layer,))
    shown = render(
        composite, {"a": build_pyramid(pixels)}, View(0, 0, width, height, 1)
    ).astype(np.float64)
    shown[..., :3] *= shown[..., 3:] / 255
    error = shown - reference(pixels, placement, (width, height))
    return float(np.sqrt(np.mean(error**2)))


def lining_up(*, quick: bool) -> Iterator[Figure]:
    """Measure pairs of known truth, and pictures of other places."""
    size = (2000, 1500) if quick else (4000, 3000)
    truth = turned(2, 1.03, -31.3, 17.7)
    errors, times = [], []
    for seed in range(3):
        fixed = photo(*size, seed=seed)
        moving = another_season(seen_through(fixed, truth))
        begun = time.perf_counter()
        found = aligned_by_content(moving, fixed, MapKind.SIMILAR)
        times.append(time.perf_counter() - begun)
        across, down = (np.linspace(0.1, 0.9, 5) * side for side in size)
        points = np.stack(np.meshgrid(across, down), -1).reshape(-1, 2)
        off = mapped(found.matrix, mapped(truth, points)) - points
        errors.append(float(np.hypot(*off.T).mean()))
    label = "lined up by content, 12 MP, mean error in px"
    yield Figure(label, max(errors), 1.5, 0.3, unit="")
    yield Figure("and seconds for it", max(times), 4, 2, unit=" s")
    others = [photo(1200, 900, seed=seed) for seed in range(9)]
    pairs = list(itertools.combinations(others, 2))[:WRONG_PAIRS]
    accepted = sum(map(_is_accepted, pairs))
    label = f"of {WRONG_PAIRS} wrong pairs taken for right"
    yield Figure(label, accepted, 0, 0, unit="")


def _is_accepted(pair: tuple[Pixels, Pixels]) -> bool:
    try:
        aligned_by_content(*pair)
    except NotAlikeError:
        return False
    return True
