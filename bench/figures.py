"""The figures of docs/performance.md: what is measured, and what must be reached."""

from __future__ import annotations

import itertools
import subprocess
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

import cv2
import numba
import numpy as np
import simplejpeg

from bench import libraries
from bench.measuring import measure
from bench.workload import Part, as_composite, photo, workload
from glyphaneme.core.blend import BlendMode
from glyphaneme.core.render import FrameCache, View, render

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from glyphaneme.core.document import Composite
    from glyphaneme.core.render import Fineness

FRAME = View(x=0, y=0, width=1280, height=960, scale=0)
WARM_FRAMES = 4
TILE = 256
PRODUCT_PYTHON = Path(__file__).parents[1] / ".venv/bin/python"
"""The product's own: numba reads in more where some libraries compared with are."""
DABS = 8


@dataclass(frozen=True)
class Figure:
    """One row of the table; smaller is better in all of them."""

    name: str
    measured: float
    must: float
    aim: float
    unit: str = "×"

    @property
    def reached(self) -> bool:
        """Whether it is at most what it must be."""
        return self.measured <= self.must

    def as_dict(self) -> dict[str, Any]:
        """Return it for JSON."""
        return {**asdict(self), "reached": self.reached}


@numba.njit("u8(u8[::1])", nogil=True, fastmath=True)
def read_all(words: np.ndarray) -> int:
    """Read memory once, as fast as one thread can."""
    total = np.uint64(0)
    for index in range(words.size):
        total += words[index]
    return total


class Engine:
    """The workload at one size, for the product's own engine."""

    def __init__(self, width: int, height: int) -> None:
        self.parts = workload(width, height)
        self.composite, self.pyramids = as_composite(self.parts)
        self.whole = View(x=0, y=0, width=width, height=height, scale=1)

    def render_whole(self, layers: int = 6) -> np.ndarray:
        """Render the canvas at full size, with so many of its layers."""
        some = self.composite.layers[:layers]
        composite = self.composite.model_copy(update={"layers": some})
        return render(composite, self.pyramids, self.whole)

    def memory_pass(self) -> np.ndarray:
        """Read every input byte once and write the output once."""
        words = (part.pixels.reshape(-1).view(np.uint64) for part in self.parts)
        total = sum(int(read_all(some)) for some in words)
        return np.full((self.whole.height, self.whole.width, 4), total % 256, np.uint8)


