"""Made-up pictures with a known matte: subjects of many kinds before many backdrops."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from numpy.typing import NDArray

    Values = NDArray[np.float32]
    Draw = Callable[["Sheet", np.random.Generator], None]

WIDTH, HEIGHT = 1500, 1125
TWICE = 2
"""Subjects are drawn at twice their size, so that edges are averages."""
GRAIN = 0.012


class CutPicture(NamedTuple):
    """A picture, its true matte and its subject's own colours."""

    name: str
    pixels: NDArray[np.uint8]
    alpha: Values
    own: Values


class Sheet:
    """A subject as it is drawn: straight colour and alpha; positions are 0..1."""

    def __init__(self) -> None:
        shape = (HEIGHT * TWICE, WIDTH * TWICE)
        self.color = np.full((*shape, 3), 0.5, np.float32)
        self.alpha = np.zeros(shape, np.float32)

    def lay(
        self, shape: Values, color: tuple[float, ...] | Values, alpha: float = 1.0
    ) -> None:
        """Lay a shape, 0..1, over what is there."""
        top = shape * alpha
        both = top + self.alpha * (1 - top)
        share = (top / np.maximum(both, 1e-6))[..., None]
        self.color = self.color * (1 - share) + np.asarray(color, np.float32) * share
        self.alpha = both

    def polygon(self, *points: tuple[float, float]) -> Values:
        """Return a filled polygon."""
        canvas = np.zeros(self.alpha.shape, np.uint8)
        cv2.fillPoly(canvas, [self._at(points)], 255, cv2.LINE_AA)
        return canvas.astype(np.float32) / 255

    def ellipse(self, x: float, y: float, wide: float, high: float) -> Values:
        """Return a filled ellipse by its middle and half axes."""
        canvas = np.zeros(self.alpha.shape, np.uint8)
        [middle] = self._at([(x, y)])
        axes = (round(wide * WIDTH * TWICE), round(high * HEIGHT * TWICE))
        place = (int(middle[0]), int(middle[1]))
        cv2.ellipse(canvas, place, axes, 0, 0, 360, 255, -1, cv2.LINE_AA)
        return canvas.astype(np.float32) / 255

    def lines(self, curves: list[list[tuple[float, float]]], thick: int) -> Values:
        """Return open lines, so many pixels of the drawing thick."""
        canvas = np.zeros(self.alpha.shape, np.uint8)
        drawn = [self._at(curve) for curve in curves]
        cv2.polylines(canvas, drawn, False, 255, thick, cv2.LINE_AA)  # noqa: FBT003
        return canvas.astype(np.float32) / 255

    def shaded(self, color: tuple[float, ...], *, from_left: float = 0.45) -> Values:
        """Return a colour that falls off to one side, a little uneven."""
        column = np.linspace(0, 1, self.alpha.shape[1], dtype=np.float32)
        light = 1.15 - 0.6 * np.abs(column - from_left)
        return np.asarray(color, np.float32) * light[None, :, None]

    @staticmethod
    def _at(
        points: list[tuple[float, float]] | tuple[tuple[float, float], ...],
    ) -> NDArray[np.int32]:
        size = np.array([WIDTH * TWICE, HEIGHT * TWICE])
        return (np.array(points) * size).round().astype(np.int32)


def _figure(sheet: Sheet, color: tuple[float, ...], coat: tuple[float, ...]) -> None:
    """Draw a bust: shoulders, neck and head with a face."""
    shoulders = sheet.polygon((0.3, 1.02), (0.36, 0.74), (0.64, 0.74), (0.7, 1.02))
    sheet.lay(shoulders, sheet.shaded(coat))
    sheet.lay(
        sheet.polygon((0.46, 0.6), (0.54, 0.6), (0.55, 0.77), (0.45, 0.77)), color
    )
    sheet.lay(sheet.ellipse(0.5, 0.42, 0.11, 0.22), sheet.shaded(color))
    for x in (0.46, 0.54):
        sheet.lay(sheet.ellipse(x, 0.4, 0.012, 0.012), (0.1, 0.1, 0.12))
    sheet.lay(sheet.ellipse(0.5, 0.52, 0.03, 0.01), (0.6, 0.2, 0.2))


