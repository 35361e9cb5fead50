"""Textures to lay over pictures, or under them."""

from __future__ import annotations

import cv2
import numpy as np

from tools.make_library.catalogue import picture
from tools.make_library.painting import (
    WIDE,
    Field,
    blurred,
    color,
    grain,
    grid,
    mix,
    noise,
    ramp,
    relief,
    rng,
    screen,
    smooth,
    warped,
)


@picture("Textures", "Handmade paper", "paper cream fibres rough warm card")
def handmade_paper() -> Field:
    """Paint rough paper with fibres."""
    pulp = noise(WIDE, cells=26, seed=101, octaves=6, fall=0.7)
    stains = noise(WIDE, cells=3, seed=102, octaves=4)
    paper = ramp(stains, [(0, "#e9dfc6"), (1, "#f5eedc")])
    fibres = np.zeros(WIDE, np.uint8)
    random = rng(103)
    for _ in range(900):
        x, y = random.random(2) * (WIDE[1], WIDE[0])
        turn, bend = random.random(2) * (6.3, 1.4) - (0, 0.7)
        steps = np.arange(0, random.integers(16, 60), 4)
        turns = turn + bend * steps / 40
        line = np.stack(
            [x + np.cumsum(np.cos(turns) * 4), y + np.cumsum(np.sin(turns) * 4)]
        )
        cv2.polylines(fibres, [line.T.astype(np.int32)], 0, 150, 1, cv2.LINE_AA)
    light = relief(blurred(pulp, 1.5), 0.55)
    shown = paper + light[..., None]
    return mix(shown, color("#b39c70"), fibres.astype(np.float32) / 255 * 0.55)


@picture("Textures", "Linen", "cloth fabric weave threads natural beige")
def linen() -> Field:
    """Paint woven linen."""
    x, y = grid(WIDE)
    slub = noise(WIDE, cells=60, seed=111, octaves=3, stretch=(18, 0.4))
    slubs = noise(WIDE, cells=60, seed=112, octaves=3, stretch=(0.4, 18))
    threads = 150.0
    across = np.sin(2 * np.pi * threads * (y + 0.0022 * (slub - 0.5)))
    down = np.sin(2 * np.pi * threads * (x + 0.0022 * (slubs - 0.5)))
    over = np.where(across * down > 0, across, down).astype(np.float32)
    weave = 0.5 + 0.2 * over + 0.35 * (slub - 0.5) + 0.35 * (slubs - 0.5)
    weave += 0.05 * grain(WIDE, 113, 0.8)
    return ramp(weave, [(0, "#8d7d61"), (0.5, "#c4b591"), (1, "#ece2c8")])


@picture("Textures", "Bark", "tree wood rough brown forest furrows")
def bark() -> Field:
    """Paint furrowed bark."""
    bend = noise(WIDE, cells=4, seed=121, octaves=4)
    ridges = noise(WIDE, cells=13, seed=122, octaves=6, fall=0.6, stretch=(0.8, 5))
    ridges = warped(ridges, bend, noise(WIDE, cells=4, seed=123), 0.09)
    ridged = 1 - np.abs(2 * ridges - 1)
    deep = smooth(0.08, 0.75, ridged)
    fine = noise(WIDE, cells=50, seed=124, octaves=4, stretch=(1, 3))
    body = np.clip(0.72 * deep + 0.28 * fine, 0, 1)
    shown = ramp(
        body, [(0, "#1c130d"), (0.45, "#5b4330"), (0.8, "#94785a"), (1, "#c0aa88")]
    )
    return shown + relief(blurred(body, 1.2), 0.28)[..., None]


@picture("Textures", "Water", "sea lake ripples blue green calm surface")
def water() -> Field:
    """Paint ripples with light on them."""
    _, y = grid(WIDE)
    bend, along = noise(WIDE, cells=5, seed=131), noise(WIDE, cells=6, seed=132)
    ripples = noise(WIDE, cells=11, seed=133, octaves=5, fall=0.5, stretch=(3.2, 1))
    ripples = warped(ripples, bend, along, 0.06)
    facing = spread_slope(ripples)
    shown = ramp(
        np.clip(facing + 0.12 * (0.5 - y), 0, 1),
        [
            (0, "#06303f"),
            (0.45, "#13647a"),
            (0.7, "#4ba3ac"),
            (0.9, "#bfe5dd"),
            (1, "#ffffff"),
        ],
    )
    return shown


def spread_slope(height: Field) -> Field:
    """Return how far a surface leans towards the eye, 0..1."""
    down = blurred(cv2.Sobel(height, cv2.CV_32F, 0, 1, ksize=5), 1.5)
    low, high = np.percentile(down, (1, 99.4))
    return np.clip((down - low) / (high - low), 0, 1).astype(np.float32)


