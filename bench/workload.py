"""Workload W: six layers as people stack them, made of noise that looks like photos.

A base; a layer turned 7° at 80 %, screened at 60 %; a masked one, multiplied; one that
fades in over 60 % of the width, at half strength; one in soft light with a soft edge;
one that gives luminosity at 40 %. The composite's model has no masks and fades of its
own yet, so both are the alpha of their photos here, for every contestant alike.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document import Canvas, Composite, PhotoLayer
from glyphaneme.core.place import Placement, Pyramid, build_pyramid

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Pixels = NDArray[np.uint8]


@dataclass(frozen=True)
class Part:
    """One layer of the workload, for any library."""

    pixels: Pixels
    mode: BlendMode = BlendMode.NORMAL
    opacity: float = 1.0
    turn: float = 0.0
    scale: float = 1.0

    @property
    def to_source(self) -> NDArray[np.float64]:
        """Map canvas positions to the layer's, both from their top left corners."""
        height, width = self.pixels.shape[:2]
        angle = np.radians(self.turn)
        cosine, sine = np.cos(angle) / self.scale, np.sin(angle) / self.scale
        linear = np.array([[cosine, sine], [-sine, cosine]])
        middle = np.array([width / 2, height / 2])
        return np.column_stack([linear, middle - linear @ middle])

    @property
    def is_turned(self) -> bool:
        """Whether the layer must be resampled."""
        return (self.turn, self.scale) != (0.0, 1.0)


def photo(width: int, height: int, *, seed: int) -> Pixels:
    """Return noise whose detail falls off as that of photos does, with some grain."""
    random = np.random.default_rng(seed)
    total = np.zeros((height, width, 3), np.float32)
    step = 2
    while step <= max(width, height):
        coarse = random.standard_normal(
            (max(2, height // step + 2), max(2, width // step + 2), 3)
        ).astype(np.float32)
        smooth = cv2.resize(coarse, (width, height), interpolation=cv2.INTER_CUBIC)
        total += smooth * np.float32(0.6 * step**0.55)
        step *= 2
    total -= total.mean()
    total *= 52 / total.std()
    total += 118 + random.standard_normal((height, width, 1)).astype(np.float32) * 1.5
    out = np.full((height, width, 4), 255, np.uint8)
    out[..., :3] = np.clip(total, 0, 255)
    return out


def workload(width: int, height: int) -> list[Part]:
    """Return the six layers, back to front, each as large as the canvas."""
    pictures = [photo(width, height, seed=seed) for seed in range(1, 7)]
    pictures[2][..., 3] = _blob(width, height, x=0.45, y=0.5, radius=0.42)
    fade = np.clip((np.arange(width) + 0.5) / (0.6 * width) - 1 / 3, 0, 1)
    pictures[3][..., 3] = (fade * 255 + 0.5).astype(np.uint8)
    pictures[4][..., 3] = _blob(width, height, x=0.6, y=0.4, radius=0.5)
    return [
        Part(pictures[0]),
        Part(pictures[1], BlendMode.SCREEN, 0.6, turn=7, scale=0.8),
        Part(pictures[2], BlendMode.MULTIPLY),
        Part(pictures[3], BlendMode.NORMAL, 0.5),
        Part(pictures[4], BlendMode.SOFT_LIGHT),
        Part(pictures[5], BlendMode.LUMINOSITY, 0.4),
    ]


def as_composite(parts: list[Part]) -> tuple[Composite, dict[str, Pyramid]]:
    """Return the workload for the product's own engine."""
    height, width = parts[0].pixels.shape[:2]
    layers = tuple(
        PhotoLayer(
            id=f"l{place}",
            name=f"Layer {place}",
            picture=f"p{place}",
            width=width,
            height=height,
            placement=Placement(
                x=width / 2,
                y=height / 2,
                scale_x=part.scale,
                scale_y=part.scale,
                turn=part.turn,
            ),
            blend=part.mode,
            opacity=part.opacity,
        )
        for place, part in enumerate(parts)
    )
    pyramids = {
        f"p{place}": build_pyramid(part.pixels) for place, part in enumerate(parts)
    }
    canvas = Canvas(width=width, height=height, background=None)
    return Composite(canvas=canvas, layers=layers), pyramids


def _blob(width: int, height: int, *, x: float, y: float, radius: float) -> Pixels:
    row, column = np.mgrid[0:height, 0:width].astype(np.float32)
    far = np.hypot(column / width - x, row / height - y)
    return (np.clip((radius - far) / 0.08, 0, 1) * 255 + 0.5).astype(np.uint8)