def _strands(
    random: np.random.Generator, count: int, reach: float
) -> list[list[tuple[float, float]]]:
    curves = []
    for _ in range(count):
        angle = random.uniform(np.pi * 0.95, np.pi * 2.05)
        x, y = 0.5 + 0.1 * np.cos(angle), 0.4 + 0.2 * np.sin(angle)
        curve = [(x, y)]
        for _ in range(8):
            angle += random.normal(0, 0.25)
            x += reach * np.cos(angle) * 0.6
            y += reach * (np.sin(angle) * 0.5 + 0.45)
            curve.append((x, y))
        curves.append(curve)
    return curves


def hair(sheet: Sheet, random: np.random.Generator) -> None:
    """Draw a bust with long loose hair."""
    dark = (0.28, 0.16, 0.1)
    sheet.lay(sheet.lines(_strands(random, 900, 0.03), 2), dark)
    _figure(sheet, (0.85, 0.65, 0.52), (0.25, 0.3, 0.55))
    sheet.lay(sheet.ellipse(0.5, 0.27, 0.12, 0.12), dark)
    sheet.lay(sheet.lines(_strands(random, 250, 0.022), 2), (0.4, 0.24, 0.14))


def curls(sheet: Sheet, random: np.random.Generator) -> None:
    """Draw a bust with short pale curls."""
    _figure(sheet, (0.55, 0.38, 0.28), (0.7, 0.2, 0.2))
    rings = []
    for _ in range(500):
        angle = random.uniform(np.pi, 2 * np.pi)
        x, y = 0.5 + 0.12 * np.cos(angle), 0.36 + 0.2 * np.sin(angle)
        turns = np.arange(0, 6, 0.6)
        rings.append([(x + 0.012 * np.cos(t), y + 0.014 * np.sin(t)) for t in turns])
    sheet.lay(sheet.lines(rings, 2), (0.85, 0.75, 0.45))


def gauze(sheet: Sheet, random: np.random.Generator) -> None:
    """Draw a figure under a veil."""
    _figure(sheet, (0.8, 0.6, 0.5), (0.3, 0.5, 0.4))
    veil = sheet.polygon((0.5, 0.15), (0.18, 1.0), (0.82, 1.0))
    row, column = np.indices(sheet.alpha.shape)
    weave = 0.75 + 0.25 * np.sin(row / 4.0) * np.sin(column / 4.0)
    sheet.lay((veil * weave).astype(np.float32), (0.92, 0.92, 0.96), alpha=0.45)
    folds = [[(0.5, 0.15), (x, 1.0)] for x in random.uniform(0.2, 0.8, 14)]
    sheet.lay(sheet.lines(folds, 10) * veil, (0.97, 0.97, 1.0), alpha=0.5)


def broom(sheet: Sheet, random: np.random.Generator) -> None:
    """Draw a broom of loose twigs."""
    sheet.lay(
        sheet.lines([[(0.32, 0.05), (0.55, 0.62)]], 26), sheet.shaded((0.6, 0.4, 0.2))
    )
    twigs = []
    for _ in range(220):
        x = 0.55 + random.normal(0, 0.02)
        end = x + random.normal(0.06, 0.07)
        twigs.append(
            [(x, 0.6), ((x + end) / 2 - 0.01, 0.75), (end, random.uniform(0.86, 0.97))]
        )
    sheet.lay(sheet.lines(twigs, 4), (0.75, 0.6, 0.3))
    sheet.lay(sheet.lines([[(0.51, 0.63), (0.59, 0.6)]], 34), (0.7, 0.15, 0.12))


def box(sheet: Sheet, _random: np.random.Generator) -> None:
    """Draw a box with hard edges."""
    sheet.lay(
        sheet.polygon((0.3, 0.4), (0.55, 0.46), (0.55, 0.85), (0.3, 0.77)),
        (0.75, 0.5, 0.2),
    )
    sheet.lay(
        sheet.polygon((0.55, 0.46), (0.75, 0.38), (0.75, 0.74), (0.55, 0.85)),
        (0.5, 0.32, 0.12),
    )
    sheet.lay(
        sheet.polygon((0.3, 0.4), (0.5, 0.33), (0.75, 0.38), (0.55, 0.46)),
        (0.85, 0.62, 0.3),
    )


