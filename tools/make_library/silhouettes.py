"""Dark shapes on nothing, to be dropped into pictures."""

from __future__ import annotations

import numpy as np

from tools.make_library.catalogue import picture
from tools.make_library.painting import SQUARE, WIDE, Field, Ink, cut_out, rng


def draw_tree(
    ink: Ink,
    foot: tuple[float, float],
    height: float,
    random: np.random.Generator,
    *,
    spread_out: float = 0.5,
) -> None:
    """Draw a bare tree: each branch divides into thinner ones."""

    def branch(x: float, y: float, turn: float, length: float, width: float) -> None:
        parts = 4
        for part in range(parts):
            turn += random.normal(0, 0.09)
            end = (x + np.cos(turn) * length / parts, y + np.sin(turn) * length / parts)
            ink.stroke((x, y), end, width * (1 - 0.3 * part / parts))
            x, y = end
            if width > 0.0016 and part == 1 and random.random() < 0.55:
                side = turn + random.choice((-1, 1)) * random.uniform(0.4, 1.0)
                branch(x, y, side, length * 0.55, width * 0.45)
        if width < 0.0011 or length < 0.008:
            return
        for side in (-1, 1):
            bend = side * random.uniform(0.35, 1.0) * spread_out
            shorter = random.uniform(0.66, 0.84)
            branch(x, y, turn + bend, length * shorter, width * 0.66)

    branch(*foot, -np.pi / 2 + random.normal(0, 0.05), height * 0.27, height * 0.036)


@picture("Silhouettes", "Bare tree", "winter branches black lonely multiply")
def bare_tree() -> Field:
    """Draw one bare tree."""
    ink = Ink(SQUARE)
    draw_tree(ink, (0.5, 0.97), 0.98, rng(504), spread_out=0.62)
    return cut_out(ink.done())


@picture("Silhouettes", "Wood at the edge", "trees forest row black border")
def wood_at_the_edge() -> Field:
    """Draw a row of bare trees on uneven ground."""
    ink = Ink(WIDE)
    random = rng(511)
    for _ in range(15):
        foot = (random.uniform(-0.05, 1.55), 0.95)
        draw_tree(ink, foot, random.uniform(0.45, 0.92), random)
    steps = np.linspace(-0.02, 1.52, 90)
    ground = 0.93 + 0.016 * np.sin(steps * 5) + random.normal(0, 0.004, 90)
    ink.area([*zip(steps, ground, strict=True), (1.52, 1.02), (-0.02, 1.02)])
    return cut_out(ink.done())


@picture("Silhouettes", "Flock of birds", "flying sky black freedom swarm")
def flock_of_birds() -> Field:
    """Draw birds in flight."""
    ink = Ink(WIDE)
    random = rng(521)
    for _ in range(46):
        x, y = random.normal((0.78, 0.46), (0.32, 0.17))
        size = random.uniform(0.012, 0.05)
        lean, flap = random.normal(-0.15, 0.25), random.uniform(-0.5, 0.9)
        turn = np.array([[np.cos(lean), -np.sin(lean)], [np.sin(lean), np.cos(lean)]])
        for side in (-1, 1):
            wing = [
                (0, -0.1),
                (0.55, -0.35 * flap - 0.25),
                (1.25, 0.25 - 0.75 * flap),
                (0.6, 0.02 - 0.3 * flap),
                (0.05, 0.16),
            ]
            ink.area([(x, y) + turn @ (side * px * size, py * size) for px, py in wing])
        body = [(-0.12, -0.42), (0.12, -0.42), (0.1, 0.3), (0, 0.62), (-0.1, 0.3)]
        ink.area([(x, y) + turn @ (px * size, py * size) for px, py in body])
    return cut_out(ink.done())


