"""Levels: which of the tones become the darkest, the middle and the lightest."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.core.errors import TonePointsError
from glyphaneme.core.tone.base import Part, PixelTone
from glyphaneme.core.tone.ops import ALL, CHANNELS, Op, affine, power

if TYPE_CHECKING:
    from collections.abc import Iterator

LEAST_RANGE = 1 / 255
Middle = Annotated[float, Field(ge=0.1, le=10, allow_inf_nan=False)]


class Ends(BaseModel):
    """What becomes darkest and lightest, and how dark and light that is, 0..1.

    `middle` is the power's inverse: above 1 what lies between grows lighter.

    Raises
    ------
    TonePointsError
        The lightest does not lie above the darkest by a level.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    darkest: Part = 0.0
    middle: Middle = 1.0
    lightest: Part = 1.0
    low: Part = 0.0
    high: Part = 1.0

    @model_validator(mode="after")
    def _in_order(self) -> Ends:
        if self.lightest - self.darkest < LEAST_RANGE * 0.999:
            raise TonePointsError
        return self


NO_CHANGE = Ends()


class LevelsTone(PixelTone):
    """low + (high - low) ((x - darkest) / (lightest - darkest))^(1 / middle).

    On encoded values, held within the ends: what is picked is picked from a histogram,
    which shows those. `all` comes after those of red, green and blue.

    Examples
    --------
    >>> LevelsTone(all=Ends(darkest=0.1)).words
    ('with levels of its own',)
    """

    at_rest: ClassVar[str] = "levels as they are"
    kind: Literal["levels"] = "levels"
    all: Ends = NO_CHANGE
    red: Ends = NO_CHANGE
    green: Ends = NO_CHANGE
    blue: Ends = NO_CHANGE

    @property
    def is_neutral(self) -> bool:
        return {self.all, self.red, self.green, self.blue} == {NO_CHANGE}

    @property
    def words(self) -> tuple[str, ...]:
        return () if self.is_neutral else ("with levels of its own",)

    def ops(self) -> tuple[Op, ...]:
        """Return what is done to each component, then to all."""
        return tuple(self._ops())

    def _ops(self) -> Iterator[Op]:
        single = (self.red, self.green, self.blue)
        for ends, planes in (*zip(single, CHANNELS, strict=True), (self.all, ALL)):
            if ends == NO_CHANGE:
                continue
            if ends.middle != 1:
                within, out = (ends.darkest, ends.lightest), (ends.low, ends.high)
                yield power(within, 1 / ends.middle, out, planes)
            else:
                yield from _straight(ends, planes)


def _straight(ends: Ends, planes: int) -> Iterator[Op]:
    """Yield two scalings: what lies beyond the ends in is held before it is scaled."""
    scale = 1 / (ends.lightest - ends.darkest)
    span = ends.high - ends.low
    yield affine(scale, -ends.darkest * scale, planes)
    if (ends.low, ends.high) != (0, 1):
        yield affine(span, ends.low, planes)