@picture("Textures", "Dust and scratches", "film old screen black specks worn overlay")
def dust_and_scratches() -> Field:
    """Paint specks and hairs on black, for Screen."""
    sheet = np.zeros(WIDE, np.uint8)
    random = rng(141)
    for _ in range(1500):
        at = (random.random(2) * (WIDE[1], WIDE[0])).astype(int)
        size = int(random.random() ** 4 * 6)
        shade = int(random.integers(60, 210))
        cv2.circle(sheet, tuple(map(int, at)), size, shade, -1, cv2.LINE_AA)
    for _ in range(46):
        x, y = random.random(2) * (WIDE[1], WIDE[0])
        drift = random.normal(0, 0.012)
        length = random.integers(80, 1500)
        end = (round(x + drift * length), round(y + length))
        cv2.line(
            sheet,
            (round(x), round(y)),
            end,
            int(random.integers(40, 130)),
            1,
            cv2.LINE_AA,
        )
    for _ in range(70):
        x, y = random.random(2) * (WIDE[1], WIDE[0])
        turns = random.random() * 6.3 + np.cumsum(random.normal(0, 0.22, 26))
        hair = np.stack(
            [x + np.cumsum(np.cos(turns) * 5), y + np.cumsum(np.sin(turns) * 5)]
        )
        cv2.polylines(sheet, [hair.T.astype(np.int32)], 0, 120, 1, cv2.LINE_AA)
    haze = noise(WIDE, cells=4, seed=142, octaves=7, fall=0.7) ** 3 * 0.09
    light = blurred(sheet.astype(np.float32) / 255, 0.7) + haze
    return np.repeat(np.clip(light, 0, 1)[..., None], 3, -1)


@picture("Textures", "Plaster", "wall white rough chalk stucco pale")
def plaster() -> Field:
    """Paint trowelled plaster."""
    bend, along = noise(WIDE, cells=4, seed=151), noise(WIDE, cells=4, seed=152)
    strokes = noise(WIDE, cells=9, seed=153, octaves=7, fall=0.6, stretch=(2.4, 1))
    strokes = warped(strokes, bend, along, 0.28)
    light = relief(blurred(strokes, 1.8), 1.2) + 0.02 * grain(WIDE, 154, 1)
    tone = ramp(noise(WIDE, cells=2, seed=155), [(0, "#d9d4ca"), (1, "#eeebe4")])
    return tone + light[..., None]


@picture("Textures", "Rust", "metal iron orange worn patina old")
def rust() -> Field:
    """Paint rusted iron."""
    patches = noise(WIDE, cells=4, seed=161, octaves=8, fall=0.62)
    fine = noise(WIDE, cells=70, seed=162, octaves=4, fall=0.7)
    body = np.clip(0.75 * patches + 0.3 * (fine - 0.5) + 0.12, 0, 1)
    shown = ramp(
        body,
        [
            (0, "#2b3236"),
            (0.35, "#4b4a45"),
            (0.5, "#6d3a1e"),
            (0.72, "#a8521f"),
            (1, "#d98b45"),
        ],
    )
    return shown + relief(blurred(body, 1.3), 0.3)[..., None]


@picture("Textures", "Facets", "foil crystal creased folds silver grey angular")
def facets() -> Field:
    """Paint foil with creases: flat facets that each catch the light."""
    random = rng(171)
    points = random.random((260, 2)) * (WIDE[1] / WIDE[0], 1)
    x, y = grid((WIDE[0] // 2, WIDE[1] // 2))
    nearest = np.full(x.shape, np.inf, np.float32)
    lean = np.zeros(x.shape, np.float32)
    for px, py in points:
        distance = (x - px) ** 2 + (y - py) ** 2
        slope = random.normal(0, 1, 2)
        closer = distance < nearest
        facet = (
            0.5 + 0.22 * slope[0] + 1.6 * (slope[1] * (x - px) + slope[0] * (y - py))
        )
        lean = np.where(closer, facet, lean)
        nearest = np.minimum(nearest, distance)
    lean = cv2.resize(
        lean.astype(np.float32), (WIDE[1], WIDE[0]), interpolation=cv2.INTER_CUBIC
    )
    lean = warped(
        lean, noise(WIDE, cells=8, seed=172), noise(WIDE, cells=8, seed=173), 0.03
    )
    lean = blurred(lean, 2.2)
    shown = ramp(
        np.clip(lean, 0, 1), [(0, "#4d5155"), (0.5, "#a9adb0"), (1, "#f7f8f8")]
    )
    return screen(shown, relief(lean, 0.1)[..., None] * np.ones(3, np.float32))
