"""Turns our pixels into the colours that a file speaks of."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Final, Literal, NamedTuple, TypeAlias

import numpy as np

from glyphaneme.codecs.color.profiles import (
    coated_profile,
    display_p3_profile,
    gray_profile,
    srgb_profile,
)

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.finish.settings import Coloring

Ink: TypeAlias = Literal["rgb", "gray", "cmyk"]
CHANNELS: Final[dict[Ink, int]] = {"gray": 1, "rgb": 3, "cmyk": 4}
INTENTS: Final = {"perceptual": 0, "relative": 1, "saturation": 2, "absolute": 3}
"""By the numbers of ICC.1:2022, table 23."""
BLACK_POINT: Final = 0x2000
"""LittleCMS's flag of black-point compensation."""


class Conversion(NamedTuple):
    """What leads from sRGB to a file's colours."""

    ink: Ink
    profile: bytes
    """The file's, which goes along in it."""
    intent: int = INTENTS["relative"]
    flags: int = BLACK_POINT
    is_same: bool = False
    """Whether the file's colours are sRGB itself."""
    as_rgb: bool = False
    """Whether greys are written as equal red, green and blue."""

    @property
    def file_ink(self) -> Ink:
        """Which channels the file has."""
        return "rgb" if self.as_rgb else self.ink

    @property
    def file_profile(self) -> bytes:
        """The profile that goes along in the file."""
        return srgb_profile() if self.as_rgb else self.profile

    @classmethod
    def into(cls, coloring: Coloring, brought: bytes | None = None) -> Conversion:
        """Return what leads to the colours that are asked for.

        Parameters
        ----------
        coloring : Coloring
            What is asked for.
        brought : bytes, optional
            The printer's profile; None is the one that ships.
        """
        intent = INTENTS[coloring.intent]
        flags = BLACK_POINT if coloring.black_point else 0
        match coloring.space:
            case "display_p3":
                return cls("rgb", display_p3_profile(), intent, flags)
            case "gray":
                return cls("gray", gray_profile(), intent, flags)
            case "ink":
                profile = brought or coated_profile()
                return cls(ink_of(profile), profile, intent, flags)
            case "srgb":
                return SRGB

    def of(self, band: NDArray[Any]) -> NDArray[Any]:
        """Convert some rows.

        Parameters
        ----------
        band : (rows, W, 4) uint8 or uint16
            Straight RGBA, sRGB-encoded.

        Returns
        -------
        (rows, W, 2 to 5) of the same dtype
            The file's channels, then alpha; inks count from 0, none, to all.
        """
        if self.is_same:
            return band
        colors = self.of_colors(np.ascontiguousarray(band[..., :3]))
        if self.as_rgb:
            colors = np.repeat(colors, 3, axis=-1)
        return np.concatenate([colors, band[..., 3:]], axis=-1)

    def of_colors(self, colors: NDArray[Any]) -> NDArray[Any]:
        """Convert colours without alpha: (rows, W, 3), as `of` returns them."""
        if self.is_same:
            return colors
        from imagecodecs import cms_transform

        found = np.asarray(
            cms_transform(
                colors,
                srgb_profile(),
                self.profile,
                colorspace="rgb",
                outcolorspace=self.ink,
                intent=self.intent,
                flags=self.flags,
            )
        )
        return found.reshape(*colors.shape[:2], CHANNELS[self.ink])

    def back(self, colors: NDArray[Any], *, intent: str = "relative") -> NDArray[Any]:
        """Return how a file's colours, (rows, W, channels), look: (rows, W, 3) sRGB."""
        if self.is_same:
            return colors
        from imagecodecs import cms_transform

        squeezed = colors[..., 0] if self.ink == "gray" else colors
        found = np.asarray(
            cms_transform(
                np.ascontiguousarray(squeezed),
                self.profile,
                srgb_profile(),
                colorspace=self.ink,
                outcolorspace="rgb",
                intent=INTENTS[intent],
                flags=self.flags,
            )
        )
        return found.reshape(*colors.shape[:2], 3)


SRGB: Final = Conversion("rgb", srgb_profile(), is_same=True)


def ink_of(profile: bytes) -> Ink:
    """Return which channels a profile speaks of, by its header (ICC.1:2022, 7.2.6)."""
    return {b"CMYK": "cmyk", b"GRAY": "gray"}.get(profile[16:20], "rgb")  # type: ignore[return-value]  # mypy widens it
