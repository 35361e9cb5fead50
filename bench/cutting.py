"""Figures of cutting out: how near mattes come, how long they take, what they hold."""

from __future__ import annotations

import subprocess
import sys
import time
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np
from skimage.morphology import skeletonize

from bench.cut_pictures import CutPicture, cut_pictures
from bench.figures import Figure
from bench.memory import status_mb
from glyphaneme.codecs import encode_matte, read_picture
from glyphaneme.core.cutout import Look
from glyphaneme.core.cutout.own_colors import with_own_colors
from glyphaneme.core.mask import CutWay, Hints, RoughStroke
from glyphaneme.core.place import Pyramid, build_pyramid
from glyphaneme.services.matting import Cut, CutRequest
from glyphaneme.services.networks import Networks

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from numpy.typing import NDArray

MODELS = Path(__file__).parents[1] / "var" / "models"
WORSE = 0.003
FOUR = (CutWay.ITSELF, CutWay.FINER, CutWay.GAPS, CutWay.BLOCK)
BACKINGS = {"white": (1, 1, 1), "black": (0, 0, 0), "a colour": (0.15, 0.55, 0.35)}
DEMO_PHOTO = Path(__file__).parents[1] / "demo" / "puppet-facing-left.jpg"
MARGIN = 0.02
LONGEST_STROKE = 0.3
LEAST_WRONG = 0.0005
SEEN = 256
"""Pixels of the longer side of what the pretended person looks at."""
STROKES = (2, 8)
MOST_POINTS = 400
NEAR = 0.7
"""Pixels by which a stroke may miss the line."""
WIDEST_BRUSH = 3
"""Pixels of what that person looks at."""
LARGE = (4000, 3000)
MEMORY = "from bench.cutting import show_memory; show_memory()"


class Errors(NamedTuple):
    """Mean absolute errors of one picture's mattes."""

    plain: float
    fine: float
    best: float
    framed: float
    stroked: tuple[float, ...]
    """After each round of one stroke that keeps and one that drops."""


def quality(folder: Path | None, *, quick: bool) -> Iterator[Figure]:
    """Measure mattes against the truth, on our own pictures or on those of a folder."""
    pictures = cut_pictures(quick=quick) if folder is None else _from(folder)
    networks = Networks((MODELS,))
    found = [_errors(networks, picture) for picture in pictures]
    whose = "own" if folder is None else "given"
    plain = np.mean([one.plain for one in found])

    def ratio(pick: Callable[[Errors], float]) -> float:
        return float(np.mean([pick(one) for one in found]) / plain)

    def worse(pick: Callable[[Errors], float]) -> int:
        return sum(pick(one) > one.plain + WORSE for one in found)

    rows = (
        ("shown first", lambda one: one.fine, 1.0, 0.8),
        ("best of four ways", lambda one: one.best, 0.65, 0.4),
        ("frame round the subject", lambda one: one.framed, 0.8, 0.5),
        ("frame and 2 strokes", lambda one: one.stroked[0], 0.6, 0.3),
        ("frame and 8 strokes", lambda one: one.stroked[-1], 0.33, 0.15),
    )
    for name, pick, must, aim in rows:
        said = f"{name}, {len(found)} {whose} pictures, {worse(pick)} worse"
        yield Figure(said, ratio(pick), must, aim)
    undone = [
        later > earlier + WORSE
        for one in found
        for earlier, later in zip(one.stroked, one.stroked[1:], strict=False)
    ]
    share = float(np.mean(undone))
    yield Figure(f"a later stroke undoes a gain, {whose}", share, 0.05, 0.0, unit="")


def edges(*, quick: bool) -> Iterator[Figure]:
    """Measure the subject's own colours against the photo's along the soft edge."""
    before: dict[str, list[float]] = {name: [] for name in BACKINGS}
    after: dict[str, list[float]] = {name: [] for name in BACKINGS}
    for picture in cut_pictures(quick=quick):
        alpha = (picture.alpha * 255 + 0.5).astype(np.uint8)
        clean = with_own_colors(picture.pixels, alpha)
        for name, backing in BACKINGS.items():
            before[name].append(_off(picture.pixels, picture, backing))
            after[name].append(_off(clean, picture, backing))
    for name in BACKINGS:
        ratio = float(np.mean(after[name]) / np.mean(before[name]))
        yield Figure(f"own colours of the edge, over {name}", ratio, 0.75, 0.6)