@picture("Silhouettes", "Grasses", "meadow blades foreground black summer")
def grasses() -> Field:
    """Draw blades of grass with seeds."""
    ink = Ink(WIDE)
    random = rng(531)
    for _ in range(430):
        x, y = random.uniform(-0.05, 1.55), 1.01
        height, bend = random.gamma(4, 0.085), random.normal(0.1, 0.35)
        last = (x, y)
        for part in np.linspace(0.06, 1, 16):
            point = (x + bend * height * part**2, y - height * part)
            ink.stroke(last, point, 0.006 * (1 - 0.85 * part))
            last = point
        if height > 0.45 and random.random() < 0.6:
            for seed in range(9):
                back = seed * 0.011
                side = 0.008 * (-1) ** seed
                middle = (last[0] - bend * back + side, last[1] + back)
                ink.oval(middle, (0.0035, 0.009), turn=20.0 * (-1) ** seed)
    ink.area([(-0.1, 0.985), (1.6, 0.985), (1.6, 1.1), (-0.1, 1.1)])
    return cut_out(ink.done())


@picture("Silhouettes", "Roofs of a town", "houses city skyline chimneys night black")
def roofs_of_a_town() -> Field:
    """Draw roofs, chimneys and one tower."""
    ink = Ink(WIDE)
    random = rng(541)
    x = -0.05
    while x < 1.55:
        wide = random.uniform(0.07, 0.17)
        eaves, ridge = random.uniform(0.72, 0.85), random.uniform(0.1, 0.2)
        ink.area([(x, 1.02), (x, eaves), (x + wide, eaves), (x + wide, 1.02)])
        ink.area(
            [
                (x - 0.012, eaves),
                (x + wide / 2, eaves - ridge),
                (x + wide + 0.012, eaves),
            ]
        )
        if random.random() < 0.75:
            at = x + wide * random.choice((0.22, 0.72))
            top = eaves - ridge * 0.95
            ink.area([(at, eaves), (at, top), (at + 0.016, top), (at + 0.016, eaves)])
            ink.area(
                [
                    (at - 0.003, top),
                    (at - 0.003, top - 0.012),
                    (at + 0.019, top - 0.012),
                    (at + 0.019, top),
                ]
            )
        x += wide * random.uniform(0.82, 1.0)
    ink.area([(1.0, 1.02), (1.0, 0.46), (1.09, 0.46), (1.09, 1.02)])
    ink.area([(0.985, 0.46), (1.045, 0.2), (1.105, 0.46)])
    ink.stroke((1.045, 0.22), (1.045, 0.14), 0.004)
    return cut_out(ink.done())


@picture("Silhouettes", "Ferns", "leaves plant fronds forest black frame")
def ferns() -> Field:
    """Draw fern fronds that rise from below."""
    ink = Ink(WIDE)
    random = rng(551)
    for frond in range(11):
        x, y = 0.02 + 0.146 * frond + random.normal(0, 0.03), 1.02
        turn, length = -np.pi / 2 + random.normal(0, 0.4), random.uniform(0.35, 0.72)
        bend = random.normal(0, 0.9)
        steps = 46
        for step in range(steps):
            part = step / steps
            turn += bend / steps
            point = (
                x + np.cos(turn) * length / steps,
                y + np.sin(turn) * length / steps,
            )
            ink.stroke((x, y), point, 0.005 * (1 - 0.8 * part))
            reach = length * 0.19 * np.sin(np.pi * min(1, part * 0.94 + 0.06)) ** 0.8
            for side in (-1, 1):
                lean = turn + side * (1.15 - 0.35 * part)
                middle = (
                    point[0] + np.cos(lean) * reach / 2,
                    point[1] + np.sin(lean) * reach / 2,
                )
                ink.oval(
                    middle, (reach / 2, length * 0.006), turn=float(np.rad2deg(lean))
                )
            x, y = point
    return cut_out(ink.done())


@picture("Silhouettes", "Puppet controls", "marionette theatre strings bars black")
def puppet_controls() -> Field:
    """Draw two control bars with the strings that hang from them."""
    ink = Ink(SQUARE)
    random = rng(561)
    for middle, turn in ((0.27, -0.16), (0.74, 0.12)):
        along = np.array((np.cos(turn), np.sin(turn)))
        over = np.array((-along[1], along[0]))
        at = np.array((middle, 0.2))
        ink.stroke(at - along * 0.17, at + along * 0.17, 0.02)
        ink.stroke(at - over * 0.11, at + over * 0.11, 0.024)
        for place in np.linspace(-0.16, 0.16, 7):
            start = at + along * place
            ink.stroke(start, (start[0] + random.normal(0, 0.012), 1.02), 0.0016)
    return cut_out(ink.done())
