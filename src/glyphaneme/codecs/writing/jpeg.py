"""JPEG (ITU-T T.81)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, BinaryIO

from glyphaneme.codecs.writing.packet import packet_of

if TYPE_CHECKING:
    from glyphaneme.codecs.writing.spec import FileSpec
    from glyphaneme.codecs.writing.spooling import Spool

FULL, HALVED = 0, 2
MOST_HELD = 50_000_000
"""Pixels: six bytes each."""


def write(spool: Spool, file: BinaryIO, spec: FileSpec) -> None:
    """Write a JPEG; see-through places have no colour of their own in it."""
    packet = packet_of(spec.about)
    about: dict[str, Any] = {"dpi": (spec.ppi, spec.ppi), "icc_profile": spec.icc}
    if packet:
        about["xmp"] = packet
    write_plain(spool, file, spec, **about)


def write_plain(
    spool: Spool,
    file: BinaryIO,
    spec: FileSpec,
    **about: Any,  # noqa: ANN401  # Pillow's own
) -> None:
    """Write a JPEG that says nothing of itself but what is handed over."""
    image = spool.image()
    # Both look at all of a picture twice, and hold it meanwhile.
    is_small = image.width * image.height <= MOST_HELD
    image.save(
        file,
        "JPEG",
        quality=spec.quality,
        subsampling=FULL if spec.is_fine else HALVED,
        progressive=spec.progressive and is_small,
        # Tables that fit the picture: some percent smaller, and nothing else.
        optimize=is_small,
        **about,
    )
