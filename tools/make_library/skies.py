"""Skies."""

from __future__ import annotations

import numpy as np

from tools.make_library.catalogue import picture
from tools.make_library.painting import (
    WIDE,
    Field,
    blurred,
    color,
    falloff,
    grid,
    mix,
    noise,
    ramp,
    rng,
    screen,
    smooth,
    warped,
)


def _clouds(
    seed: int, *, cells: float, flat: float, cover: float
) -> tuple[Field, Field]:
    """Return how dense clouds are, and how light their sides are, both 0..1."""
    body = noise(WIDE, cells=cells, seed=seed, octaves=8, fall=0.55, stretch=(flat, 1))
    bend = noise(WIDE, cells=cells, seed=seed + 1, octaves=5)
    body = warped(body, bend, noise(WIDE, cells=cells, seed=seed + 2), 0.06)
    dense = smooth(1 - cover, 1 - cover + 0.34, body)
    above = np.roll(blurred(dense, 18), 26, axis=0)
    lit = np.clip(0.75 + 0.6 * (dense - above) + 0.25 * (body - 0.6), 0, 1)
    return dense, lit.astype(np.float32)


@picture("Skies", "Heaped clouds", "blue day summer white weather fair")
def heaped_clouds() -> Field:
    """Paint white clouds on blue."""
    _, y = grid(WIDE)
    sky = ramp(y, [(0, "#2f6fb3"), (0.6, "#7fb2dc"), (1, "#cfe3ee")])
    dense, lit = _clouds(11, cells=3, flat=1.6, cover=0.56)
    white = ramp(lit, [(0.3, "#8fa2b5"), (0.65, "#dfe6ec"), (0.9, "#ffffff")])
    return mix(sky, white, dense * smooth(-0.2, 0.25, y) * 0.97)


@picture("Skies", "Feather clouds", "blue high thin wind cirrus day")
def feather_clouds() -> Field:
    """Paint thin clouds drawn out by the wind."""
    x, y = grid(WIDE)
    sky = ramp(y, [(0, "#3d7fbd"), (0.7, "#9cc6e2"), (1, "#dcebf0")])
    comb = noise(WIDE, cells=5, seed=21, octaves=7, fall=0.62, stretch=(7, 1))
    comb = warped(
        comb, noise(WIDE, cells=2, seed=22), noise(WIDE, cells=2, seed=23), 0.3
    )
    veil = smooth(0.45, 0.95, comb) * smooth(0.25, 0.75, noise(WIDE, cells=2, seed=24))
    return mix(sky, np.ones(3, np.float32), veil * 0.9 * (1 - 0.2 * x / 1.5))


@picture("Skies", "Evening fire", "sunset red orange dusk clouds glow")
def evening_fire() -> Field:
    """Paint a burning evening sky."""
    _, y = grid(WIDE)
    sky = ramp(
        y,
        [
            (0, "#2b2f5c"),
            (0.35, "#7a4a7c"),
            (0.62, "#e0764e"),
            (0.82, "#f7b25c"),
            (1, "#ffe3a1"),
        ],
    )
    dense, lit = _clouds(31, cells=4, flat=4, cover=0.55)
    warm = ramp(
        np.clip(lit * 0.6 + y * 0.5, 0, 1),
        [(0.2, "#3a2747"), (0.5, "#9c3f4c"), (0.75, "#f08a4b"), (1, "#ffd98a")],
    )
    burning = mix(sky, warm, dense * smooth(1.02, 0.7, y) * 0.9)
    sun = falloff(WIDE, 1.02, 0.93, 0.16)[..., None] * color("#ffdf9a")
    return screen(burning, sun * 0.8)


@picture("Skies", "First light", "dawn morning pink soft pale mist")
def first_light() -> Field:
    """Paint a pale morning."""
    _, y = grid(WIDE)
    sky = ramp(
        y,
        [
            (0, "#8fa9c9"),
            (0.4, "#cdbfd0"),
            (0.7, "#f2c9b8"),
            (0.9, "#f9e2c0"),
            (1, "#fbeed6"),
        ],
    )
    dense, lit = _clouds(41, cells=3, flat=5, cover=0.5)
    pink = ramp(lit, [(0.4, "#a695b4"), (0.8, "#f6cfc4"), (1, "#fff0e0")])
    return mix(sky, pink, dense * 0.55)


@picture("Skies", "Storm coming", "grey dark clouds rain heavy weather thunder")
def storm_coming() -> Field:
    """Paint heavy clouds."""
    _, y = grid(WIDE)
    dense, lit = _clouds(51, cells=3, flat=2.2, cover=0.86)
    grey = ramp(
        np.clip(lit * 0.9 - 0.15 + 0.25 * y, 0, 1),
        [(0.1, "#20262e"), (0.45, "#4c5863"), (0.75, "#8b979f"), (1, "#d3d9d8")],
    )
    low = ramp(y, [(0, "#3a444e"), (0.8, "#8a969a"), (1, "#c5cbc4")])
    return mix(low, grey, dense)


@picture("Skies", "Night of stars", "stars dark blue milky way space moonless")
def night_of_stars() -> Field:
    """Paint stars and a band of haze."""
    x, y = grid(WIDE)
    sky = ramp(y, [(0, "#070b1d"), (0.7, "#142348"), (1, "#27406b")])
    off = (y - 0.15 - 0.42 * x) / 0.16
    cloudy = noise(WIDE, cells=5, seed=61, octaves=7, fall=0.6)
    band = np.exp(-(off**2)) * smooth(0.25, 0.9, cloudy)
    sky = screen(sky, band[..., None] * color("#7d84b8") * 0.62)
    random = rng(62)
    stars = np.zeros(WIDE, np.float32)
    for size, count in ((0.7, 5200), (1.2, 1100), (2.0, 130)):
        layer = np.zeros(WIDE, np.float32)
        rows = random.integers(0, WIDE[0], count)
        columns = random.integers(0, WIDE[1], count)
        layer[rows, columns] = random.random(count) ** 3 + 0.08
        stars += blurred(layer, size) * (size * 5.2)
    dim = smooth(1.05, 0.7, y)
    return screen(sky, np.clip(stars * dim, 0, 1)[..., None] * color("#f4f2ff"))


@picture("Skies", "Moon behind veils", "moon night clouds halo blue quiet")
def moon_behind_veils() -> Field:
    """Paint a full moon with a halo."""
    x, y = grid(WIDE)
    sky = ramp(y, [(0, "#0c1730"), (1, "#2c4a6d")])
    distance = np.hypot(x - 1.0, y - 0.38)
    disc = smooth(0.093, 0.089, distance)
    marks = noise(WIDE, cells=22, seed=71, octaves=4)
    moon = ramp(marks, [(0.2, "#c9c6b4"), (0.7, "#f5f0dc")])
    glow = np.exp(-distance / 0.14) + 0.5 * np.exp(-distance / 0.4)
    lit = screen(sky, glow[..., None] * color("#9db4cf") * 0.62)
    lit = mix(lit, moon, disc)
    dense, _ = _clouds(72, cells=3, flat=3, cover=0.55)
    near = np.clip(0.16 + 0.75 * np.exp(-distance / 0.35), 0, 1)
    veil = mix(color("#14233d"), color("#b9c8d8"), near.astype(np.float32))
    return mix(lit, veil, dense * 0.62)
