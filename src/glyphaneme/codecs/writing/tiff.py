"""TIFF 6.0, and its larger kind from 4 GB on."""

from __future__ import annotations

import zlib
from typing import TYPE_CHECKING, BinaryIO, Final

import numpy as np
from tifffile import TiffWriter

from glyphaneme.codecs.color.converting import CHANNELS
from glyphaneme.codecs.writing.differencing import differenced
from glyphaneme.codecs.writing.packet import packet_of

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool

STRIP_ROWS: Final = 64
LARGE_BYTES: Final = 4 * 10**9
"""Offsets of the usual kind end a little beyond."""
PHOTOMETRIC: Final = {"rgb": "rgb", "gray": "minisblack", "cmyk": "separated"}
XMP_TAG, DESCRIPTION_TAG, ARTIST_TAG, RIGHTS_TAG = 700, 270, 315, 33432
BYTES: Final = 1
TEXT: Final = 2


def write(spool: Spool, file: BinaryIO, spec: FileSpec) -> None:
    """Write a TIFF in strips, with horizontal differencing."""
    shape = spool.shape
    channels = CHANNELS[shape.ink] + (not shape.opaque)
    size = (shape.height, shape.width, *((channels,) if channels > 1 else ()))
    depth = np.uint8 if shape.bits == 8 else np.uint16
    weight = shape.height * shape.width * channels * shape.bits // 8
    with TiffWriter(file, bigtiff=weight > LARGE_BYTES, byteorder="<") as writer:
        writer.write(
            _strips(spool, _PACKERS[spec.packing]),
            shape=size,
            dtype=depth,
            photometric=PHOTOMETRIC[shape.ink],
            planarconfig="contig" if channels > 1 else None,
            extrasamples=() if shape.opaque else ("unassalpha",),
            rowsperstrip=STRIP_ROWS,
            compression="zlib" if spec.packing == "deflate" else "lzw",
            predictor=True,
            resolution=(spec.ppi, spec.ppi),
            resolutionunit="INCH",
            iccprofile=spec.icc,
            metadata=None,
            software=False,
            extratags=_tags(spec),
        )


def _tags(spec: FileSpec) -> list[tuple[int, int, int, bytes, bool]]:
    said = (
        (XMP_TAG, BYTES, packet_of(spec.about)),
        (DESCRIPTION_TAG, TEXT, spec.about.description.encode()),
        (ARTIST_TAG, TEXT, spec.about.author.encode()),
        (RIGHTS_TAG, TEXT, spec.about.licence.encode()),
    )
    return [(tag, kind, len(data), data, True) for tag, kind, data in said if data]


def _strips(spool: Spool, pack: Callable[[bytes], bytes]) -> Iterator[bytes]:
    for strip in spool.bands(STRIP_ROWS):
        yield pack(differenced(strip).tobytes())


def _deflated(data: bytes) -> bytes:
    return zlib.compress(data, 6)


def _lzw(data: bytes) -> bytes:
    # Imported late: few files need it, and every start would wait for it.
    from imagecodecs import lzw_encode

    return bytes(lzw_encode(data))


_PACKERS: Final = {"deflate": _deflated, "lzw": _lzw}
