"""Pictures as files that are derived: pyramids, thumbnails, own colours."""

from __future__ import annotations

import shutil
import tempfile
from threading import Lock
from typing import TYPE_CHECKING

import numpy as np

from glyphaneme.codecs import (
    drafted,
    drop_drafts,
    drop_oldest,
    encode_thumbnail,
    held_by,
    load_pyramid,
    read_picture,
    save_pyramid,
)
from glyphaneme.core.place import Pyramid, build_pyramid
from glyphaneme.core.weighed import WeighedCache
from glyphaneme.services.room import keeping_if_there_is_room
from glyphaneme.store.blobs import blob_pieces

if TYPE_CHECKING:
    from pathlib import Path

    from glyphaneme.store.database import Session

PYRAMIDS_KEPT = 256
OWN_COLORS_KEPT = 24
MAPPING = 2**20
"""What a pyramid counts as that is mapped: no memory of its own, but open files."""


def weight_of_pyramid(pyramid: Pyramid) -> int:
    """Return what a pyramid counts as where it is kept, in bytes."""
    return held_by(pyramid) + MAPPING


class PixelShelf:
    """Pyramids and thumbnails on disk, rebuilt from the database when absent."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._mapped: WeighedCache[str, Pyramid] = WeighedCache(
            PYRAMIDS_KEPT * MAPPING, weight_of_pyramid
        )
        self._building = Lock()

    def pyramid(self, session: Session, sha256: str) -> Pyramid:
        """Return a picture's pyramid, mapped into memory."""
        found = self._mapped.get(sha256) or load_pyramid(self._place(sha256))
        if found is None:
            # One at a time: two threads that both miss would decode it twice.
            with self._building:
                found = load_pyramid(self._place(sha256)) or self.build(session, sha256)
        return self._mapped.put(sha256, found)

    def build(self, session: Session, sha256: str) -> Pyramid:
        """Decode a picture from the database and keep its pyramid."""
        with tempfile.TemporaryFile() as file:
            for piece in blob_pieces(session, sha256):
                file.write(piece)
            pyramid = build_pyramid(read_picture(file))
        with keeping_if_there_is_room():
            save_pyramid(self._place(sha256), pyramid)
        return load_pyramid(self._place(sha256)) or pyramid

    def pyramid_to_change(self, session: Session, sha256: str) -> Pyramid:
        """Return a picture's pyramid for the caller alone, whose pixels may change."""
        self.pyramid(session, sha256)
        found = load_pyramid(self._place(sha256), to_change=True)
        if found is not None:
            return found
        kept = self.build(session, sha256)
        levels = tuple(map(np.array, kept.levels))
        return Pyramid(levels=levels, opaque=kept.opaque)

    def thumbnail(self, session: Session, sha256: str) -> bytes:
        """Return a small copy of a picture, as an encoded image."""
        place = self._folder / "thumbnails" / sha256
        if place.exists():
            return place.read_bytes()
        data = encode_thumbnail(self.pyramid(session, sha256))
        with keeping_if_there_is_room(), drafted(place) as draft:
            draft.write_bytes(data)
        return data

    def own_colors(self, name: str) -> Pyramid | None:
        """Return a photo with own colours, if it was kept, mapped into memory."""
        found = self._mapped.get(name) or load_pyramid(self._own / name)
        return found and self._mapped.put(name, found)

    def keep_own_colors(self, name: str, pyramid: Pyramid) -> Pyramid:
        """Keep a photo with own colours; return it mapped into memory."""
        with keeping_if_there_is_room():
            save_pyramid(self._own / name, pyramid)
            drop_oldest(self._own, most=OWN_COLORS_KEPT)
        return self._mapped.put(name, load_pyramid(self._own / name) or pyramid)

    @property
    def _own(self) -> Path:
        return self._folder / "own-colors"

    @property
    def patches(self) -> Path:
        """Where what fills mended places is kept."""
        return self._folder / "patches"

    @property
    def paintings(self) -> Path:
        """Where paintings are kept."""
        return self._folder / "paintings"

    def let_go(self) -> None:
        """Keep nothing mapped into memory; it is mapped again when it is asked for."""
        self._mapped.clear()

    def drop_drafts(self) -> None:
        """Delete what killed processes had begun to write."""
        drop_drafts(self._folder)

    def forget(self, sha256: str) -> None:
        """Drop what was derived from a picture that was not kept after all."""
        shutil.rmtree(self._place(sha256), ignore_errors=True)

    def _place(self, sha256: str) -> Path:
        return self._folder / "pyramids" / sha256[:2] / sha256
