"""Figures of masks, fades and the brush."""

from __future__ import annotations

import itertools
from dataclasses import replace
from typing import TYPE_CHECKING, Any

import numpy as np
import simplejpeg

from bench import libraries
from bench.figures import FRAME, TILE, WARM_FRAMES, Engine, Figure
from bench.measuring import measure
from glyphaneme.core.mask import Fade, Mask, PaintedPart
from glyphaneme.core.mask.paintings import Painting, painted_all
from glyphaneme.core.mask.strokes import Stroke
from glyphaneme.core.place import Pyramid, build_pyramid
from glyphaneme.core.render import FrameCache, View, render

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray

    from bench.workload import Part
    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Composite
    from glyphaneme.core.render import Fineness

LAST = "0" * 64
STROKES = 60


def masks(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    """Measure W with a painted mask and a fade against the same in its alpha."""
    width, height = engine.whole.width, engine.whole.height
    painting = painted_all(Painting(), _strokes(width, height))
    painting.level_for(1)
    modelled, pyramids = _modelled(engine)
    assets: dict[str, Any] = {**pyramids, LAST: painting}
    baked = _baked(engine, modelled, assets)
    whole = engine.whole
    skia, parts = _in_skia(engine, modelled, assets)
    took = measure(
        {
            "model": lambda: render(modelled, assets, whole),
            "alpha": lambda: render(engine.composite, baked, whole),
            "skia": lambda: skia.run(parts),
        },
        rounds=rounds,
    )
    share = took["model"].cpu / took["alpha"].cpu
    yield Figure("W, a mask and a fade in the model, against alpha", share, 1.15, 1.05)
    share = took["model"].cpu / took["skia"].cpu
    yield Figure("the same against Skia, which draws both", share, 1 / 5, 1 / 8)
    bytes_a_pixel = painting.nbytes / (width * height)
    yield Figure("a painted mask, bytes a pixel", bytes_a_pixel, 1.4, 0.4, unit="")


def brush(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    """Measure dabs to encoded tiles, or rectangles, against a whole frame's JPEG."""
    width, height = engine.whole.width, engine.whole.height
    modelled, pyramids = _modelled(engine)
    start = painted_all(Painting(), _strokes(width, height))
    start.level_for(1)
    scale = FRAME.width / width
    frame = render(engine.composite, engine.pyramids, FRAME._replace(scale=scale))
    rgb = np.ascontiguousarray(frame[..., :3])
    cache, count = FrameCache(2**30), itertools.count()
    # What was painted last is kept by the service too.
    alive: dict[View, Painting] = {}

    def dabbed(size: float, view: View, fineness: Fineness) -> PixelsU8:
        step = next(count)
        at = (width * 0.4 + 130 + step % 20, height * 0.4 + 130 + step % 7, 1.0)
        painting = painted_all(start, [Stroke(points=(at,), size=size)])
        last = f"{step:064x}"
        [part] = modelled.layers[2].mask.parts
        mask = Mask(parts=(part.model_copy(update={"last": last}),))
        layers = list(modelled.layers)
        layers[2] = layers[2].model_copy(update={"mask": mask})
        composite = modelled.model_copy(update={"layers": tuple(layers)})
        assets = {**pyramids, last: painting}
        shown = cache.render(view, composite, assets, view, fineness=fineness)
        alive[view] = painting
        return shown

    def dab(size: float, view: View) -> bytes:
        shown = dabbed(size, view, "quick")
        return simplejpeg.encode_jpeg(shown, 85, "RGBA", "420", fastdct=True)

    small = View(width * 0.4, height * 0.4, TILE, TILE, 1)
    large = View(width * 0.4, height * 0.4, 420, 420, 1)
    works = {
        "small": lambda: [dab(60, small) for _ in range(8)],
        "one": lambda: dab(60, small),
        "large": lambda: dab(400, large),
        "rest": lambda: dabbed(60, FRAME._replace(scale=scale), "exact"),
    }
    for work in works.values():
        for _ in range(WARM_FRAMES):
            work()
    encode = {
        "jpeg": lambda: simplejpeg.encode_jpeg(rgb, 85, "RGB", "420", fastdct=True)
    }
    took = measure({**encode, **works}, rounds=rounds)
    whole = took["jpeg"].cpu
    yield Figure(
        "dab of 60 px to its tile, 8 in a row",
        took["small"].cpu / 8 / whole,
        0.25,
        0.15,
    )
    yield Figure("dab of 60 px, after other work", took["one"].cpu / whole, 0.35, 0.2)
    yield Figure("dab of 400 px to its rectangle", took["large"].cpu / whole, 1, 0.5)
    yield Figure("frame at rest after a dab", took["rest"].cpu / whole, 6, 3)


def _strokes(width: int, height: int) -> list[Stroke]:
    """Return strokes as people cut round something: a loose brush, then finer ones."""
    random = np.random.default_rng(11)
    strokes = []
    for place in range(STROKES):
        angle = 2 * np.pi * place / STROKES
        turns = angle + np.linspace(0, 0.16, 12)
        reach = 0.36 + 0.03 * random.standard_normal()
        points = tuple(
            (width * (0.5 + reach * np.cos(a)), height * (0.5 + reach * np.sin(a)), 1.0)
            for a in turns
        )
        size = width * (0.08 if place % 2 else 0.03)
        strokes.append(Stroke(points=points, size=size, softness=0.6))
    return strokes


def _modelled(engine: Engine) -> tuple[Composite, dict[str, Pyramid]]:
    """Return W with a mask and a fade in the model, and photos opaque there."""
    pyramids = dict(engine.pyramids)
    for place in (2, 3):
        pixels = engine.parts[place].pixels.copy()
        pixels[..., 3] = 255
        pyramids[f"p{place}"] = build_pyramid(pixels)
    layers = list(engine.composite.layers)
    part = PaintedPart(id="p", last=LAST, strokes=STROKES)
    width, height = engine.whole.width, engine.whole.height
    fade = Fade(x=width / 2, y=height / 2, length=0.6 * width, angle=180, curve="even")
    layers[2] = layers[2].model_copy(update={"mask": Mask(parts=(part,))})
    layers[3] = layers[3].model_copy(update={"fades": (fade,)})
    return engine.composite.model_copy(update={"layers": tuple(layers)}), pyramids


def _in_skia(
    engine: Engine, modelled: Composite, assets: dict[str, Any]
) -> tuple[libraries.Skia, list[Part]]:
    """Return Skia with the same mask and fade over the same opaque photos."""
    parts = list(engine.parts)
    for place in (2, 3):
        pixels = parts[place].pixels.copy()
        pixels[..., 3] = 255
        parts[place] = replace(parts[place], pixels=pixels)
    [fade] = modelled.layers[3].fades
    half = fade.length / 2
    # It runs to the left: nothing shows at its end there, all at the other one.
    ends = (fade.x - half, fade.y), (fade.x + half, fade.y)
    covers = {
        2: libraries.skia_mask(_alpha_of(engine, modelled, assets, 2)),
        3: libraries.skia_fade(*ends),
    }
    return libraries.Skia(parts, covers), parts


def _baked(
    engine: Engine, modelled: Composite, assets: dict[str, Any]
) -> dict[str, Pyramid]:
    """Return photos whose alpha says what mask and fade do."""
    baked = dict(engine.pyramids)
    for place in (2, 3):
        pixels = engine.parts[place].pixels.copy()
        pixels[..., 3] = _alpha_of(engine, modelled, assets, place)
        baked[f"p{place}"] = build_pyramid(pixels)
    return baked


def _alpha_of(
    engine: Engine, modelled: Composite, assets: dict[str, Any], place: int
) -> NDArray[np.uint8]:
    """Return what mask and fades leave of a layer."""
    plain = {"blend": "normal", "opacity": 1.0}
    layer = modelled.layers[place].model_copy(update=plain)
    alone = modelled.model_copy(update={"layers": (layer,)})
    return np.ascontiguousarray(render(alone, assets, engine.whole)[..., 3])
