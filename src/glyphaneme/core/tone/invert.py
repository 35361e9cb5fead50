"""Invert: light becomes dark, and each hue its opposite."""

from __future__ import annotations

from typing import ClassVar, Literal

from glyphaneme.core.tone.base import PixelTone
from glyphaneme.core.tone.ops import Op, affine


class InvertTone(PixelTone):
    """1 - x on encoded values, as a negative is looked at. It is never neutral.

    Examples
    --------
    >>> InvertTone().words
    ('as a negative',)
    """

    at_rest: ClassVar[str] = "as a negative"
    kind: Literal["invert"] = "invert"

    @property
    def is_neutral(self) -> bool:
        return False

    @property
    def words(self) -> tuple[str, ...]:
        return ("as a negative",)

    def ops(self) -> tuple[Op, ...]:
        return (affine(-1, 1),)
