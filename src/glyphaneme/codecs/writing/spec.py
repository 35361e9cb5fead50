"""What a writer has to know besides the pixels."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, NamedTuple

from glyphaneme.codecs.color.profiles import srgb_profile
from glyphaneme.core.finish.about import About

if TYPE_CHECKING:
    from glyphaneme.codecs.color.converting import Ink
    from glyphaneme.core.finish.formats import FileFormat

FULL_COLOR_QUALITY = 90
NOTHING_SAID = About()


class FileSpec(NamedTuple):
    """How a file shall be written; what its format has no use for counts nothing."""

    format: FileFormat
    quality: int
    """1..100, for JPEG, lossy WebP, AVIF and PDF."""
    ppi: float
    exact: bool = False
    """Whether WebP and PDF keep every pixel as it is."""
    fine_color: bool | None = None
    """Whether JPEG and AVIF keep colours as fine as lightness; None: from 90 on."""
    progressive: bool = False
    few_colors: bool = False
    """Whether a PNG of few colours names them in a palette: smaller, and exact."""
    packing: Literal["deflate", "lzw"] = "deflate"
    """Of a TIFF."""
    profile: bytes | None = None
    """The colour profile of the pixels; None is sRGB's."""
    about: About = NOTHING_SAID

    @property
    def icc(self) -> bytes:
        """The colour profile that goes along."""
        return self.profile or srgb_profile()

    @property
    def is_fine(self) -> bool:
        """Whether colours are kept as fine as lightness, as edges of layers need."""
        if self.fine_color is None:
            return self.quality >= FULL_COLOR_QUALITY
        return self.fine_color


class Shape(NamedTuple):
    """Size of a whole picture, and what its pixels are."""

    width: int
    height: int
    opaque: bool
    """Whether nothing of it is see-through."""
    ink: Ink = "rgb"
    bits: Literal[8, 16] = 8
