"""PNG (third edition): exact, in 8 or 16 bits, in a palette where that holds all."""

from __future__ import annotations

import struct
import zlib
from typing import TYPE_CHECKING, BinaryIO, Final

import numpy as np
from PIL import Image
from PIL.PngImagePlugin import PngInfo

from glyphaneme.codecs.color.converting import CHANNELS
from glyphaneme.codecs.writing.packet import packet_of

if TYPE_CHECKING:
    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool

COMPRESSION: Final = 4
MOST_COLORS: Final = 256
WORTH_A_PALETTE: Final = 16
"""How many pixels a colour must have for its place in a palette to pay."""
PACKET_KEY: Final = "XML:com.adobe.xmp"
"""How ISO 16684 packets are called in a PNG."""
INCHES_PER_METRE: Final = 1 / 0.0254
SIGNATURE: Final = b"\x89PNG\r\n\x1a\n"
COLOR_TYPES: Final = {1: 0, 2: 4, 3: 2, 4: 6}
"""By channels: grey, grey with alpha, colours, colours with alpha."""
UP: Final = 2
"""The filter that tells differences to the row above (9.2)."""


def write(spool: Spool, file: BinaryIO, spec: FileSpec) -> None:
    """Write a PNG."""
    if spool.shape.bits == 16:
        _write_deep(spool, file, spec)
        return
    image, more = _paletted(spool) if spec.few_colors else (spool.plain_image(), {})
    info = PngInfo()
    packet = packet_of(spec.about)
    if packet:
        info.add_itxt(PACKET_KEY, packet.decode())
    image.save(
        file,
        "PNG",
        compress_level=COMPRESSION,
        dpi=(spec.ppi, spec.ppi),
        icc_profile=spec.icc,
        pnginfo=info,
        **more,
    )


def _paletted(spool: Spool) -> tuple[Image.Image, dict[str, bytes]]:
    """Return the image, with a palette where 256 colours hold every pixel."""
    plain = spool.plain_image()
    shape = spool.shape
    if shape.ink != "rgb" or plain.getcolors(MOST_COLORS) is None:
        return plain, {}
    packed = spool.pixels.view(np.uint32)[..., 0]
    colors = np.unique(packed)
    if len(colors) * WORTH_A_PALETTE > packed.size:
        return plain, {}
    places = np.empty(packed.shape, np.uint8)
    for top in range(0, shape.height, 256):
        places[top : top + 256] = np.searchsorted(colors, packed[top : top + 256])
    channels = colors.view(np.uint8).reshape(-1, 4)
    image = Image.fromarray(places, "P")
    image.putpalette(channels[:, :3].tobytes(), "RGB")
    alphas = channels[:, 3].tobytes()
    return image, {} if shape.opaque else {"transparency": alphas}


def _write_deep(spool: Spool, file: BinaryIO, spec: FileSpec) -> None:
    """Write 16 bits a channel band by band: Pillow cannot, OpenCV holds all of it."""
    shape = spool.shape
    channels = CHANNELS[shape.ink] + (not shape.opaque)
    kind = COLOR_TYPES[channels]
    size = struct.pack(">IIBBBBB", shape.width, shape.height, 16, kind, 0, 0, 0)
    per_metre = round(spec.ppi * INCHES_PER_METRE)
    file.write(SIGNATURE + _chunk(b"IHDR", size))
    file.write(_chunk(b"iCCP", b"ICC profile\0\0" + zlib.compress(spec.icc)))
    file.write(_chunk(b"pHYs", struct.pack(">IIB", per_metre, per_metre, 1)))
    packet = packet_of(spec.about)
    if packet:
        file.write(_chunk(b"iTXt", PACKET_KEY.encode() + bytes(5) + packet))
    packer = zlib.compressobj(COMPRESSION)
    above = np.zeros((1, shape.width * channels * 2), np.uint8)
    for band in spool.bands():
        rows = band.astype(">u2").view(np.uint8).reshape(len(band), -1)
        filtered = np.empty((len(rows), rows.shape[1] + 1), np.uint8)
        filtered[:, 0] = UP
        filtered[:, 1:] = rows - np.concatenate([above, rows[:-1]])
        above = rows[-1:]
        packed = packer.compress(filtered.tobytes())
        if packed:
            file.write(_chunk(b"IDAT", packed))
    file.write(_chunk(b"IDAT", packer.flush()) + _chunk(b"IEND", b""))


def _chunk(name: bytes, data: bytes) -> bytes:
    """Return a chunk (PNG third edition, 5.3)."""
    return (
        struct.pack(">I", len(data))
        + name
        + data
        + struct.pack(">I", zlib.crc32(name + data))
    )
