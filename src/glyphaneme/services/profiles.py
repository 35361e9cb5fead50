"""Printers' colour profiles: the one that ships, and those that people bring."""

from __future__ import annotations

import hashlib
from io import BytesIO
from typing import TYPE_CHECKING, BinaryIO, Final

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import PictureRefusedError, RefusalCode
from glyphaneme.codecs.color import (
    MAX_PROFILE_BYTES,
    Conversion,
    coated_profile,
    read_profile,
)
from glyphaneme.core.finish.settings import Coloring
from glyphaneme.services.errors import NotThereError
from glyphaneme.services.purposes import purpose_settings
from glyphaneme.store import finishing as finishing_store
from glyphaneme.store.blobs import blob_pieces, keep_blob

if TYPE_CHECKING:
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.rows import ProfileRow

COATED: Final = "coated paper, FOGRA39"


class OfferedProfile(BaseModel):
    """A printer's colours."""

    model_config = ConfigDict(frozen=True)

    id: str | None
    """The file's SHA-256; None of the one that ships."""
    name: str
    ink: str


def list_profiles(visit: Visit) -> list[OfferedProfile]:
    """Return the one that ships, then those that people brought."""
    shipped = OfferedProfile(id=None, name=COATED, ink="cmyk")
    return [shipped, *map(_offered, finishing_store.list_profiles(visit.session))]


def bring_in_profile(visit: Visit, file: BinaryIO) -> OfferedProfile:
    """Keep a printer's profile.

    Raises
    ------
    PictureRefusedError
        It is none.
    """
    file.seek(0)
    # One byte more tells that it is too large; no more of it is held.
    data = file.read(MAX_PROFILE_BYTES + 1)
    if not data:
        raise PictureRefusedError(
            RefusalCode.EMPTY,
            "The file is empty. Nothing was kept; ask the print shop for it again.",
        )
    if hashlib.sha256(data).digest() == hashlib.sha256(coated_profile()).digest():
        return OfferedProfile(id=None, name=COATED, ink="cmyk")
    facts = read_profile(data)
    sha256 = keep_blob(visit.session, BytesIO(data))
    finishing_store.put_profile(visit.session, sha256, facts.name, facts.ink)
    return OfferedProfile(id=sha256, name=facts.name, ink=facts.ink)


def printers_colors(visit: Visit) -> Conversion:
    """Return what leads to the colours that print shops get; the shipped ones else."""
    coloring = purpose_settings(visit, "print-shop").coloring
    if coloring.space != "ink":
        coloring = Coloring(space="ink")
    try:
        profile, _ = printer_of(visit, coloring)
    except NotThereError:
        profile = None
    return Conversion.into(coloring, profile)


def checked_profile(data: bytes) -> tuple[bytes, str]:
    """Return a printer's profile that comes from outside, and what it is called.

    Raises
    ------
    PictureRefusedError
        It is none.
    """
    return data, read_profile(data).name


def put_away_profile(visit: Visit, sha256: str) -> None:
    """Take a profile off those on offer; files that are asked for already keep it.

    Raises
    ------
    NotThereError
        There is none.
    """
    _require(visit, sha256).on_offer = False


def printer_of(visit: Visit, coloring: Coloring) -> tuple[bytes | None, str]:
    """Return the profile that colours are brought into, and what it is called.

    None is the one that ships; it stands for none too where no ink is asked for.

    Raises
    ------
    NotThereError
        There is none.
    """
    if coloring.space != "ink" or coloring.profile is None:
        return None, COATED
    row = _require(visit, coloring.profile)
    return b"".join(blob_pieces(visit.session, row.sha256)), row.name


def _require(visit: Visit, sha256: str) -> ProfileRow:
    row = finishing_store.find_profile(visit.session, sha256)
    if row is None:
        raise NotThereError("colour profile")
    return row


def _offered(row: ProfileRow) -> OfferedProfile:
    return OfferedProfile(id=row.sha256, name=row.name, ink=row.ink)
