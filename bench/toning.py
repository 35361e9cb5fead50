"""Figures of tones."""

from __future__ import annotations

import itertools
from typing import TYPE_CHECKING, Any

import cv2
import numpy as np
import simplejpeg

from bench.figures import FRAME, WARM_FRAMES, Engine, Figure
from bench.measuring import measure
from bench.workload import Part, as_composite
from glyphaneme.core.document import ToningLayer
from glyphaneme.core.render import FrameCache, View, render, render_exact
from glyphaneme.core.tone import (
    BlurTone,
    ColoringTone,
    CurvesTone,
    Ends,
    LevelsTone,
    PainterlyTone,
    Tone,
    WarmthTone,
)
from glyphaneme.core.values import with_fields
from tests import published_tones as published

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from bench.workload import Pixels
    from glyphaneme.core.document import Composite
    from glyphaneme.core.render import Fineness

CURVE = ((0, 0), (0.25, 0.2), (0.5, 0.52), (0.75, 0.8), (1, 1))
STACK: tuple[Tone, ...] = (
    LevelsTone(all=Ends(darkest=0.02, middle=1.1, lightest=0.98)),
    CurvesTone(all=CURVE),
    WarmthTone(warmth=30),
    ColoringTone(saturation=0.2),
)
BAND_ROWS = 64
SIGMA = 50.0


