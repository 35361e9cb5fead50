"""Ornaments with a see-through middle, to put pictures into."""

from __future__ import annotations

import cv2
import numpy as np

from tools.make_library.catalogue import picture
from tools.make_library.painting import (
    SQUARE,
    Field,
    Ink,
    blurred,
    color,
    cut_out,
    grid,
    mix,
    noise,
    ramp,
    relief,
    rng,
    smooth,
)


def _gilded(height: Field, alpha: Field, dark: str, light: str) -> Field:
    """Paint a raised shape as if it were gilded."""
    lit = relief(blurred(height, 3), 1.5) + relief(blurred(height, 9), 2.4)
    worn = noise(SQUARE, cells=30, seed=601, octaves=5)
    tone = np.clip(0.5 + lit + 0.16 * (worn - 0.5), 0, 1)
    paint = ramp(tone, [(0, "#2b1b08"), (0.3, dark), (0.7, light), (1, "#fff6d8")])
    return cut_out(alpha, paint)


@picture("Ornaments", "Oval frame", "gold portrait picture antique ring medallion")
def oval_frame() -> Field:
    """Paint an oval frame with beads."""
    x, y = grid(SQUARE)
    away = np.hypot((x - 0.5) / 0.39, (y - 0.5) / 0.48)
    ring = smooth(0.745, 0.75, away) * smooth(1.0, 0.995, away)
    within = np.clip((away - 0.875) / 0.125, -1, 1)
    profile = np.maximum(np.cos(within * np.pi / 2), 0) ** 0.6
    grooves = 0.25 * np.cos((away - 0.75) / 0.25 * 6 * np.pi)
    height = profile + grooves
    for inner in (0.775, 0.965):
        count = round(96 * inner)
        turn = np.arctan2((y - 0.5) / 0.48, (x - 0.5) / 0.39)
        bead = np.cos(turn * count) * 0.5 + 0.5
        height = height + 0.8 * bead * np.exp(-(((away - inner) / 0.012) ** 2))
    return _gilded((height * ring).astype(np.float32), ring, "#8a5a1c", "#dcb45c")


@picture("Ornaments", "Leaf wreath", "green leaves round garland nature wedding")
def leaf_wreath() -> Field:
    """Paint a wreath of leaves."""
    random = rng(611)
    sheet = np.zeros((*SQUARE, 3), np.float32)
    alpha = np.zeros(SQUARE, np.float32)
    greens = ("#2f4f2a", "#3f6b33", "#5c8a45", "#86a860", "#28432e")
    for leaf in range(200):
        turn = leaf / 200 * 2 * np.pi * 3 + random.normal(0, 0.06)
        away = 0.36 + random.normal(0, 0.024)
        lean = turn + np.pi / 2 + random.choice((-1, 1)) * random.uniform(0.3, 0.9)
        at = np.array((0.5 + away * np.cos(turn), 0.5 + away * np.sin(turn)))
        size = random.uniform(0.045, 0.085)
        along, over = (
            np.array((np.cos(lean), np.sin(lean))),
            np.array((-np.sin(lean), np.cos(lean))),
        )
        parts = np.linspace(0, 1, 18)
        width = 0.3 * size * np.sin(np.pi * parts**0.8)
        side = [
            at + along * size * 2 * p + over * w
            for p, w in zip(parts, width, strict=True)
        ]
        back = [
            at + along * size * 2 * p - over * w
            for p, w in zip(parts, width, strict=True)
        ]
        ink, half, vein = Ink(SQUARE), Ink(SQUARE), Ink(SQUARE)
        ink.area([*side, *back[::-1]])
        half.area([*side, at + along * size * 2, at])
        vein.stroke(at, at + along * size * 1.85, 0.0022)
        shape = ink.done()
        tone = color(greens[random.integers(5)])
        shaded = mix(np.broadcast_to(tone, sheet.shape), tone * 1.3, half.done() * 0.8)
        shaded = mix(shaded, tone * 1.6 + 0.05, vein.done() * 0.8)
        shadow = np.roll(blurred(shape, 6), (8, 6), (0, 1)) * 0.45
        sheet = mix(mix(sheet, np.zeros(3, np.float32), shadow), shaded, shape)
        alpha = alpha + (1 - alpha) * shape
    return cut_out(alpha, sheet)


@picture("Ornaments", "Scalloped lace", "white round doily border delicate")
def scalloped_lace() -> Field:
    """Draw a ring of lace."""
    x, y = grid(SQUARE)
    away, turn = np.hypot(x - 0.5, y - 0.5), np.arctan2(y - 0.5, x - 0.5)
    petals = 28
    rim = 0.452 + 0.026 * np.abs(np.cos(turn * petals / 2))
    body = smooth(0.302, 0.305, away) * smooth(0.0015, -0.0015, away - rim)
    holes = np.zeros(SQUARE, np.float32)
    for radius, size, count in (
        (0.33, 0.008, 84),
        (0.365, 0.013, 56),
        (0.432, 0.0125, 28),
    ):
        shift = 0 if count == 28 else np.pi / count
        step = 2 * np.pi / count
        nearest = (turn - shift + step / 2) % step - step / 2
        spot = np.hypot(nearest * radius, away - radius)
        holes = np.maximum(holes, smooth(size + 0.0012, size - 0.0012, spot))
    step = 2 * np.pi / 56
    nearest = (turn + step / 2) % step - step / 2
    drop = np.hypot(nearest * 0.4 * 2.4, away - 0.4)
    holes = np.maximum(holes, smooth(0.0172, 0.0148, drop))
    lace = body * (1 - holes)
    thread = noise(SQUARE, cells=220, seed=621, octaves=2)
    paint = ramp(thread, [(0, "#e9e4d8"), (1, "#fffdf7")])
    return cut_out(lace, paint + relief(blurred(lace, 2), 0.1)[..., None])