def dark_vase(sheet: Sheet, _random: np.random.Generator) -> None:
    """Draw a dark vase."""
    body = np.maximum(
        sheet.ellipse(0.5, 0.62, 0.14, 0.24),
        sheet.polygon((0.46, 0.25), (0.54, 0.25), (0.56, 0.5), (0.44, 0.5)),
    )
    sheet.lay(body, sheet.shaded((0.13, 0.12, 0.16), from_left=0.42))
    sheet.lay(sheet.ellipse(0.45, 0.55, 0.015, 0.08), (0.35, 0.35, 0.4), alpha=0.6)


def white_cup(sheet: Sheet, _random: np.random.Generator) -> None:
    """Draw a white cup."""
    handle = sheet.ellipse(0.66, 0.55, 0.08, 0.11) * (
        1 - sheet.ellipse(0.66, 0.55, 0.05, 0.075)
    )
    sheet.lay(handle, sheet.shaded((0.84, 0.84, 0.83)))
    sheet.lay(
        sheet.polygon((0.34, 0.38), (0.64, 0.38), (0.59, 0.8), (0.39, 0.8)),
        sheet.shaded((0.86, 0.86, 0.85)),
    )
    sheet.lay(sheet.ellipse(0.49, 0.38, 0.15, 0.05), (0.72, 0.72, 0.72))


def fur(sheet: Sheet, random: np.random.Generator) -> None:
    """Draw a furry animal."""
    for x, y, wide, high in ((0.5, 0.68, 0.2, 0.26), (0.5, 0.38, 0.12, 0.15)):
        sheet.lay(sheet.ellipse(x, y, wide, high), sheet.shaded((0.55, 0.4, 0.25)))
        hairs = []
        for _ in range(1600):
            angle = random.uniform(0, 2 * np.pi)
            start = random.uniform(0.85, 1.0)
            out = start + random.uniform(0.08, 0.2)
            bend = angle + random.normal(0, 0.12)
            hairs.append(
                [
                    (
                        x + wide * start * np.cos(angle),
                        y + high * start * np.sin(angle),
                    ),
                    (x + wide * out * np.cos(bend), y + high * out * np.sin(bend)),
                ]
            )
        sheet.lay(sheet.lines(hairs, 2), (0.62, 0.46, 0.3))
    for x in (0.45, 0.55):
        sheet.lay(sheet.ellipse(x, 0.36, 0.014, 0.02), (0.05, 0.05, 0.05))
    sheet.lay(sheet.ellipse(0.5, 0.42, 0.02, 0.018), (0.1, 0.06, 0.06))


def toys(sheet: Sheet, random: np.random.Generator) -> None:
    """Draw several small things."""
    colors = [
        (0.85, 0.2, 0.15),
        (0.15, 0.5, 0.75),
        (0.95, 0.75, 0.2),
        (0.3, 0.6, 0.3),
        (0.6, 0.3, 0.6),
    ]
    for place, color in enumerate(colors):
        x, y = 0.2 + 0.15 * place, 0.5 + random.uniform(-0.15, 0.2)
        if place % 2:
            sheet.lay(
                sheet.polygon(
                    (x - 0.04, y - 0.05),
                    (x + 0.05, y - 0.06),
                    (x + 0.04, y + 0.07),
                    (x - 0.05, y + 0.05),
                ),
                sheet.shaded(color),
            )
        else:
            sheet.lay(sheet.ellipse(x, y, 0.05, 0.065), sheet.shaded(color))


def glass(sheet: Sheet, _random: np.random.Generator) -> None:
    """Draw a glass bottle."""
    body = np.maximum(
        sheet.polygon((0.42, 0.4), (0.58, 0.4), (0.6, 0.9), (0.4, 0.9)),
        sheet.polygon((0.47, 0.15), (0.53, 0.15), (0.53, 0.42), (0.47, 0.42)),
    )
    sheet.lay(body, (0.6, 0.8, 0.75), alpha=0.28)
    rim = body - cv2.erode(body, np.ones((21, 21), np.uint8))
    sheet.lay(rim, (0.35, 0.55, 0.5), alpha=0.85)
    sheet.lay(
        sheet.polygon((0.44, 0.45), (0.46, 0.45), (0.46, 0.85), (0.44, 0.85)),
        (0.97, 1, 1),
        alpha=0.8,
    )
    sheet.lay(
        sheet.polygon((0.41, 0.6), (0.59, 0.6), (0.59, 0.75), (0.41, 0.75)),
        (0.9, 0.85, 0.7),
    )