def figures(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    """Measure stacks of tones, frames while one moves, and tones of neighbours."""
    yield from _stacks(engine, rounds=rounds)
    yield from _frames(engine, rounds=3 * rounds)
    yield from _areas(engine, rounds=rounds)
    yield from _exactness()


def _toned(composite: Composite, *places: int, over: bool = False) -> Composite:
    layers = [
        with_fields(layer, tones=STACK) if place in places else layer
        for place, layer in enumerate(composite.layers)
    ]
    if over:
        layers.append(ToningLayer(id="all", name="All", tones=STACK))
    return with_fields(composite, layers=tuple(layers))


def _stacks(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    base = engine.parts[0].pixels
    alone = with_fields(engine.composite, layers=engine.composite.layers[:1])
    one, four = (
        _toned(engine.composite, 0),
        _toned(engine.composite, 0, 2, 4, over=True),
    )
    cv2.setNumThreads(1)

    def whole(composite: Composite) -> Callable[[], Any]:
        return lambda: render(composite, engine.pyramids, engine.whole)

    took = measure(
        {
            "plain": whole(engine.composite),
            "one": whole(one),
            "four": whole(four),
            "alone": whole(alone),
            "alone toned": whole(_toned(alone, 0)),
            "opencv": lambda: _by_opencv(base),
        },
        rounds=rounds,
    )
    cv2.setNumThreads(-1)
    plain = took["plain"].cpu
    stack = took["alone toned"].cpu - took["alone"].cpu
    yield Figure("one stack of tones against W", stack / plain, 0.8, 0.55)
    yield Figure("W with four stacks against W", took["four"].cpu / plain, 4.5, 3)
    yield Figure(
        "a stack against OpenCV and NumPy", stack / took["opencv"].cpu, 1 / 5, 1 / 10
    )


def _by_opencv(pixels: Pixels) -> Pixels:
    """Work the same stack out as people would: tables, and Lab in float."""
    levels = np.clip((np.arange(256) / 255 - 0.02) / 0.96, 0, 1) ** (1 / 1.1)
    table = published.monotone(CURVE)(levels).astype(np.float32)
    matrix = np.reshape(WarmthTone(warmth=30).ops()[0].numbers, (3, 3))
    out = np.empty_like(pixels)
    for top in range(0, len(pixels), BAND_ROWS):
        band = table[pixels[top : top + BAND_ROWS, :, :3]]
        linear = np.where(
            band <= 0.04045, band / 12.92, ((band + 0.055) / 1.055) ** 2.4
        )
        warm = np.clip(cv2.transform(linear.astype(np.float32), matrix), 0, 1)
        lab = cv2.cvtColor(warm, cv2.COLOR_LRGB2Lab)
        lab[..., 1:] *= 1.2
        shown = cv2.cvtColor(lab, cv2.COLOR_Lab2RGB)
        out[top : top + BAND_ROWS, :, :3] = np.clip(shown * 255 + 0.5, 0, 255)
    out[..., 3] = pixels[..., 3]
    return out


def _frames(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    scale = FRAME.width / engine.whole.width
    full = FRAME._replace(scale=scale)
    half = full._replace(width=640, height=480, scale=scale / 2)
    pixels = np.ascontiguousarray(
        render(engine.composite, engine.pyramids, full)[..., :3]
    )
    steps = itertools.count()
    cache = FrameCache(2**30)

    def moved() -> Composite:
        amount = 0.1 + next(steps) % 50 / 200
        tones = (*STACK[:3], ColoringTone(saturation=amount))
        layers = list(engine.composite.layers)
        layers[3] = with_fields(layers[3], tones=tones)
        return with_fields(engine.composite, layers=tuple(layers))

    def frame(view: View, fineness: Fineness) -> Callable[[], Any]:
        return lambda: cache.render(
            fineness, moved(), engine.pyramids, view, fineness=fineness
        )

    contestants = {
        "jpeg": lambda: simplejpeg.encode_jpeg(pixels, 85, "RGB", "420", fastdct=True),
        "moving": frame(half, "quick"),
        "at rest": frame(full, "fine"),
        "exact": frame(full, "exact"),
    }
    for work in contestants.values():
        for _ in range(WARM_FRAMES):
            work()
    took = measure(contestants, rounds=rounds)
    jpeg = took["jpeg"].cpu
    yield Figure(
        "frame at half size, a tone moved", took["moving"].cpu / jpeg, 1.8, 1.2
    )
    at_rest = took["at rest"].cpu / jpeg
    yield Figure("frame at rest, a tone changed", at_rest, 4.5, 3)
    yield Figure("the exact frame that follows", took["exact"].cpu / jpeg, 18, 12)


def _areas(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    base, size = engine.parts[0].pixels, engine.whole
    alone = with_fields(engine.composite, layers=engine.composite.layers[:1])

    def whole(*tones: Tone) -> Callable[[], Any]:
        layer = with_fields(alone.layers[0], tones=tones)
        composite = with_fields(alone, layers=(layer,))
        return lambda: render(composite, engine.pyramids, size)

    cv2.setNumThreads(1)
    took = measure(
        {
            "copy": base.copy,
            "plain": whole(),
            "blurred": whole(BlurTone(radius=SIGMA)),
            "painted": whole(PainterlyTone()),
        },
        rounds=rounds,
    )
    gaussian = measure(
        {"opencv": lambda: cv2.GaussianBlur(base, (0, 0), SIGMA)}, rounds=1
    )
    cv2.setNumThreads(-1)
    blurred = took["blurred"].cpu
    share = blurred / gaussian["opencv"].cpu
    yield Figure("blur of 50 px against OpenCV's", share, 1 / 100, 1 / 200)
    yield Figure("the same against copies", blurred / took["copy"].cpu, 6, 4)
    painted = took["painted"].wall
    yield Figure("painterly, one thread", painted, 1, 0.6, unit="s")
    yield from _likeness(engine)


def _likeness(engine: Engine) -> Iterator[Figure]:
    """Measure how far frames of a painting are from the export scaled down."""
    alone = with_fields(engine.composite, layers=engine.composite.layers[:1])
    layer = with_fields(alone.layers[0], tones=(PainterlyTone(),))
    composite = with_fields(alone, layers=(layer,))
    export = render(composite, engine.pyramids, engine.whole)[..., :3]
    size = (engine.whole.width // 4, engine.whole.height // 4)
    small = cv2.resize(export, size, interpolation=cv2.INTER_AREA).astype(float)
    view = View(0, 0, *size, 0.25)
    frame = render_exact(composite, engine.pyramids, view)[..., :3]
    off = float(np.sqrt(np.mean((frame - small) ** 2)))
    yield Figure(
        "frame of a painting against its export", off, 1.28, 0.81, unit="level"
    )


def _exactness() -> Iterator[Figure]:
    """Measure a whole stack's error against float64."""
    rng = np.random.default_rng(5)
    colors = rng.integers(0, 256, (1000, 1000, 4), dtype=np.uint8)
    colors[..., 3] = 255
    composite, pyramids = as_composite([Part(colors)])
    got = render(_toned(composite, 0), pyramids, View(0, 0, 1000, 1000, 1.0))
    v = np.clip((colors[..., :3] / 255 - 0.02) / 0.96, 0, 1) ** (1 / 1.1)
    v = published.monotone(CURVE)(v)
    matrix = np.reshape(WarmthTone(warmth=30).ops()[0].numbers, (3, 3))
    lab = published.oklab(published.decoded(v) @ matrix.T)
    lab[..., 1:] *= 1.2
    wanted = 255 * published.encoded(published.kept_in_gamut(lab))
    error = float(np.abs(got[..., :3] - wanted).max())
    yield Figure("error of a whole stack", error, 0.7, 0.55, unit="level")
