"""The table of picture formats that are read: a new one is a line here."""

from __future__ import annotations

from typing import NamedTuple

import pi_heif

# Phones' photos: a decoder that Pillow does not bring along.
pi_heif.register_heif_opener()


class Kind(NamedTuple):
    """A format that pictures come in."""

    name: str
    media_type: str
    decoders: tuple[str, ...]
    """Pillow's names for it."""
    more: str
    """What is said where a file holds several pictures; `{}` is how many."""


PAGES = "It has {} pages; the first was taken."
MOVES = "It moves; the first of its {} frames was taken."
SEVERAL = "It holds {} pictures; the main one was taken."

KINDS = (
    # MPO: a JPEG with previews behind it, as phones write; those are no pages.
    Kind("JPEG", "image/jpeg", ("JPEG", "MPO"), ""),
    Kind("PNG", "image/png", ("PNG",), MOVES),
    Kind("WEBP", "image/webp", ("WEBP",), MOVES),
    Kind("TIFF", "image/tiff", ("TIFF",), PAGES),
    Kind("HEIC", "image/heic", ("HEIF",), SEVERAL),
    Kind("AVIF", "image/avif", ("AVIF",), MOVES),
    Kind("GIF", "image/gif", ("GIF",), MOVES),
    Kind("BMP", "image/bmp", ("BMP", "DIB"), ""),
    Kind("JPEG2000", "image/jp2", ("JPEG2000",), ""),
)

SAID = "JPEG, PNG, WebP, TIFF, HEIC, AVIF, GIF, BMP or JPEG 2000"
# The decoder of JPEG finds MPO by itself; it cannot be asked for.
DECODERS = tuple(
    decoder for kind in KINDS for decoder in kind.decoders if decoder != "MPO"
)
_BY_DECODER = {decoder: kind for kind in KINDS for decoder in kind.decoders}
_BY_NAME = {kind.name: kind for kind in KINDS}


def kind_of(decoder: str) -> Kind:
    """Return the kind that a decoder of Pillow's reads.

    Parameters
    ----------
    decoder : str
        Pillow's name for it, as an opened image tells it.

    Returns
    -------
    Kind
        Its line of the table.
    """
    return _BY_DECODER[decoder]


def media_type_of(name: str) -> str:
    """Return the media type of a kind.

    Parameters
    ----------
    name : str
        As `PictureFacts.format` says it.

    Returns
    -------
    str
        Such as "image/heic".
    """
    return _BY_NAME[name].media_type
