"""Bytes named by their content, kept in pieces so that no one holds them whole."""

from __future__ import annotations

import hashlib
from typing import TYPE_CHECKING, BinaryIO

from sqlalchemy import literal_column, select
from sqlalchemy.dialects.postgresql import insert

from glyphaneme.store.rows import BlobPieceRow, BlobRow

if TYPE_CHECKING:
    from collections.abc import Iterator

    from sqlalchemy.orm import Session

PIECE_BYTES = 4 * 1024 * 1024


def keep_blob(session: Session, file: BinaryIO) -> str:
    """Store a file's bytes from its start on, once; return their SHA-256.

    Until the transaction ends no sweep can delete them: what they are kept for must
    refer to them by then.
    """
    file.seek(0)
    digest = hashlib.sha256()
    while piece := file.read(PIECE_BYTES):
        digest.update(piece)
    sha256 = digest.hexdigest()
    size = file.tell()
    added = session.scalar(
        insert(BlobRow)
        .values(sha256=sha256, size=size)
        # An update that changes nothing, but locks the row where it is there already.
        .on_conflict_do_update(index_elements=["sha256"], set_={"size": size})
        .returning(literal_column("xmax = 0"))
    )
    if not added:
        return sha256
    file.seek(0)
    for number in range(-(-size // PIECE_BYTES)):
        session.execute(
            insert(BlobPieceRow).values(
                sha256=sha256, number=number, data=file.read(PIECE_BYTES)
            )
        )
    return sha256


def blob_pieces(session: Session, sha256: str) -> Iterator[bytes]:
    """Yield a blob's bytes in order, piece by piece."""
    number = 0
    while True:
        data = session.scalar(
            select(BlobPieceRow.data).where(
                BlobPieceRow.sha256 == sha256, BlobPieceRow.number == number
            )
        )
        if data is None:
            return
        yield data
        number += 1


def blob_size(session: Session, sha256: str) -> int:
    """Return how many bytes a blob has; 0 where there is none."""
    return session.scalar(select(BlobRow.size).where(BlobRow.sha256 == sha256)) or 0