def cut_by_frame(sheet: Sheet, _random: np.random.Generator) -> None:
    """Draw a large jug that the frame cuts on two sides."""
    sheet.lay(
        sheet.ellipse(0.78, 0.7, 0.32, 0.5),
        sheet.shaded((0.25, 0.45, 0.6), from_left=0.7),
    )
    sheet.lay(sheet.ellipse(0.78, 0.28, 0.16, 0.06), (0.15, 0.25, 0.35))


def wheel(sheet: Sheet, _random: np.random.Generator) -> None:
    """Draw a wheel with spokes."""
    ring = sheet.ellipse(0.5, 0.5, 0.3, 0.4) * (1 - sheet.ellipse(0.5, 0.5, 0.27, 0.36))
    spokes = [
        [(0.5, 0.5), (0.5 + 0.28 * np.cos(a), 0.5 + 0.375 * np.sin(a))]
        for a in np.arange(16) * np.pi / 8
    ]
    sheet.lay(sheet.lines(spokes, 14), sheet.shaded((0.5, 0.3, 0.16)))
    sheet.lay(ring, sheet.shaded((0.42, 0.25, 0.14)))
    sheet.lay(sheet.ellipse(0.5, 0.5, 0.05, 0.066), (0.3, 0.2, 0.12))


def kite(sheet: Sheet, random: np.random.Generator) -> None:
    """Draw a kite with a thin tail."""
    sheet.lay(
        sheet.polygon((0.5, 0.12), (0.66, 0.32), (0.5, 0.58), (0.34, 0.32)),
        sheet.shaded((0.85, 0.25, 0.2)),
    )
    sheet.lay(sheet.polygon((0.5, 0.12), (0.66, 0.32), (0.5, 0.34)), (0.95, 0.8, 0.25))
    tail = [
        (0.5 + 0.05 * np.sin(t * 5), 0.58 + 0.36 * t) for t in np.linspace(0, 1, 30)
    ]
    sheet.lay(sheet.lines([tail], 6), (0.3, 0.25, 0.5))
    for at in range(4, 29, 5):
        x, y = tail[at]
        sheet.lay(
            sheet.ellipse(x, y, 0.018 + 0.004 * random.random(), 0.012), (0.9, 0.7, 0.2)
        )


def fern(sheet: Sheet, _random: np.random.Generator) -> None:
    """Draw a fern leaf."""
    stem = [(0.5 + 0.1 * np.sin(2 * t), 0.95 - 0.85 * t) for t in np.linspace(0, 1, 40)]
    sheet.lay(sheet.lines([stem], 12), (0.3, 0.4, 0.15))
    for at in range(4, 38, 2):
        x, y = stem[at]
        reach = 0.22 * np.sin(np.pi * at / 42)
        for side in (-1, 1):
            leaf = sheet.polygon(
                (x, y),
                (x + side * reach * 0.5, y - 0.05),
                (x + side * reach, y - 0.03),
                (x + side * reach * 0.5, y + 0.005),
            )
            sheet.lay(leaf, sheet.shaded((0.25, 0.55, 0.2)))


