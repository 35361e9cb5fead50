"""Fonts as they are read from bytes: what they can say, and how high they stand."""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

import uharfbuzz as hb

from glyphaneme.core.errors import FontUnreadableError
from glyphaneme.core.words.values import Feature

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glyphaneme.core.words.values import Variation

USUAL_CAPITAL = 0.7
"""How high capitals are where a font does not say it, in ems."""
MOST_UNITS = 16_384
LEAST_UNITS = 16
"""Units of an em, as the OpenType specification has them ("head")."""


class Axis(NamedTuple):
    """One way in which a font can be varied."""

    tag: str
    name: str
    least: float
    usual: float
    most: float


class Face:
    """One font, read; it never changes.

    Parameters
    ----------
    data : bytes
        A TrueType or OpenType file of one font.

    Raises
    ------
    FontUnreadableError
        The bytes are none, or it has no letters.
    """

    def __init__(self, data: bytes) -> None:
        face = hb.Face(hb.Blob(data))
        if face.glyph_count == 0 or not LEAST_UNITS <= face.upem <= MOST_UNITS:
            raise FontUnreadableError
        self.nbytes = len(data)
        self._face = face
        self.font = hb.Font(face)
        self.units: int = face.upem
        self._letters = frozenset(face.unicodes)
        if not self._letters:
            raise FontUnreadableError
        tags = _feature_tags(face)
        self.features = frozenset(one for one in Feature if one.value in tags)
        self.has_ligatures = "liga" in tags
        extents = self.font.get_font_extents("ltr")
        self.ascent = extents.ascender / self.units
        self.descent = -extents.descender / self.units
        """Below the baseline, in ems, like `ascent` above it."""
        capital = self.font.get_metric_position(hb.OTMetricsTag.CAP_HEIGHT)
        self.capital = (capital or 0) / self.units or self._measured_capital()

    @property
    def axes(self) -> tuple[Axis, ...]:
        """In which ways it can be varied; none for most."""
        if not self._face.has_var_data:
            return ()
        return tuple(
            Axis(
                one.tag,
                self._face.get_name(one.name_id) or one.tag,
                one.min_value,
                one.default_value,
                one.max_value,
            )
            for one in self._face.axis_infos
        )

    def has(self, letters: str) -> bool:
        """Tell whether it has a glyph for each of some letters.

        Parameters
        ----------
        letters : str
            Any.

        Returns
        -------
        bool
            What joins or steers others needs none.
        """
        missing = set(map(ord, letters)) - self._letters
        return all(is_unseen(one) or one.isspace() for one in map(chr, missing))

    def at(self, axes: Iterable[Variation]) -> hb.Font:
        """Return it as varied.

        Parameters
        ----------
        axes : iterable of Variation
            Those that it has not count for nothing.

        Returns
        -------
        uharfbuzz.Font
            In its own units.
        """
        known = {one.tag for one in self.axes} if axes else set()
        wanted = {one.tag: one.value for one in axes if one.tag in known}
        if not wanted:
            return self.font
        font = hb.Font(self._face)
        font.set_variations(wanted)
        return font

    def _measured_capital(self) -> float:
        glyph = self.font.get_nominal_glyph(ord("H"))
        extents = self.font.get_glyph_extents(glyph) if glyph else None
        return extents.y_bearing / self.units if extents else USUAL_CAPITAL


def _feature_tags(face: hb.Face) -> set[str]:
    """Return the features that any script of a font has."""
    return {
        tag
        for place, _ in enumerate(face.get_table_script_tags("GSUB"))
        for tag in face.get_language_feature_tags("GSUB", place)
    }


UNSEEN = (
    (0x00AD, 0x00AD),
    (0x034F, 0x034F),
    (0x061C, 0x061C),
    (0x180B, 0x180F),
    (0x200B, 0x200F),
    (0x202A, 0x202E),
    (0x2060, 0x206F),
    (0xFE00, 0xFE0F),
    (0xFEFF, 0xFEFF),
    (0xE0000, 0xE0FFF),
)
"""What the Unicode standard lists as Default_Ignorable_Code_Point, but for fillers."""


@lru_cache(4096)
def is_unseen(letter: str) -> bool:
    r"""Tell whether a character joins or steers others and shows nothing itself.

    Parameters
    ----------
    letter : str
        One character.

    Returns
    -------
    bool
        As Unicode's `Default_Ignorable_Code_Point` says.

    Examples
    --------
    >>> is_unseen("\u200d"), is_unseen("a")
    (True, False)
    """
    point = ord(letter)
    return any(first <= point <= last for first, last in UNSEEN)