def times() -> Iterator[Figure]:
    """Measure seconds at 12 megapixels, networks loaded."""
    networks = Networks((MODELS,))
    picture = next(cut_pictures())
    pyramid = build_pyramid(cv2.resize(picture.pixels, LARGE))
    _cut(networks, pyramid).matte()
    drop = Hints(strokes=(RoughStroke(keeps=False, size=60, points=((400, 400),)),))

    def rough() -> None:
        encode_matte(_cut(networks, pyramid).rough()[0])

    def first() -> None:
        encode_matte(_cut(networks, pyramid).matte()[0])

    def four() -> None:
        known = _cut(networks, pyramid)
        for way in FOUR:
            cut = known._replace(request=CutRequest(way=way))
            encode_matte(cut.matte()[0])

    prepared = _cut(networks, pyramid)
    prepared.matte()
    _ = prepared.evidence.graph
    stroked = prepared._replace(request=CutRequest(hints=drop))
    small = stroked._replace(level=1, box=stroked.box.__class__(0, 0, 2000, 1500))
    rows = (
        ("first rough matte, 12 megapixels", rough, 1.5, 0.8),
        ("shown first, 12 megapixels", first, 2.5, 1.5),
        ("all four ways", four, 7.0, 4.0),
        ("a stroke, to 3 megapixels", small.matte, 0.7, 0.25),
        ("a stroke, carried to 12 megapixels", stroked.matte, 1.5, 0.8),
    )
    for name, work, must, aim in rows:
        yield Figure(f"{name}, on the clock", _seconds(work), must, aim, unit=" s")
    megabytes = float(subprocess.check_output([sys.executable, "-c", MEMORY]))  # noqa: S603
    yield Figure("peak memory of it all", megabytes, 1600, 1200, unit=" MB")


def show_memory() -> None:
    """Find all ways at 12 megapixels, and print the peak of memory in megabytes."""
    networks = Networks((MODELS,))
    with DEMO_PHOTO.open("rb") as file:
        pixels = cv2.resize(read_picture(file), LARGE)
    pyramid = build_pyramid(pixels)
    cut = _cut(networks, pyramid)
    for way in FOUR:
        encode_matte(cut._replace(request=CutRequest(way=way)).matte()[0])
    # What `getrusage` tells would begin with the memory of the process that began this.
    sys.stdout.write(f"{status_mb('VmHWM'):.0f}\n")


