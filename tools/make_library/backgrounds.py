"""Backgrounds for a subject or a product."""

from __future__ import annotations

import cv2
import numpy as np

from tools.make_library.catalogue import picture
from tools.make_library.painting import (
    WIDE,
    Field,
    Ink,
    blurred,
    color,
    falloff,
    grain,
    grid,
    mix,
    noise,
    ramp,
    relief,
    rng,
    smooth,
    warped,
)


def _studio(seed: int, dark: str, light: str, x: float, y: float) -> Field:
    """Paint a backdrop of painted canvas, lit from the front."""
    clouds = noise(WIDE, cells=3, seed=seed, octaves=6, fall=0.55)
    clouds = warped(clouds, noise(WIDE, cells=3, seed=seed + 1), clouds, 0.2)
    lit = falloff(WIDE, x, y, 0.62)
    tone = np.clip(0.78 * lit + 0.24 * (clouds - 0.4), 0, 1)
    cloth = 0.012 * grain(WIDE, seed + 2, 1.0)
    return mix(color(dark), color(light), tone) + cloth[..., None]


@picture("Backgrounds", "Warm studio", "brown portrait backdrop canvas painted plain")
def warm_studio() -> Field:
    """Paint a warm backdrop."""
    return _studio(301, "#2d2018", "#b99a74", 0.75, 0.42)


@picture("Backgrounds", "Blue studio", "portrait backdrop canvas painted cool plain")
def blue_studio() -> Field:
    """Paint a cool backdrop."""
    return _studio(311, "#131d2b", "#7f9db8", 0.7, 0.45)


@picture("Backgrounds", "White sweep", "product plain pale shop catalogue studio")
def white_sweep() -> Field:
    """Paint a white sweep of paper: floor and wall without an edge."""
    _, y = grid(WIDE)
    wall = ramp(
        y, [(0, "#e6e5e2"), (0.5, "#f4f3f1"), (0.62, "#ecebe8"), (1, "#fdfdfc")]
    )
    return wall - (0.05 * (1 - falloff(WIDE, 0.75, 0.55, 0.75)))[..., None]


def _boards(seed: int, across: int, colors: list[tuple[float, str]]) -> Field:
    """Paint boards that lie side by side, with their grain."""
    x, y = grid(WIDE)
    random = rng(seed)
    board = np.minimum((x / 1.5 * across).astype(int), across - 1)
    shift = random.random(across).astype(np.float32)[board]
    flow = noise(WIDE, cells=3, seed=seed + 1, octaves=5, stretch=(0.5, 5))
    rings = np.sin(
        2 * np.pi * (9 * x + 5 * shift + 3.2 * flow + 0.4 * y * (shift - 0.5))
    )
    fine = noise(WIDE, cells=40, seed=seed + 2, octaves=4, stretch=(0.3, 24))
    tone = 0.42 + 0.13 * rings + 0.3 * (fine - 0.5) + 0.35 * (shift - 0.5)
    shown = ramp(np.clip(tone, 0, 1), colors)
    within = np.abs((x / 1.5 * across) % 1 - 0.5)
    gap = smooth(0.485, 0.498, within)
    rim = smooth(0.44, 0.49, within) * 0.25
    return mix(shown * (1 - rim[..., None]), color("#120c08"), gap * 0.92)


@picture("Backgrounds", "Old boards", "wood planks brown barn table rustic")
def old_boards() -> Field:
    """Paint dark boards."""
    return _boards(321, 7, [(0, "#2a1a10"), (0.5, "#6e4a2e"), (1, "#b28a5d")])


@picture("Backgrounds", "Pale boards", "wood planks white washed table light")
def pale_boards() -> Field:
    """Paint whitewashed boards."""
    return _boards(331, 6, [(0, "#a7a092"), (0.5, "#d6d0c4"), (1, "#f3efe7")])


