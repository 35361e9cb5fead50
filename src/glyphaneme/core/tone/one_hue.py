"""One hue alone: the reds, say, and nothing else."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core._kernels import toning
from glyphaneme.core.tone.base import PixelTone, Share, by_degree
from glyphaneme.core.tone.coloring import Turn
from glyphaneme.core.tone.ops import Domain, Op, turned

Hue = Annotated[float, Field(ge=0, lt=360, allow_inf_nan=False)]
Width = Annotated[float, Field(ge=10, le=180, allow_inf_nan=False)]

SOFT = 0.5
"""How much of the width is an edge."""
LIGHTENED = 1.5
"""How far full lightness goes, in chroma: what is colourful is changed most."""
NAMES = (
    (12, "pinks"),
    (45, "reds"),
    (75, "oranges"),
    (120, "yellows"),
    (165, "greens"),
    (215, "turquoises"),
    (285, "blues"),
    (315, "purples"),
    (360, "pinks"),
)
"""Up to which of Oklab's hues, in degrees, they are called so."""


class OneHueTone(PixelTone):
    """Hue, colourfulness and lightness of the colours round one hue.

    A colour counts wholly within half of `width` degrees round `hue`, not at all beyond
    three quarters, smoothly between (by the cosine of its distance), and the less the
    closer it is to grey. Its chroma is multiplied by 1 + saturation, its hue turned by
    `turn` degrees, and 1.5 times `lightness` of its chroma added to its lightness. In
    Oklab, as `ColoringTone`, and the gamut is kept as there.

    Examples
    --------
    >>> OneHueTone(hue=29, saturation=-1).words
    ('its reds without colour',)
    """

    at_rest: ClassVar[str] = "one hue as it is"
    kind: Literal["one_hue"] = "one_hue"
    hue: Hue = 29.0
    width: Width = 60.0
    turn: Turn = 0.0
    saturation: Share = 0.0
    lightness: Share = 0.0

    @property
    def is_neutral(self) -> bool:
        return self.turn == self.saturation == self.lightness == 0

    @property
    def words(self) -> tuple[str, ...]:
        name = next(name for until, name in NAMES if self.hue < until)
        done = [
            *by_degree(self.lightness, "darker", "lighter"),
            *(
                ("without colour",)
                if self.saturation == -1
                else by_degree(self.saturation, "paler", "stronger")
            ),
            *(("turned",) if self.turn else ()),
        ]
        return (f"its {name} {' and '.join(done)}",) if done else ()

    def ops(self) -> tuple[Op, ...]:
        angle = np.radians(self.hue)
        inner = np.cos(np.radians(self.width * SOFT))
        outer = np.cos(np.radians(min(self.width * (SOFT + SOFT / 2), 179.0)))
        numbers = (
            float(np.cos(angle)),
            float(np.sin(angle)),
            float(outer),
            float(1 / (inner - outer)),
            *turned(1 + self.saturation, self.turn),
            self.lightness * LIGHTENED,
        )
        return (Op(Domain.LAB, toning.ONE_HUE, numbers),)
