"""GIF (GIF89a): 256 colours at most, and see-through or not."""

from __future__ import annotations

from typing import TYPE_CHECKING, BinaryIO

from PIL import Image

if TYPE_CHECKING:
    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool

COLORS = 256
HALF = 128


def write(spool: Spool, file: BinaryIO, spec: FileSpec) -> None:
    """Write a GIF; its colours are those that this picture needs most.

    Profiles and sizes on paper have no place in it.
    """
    flat = few_colors(spool.plain_image())
    said = " · ".join(
        part
        for part in (spec.about.title, spec.about.author, spec.about.licence)
        if part
    )
    flat.save(file, "GIF", **({"comment": said.encode()} if said else {}))


def few_colors(image: Image.Image) -> Image.Image:
    """Return an image of 256 colours, mixed by error diffusion; one is see-through."""
    if image.mode != "RGBA":
        return image.convert("RGB").quantize(COLORS, dither=Image.Dither.FLOYDSTEINBERG)
    solid = image.getchannel("A").point(lambda alpha: 255 * (alpha >= HALF))
    flat = image.convert("RGB").quantize(COLORS - 1, dither=Image.Dither.FLOYDSTEINBERG)
    flat.paste(COLORS - 1, mask=solid.point(lambda shown: 255 - shown))
    flat.info["transparency"] = COLORS - 1
    return flat