@picture("Backgrounds", "Velvet curtain", "theatre stage red drapes folds")
def velvet_curtain() -> Field:
    """Paint a curtain in heavy folds."""
    x, _ = grid(WIDE)
    bend = noise(WIDE, cells=2, seed=341, octaves=3, stretch=(1, 4))
    phase = 11 * x + 0.35 * bend + 0.5 * np.sin(3 * x)
    fold = 0.5 + 0.5 * np.sin(2 * np.pi * phase)
    fold = 0.7 * fold**1.4 + 0.3 * (0.5 + 0.5 * np.sin(2 * np.pi * (2.6 * phase + 0.3)))
    light = fold * (0.55 + 0.45 * falloff(WIDE, 0.75, 0.35, 0.7))
    shown = ramp(
        np.clip(light, 0, 1),
        [(0, "#1c0306"), (0.4, "#6b0d15"), (0.75, "#a81e24"), (1, "#d9574b")],
    )
    pile = 0.02 * grain(WIDE, 342, 0.8)
    return shown + pile[..., None]


@picture("Backgrounds", "Brick wall", "bricks red street house outside")
def brick_wall() -> Field:
    """Paint a wall of bricks in running bond."""
    x, y = grid(WIDE)
    rows, wide = 17, 0.145
    row = np.floor(y * rows)
    along = x / wide + 0.5 * (row % 2)
    column = np.floor(along)
    rough = (noise(WIDE, cells=40, seed=351, octaves=4, fall=0.7) - 0.5) * 0.06
    side = np.minimum(along - column, 1 - (along - column)) * wide * rows + rough
    edge = np.minimum(np.minimum(y * rows - row, 1 - (y * rows - row)) + rough, side)
    body = smooth(0.075, 0.13, edge)
    random = rng(352).random((rows, 32)).astype(np.float32)
    own = random[row.astype(int) % rows, column.astype(int) % 32]
    face = np.clip(
        0.55 * own + 0.45 * noise(WIDE, cells=24, seed=353, octaves=6, fall=0.7), 0, 1
    )
    bricks = ramp(face, [(0, "#56271d"), (0.5, "#96452f"), (1, "#c47b58")])
    mortar = ramp(noise(WIDE, cells=60, seed=354), [(0, "#8c8378"), (1, "#bdb4a6")])
    height = blurred(body * (0.8 + 0.4 * face), 2)
    return mix(mortar, bricks, body) + relief(height, 0.24)[..., None]


@picture("Backgrounds", "Window light", "wall shadow panes sun morning room")
def window_light() -> Field:
    """Paint the light of a window on a wall."""
    ink = Ink(WIDE)
    for column in range(2):
        for row in range(3):
            left, top = 0.42 + 0.3 * column, 0.12 + 0.25 * row
            slant = 0.1 * (top - 0.1)
            ink.area(
                [
                    (left + slant, top),
                    (left + 0.27 + slant, top + 0.045),
                    (left + 0.27 + slant + 0.022, top + 0.265),
                    (left + slant + 0.022, top + 0.22),
                ]
            )
    panes = blurred(ink.done(), 9)
    leaves = noise(WIDE, cells=9, seed=361, octaves=3)
    shade = 1 - 0.55 * smooth(0.55, 0.8, blurred(leaves, 6)) * falloff(
        WIDE, 1.05, 0.3, 0.3
    )
    wall = ramp(noise(WIDE, cells=4, seed=362), [(0, "#a79a8b"), (1, "#b5a898")])
    lit = ramp(noise(WIDE, cells=4, seed=363), [(0, "#f6e3bd"), (1, "#fbeccb")])
    plaster = relief(noise(WIDE, cells=30, seed=364, octaves=5), 0.12)
    return mix(wall, lit, panes * shade * 0.92) + plaster[..., None]


@picture("Backgrounds", "Leaves out of focus", "green garden bokeh summer blur soft")
def leaves_out_of_focus() -> Field:
    """Paint greenery far behind."""
    random = rng(371)
    sheet = ramp(noise(WIDE, cells=3, seed=372), [(0, "#1f3a1c"), (1, "#6f9a4a")])
    shades = ("#2f5b25", "#86b552", "#b9d47a", "#466f2c", "#e3edb0")
    for _ in range(520):
        middle = tuple(map(int, random.random(2) * (WIDE[1], WIDE[0])))
        radius = int(random.uniform(14, 80))
        shade = [float(one) for one in color(shades[random.integers(5)])]
        layer = sheet.copy()
        cv2.circle(layer, middle, radius, shade, -1, cv2.LINE_AA)
        sheet = cv2.addWeighted(sheet, 0.68, layer, 0.32, 0)
    return blurred(sheet, 9)
