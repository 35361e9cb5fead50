"""Figures of words: set cold, dragged, tried in each font, beside photos."""

from __future__ import annotations

import itertools
import time
from typing import TYPE_CHECKING, Any

from bench.figures import FRAME, WARM_FRAMES, Engine, Figure
from bench.measuring import measure
from glyphaneme.core.document import Composite, WordsLayer
from glyphaneme.core.place import Placement
from glyphaneme.core.render import FrameCache, render
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.typesetting import measured, typeset
from tests.fonts import face, faces, files, words

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.words.values import Words

LETTERS = "The curtain rises at eight, and nobody knows when it will fall. "
HEADING = "The Lanternmoth Marionettes open tonight"
MILLISECONDS = 1000
FAMILIES = 40
FIRST_ROW = 7
TILE = (177, 104)


def figures(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    """Measure all of them."""
    yield _set_cold(rounds)
    yield from _frames(engine, rounds)
    yield _whole(engine, rounds)
    yield from _tried(engine)


def _layer(said: Words, engine: Engine, **placed: float) -> WordsLayer:
    measure_ = measured(said, faces())
    place = {"x": engine.whole.width / 2, "y": engine.whole.height / 2, **placed}
    return WordsLayer(
        id="words",
        name="Words",
        words=said,
        measure=measure_,
        width=measure_.width,
        height=measure_.height,
        placement=Placement(scale_x=1, scale_y=1, **place),
    )


def _on(engine: Engine, *layers: Any) -> Composite:
    return with_fields(engine.composite, layers=(*engine.composite.layers, *layers))


def _set_cold(rounds: int) -> Figure:
    """Set texts that were not set before."""
    took = []
    for number in range(rounds):
        text = (f"{number} " + 40 * LETTERS)[:2000]
        said = words(text, size=40, width=2000)
        began = time.perf_counter()
        typeset(said, faces())
        took.append(time.perf_counter() - began)
    best = sorted(took)[len(took) // 2] * MILLISECONDS
    return Figure("2000 letters set cold", best, 40, 20, unit=" ms")


def _frames(engine: Engine, rounds: int) -> Iterator[Figure]:
    """Drag words, type them, and drag a photo that lies as they do."""
    view = FRAME._replace(scale=FRAME.width / engine.whole.width)
    assets = {**engine.pyramids, **faces()}
    cache = FrameCache(2**30)
    steps = itertools.count()
    block = engine.whole.width * 0.6
    said = words((4 * LETTERS)[:200], size=block / 18, width=block)
    layer = _layer(said, engine)
    photo = engine.composite.layers[1]
    scale = layer.width / photo.width
    beside = with_fields(
        photo,
        id="beside",
        placement=with_fields(layer.placement, scale_x=scale, scale_y=scale),
    )

    def dragged(name: str, one: Any) -> Any:
        def run() -> Any:
            x = one.placement.x + next(steps) % 50 + 0.3
            moved = with_fields(one, placement=with_fields(one.placement, x=x))
            return cache.render(name, _on(engine, moved), assets, view)

        return run

    def typed() -> Any:
        text = f"{HEADING[:-4]}{next(steps) % 10_000:04d}"
        heading = _layer(words(text, size=engine.whole.width / 25), engine)
        return cache.render("typed", _on(engine, heading), assets, view)

    moves = {
        "words": dragged("words", layer),
        "photo": dragged("photo", beside),
        "typed": typed,
    }
    for work in moves.values():
        for _ in range(WARM_FRAMES):
            work()
    took = measure(moves, rounds=3 * rounds)
    share = took["words"].cpu / took["photo"].cpu
    yield Figure("frame, 200 letters dragged, against a photo", share, 1.5, 1)
    wall = took["typed"].wall * MILLISECONDS
    yield Figure("frame, a letter of 40 typed", wall, 60, 30, unit=" ms")


def _whole(engine: Engine, rounds: int) -> Figure:
    """Render the whole workload with three lines of words over it."""
    text = "\n".join(["Opening night", "The Lanternmoth", "Marionettes"])
    layer = _layer(words(text, size=engine.whole.width / 12), engine)
    assets = {**engine.pyramids, **faces()}
    lettered = _on(engine, layer)
    took = measure(
        {
            "plain": engine.render_whole,
            "lettered": lambda: render(lettered, assets, engine.whole),
        },
        rounds=rounds,
    )
    share = took["lettered"].cpu / took["plain"].cpu
    return Figure("W with three lines of words against W", share, 1.1, 1.03)


def _tried(engine: Engine) -> Iterator[Figure]:
    """Render tiles of words in many fonts, none of which was read before."""
    names = sorted({name.rsplit(" ", 1)[0] for name in files()})[:FAMILIES]
    width, height = TILE
    scale = width / engine.whole.width
    view = FRAME._replace(width=width, height=height, scale=scale)
    cache = FrameCache(2**30)
    face.cache_clear()
    began = time.perf_counter()
    first = 0.0
    for place, name in enumerate(names):
        said = words("Opening night", name, size=engine.whole.width / 10)
        measure_ = measured(said, faces(name))
        layer = _layer(words("Opening night"), engine)
        tried = with_fields(
            layer,
            words=said,
            measure=measure_,
            width=measure_.width,
            height=measure_.height,
        )
        assets = {**engine.pyramids, **faces(name)}
        cache.render("tiles", _on(engine, tried), assets, view)
        if place == FIRST_ROW - 1:
            first = time.perf_counter() - began
    yield Figure("the first seven fonts tried", first, 0.5, 0.25, unit=" s")
    took = time.perf_counter() - began
    yield Figure(f"{len(names)} fonts tried", took, 2, 1, unit=" s")