def _noise(random: np.random.Generator, cells: int) -> Values:
    small = random.random((cells * HEIGHT // WIDTH + 2, cells + 2)).astype(np.float32)
    return cv2.resize(small, (WIDTH, HEIGHT), interpolation=cv2.INTER_CUBIC)


def _leaves(random: np.random.Generator) -> Values:
    light = (
        0.5 * _noise(random, 40) + 0.3 * _noise(random, 120) + 0.2 * _noise(random, 400)
    )
    return np.clip(np.float32([0.3, 0.5, 0.2]) * (0.3 + 1.3 * light[..., None]), 0, 1)


def _lights(random: np.random.Generator) -> Values:
    ground = np.full((HEIGHT, WIDTH, 3), (0.12, 0.1, 0.16), np.float32)
    for _ in range(60):
        center = (int(random.integers(WIDTH)), int(random.integers(HEIGHT)))
        layer = np.zeros((HEIGHT, WIDTH), np.float32)
        cv2.circle(layer, center, int(random.integers(25, 80)), 1, -1)
        ground += cv2.GaussianBlur(layer, (0, 0), 4)[..., None] * random.uniform(
            0.1, 0.5, 3
        )
    return np.clip(ground, 0, 1).astype(np.float32)


def _sweep(color: tuple[float, ...]) -> Callable[[np.random.Generator], Values]:
    def draw(random: np.random.Generator) -> Values:
        row = np.linspace(1.05, 0.8, HEIGHT, dtype=np.float32)[:, None, None]
        uneven = 1 + 0.03 * (_noise(random, 4)[..., None] - 0.5)
        return np.clip(np.float32(color) * row * uneven, 0, 1)

    return draw


def _bricks(random: np.random.Generator) -> Values:
    row, column = np.indices((HEIGHT, WIDTH))
    course = row // 70
    joint = (row % 70 < 7) | ((column + 75 * (course % 2)) % 150 < 7)
    light = 0.7 + 0.5 * _noise(random, 200) * _noise(random, 20)
    wall = np.where(
        joint[..., None], np.float32([0.6, 0.58, 0.55]), np.float32([0.55, 0.28, 0.2])
    )
    return np.clip(wall * light[..., None], 0, 1).astype(np.float32)


PICTURES: tuple[tuple[str, Draw, Callable[[np.random.Generator], Values]], ...] = (
    ("hair, lights", hair, _lights),
    ("hair, plain", hair, _sweep((0.75, 0.75, 0.72))),
    ("curls, leaves", curls, _leaves),
    ("gauze, bricks", gauze, _bricks),
    ("broom, plain", broom, _sweep((0.5, 0.6, 0.7))),
    ("box, leaves", box, _leaves),
    ("dark on dark", dark_vase, _sweep((0.1, 0.1, 0.12))),
    ("light on light", white_cup, _sweep((0.93, 0.93, 0.92))),
    ("fur, leaves", fur, _leaves),
    ("fur, plain", fur, _sweep((0.6, 0.5, 0.55))),
    ("several small things", toys, _sweep((0.7, 0.62, 0.5))),
    ("glass, lights", glass, _lights),
    ("cut by the frame", cut_by_frame, _sweep((0.8, 0.75, 0.65))),
    ("wheel, bricks", wheel, _bricks),
    ("kite, sky", kite, _sweep((0.45, 0.65, 0.9))),
    ("fern, leaves", fern, _leaves),
    # Drawn last: nothing was set or chosen by these.
    ("hair, bricks", hair, _bricks),
    ("curls, lights", curls, _lights),
    ("gauze, leaves", gauze, _leaves),
    ("broom, leaves", broom, _leaves),
    ("box, lights", box, _lights),
    ("vase, bricks", dark_vase, _bricks),
    ("cup, leaves", white_cup, _leaves),
    ("fur, lights", fur, _lights),
    ("several small things, leaves", toys, _leaves),
    ("glass, plain", glass, _sweep((0.8, 0.72, 0.7))),
    ("cut by the frame, bricks", cut_by_frame, _bricks),
    ("wheel, plain", wheel, _sweep((0.55, 0.6, 0.58))),
    ("kite, lights", kite, _lights),
    ("fern, bricks", fern, _bricks),
)


def cut_pictures(*, quick: bool = False) -> Iterator[CutPicture]:
    """Draw all pictures, or every third."""
    for seed, (name, draw, backdrop) in enumerate(PICTURES):
        if quick and seed % 3:
            continue
        random = np.random.default_rng(100 + seed)
        sheet = Sheet()
        draw(sheet, random)
        size = (WIDTH, HEIGHT)
        alpha = cv2.resize(sheet.alpha, size, interpolation=cv2.INTER_AREA)
        mixed = sheet.color * sheet.alpha[..., None]
        own = cv2.resize(mixed, size, interpolation=cv2.INTER_AREA)
        own = np.clip(own / np.maximum(alpha, 1e-4)[..., None], 0, 1)
        ground = backdrop(random)
        shown = own * alpha[..., None] + ground * (1 - alpha[..., None])
        shown = cv2.GaussianBlur(shown, (0, 0), 0.6)
        shown += random.normal(0, GRAIN, shown.shape)
        pixels = np.full((HEIGHT, WIDTH, 4), 255, np.uint8)
        pixels[..., :3] = np.clip(shown, 0, 1) * 255 + 0.5
        yield CutPicture(name, pixels, alpha, own.astype(np.float32))
