"""Light on black, to lay over pictures with Screen."""

from __future__ import annotations

import cv2
import numpy as np

from tools.make_library.catalogue import picture
from tools.make_library.painting import (
    WIDE,
    Field,
    blurred,
    color,
    falloff,
    grid,
    noise,
    ramp,
    rng,
    screen,
    smooth,
    warped,
)

BLACK = np.zeros((*WIDE, 3), np.float32)


def _bokeh(seed: int, colors: tuple[str, ...], count: int) -> Field:
    """Paint lights that are far out of focus."""
    random = rng(seed)
    shown = BLACK.copy()
    for _ in range(count):
        radius = random.uniform(0.02, 0.085)
        x, y = random.uniform(0, 1.5), random.beta(2.2, 1.8)
        light = color(colors[random.integers(len(colors))]) * random.uniform(0.2, 0.75)
        side = round(radius * WIDE[0])
        middle = (round(x * WIDE[0]), round(y * WIDE[0]))
        disc = np.zeros(WIDE, np.uint8)
        cv2.circle(disc, middle, side, 190, -1, cv2.LINE_AA)
        cv2.circle(disc, middle, side, 255, max(2, side // 14), cv2.LINE_AA)
        box = (
            slice(max(0, middle[1] - side - 9), middle[1] + side + 9),
            slice(max(0, middle[0] - side - 9), middle[0] + side + 9),
        )
        soft = cv2.GaussianBlur(disc[box].astype(np.float32) / 255, (0, 0), 2.2)
        shown[box] = screen(shown[box], soft[..., None] * light)
    haze = blurred(shown, 130)
    return screen(shown, haze * 0.5)


@picture("Light", "Warm bokeh", "lights evening gold orange blur party screen")
def warm_bokeh() -> Field:
    """Paint warm lights out of focus."""
    return _bokeh(201, ("#ffb347", "#ff8c42", "#ffd98a", "#e2593b"), 70)


@picture("Light", "Cool bokeh", "lights night blue teal violet blur city screen")
def cool_bokeh() -> Field:
    """Paint cool lights out of focus."""
    return _bokeh(202, ("#4f8fd9", "#63c7c4", "#9a86e0", "#d6e6ff"), 64)


@picture("Light", "Amber light leak", "film warm orange edge old camera screen")
def amber_light_leak() -> Field:
    """Paint light that has leaked in from one side."""
    x, y = grid(WIDE)
    wave = noise(WIDE, cells=2, seed=211, octaves=3)
    edge = np.exp(-(x + 0.22 * (wave - 0.5)) / 0.24)
    streak = np.exp(-(((x - 0.42 - 0.2 * (wave - 0.5)) / 0.06) ** 2)) * 0.35
    light = np.clip(edge + streak * (0.4 + 0.6 * y), 0, 1)
    return ramp(
        light, [(0, "#000000"), (0.35, "#7a1f08"), (0.7, "#f06a1c"), (1, "#ffe6b0")]
    )


@picture("Light", "Rose light leak", "film pink magenta corner soft screen")
def rose_light_leak() -> Field:
    """Paint light that has leaked into two corners."""
    wave = noise(WIDE, cells=2, seed=221, octaves=3)
    first = falloff(WIDE, 1.5, 0.02, 0.4) * (0.6 + 0.6 * wave)
    second = falloff(WIDE, 0.0, 1.05, 0.3) * (1.1 - 0.5 * wave)
    shown = screen(BLACK, np.clip(first, 0, 1)[..., None] * color("#ff4f7a"))
    shown = screen(shown, np.clip(first**3, 0, 1)[..., None] * color("#ffd9b0"))
    return screen(shown, np.clip(second, 0, 1)[..., None] * color("#a23bd0") * 0.8)


@picture("Light", "Sun rays", "beams shine church forest haze dust screen")
def sun_rays() -> Field:
    """Paint beams that fan out from above."""
    x, y = grid(WIDE)
    angle = np.arctan2(y + 0.25, x - 0.35)
    distance = np.hypot(y + 0.25, x - 0.35)
    random = rng(231)
    beams = np.zeros(WIDE, np.float32)
    for _ in range(34):
        at, width = random.uniform(0.15, 2.9), random.uniform(0.006, 0.06)
        beams += random.uniform(0.15, 0.8) * np.exp(-(((angle - at) / width) ** 2))
    motes = 0.75 + 0.5 * noise(WIDE, cells=6, seed=232, octaves=6, fall=0.6)
    light = beams * motes * np.exp(-distance / 0.75) * 0.75
    light += np.exp(-distance / 0.4) * 0.9
    return np.clip(light, 0, 1)[..., None] * color("#ffe7b3")


@picture("Light", "Sparks", "fire glow embers night flying orange screen")
def sparks() -> Field:
    """Paint embers that fly up."""
    random = rng(241)
    sheet = np.zeros(WIDE, np.float32)
    for _ in range(420):
        x, y = random.uniform(0, WIDE[1]), WIDE[0] * random.beta(2.4, 1.2)
        lean, length = random.normal(-1.5, 0.45), random.gamma(2, 9)
        end = (round(x + np.cos(lean) * length), round(y + np.sin(lean) * length))
        bright = float(random.uniform(0.3, 1))
        cv2.line(
            sheet,
            (round(x), round(y)),
            end,
            bright,
            int(random.integers(1, 5)),
            cv2.LINE_AA,
        )
    glow = blurred(sheet, 1.2) + 5 * blurred(sheet, 9) + 6 * blurred(sheet, 40)
    base = falloff(WIDE, 0.75, 1.12, 0.4) * 0.5
    heat = np.clip(glow + base, 0, 1)
    return ramp(
        heat, [(0, "#000000"), (0.3, "#6e1c05"), (0.65, "#ff7d1f"), (1, "#fff2c4")]
    )


@picture("Light", "Haze", "fog mist smoke white soft depth screen")
def haze() -> Field:
    """Paint drifting fog on black."""
    _, y = grid(WIDE)
    fog = noise(WIDE, cells=3, seed=251, octaves=6, fall=0.5, stretch=(3, 1))
    fog = warped(
        fog, noise(WIDE, cells=3, seed=252), noise(WIDE, cells=3, seed=253), 0.2
    )
    thick = smooth(0.3, 1, fog) * smooth(0.0, 0.8, y) * 0.8
    return thick[..., None] * color("#e6ebee")
