"""PNG (third edition): exact, in 8 or 16 bits, in a palette where that holds all."""

from __future__ import annotations

import struct
import zlib
from typing import TYPE_CHECKING, BinaryIO, Final

import cv2
import numpy as np
from PIL import Image
from PIL.PngImagePlugin import PngInfo

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
SIGNATURE_AND_HEADER: Final = 8 + 25


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
    """Write 16 bits a channel, which Pillow cannot: OpenCV does.

    Raises
    ------
    ValueError
        OpenCV cannot either.
    """
    pixels = np.concatenate(list(spool.bands()))
    match pixels.shape[2]:
        case 1:
            ordered = pixels
        case 2:
            # OpenCV knows no grey with alpha.
            ordered = pixels[..., [0, 0, 0, 1]]
        case 3:
            ordered = cv2.cvtColor(pixels, cv2.COLOR_RGB2BGR)
        case _:
            ordered = cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGRA)
    options = [cv2.IMWRITE_PNG_COMPRESSION, COMPRESSION]
    done, data = cv2.imencode(".png", ordered, options)
    if not done:
        message = f"a PNG must have 1 pixel or more a side; got {spool.shape}"
        raise ValueError(message)
    whole = memoryview(data.tobytes())
    file.write(whole[:SIGNATURE_AND_HEADER])
    # A grey profile fits grey pixels alone.
    if pixels.shape[2] != 2:  # grey and alpha
        profile = b"ICC profile\0\0" + zlib.compress(spec.icc)
        file.write(_chunk(b"iCCP", profile))
    per_metre = round(spec.ppi * INCHES_PER_METRE)
    file.write(_chunk(b"pHYs", struct.pack(">IIB", per_metre, per_metre, 1)))
    packet = packet_of(spec.about)
    if packet:
        file.write(_chunk(b"iTXt", PACKET_KEY.encode() + bytes(5) + packet))
    file.write(whole[SIGNATURE_AND_HEADER:])


def _chunk(name: bytes, data: bytes) -> bytes:
    """Return a chunk (PNG third edition, 5.3)."""
    return (
        struct.pack(">I", len(data))
        + name
        + data
        + struct.pack(">I", zlib.crc32(name + data))
    )
