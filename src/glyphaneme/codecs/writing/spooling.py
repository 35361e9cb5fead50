"""Pixels that wait in a file on disk, from which encoders take them."""

from __future__ import annotations

import tempfile
from contextlib import contextmanager
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np
from PIL import Image

from glyphaneme.codecs.color.converting import CHANNELS

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from numpy.typing import NDArray

    from glyphaneme.codecs.writing.spec import Shape

BAND_ROWS = 256
COPIED_PIXELS = 25_000_000
"""Up to here an opaque picture is copied to three channels; above, memory counts."""
MODES = {
    ("rgb", False): "RGBA",
    ("rgb", True): "RGBX",
    ("gray", False): "LA",
    ("gray", True): "L",
    ("cmyk", True): "CMYK",
}
"""Pillow's, by inks and whether all is opaque."""


class Spool(NamedTuple):
    """A whole picture, mapped from a file: no more of it is in memory than is used."""

    pixels: NDArray[Any]
    """(H, W, channels); R, G, B always have alpha, other inks where it counts."""
    shape: Shape

    def bands(self, rows: int = BAND_ROWS) -> Iterator[NDArray[Any]]:
        """Yield rows of what the file holds: without alpha where all is opaque."""
        channels = CHANNELS[self.shape.ink] + (not self.shape.opaque)
        for top in range(0, self.shape.height, rows):
            yield self.pixels[top : top + rows, :, :channels]

    def image(self) -> Image.Image:
        """Return it as an image of 8 bits, without copying it."""
        mode = MODES[self.shape.ink, self.shape.opaque]
        size = (self.shape.width, self.shape.height)
        return Image.frombuffer(mode, size, self.pixels, "raw", mode, 0, 1)

    def plain_image(self) -> Image.Image:
        """Return it as an image without alpha where all is opaque, if it is small."""
        if self.shape.ink == "rgb" and self.shape.opaque:
            small = self.shape.width * self.shape.height <= COPIED_PIXELS
            size = (self.shape.width, self.shape.height)
            image = Image.frombuffer("RGBA", size, self.pixels, "raw", "RGBA", 0, 1)
            return image.convert("RGB") if small else image
        return self.image()


@contextmanager
def spooled(bands: Iterable[NDArray[Any]], shape: Shape) -> Iterator[Spool]:
    """Keep bands on disk for as long as something is done with them.

    Parameters
    ----------
    bands : iterable of (rows, W, channels) uint8 or uint16
        From top to bottom; the last channel is alpha, straight.
    shape : Shape
        Of all bands together.
    """
    kept = CHANNELS[shape.ink] + (not shape.opaque or shape.ink == "rgb")
    with tempfile.TemporaryFile() as scratch:
        for band in bands:
            scratch.write(np.ascontiguousarray(band[..., :kept]).data)
        scratch.flush()
        depth = np.uint8 if shape.bits == 8 else np.uint16
        size = (shape.height, shape.width, kept)
        yield Spool(np.memmap(scratch, depth, mode="r", shape=size), shape)
