"""Scenes to set something into."""

from __future__ import annotations

import numpy as np

from tools.make_library.catalogue import picture
from tools.make_library.painting import (
    WIDE,
    Field,
    Ink,
    blurred,
    color,
    falloff,
    grid,
    mix,
    noise,
    ramp,
    relief,
    rng,
    screen,
    smooth,
    spread,
)
from tools.make_library.silhouettes import draw_tree


def _ridge(seed: int, base: float, height: float, hills: float) -> Field:
    """Return a line of hills: its height at every column, in shares of the picture."""
    x = np.linspace(0, hills, WIDE[1])
    random = rng(seed)
    line = np.zeros_like(x)
    for octave in range(8):
        heights = random.random(round(hills * 2**octave) + 3)
        place = x * 2**octave + 0.5
        left = np.floor(place).astype(int)
        share = smooth(0, 1, (place - left).astype(np.float32))
        line += (heights[left] * (1 - share) + heights[left + 1] * share) * 0.42**octave
    return (base - height * spread(line.astype(np.float32))).astype(np.float32)


@picture("Scenes", "Layered hills", "mountains mist blue distance morning")
def layered_hills() -> Field:
    """Paint hills, one behind another, paler into the distance."""
    _, y = grid(WIDE)
    shown = ramp(y, [(0, "#9fb9cf"), (0.5, "#f3ddc2"), (1, "#f9ecd6")])
    shown = screen(
        shown, falloff(WIDE, 0.5, 0.4, 0.13)[..., None] * color("#fff2cf") * 0.8
    )
    for step in range(6):
        near = step / 5
        ridge = _ridge(401 + step, 0.52 + 0.1 * step, 0.2 - 0.01 * step, 3 + step)
        body = smooth(-0.0012, 0.0012, y - ridge[None, :])
        tone = mix(color("#b9c8cf"), color("#16303a"), near)
        mist = smooth(0.0, 0.3, y - ridge[None, :]) * (0.75 - 0.5 * near)
        land = mix(np.broadcast_to(tone, shown.shape), color("#dfe3dc"), mist)
        shown = mix(shown, land, body)
    return shown


@picture("Scenes", "Sea at evening", "ocean horizon sunset beach water calm")
def sea_at_evening() -> Field:
    """Paint the sea under an evening sky."""
    x, y = grid(WIDE)
    sky = ramp(y, [(0, "#3a4a7d"), (0.35, "#d98a74"), (0.52, "#ffdf9f")])
    sun = falloff(WIDE, 0.95, 0.5, 0.07)[..., None] * color("#fff3c6")
    sky = screen(sky, sun)
    depth = np.clip((y - 0.54) / 0.46, 0, 1)
    waves = noise(WIDE, cells=40, seed=411, octaves=5, stretch=(8, 1))
    swell = noise(WIDE, cells=12, seed=412, octaves=5, stretch=(7, 1))
    choppy = spread((1 - depth) * waves + depth * swell)
    sea = ramp(depth, [(0, "#d99a78"), (0.25, "#7d6f86"), (1, "#1f2d4d")])
    path = np.exp(-(((x - 0.95) / (0.03 + 0.22 * depth)) ** 2))
    glitter = smooth(0.56, 0.8, choppy) * path
    sea = screen(sea, glitter[..., None] * color("#ffe2a6"))
    sea = sea + (0.16 * (choppy - 0.5))[..., None]
    return mix(sky, sea, smooth(0.5385, 0.5415, y))


@picture("Scenes", "Forest in fog", "trees trunks mist grey morning")
def forest_in_fog() -> Field:
    """Paint trunks that fade into fog."""
    _, y = grid(WIDE)
    shown = ramp(y, [(0, "#cdd5d2"), (0.7, "#e4e7e1"), (1, "#b5bcae")])
    for step in range(5):
        ink = Ink(WIDE)
        random = rng(421 + step)
        for _ in range(5 + 3 * (4 - step)):
            foot = (random.uniform(-0.05, 1.55), 0.8 + 0.05 * step)
            draw_tree(ink, foot, 0.55 + 0.13 * step, random, spread_out=0.34)
        near = step / 4
        tone = mix(color("#c3cbc8"), color("#2b332f"), near**1.3)
        shown = mix(shown, tone, blurred(ink.done(), 3.2 * (1 - near) + 0.6))
        fog = smooth(0.35, 0.95, y) * (0.5 - 0.35 * near)
        shown = mix(shown, color("#e2e5df"), fog)
    ground = smooth(0.9, 1.0, y + 0.05 * (noise(WIDE, cells=20, seed=429) - 0.5))
    return mix(shown, color("#4a5146"), ground * 0.75)


@picture("Scenes", "Empty stage", "theatre spotlight floor boards dark curtain")
def empty_stage() -> Field:
    """Paint an empty stage under one lamp."""
    x, y = grid(WIDE)
    fold = 0.5 + 0.5 * np.sin(2 * np.pi * (16 * x + noise(WIDE, cells=2, seed=431)))
    curtain = ramp(fold, [(0, "#14060a"), (1, "#4d1018")])
    depth = np.clip((y - 0.66) / 0.34, 0, 1)
    across = (x - 0.75) / (0.55 + 0.9 * depth)
    board = np.abs((across * 13) % 1 - 0.5)
    grainy = noise(WIDE, cells=30, seed=432, octaves=5, stretch=(9, 1))
    floor = ramp(np.clip(0.3 + 0.5 * grainy, 0, 1), [(0, "#2a1a10"), (1, "#6b4a30")])
    floor = mix(floor, color("#120b07"), smooth(0.46, 0.495, board))
    shown = mix(curtain, floor, smooth(0.657, 0.663, y))
    pool = np.exp(-(((x - 0.75) / 0.42) ** 2) - ((y - 0.84) / 0.11) ** 2)
    cone = smooth(1.0, 0.2, np.abs(x - 0.75) / (0.03 + 0.48 * np.clip(y, 0, 0.9)))
    lit = shown * (0.5 + 1.7 * pool)[..., None]
    return screen(
        lit, (0.16 * cone * smooth(0.95, 0.3, y))[..., None] * color("#ffe2b0")
    )


@picture("Scenes", "Table by a wall", "product shelf wood shop kitchen empty")
def table_by_a_wall() -> Field:
    """Paint an empty table before a wall, for a product."""
    _, y = grid(WIDE)
    wall = ramp(falloff(WIDE, 0.5, 0.25, 0.7), [(0, "#8d958c"), (1, "#d8dacb")])
    wall = wall + relief(noise(WIDE, cells=26, seed=441, octaves=5), 0.05)[..., None]
    depth = np.clip((y - 0.68) / 0.32, 0, 1)
    plank = noise(WIDE, cells=22, seed=442, octaves=6, fall=0.6, stretch=(14, 1))
    wood = ramp(np.clip(0.25 + 0.6 * plank, 0, 1), [(0, "#5a371f"), (1, "#b98552")])
    wood = wood * (0.72 + 0.4 * depth)[..., None]
    shown = mix(wall, wood, smooth(0.678, 0.682, y))
    contact = np.exp(-(((y - 0.672) / 0.02) ** 2)) * 0.25
    return shown * (1 - contact)[..., None]
