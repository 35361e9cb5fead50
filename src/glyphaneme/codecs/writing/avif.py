"""AVIF (AV1 Image File Format 1.1)."""

from __future__ import annotations

from typing import TYPE_CHECKING, BinaryIO

from glyphaneme.codecs.writing.packet import packet_of, resolution_exif

if TYPE_CHECKING:
    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool

SPEED = 8
"""Of 0, the slowest, to 10."""


def write(spool: Spool, file: BinaryIO, spec: FileSpec) -> None:
    """Write an AVIF of 8 bits; its encoder takes all pixels at once."""
    packet = packet_of(spec.about)
    spool.plain_image().save(
        file,
        "AVIF",
        quality=spec.quality,
        subsampling="4:4:4" if spec.is_fine else "4:2:0",
        speed=SPEED,
        icc_profile=spec.icc,
        exif=resolution_exif(spec.ppi),
        **({"xmp": packet} if packet else {}),
    )
