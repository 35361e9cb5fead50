"""Colour: how colourful, and which way hues are turned."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

from pydantic import Field

from glyphaneme.core._kernels import toning
from glyphaneme.core.tone.base import PixelTone, Share, by_degree, with_degree
from glyphaneme.core.tone.ops import Domain, Op, chroma_matrix

if TYPE_CHECKING:
    from collections.abc import Iterator

Turn = Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]


class ColoringTone(PixelTone):
    """Saturation, vibrance and a turn of all hues, in Oklab, at the same lightness.

    Vibrance v comes first: chroma C times 1 + v max(1 - C / 0.32, 0), so that what is
    pale gains most. Then chroma is multiplied by 1 + saturation, and hues are turned by
    `turn` degrees, from red towards yellow. What would leave the gamut keeps as much
    chroma as fits, its hue and its lightness. Oklab, since there equal steps look equal
    and lightness stays (Ottosson 2020).

    Examples
    --------
    >>> ColoringTone(saturation=-0.4).words
    ('with less colour',)
    """

    at_rest: ClassVar[str] = "colour as it is"
    kind: Literal["coloring"] = "coloring"
    saturation: Share = 0.0
    vibrance: Share = 0.0
    turn: Turn = 0.0

    @property
    def is_neutral(self) -> bool:
        return self.saturation == self.vibrance == self.turn == 0

    @property
    def words(self) -> tuple[str, ...]:
        if self.saturation == -1:
            return ("without colour",)
        return (
            *with_degree(self.saturation, "less colour", "more colour"),
            *by_degree(self.vibrance, "paler", "livelier"),
            *(("with its hues turned",) if self.turn else ()),
        )

    def ops(self) -> tuple[Op, ...]:
        """Return vibrance, then the rest at once."""
        return tuple(self._ops())

    def _ops(self) -> Iterator[Op]:
        if self.vibrance:
            yield Op(Domain.LAB, toning.VIBRANCE, (self.vibrance,))
        if self.saturation or self.turn:
            yield chroma_matrix(1 + self.saturation, self.turn)