def _errors(networks: Networks, picture: CutPicture) -> Errors:
    pyramid = build_pyramid(picture.pixels)
    cut = _cut(networks, pyramid)
    rows, columns = picture.alpha.shape

    def off(matte: NDArray[np.uint8]) -> float:
        return float(np.abs(matte.astype(np.float32) / 255 - picture.alpha).mean())

    plain = cv2.resize(cut.evidence.opinion(Look.PLAIN), (columns, rows))
    ways = [off(cut._replace(request=CutRequest(way=way)).matte()[0]) for way in FOUR]
    hints = Hints(around=_frame(picture.alpha))
    framed = _cut(networks, pyramid, hints)
    matte, _ = framed.matte()
    stroked = []
    first = off(matte)
    for _ in range(max(STROKES) // 2):
        hints = _with_strokes(hints, matte, picture.alpha)
        again = Cut.begun(networks, pyramid, CutRequest(hints=hints), framed.evidence)
        matte, _ = again.matte()
        stroked.append(off(matte))
    return Errors(
        plain=float(np.abs(plain - picture.alpha).mean()),
        fine=ways[0],
        best=min(ways),
        framed=first,
        stroked=tuple(stroked),
    )


def _cut(networks: Networks, pyramid: Pyramid, hints: Hints | None = None) -> Cut:
    return Cut.begun(networks, pyramid, CutRequest(hints=hints or Hints()))


def _frame(alpha: NDArray[np.float32]) -> tuple[tuple[float, float], ...]:
    """Return a frame round the truth, a little larger."""
    y, x = np.nonzero(alpha > 0.2)
    d = MARGIN * max(alpha.shape)
    left, top, right, bottom = x.min() - d, y.min() - d, x.max() + d, y.max() + d
    return ((left, top), (right, top), (right, bottom), (left, bottom))


def _with_strokes(
    hints: Hints, matte: NDArray[np.uint8], alpha: NDArray[np.float32]
) -> Hints:
    """Return hints with a stroke along the largest missing and superfluous area."""
    share = SEEN / max(alpha.shape)
    size = (round(alpha.shape[1] * share), round(alpha.shape[0] * share))
    true = cv2.resize(alpha, size, interpolation=cv2.INTER_AREA) > 0.5
    there = cv2.resize(matte, size, interpolation=cv2.INTER_AREA) > 127
    strokes = list(hints.strokes)
    for keeps, wrong in ((True, true & ~there), (False, ~true & there)):
        line = _middle_line(wrong)
        if line is not None:
            simpler = cv2.approxPolyDP(line.points.astype(np.int32), NEAR, closed=False)
            places = [((x + 0.5) / share, (y + 0.5) / share) for [(y, x)] in simpler]
            said = tuple(places[:: -(-len(places) // MOST_POINTS)])
            size = line.size / share
            strokes.append(RoughStroke(keeps=keeps, size=size, points=said))
    return Hints(around=hints.around, strokes=tuple(strokes))


class _Line(NamedTuple):
    """Where a hand goes, and how wide a brush it takes."""

    points: NDArray[np.int64]
    size: float


def _middle_line(wrong: NDArray[np.bool_]) -> _Line | None:
    """Return the middle line of the largest wrong area, near where that is widest.

    The brush is no wider than the area, as a rule. A hand goes back where a line ends.
    """
    count, labels, stats, _ = cv2.connectedComponentsWithStats(wrong.astype(np.uint8))
    if count < 2:
        return None
    largest = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
    if stats[largest, cv2.CC_STAT_AREA] < LEAST_WRONG * wrong.size:
        return None
    inside = labels == largest
    deep = cv2.distanceTransform(np.pad(inside, 1).astype(np.uint8), cv2.DIST_L2, 5)
    deep = deep[1:-1, 1:-1]
    line = skeletonize(inside)
    weight = deep * (line if line.any() else 1)
    start = np.array(np.unravel_index(np.argmax(weight), weight.shape))
    points = np.argwhere(line) if line.any() else start[None]
    away = np.hypot(*(points - start).T)
    near = points[away <= LONGEST_STROKE / 2 * max(wrong.shape)]
    width = 2 * float(np.median(deep[tuple(near.T)])) - 1
    return _Line(_walked(near, start), min(max(width, 1), WIDEST_BRUSH))


def _walked(points: NDArray[np.int64], start: NDArray[np.int64]) -> NDArray[np.int64]:
    """Return a way over all points that hang together with one, back and forth."""
    left = {tuple(one) for one in points.tolist()} - {tuple(start.tolist())}
    way = [tuple(start.tolist())]
    walked = list(way)
    while way:
        y, x = way[-1]
        beside = ((y + i, x + j) for i in (-1, 0, 1) for j in (-1, 0, 1))
        onward = next((one for one in beside if one in left), None)
        if onward is None:
            way.pop()
        else:
            left.discard(onward)
            way.append(onward)
        walked += way[-1:]
    return np.array(walked)


def _off(
    pixels: NDArray[np.uint8], picture: CutPicture, backing: tuple[float, ...]
) -> float:
    alpha = picture.alpha[..., None]
    shown = pixels[..., :3] / 255 * alpha + np.array(backing) * (1 - alpha)
    true = picture.own * alpha + np.array(backing) * (1 - alpha)
    soft = (picture.alpha > 0.02) & (picture.alpha < 0.98)
    return float(np.abs(shown - true)[soft].mean())


def _seconds(work: Callable[[], object]) -> float:
    took = []
    for _ in range(3):
        start = time.perf_counter()
        work()
        took.append(time.perf_counter() - start)
    return float(np.median(took))


def _from(folder: Path) -> Iterator[CutPicture]:
    """Read pictures NAME.jpg with their mattes NAME_alpha.png."""
    for place in sorted(folder.glob("*.jpg")):
        rgb = cv2.imread(str(place))[..., ::-1]
        matte = place.with_name(f"{place.stem}_alpha.png")
        alpha = cv2.imread(str(matte), cv2.IMREAD_GRAYSCALE).astype(np.float32) / 255
        opaque = np.full(alpha.shape, 255, np.uint8)
        pixels = np.ascontiguousarray(np.dstack([rgb, opaque]))
        yield CutPicture(place.stem, pixels, alpha, pixels[..., :3] / np.float32(255))
