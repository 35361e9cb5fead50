"""Black and white: a mix of six hues, tinted if wished."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from glyphaneme.core._kernels import toning
from glyphaneme.core.color import color_name, oklab_of
from glyphaneme.core.color.spaces import Color
from glyphaneme.core.tone.base import Part, PixelTone
from glyphaneme.core.tone.ops import Domain, Op, grey

Weight = Annotated[float, Field(ge=-1, le=2, allow_inf_nan=False)]
TINTED = 0.1
"""Chroma of a full tint, at middle lightness."""


class MonochromeTone(PixelTone):
    """The least component, and six amounts of hue, each by its weight.

    An encoded colour is its least component, so much red, green or blue beyond the
    other two, and so much yellow, cyan or magenta beyond the third. With the weights
    that it begins with the sum is the luma of Rec. ITU-R BT.601, 0.299 R + 0.587 G +
    0.114 B. Encoded, since lightness is judged there, and R = G = B. A tint adds a hue
    in Oklab, most at middle lightness, none to black and white. It is never neutral.

    Examples
    --------
    >>> MonochromeTone().words
    ('in black and white',)
    """

    at_rest: ClassVar[str] = "in black and white"
    kind: Literal["monochrome"] = "monochrome"
    reds: Weight = 0.299
    yellows: Weight = 0.886
    greens: Weight = 0.587
    cyans: Weight = 0.701
    blues: Weight = 0.114
    magentas: Weight = 0.413
    tint: Color | None = None
    tinted: Part = 0.5

    @property
    def is_neutral(self) -> bool:
        return False

    @property
    def words(self) -> tuple[str, ...]:
        if self.tint is None or not self.tinted:
            return ("in black and white",)
        return (f"in black and white tinted {color_name(self.tint)}",)

    def ops(self) -> tuple[Op, ...]:
        reds, greens, blues = self.reds, self.greens, self.blues
        mix = grey((reds, self.yellows, greens, self.cyans, blues, self.magentas))
        if self.tint is None or not self.tinted:
            return (mix,)
        _, a, b = oklab_of(self.tint)
        size = float(np.hypot(a, b)) or 1.0
        share = self.tinted * TINTED * min(size / TINTED, 1) / size
        return (mix, Op(Domain.LAB, toning.CAST, (a * share, b * share)))
