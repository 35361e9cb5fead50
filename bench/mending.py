"""Repairs: holes of known truth in the demo's photos, against what OpenCV fills."""

from __future__ import annotations

import time
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from bench.figures import Figure
from glyphaneme.core.mend import Mend, filled, patch_for
from glyphaneme.core.mend import filling as ours

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray

    Image = NDArray[np.uint8]
    Marks = NDArray[np.bool_]

DEMO = Path(__file__).parents[1] / "demo"
SEEDS = (11, 12, 13)
LONGEST = 1400
GRAIN = 4.0
AROUND = 160


class Hole(NamedTuple):
    """A part of a photo, and what of it is missing."""

    truth: Image
    spoilt: Image
    marks: Marks


class Errors(NamedTuple):
    """PSNR inside of a hole in dB, plain and blurred, and its grain by the truth's."""

    plain: float
    soft: float
    grain: float


def figures(*, quick: bool = False) -> Iterator[Figure]:
    """Yield how well holes are filled, and how long it takes."""
    holes = [one for seed in SEEDS[: 1 if quick else None] for one in _holes(seed)]
    theirs = [[_errors(_inpainted(one, how), one) for how in METHODS] for one in holes]
    mine = [_errors(_filled(one), one) for one in holes]
    smooth = [_errors(_filled(one, grain=False), one) for one in holes]
    telea = [each[0] for each in theirs]
    better = max(
        np.mean([one.plain for one in each]) for each in zip(*theirs, strict=True)
    )
    # Less is better in all figures: what is gained is said as a loss.
    gain = better - np.mean([one.plain for one in smooth])
    yield Figure("mend: PSNR without grain, by the better", gain, -1, -1.5, " dB")
    gains = [b.soft - a.soft for a, b in zip(mine, telea, strict=True)]
    yield Figure("mend: smoothed PSNR, by Telea", float(np.mean(gains)), -1, -2, " dB")
    grain = float(np.median([one.grain for one in mine]))
    yield Figure("mend: grain, off the truth's", abs(np.log2(grain)), 0.6, 0.26, " oct")
    yield Figure("mend: worse than Telea by 1 dB", 100 * _share(gains), 15, 10, " %")
    for name, way, size, must, aim in (
        ("speck 30 px", ((0, 0),), 30, 0.5, 0.2),
        ("scratch 8 × 300", ((0, 0), (300, 20)), 8, 0.5, 0.2),
        ("wire 20 × 400", ((0, 0), (400, 30)), 20, 1, 0.5),
    ):
        yield Figure(f"mend: {name} at 12 MP", _seconds(way, size), must, aim, " s")


METHODS = (cv2.INPAINT_TELEA, cv2.INPAINT_NS)


def _share(gains: list[float]) -> float:
    return float(np.mean(np.array(gains) > 1))


def _holes(seed: int) -> Iterator[Hole]:
    random = np.random.default_rng(seed)
    for path in sorted(DEMO.glob("*.jpg")):
        if path.name.startswith("old-photo"):
            continue
        truth = _grained(cv2.imread(str(path)), random)
        for kind in ("speck", "scratch", "wire"):
            marks = _shape(kind, truth.shape[:2], random)
            spoilt = truth.copy()
            spoilt[marks] = 255 if random.random() < 0.5 else 10
            rows, columns = np.nonzero(marks)
            part = np.s_[
                max(rows.min() - AROUND, 0) : rows.max() + AROUND,
                max(columns.min() - AROUND, 0) : columns.max() + AROUND,
            ]
            yield Hole(truth[part], spoilt[part], marks[part])


def _grained(photo: Image, random: np.random.Generator) -> Image:
    scale = min(LONGEST / max(photo.shape[:2]), 1)
    small = cv2.resize(photo, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    noise = cv2.GaussianBlur(random.normal(0, GRAIN, small.shape[:2]), (0, 0), 0.6)
    return np.clip(small + noise[..., None] / 0.47, 0, 255).round().astype(np.uint8)


def _shape(kind: str, size: tuple[int, ...], random: np.random.Generator) -> Marks:
    height, width = size
    marks = np.zeros((height, width), np.uint8)
    y, x = int(random.integers(90, height - 90)), int(random.integers(90, width - 90))
    if kind == "speck":
        axes = [int(random.integers(3, 13)) for _ in range(2)]
        turn = float(random.uniform(0, 180))
        cv2.ellipse(marks, (x, y), axes, turn, 0, 360, 1, -1)
        return marks > 0
    wide = int(random.integers(3, 8) if kind == "scratch" else random.integers(8, 31))
    angle = random.uniform(0, np.pi)
    long = random.uniform(60, 140) if kind == "scratch" else random.uniform(120, 200)
    steps = np.linspace(-0.5, 0.5, 9)[:, None] * long
    way = np.array([x, y]) + steps * (np.cos(angle), np.sin(angle))
    way += random.normal(0, 2, way.shape)
    way = np.clip(way, 20, np.array([width, height]) - 20).astype(np.int32)
    cv2.polylines(marks, [way], isClosed=False, color=1, thickness=wide)
    return marks > 0


def _inpainted(hole: Hole, how: int) -> Image:
    return cv2.inpaint(hole.spoilt, hole.marks.astype(np.uint8), 5, how)


def _filled(hole: Hole, *, grain: bool = True) -> Image:
    most = ours.MOST_GRAIN
    ours.MOST_GRAIN = most if grain else 0.0
    try:
        return np.round(filled(hole.spoilt.astype(np.float32), hole.marks)).astype(
            np.uint8
        )
    finally:
        ours.MOST_GRAIN = most


def _errors(fill: Image, hole: Hole) -> Errors:
    one, other = fill.astype(np.float64), hole.truth.astype(np.float64)
    soft = [cv2.GaussianBlur(each, (0, 0), 1.5) for each in (one, other)]
    fine = [each - cv2.GaussianBlur(each, (0, 0), 1.2) for each in (one, other)]
    kept = [each[hole.marks].var() for each in fine]
    return Errors(
        _decibels((one - other)[hole.marks]),
        _decibels((soft[0] - soft[1])[hole.marks]),
        kept[0] / max(kept[1], 0.5),
    )


def _decibels(error: NDArray[np.float64]) -> float:
    return float(10 * np.log10(255**2 / max(np.mean(error**2), 0.05)))


def _seconds(way: tuple[tuple[int, int], ...], size: float) -> float:
    """Return the median time from a click to its pixels, in a photo of 12 MP."""
    photo = cv2.imread(str(DEMO / "stage-set.jpg"), cv2.IMREAD_UNCHANGED)
    large = cv2.cvtColor(cv2.resize(photo, (4000, 3000)), cv2.COLOR_BGR2RGBA)
    random = np.random.default_rng(0)
    noise = random.normal(0, GRAIN, large.shape[:2])[..., None]
    large[..., :3] = np.clip(large[..., :3] + noise, 0, 255)
    points = tuple((x + 1700.0, y + 1500.0) for x, y in way)
    mend = Mend(id="m", points=points, size=size)
    times = []
    for _ in range(4):
        start = time.perf_counter()
        patch_for(large, mend)
        times.append(time.perf_counter() - start)
    # The first one loads what it needs.
    return float(np.median(times[1:]))