def whole_canvas(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    """Measure renders at full size against the memory and the libraries."""
    parts, five = engine.parts, engine.parts[:5]
    skia = libraries.Skia(parts)
    opencv = libraries.in_bands(libraries.opencv_rows, libraries.OPENCV_ROWS, threads=1)
    by_numpy = libraries.in_bands(libraries.numpy_rows, libraries.NUMPY_ROWS, threads=1)
    cv2.setNumThreads(1)
    took = measure(
        {
            "ours": engine.render_whole,
            "ours, two threads": engine.render_whole,
            "ours, five layers": lambda: engine.render_whole(5),
            "memory": engine.memory_pass,
            "skia": lambda: skia.run(parts),
            "pillow": lambda: libraries.pillow(five),
            "vips": lambda: libraries.vips(five),
            "opencv": lambda: opencv(parts),
            "numpy": lambda: by_numpy(parts),
        },
        rounds=rounds,
        threads={"ours, two threads": 2},
    )
    cv2.setNumThreads(-1)

    def against(name: str, ours: str = "ours") -> float:
        return took[ours].cpu / took[name].cpu

    yield Figure("W against one pass of the memory", against("memory"), 8, 3)
    yield Figure("W against Skia (raster)", against("skia"), 1 / 4, 1 / 8)
    five_ours = "ours, five layers"
    yield Figure(
        "W, layers 1-5, against Pillow", against("pillow", five_ours), 1 / 7, 1 / 15
    )
    yield Figure(
        "W, layers 1-5, against libvips", against("vips", five_ours), 1 / 9, 1 / 20
    )
    yield Figure("W against OpenCV in bands", against("opencv"), 1 / 10, 1 / 20)
    yield Figure("W against NumPy in bands", against("numpy"), 1 / 20, 1 / 40)
    yield Figure(
        "two threads against one, wall",
        took["ours, two threads"].wall / took["ours"].wall,
        0.65,
        0.52,
    )


def frames(engine: Engine, *, rounds: int) -> Iterator[Figure]:
    """Measure frames of 1280 × 960 against their own JPEG encode."""
    scale = FRAME.width / engine.whole.width
    full = FRAME._replace(scale=scale)
    half = full._replace(width=640, height=480, scale=scale / 2)
    middle = {"x": engine.whole.width * 0.4, "y": engine.whole.height * 0.4}
    tile = full._replace(**middle, width=TILE, height=TILE)
    pixels = np.ascontiguousarray(
        render(engine.composite, engine.pyramids, full)[..., :3]
    )
    steps = itertools.count()
    cache = FrameCache(2**30)

    def stronger() -> Composite:
        return _changed(engine.composite, 3, opacity=0.3 + next(steps) % 50 / 100)

    def dragged() -> Composite:
        step = next(steps)
        place = engine.composite.layers[1].placement
        moved = {"x": place.x + step % 100, "y": place.y + step % 60}
        return _changed(engine.composite, 1, placement=place.model_copy(update=moved))

    def frame(name: str, change: Callable[[], Composite], view: View) -> Any:
        return lambda: cache.render(name, change(), engine.pyramids, view)

    def jpeg(shown: np.ndarray) -> bytes:
        kind = "RGB" if shown.shape[2] == 3 else "RGBA"
        return simplejpeg.encode_jpeg(shown, 85, kind, "420", fastdct=True)

    def dab() -> bytes:
        return jpeg(cache.render("tile", stronger(), engine.pyramids, tile))

    def stroke() -> list[bytes]:
        return [dab() for _ in range(DABS)]

    encode = {"jpeg": lambda: jpeg(pixels)}
    moves = {
        "opacity": frame("opacity", stronger, full),
        "drag": frame("drag", dragged, full),
        "half": frame("half", dragged, half),
        "dab": dab,
        "stroke": stroke,
    }
    for work in moves.values():
        for _ in range(WARM_FRAMES):
            work()
    took = measure({**encode, **moves}, rounds=rounds)
    one = took["jpeg"].cpu
    yield Figure("frame, strength of layer 4 moved", took["opacity"].cpu / one, 3, 1.5)
    yield Figure("frame, layer 2 dragged", took["drag"].cpu / one, 6, 3)
    yield Figure("frame at half size, layer 2 dragged", took["half"].cpu / one, 2, 1)
    share = took["stroke"].cpu / DABS / one
    name = "tile of 256 × 256 encoded"
    yield Figure(f"{name}, {DABS} in a row", share, 0.25, 0.15)
    yield Figure(f"{name}, after other work", took["dab"].cpu / one, 0.25, 0.15)


def likeness(engine: Engine) -> Iterator[Figure]:
    """Measure how far frames that rest are from the export scaled down by area."""
    export = engine.render_whole()[..., :3].astype(np.float64)
    cache = FrameCache(0)
    worst: dict[Fineness, float] = {"fine": 0, "exact": 0}
    for twentieths in (4, 6, 8, 11, 14, 17):
        scale = twentieths / 20
        width, height = (round(side * scale) for side in export.shape[1::-1])
        view = View(x=0, y=0, width=width, height=height, scale=scale)
        wanted = cv2.resize(export, (width, height), interpolation=cv2.INTER_AREA)
        for fineness in worst:
            frame = cache.render(
                "W", engine.composite, engine.pyramids, view, fineness=fineness
            )
            off = float(np.sqrt(np.mean((frame[..., :3] - wanted) ** 2)))
            worst[fineness] = max(worst[fineness], off)
    of_40, of_43, of_50 = (255 / 10 ** (db / 20) for db in (40, 43, 50))
    name = "frame at rest against scaled export, RMS levels"
    yield Figure(name, worst["fine"], of_40, of_43, unit="")
    yield Figure("the same, exact", worst["exact"], of_43, of_50, unit="")


def _changed(composite: Composite, place: int, **changes: Any) -> Composite:
    layers = list(composite.layers)
    layers[place] = layers[place].model_copy(update=changes)
    return composite.model_copy(update={"layers": tuple(layers)})


def many_layers(*, rounds: int) -> Iterator[Figure]:
    """Measure how the cost of a pixel and layer changes with the count of layers."""
    pictures = [photo(1000, 750, seed=seed) for seed in range(5)]
    modes = [BlendMode.NORMAL, BlendMode.MULTIPLY, BlendMode.SCREEN]
    view = View(x=0, y=0, width=1000, height=750, scale=1)

    def stack(count: int) -> Callable[[], Any]:
        parts = [
            Part(pictures[place % 5], modes[place % 3], opacity=0.5)
            for place in range(count)
        ]
        composite, pyramids = as_composite(parts)
        return lambda: render(composite, pyramids, view)

    took = measure({"5": stack(5), "50": stack(50)}, rounds=rounds)
    yield Figure(
        "cost of a pixel and layer, 50 layers against 5",
        took["50"].cpu / 50 / (took["5"].cpu / 5),
        1.1,
        1.0,
    )


def exactness() -> Iterator[Figure]:
    """Measure the largest error of all modes against the formulas in float64."""
    from tests.published_blending import laid_over

    random = np.random.default_rng(7)
    side = 512
    above = random.integers(0, 256, (side, side, 4), np.uint8)
    for word, must in (("opaque", 0.51), ("translucent", 1.0)):
        below = random.integers(0, 256, (side, side, 4), np.uint8)
        if word == "opaque":
            below[..., 3] = 255
        worst = max(
            _error(below, above, mode, laid_over(mode, below / 255, above / 255, 0.7))
            for mode in BlendMode
        )
        name = f"error against float64 in levels, {word}"
        yield Figure(name, worst, must, must, unit="")


def _error(
    below: np.ndarray, above: np.ndarray, mode: BlendMode, wanted: np.ndarray
) -> float:
    parts = [Part(below), Part(above, mode, opacity=0.7)]
    composite, pyramids = as_composite(parts)
    height, width = below.shape[:2]
    shown = render(composite, pyramids, View(0, 0, width, height, 1))

    def premultiplied(pixels: np.ndarray) -> np.ndarray:
        out = pixels.astype(np.float64)
        out[..., :3] *= out[..., 3:] / 255
        return out

    return float(np.abs(premultiplied(shown) - premultiplied(wanted * 255)).max())


def start_up(*, rounds: int) -> Iterator[Figure]:
    """Measure import and first frame in fresh processes against importing numba."""
    first_frame = (
        "from glyphaneme.core.document import Canvas, Composite;"
        "from glyphaneme.core.render import View, render;"
        "render(Composite(canvas=Canvas(width=9, height=9)), {}, View(0, 0, 9, 9, 1))"
    )
    took = measure(
        {
            "numba": lambda: _in_fresh_process("import numba"),
            "ours": lambda: _in_fresh_process(first_frame),
        },
        rounds=rounds,
        threads={"numba": 2, "ours": 2},
    )
    share = took["ours"].wall / took["numba"].wall
    yield Figure("import and first frame against import numba", share, 2.5, 1.5)


def _in_fresh_process(program: str) -> None:
    subprocess.run([PRODUCT_PYTHON, "-c", program], check=True)  # noqa: S603