@picture("Ornaments", "Corner scrolls", "frame border curls elegant certificate brown")
def corner_scrolls() -> Field:
    """Draw a frame of double lines with curls in the corners."""
    ink = Ink(SQUARE)
    for away, wide in ((0.045, 0.007), (0.065, 0.0025)):
        corners = [
            (away, away),
            (1 - away, away),
            (1 - away, 1 - away),
            (away, 1 - away),
        ]
        for start, end in zip(corners, [*corners[1:], corners[0]], strict=True):
            ink.stroke(start, end, wide)
    for mirror_x in (False, True):
        for mirror_y in (False, True):
            for swap in (False, True):
                for size, offset in ((0.085, 0.16), (0.05, 0.31)):
                    last = None
                    for part in np.linspace(0, 1, 60):
                        swing = np.pi * (1 + 2.6 * part)
                        radius = size * (1 - part) ** 0.8
                        px = offset + radius * np.cos(swing)
                        py = 0.075 + size * 0.55 + radius * np.sin(swing) * 0.8
                        px, py = (py, px) if swap else (px, py)
                        point = (1 - px if mirror_x else px, 1 - py if mirror_y else py)
                        if last is not None:
                            ink.stroke(last, point, 0.009 * (1 - 0.7 * part))
                        last = point
            middle = (0.105, 0.105)
            at = tuple(
                1 - one if mirror else one
                for one, mirror in zip(middle, (mirror_x, mirror_y), strict=True)
            )
            ink.oval(at, (0.017, 0.017))
    return cut_out(ink.done(), "#3a2413")


@picture("Ornaments", "Torn paper window", "hole rough edge white reveal ripped")
def torn_paper_window() -> Field:
    """Paint a sheet of paper with a hole torn into it."""
    x, y = grid(SQUARE)
    rough = noise(SQUARE, cells=7, seed=631, octaves=8, fall=0.62)
    finer = noise(SQUARE, cells=16, seed=632, octaves=7, fall=0.6)
    away = np.hypot((x - 0.5) / 0.36, (y - 0.5) / 0.3)
    tear = away + 0.55 * (rough - 0.5)
    sheet = smooth(0.96, 0.965, tear)
    core = smooth(1.02, 1.03, tear + 0.16 * (finer - 0.5))
    paper = ramp(noise(SQUARE, cells=60, seed=633), [(0, "#efe9db"), (1, "#f8f4ea")])
    fibre = ramp(finer, [(0, "#d9d3c6"), (1, "#ffffff")])
    shown = mix(fibre, paper, core)
    shade = blurred(core, 7)
    shown = shown - (0.16 * np.clip(core - np.roll(shade, 8, 0), 0, 1))[..., None]
    shown = shown + relief(blurred(sheet + core, 2), 0.12)[..., None]
    return cut_out(sheet, shown)


@picture("Ornaments", "Film edge", "old negative frame black border photo")
def film_edge() -> Field:
    """Paint a black border with rough edges, as of a print from a negative."""
    x, y = grid(SQUARE)
    rough = noise(SQUARE, cells=34, seed=641, octaves=6, fall=0.6)
    coarse = noise(SQUARE, cells=5, seed=642, octaves=3)
    ragged = 0.014 * (rough - 0.5) + 0.012 * (coarse - 0.5)
    inner = np.maximum(np.abs(x - 0.5), np.abs(y - 0.5)) + ragged
    border = smooth(0.425, 0.429, inner) * smooth(0.478, 0.472, inner + ragged * 0.8)
    flecks = smooth(0.86, 0.9, noise(SQUARE, cells=120, seed=643, octaves=3))
    near = smooth(0.395, 0.425, inner) * smooth(0.43, 0.425, inner)
    alpha = np.maximum(border * (1 - 0.5 * flecks), flecks * near * 0.7)
    return cut_out(alpha, "#0f0d0b")


@picture("Ornaments", "Rosette window", "stone round church gothic tracery grey")
def rosette_window() -> Field:
    """Paint a round stone window with eight openings."""
    x, y = grid(SQUARE)
    away, turn = np.hypot(x - 0.5, y - 0.5), np.arctan2(y - 0.5, x - 0.5)
    solid = np.where(away < 0.475, away, 9).astype(np.float32)
    distance = np.minimum(np.abs(solid - 0.445) - 0.03, np.abs(solid - 0.115) - 0.022)
    step = np.pi / 4
    nearest = (turn + step / 2) % step - step / 2
    bar = np.abs(np.sin(nearest)) * away - 0.0135
    spoke = np.where((away > 0.12) & (away < 0.44), bar, 9)
    lobe_turn = (turn) % step - step / 2
    lobe = np.hypot(away * np.cos(lobe_turn) - 0.325, away * np.sin(lobe_turn))
    arch = np.abs(lobe - 0.098) - 0.0125
    distance = np.minimum(distance, np.minimum(spoke, np.where(away > 0.22, arch, 9)))
    alpha = smooth(0.0015, -0.0015, distance) * smooth(0.477, 0.474, away)
    dome = np.clip(-distance / 0.02, 0, 1) ** 0.6
    rough = noise(SQUARE, cells=70, seed=651, octaves=5, fall=0.65)
    height = (dome * 0.8 + 0.16 * rough).astype(np.float32)
    stone = ramp(rough, [(0, "#8d877b"), (1, "#c4bcab")])
    lit = relief(blurred(height, 1.6), 0.7) + relief(blurred(height, 5), 1.1)
    return cut_out(alpha, cv2.multiply(stone, 0.95) + lit[..., None])
