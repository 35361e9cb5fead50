"""What the made-up pictures are painted with: noise, colours and soft shapes.

Fields are H x W float32 arrays, mostly within 0..1; pictures are H x W x 3 (or 4, with
alpha), sRGB-encoded, 0..1.
"""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

Field = NDArray[np.float32]
Stops = Sequence[tuple[float, str]]

WIDE = (1600, 2400)
SQUARE = (1500, 1500)


def rng(seed: int) -> np.random.Generator:
    """Return random numbers that are the same in every run."""
    return np.random.default_rng(seed)


def grid(shape: tuple[int, int]) -> tuple[Field, Field]:
    """Return x and y of every pixel; y runs 0..1 downwards, x as far as it is wide."""
    height, width = shape
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    return x / height, y / height


def noise(
    shape: tuple[int, int],
    *,
    cells: float,
    seed: int,
    octaves: int = 6,
    fall: float = 0.5,
    stretch: tuple[float, float] = (1.0, 1.0),
) -> Field:
    """Return fractal noise, 0..1, with `cells` cells from top to bottom at first.

    `stretch` draws it out along x and y.
    """
    height, width = shape
    random = rng(seed)
    total = np.zeros(shape, np.float32)
    weight = 1.0
    for _ in range(octaves):
        rows = max(2, round(cells / stretch[1]))
        columns = max(2, round(cells * width / height / stretch[0]))
        if rows > height or columns > width:
            break
        coarse = random.random((rows + 3, columns + 3), np.float32)
        size = (
            round(width * (columns + 3) / columns) + 1,
            round(height * (rows + 3) / rows) + 1,
        )
        fine = cv2.resize(coarse, size, interpolation=cv2.INTER_CUBIC)
        left, top = (size[0] - width) // 2, (size[1] - height) // 2
        total += weight * fine[top : top + height, left : left + width]
        weight *= fall
        cells *= 2
    return spread(total)


def grain(shape: tuple[int, int], seed: int, blur: float = 0.0) -> Field:
    """Return fine noise about 0 with a deviation of 1."""
    field = rng(seed).standard_normal(shape).astype(np.float32)
    if blur > 0:
        field = cv2.GaussianBlur(field, (0, 0), blur)
        field /= field.std()
    return field


def spread(field: Field) -> Field:
    """Stretch a field to 0..1."""
    low, high = np.percentile(field, (0.2, 99.8))
    return np.clip((field - low) / (high - low), 0, 1).astype(np.float32)


def warped(field: Field, by: Field, along: Field, strength: float) -> Field:
    """Displace a field by two others, in shares of its height."""
    height, width = field.shape[:2]
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    reach = strength * height
    return cv2.remap(
        field,
        x + (by - 0.5) * reach,
        y + (along - 0.5) * reach,
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REFLECT,
    )


def smooth(low: float, high: float, field: Field) -> Field:
    """Return a soft step from 0 at `low` to 1 at `high` (Hermite)."""
    t = np.clip((field - low) / (high - low), 0, 1)
    return (t * t * (3 - 2 * t)).astype(np.float32)


def color(code: str) -> Field:
    """Return the three channels of `#rrggbb`."""
    return np.array([int(code[at : at + 2], 16) for at in (1, 3, 5)], np.float32) / 255


def ramp(field: Field, stops: Stops) -> Field:
    """Color a field by stops, each a value and its colour."""
    values = [value for value, _ in stops]
    colors = np.array([color(code) for _, code in stops])
    channels = [np.interp(field, values, colors[:, band]) for band in range(3)]
    return np.stack(channels, -1).astype(np.float32)


def mix(below: Field, above: Field, share: Field | float) -> Field:
    """Lay one picture over another by a field."""
    share = share[..., None] if isinstance(share, np.ndarray) else share
    return below + (above - below) * share


def screen(below: Field, light: Field) -> Field:
    """Add light that never grows beyond white."""
    return 1 - (1 - below) * (1 - np.clip(light, 0, 1))


def relief(height: Field, strength: float, angle: float = 225.0) -> Field:
    """Return how light a raised surface is, about 0, lit from an angle."""
    across = cv2.Sobel(height, cv2.CV_32F, 1, 0, ksize=3)
    down = cv2.Sobel(height, cv2.CV_32F, 0, 1, ksize=3)
    turn = np.deg2rad(angle)
    return strength * (across * np.cos(turn) + down * np.sin(turn)).astype(np.float32)


def falloff(shape: tuple[int, int], x: float, y: float, reach: float) -> Field:
    """Return light about a point (`grid` units) that falls off softly, 1..0."""
    across, down = grid(shape)
    return np.exp(-((across - x) ** 2 + (down - y) ** 2) / (2 * reach**2)).astype(
        np.float32
    )


def blurred(field: Field, sigma: float) -> Field:
    """Blur by a deviation in pixels, at a smaller size where that is large."""
    if sigma <= 4:
        return cv2.GaussianBlur(field, (0, 0), sigma)
    height, width = field.shape[:2]
    by = sigma / 3
    small = cv2.resize(
        field,
        (max(1, round(width / by)), max(1, round(height / by))),
        interpolation=cv2.INTER_AREA,
    )
    small = cv2.GaussianBlur(small, (0, 0), 3)
    return cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC)


def cut_out(shape: Field, paint: str | Field = "#15130f") -> Field:
    """Return a picture with alpha: a shape, in one colour or painted."""
    body = color(paint) if isinstance(paint, str) else paint
    picture = np.empty((*shape.shape, 4), np.float32)
    picture[..., :3] = body
    picture[..., 3] = np.clip(shape, 0, 1)
    return picture


class Ink:
    """A sheet for shapes with smooth edges, four times as fine while it is drawn on."""

    FINER = 3

    def __init__(self, shape: tuple[int, int]) -> None:
        self.shape = shape
        self.sheet = np.zeros((shape[0] * self.FINER, shape[1] * self.FINER), np.uint8)

    def _at(self, point: Sequence[float]) -> tuple[int, int]:
        side = self.shape[0] * self.FINER
        return round(point[0] * side), round(point[1] * side)

    def stroke(
        self,
        start: Sequence[float],
        end: Sequence[float],
        width: float,
        shade: int = 255,
    ) -> None:
        """Draw a round-ended line; positions and widths in shares of the height."""
        thick = max(1, round(width * self.shape[0] * self.FINER))
        cv2.line(self.sheet, self._at(start), self._at(end), shade, thick)

    def area(self, points: Sequence[Sequence[float]], shade: int = 255) -> None:
        """Fill a polygon."""
        corners = np.array([self._at(point) for point in points], np.int32)
        cv2.fillPoly(self.sheet, [corners], shade)

    def oval(
        self,
        middle: Sequence[float],
        radii: Sequence[float],
        turn: float = 0.0,
        shade: int = 255,
    ) -> None:
        """Fill an ellipse, turned by degrees."""
        axes = self._at(radii)
        cv2.ellipse(self.sheet, self._at(middle), axes, turn, 0, 360, shade, -1)

    def done(self) -> Field:
        """Return the shape, 0..1."""
        size = (self.shape[1], self.shape[0])
        fine = cv2.resize(self.sheet, size, interpolation=cv2.INTER_AREA)
        return fine.astype(np.float32) / 255
