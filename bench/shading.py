"""Shadows: how long they take at 12 megapixels, from a layer's shape on."""

from __future__ import annotations

from typing import TYPE_CHECKING

import cv2
import numpy as np

from bench.figures import Figure
from bench.measuring import measure
from glyphaneme.core.effect import Asked, CastShadow, SoftShadow
from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.effect import Effect

WIDTH, HEIGHT = 4000, 3000
"""Of the picture; what throws the shadow fills the middle of it."""


def figures(*, rounds: int) -> Iterator[Figure]:
    """Yield what each shadow takes, all of it at once and on one thread."""
    shape = np.zeros((HEIGHT, WIDTH), np.float32)
    cv2.ellipse(shape, (2000, 1100), (600, 700), 0, 0, 360, 1, -1)
    cv2.rectangle(shape, (1800, 1500), (2200, 2000), 1, -1)
    known = Rect(1400, 400, 2601, 2001)
    for name, effect in (
        ("cast", CastShadow(softness=0.06)),
        ("soft", SoftShadow(distance=60, softness=40)),
    ):
        yield Figure(
            f"{name} shadow at 12 MP",
            _taken(effect, shape, known, rounds),
            0.1,
            0.05,
            " s",
        )


def _taken(effect: Effect, shape: np.ndarray, known: Rect[float], rounds: int) -> float:
    whole = Rect(0, 0, WIDTH, HEIGHT)
    target = effect.extent(known, 1.0).within(whole)
    asked = Asked(target, known, 1.0)
    wanted = effect.source(asked)
    extent = wanted.extent.within(whole).snapped(wanted.factor)
    source = wanted._replace(extent=extent)
    left, top, right, bottom = (int(one) for one in extent)
    part = shape[top:bottom, left:right]
    size = (part.shape[1] // wanted.factor, part.shape[0] // wanted.factor)
    alpha = cv2.resize(part, size, interpolation=cv2.INTER_AREA)
    work = {"effect": lambda: effect.made(alpha, source, asked)}
    return measure(work, rounds=rounds)["effect"].cpu
