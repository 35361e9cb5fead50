"""What all services share: sessions, pixels on disk, and states in memory."""

from __future__ import annotations

import shutil
import tempfile
from collections import OrderedDict
from contextlib import closing, contextmanager
from dataclasses import dataclass, field, fields
from pathlib import Path
from threading import Lock
from typing import TYPE_CHECKING, Generic, TypeVar

import numpy as np

from glyphaneme.codecs import (
    drop_oldest,
    encode_thumbnail,
    load_pyramid,
    read_picture,
    save_pyramid,
)
from glyphaneme.core.place import Pyramid, build_pyramid
from glyphaneme.core.render import FrameCache
from glyphaneme.services.library import Library
from glyphaneme.services.networks import Networks
from glyphaneme.services.resting import Activity
from glyphaneme.store.blobs import blob_pieces

if TYPE_CHECKING:
    import uuid
    from collections.abc import Callable, Hashable, Iterable, Iterator

    from sqlalchemy.orm import Session, sessionmaker

    from glyphaneme.core.cutout import Evidence
    from glyphaneme.core.document import Composite
    from glyphaneme.core.mask import Raster
    from glyphaneme.core.mask.paintings import Painting, Underway
    from glyphaneme.core.mend import Patch
    from glyphaneme.core.render import Laid

KeyT = TypeVar("KeyT")
ValueT = TypeVar("ValueT")

FRAME_BYTES_KEPT = 256 * 1024 * 1024
STATES_KEPT = 512
PYRAMIDS_KEPT = 256
EVIDENCE_BYTES_KEPT = 192 * 1024 * 1024
PAINTED_BYTES_KEPT = 512 * 1024 * 1024
"""Paintings that come of one another share most of it, and are counted each whole."""
DRAFTS_KEPT = 4
OWN_COLORS_SHOWN = 8
MENDED_KEPT = 8
PATCHED_BYTES_KEPT = 96 * 1024 * 1024
OWN_COLORS_KEPT = 24
RASTER_BYTES_KEPT = 256 * 1024 * 1024
NO_FOLDER = Path("no-folder")
"""Where nothing lies."""
OWNER = "owner"
"""Who works at it, as long as there are no accounts."""


class Recent(Generic[KeyT, ValueT]):
    """A mapping that forgets what was not asked for lately; safe between threads.

    It keeps values that weigh no more than `limit` together, and the newest always;
    each weighs one unless told otherwise.
    """

    def __init__(
        self, limit: int, weigh: Callable[[ValueT], int] = lambda _value: 1
    ) -> None:
        self._limit = limit
        self._weigh = weigh
        self._values: OrderedDict[KeyT, tuple[ValueT, int]] = OrderedDict()
        self._weight = 0
        self._lock = Lock()

    def get(self, key: KeyT) -> ValueT | None:
        """Return what was put under a key, if it is still kept."""
        with self._lock:
            if key not in self._values:
                return None
            self._values.move_to_end(key)
            return self._values[key][0]

    def put(self, key: KeyT, value: ValueT) -> ValueT:
        """Keep a value, and return it."""
        weight = self._weigh(value)
        with self._lock:
            _, before = self._values.pop(key, (None, 0))
            self._values[key] = value, weight
            self._weight += weight - before
            while self._weight > self._limit and len(self._values) > 1:
                _, (_, gone) = self._values.popitem(last=False)
                self._weight -= gone
        return value

    def clear(self) -> None:
        """Forget everything."""
        with self._lock:
            self._values.clear()
            self._weight = 0


class PixelShelf:
    """Pyramids and thumbnails on disk, rebuilt from the database when absent."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._mapped: Recent[str, Pyramid] = Recent(PYRAMIDS_KEPT)
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
        place.parent.mkdir(parents=True, exist_ok=True)
        with closing(
            tempfile.NamedTemporaryFile(dir=place.parent, delete=False)
        ) as draft:
            draft.write(data)
        Path(draft.name).rename(place)
        return data

    def own_colors(self, name: str) -> Pyramid | None:
        """Return a photo with own colours, if it was kept, mapped into memory."""
        found = self._mapped.get(name) or load_pyramid(self._own / name)
        return found and self._mapped.put(name, found)

    def keep_own_colors(self, name: str, pyramid: Pyramid) -> Pyramid:
        """Keep a photo with own colours; return it mapped into memory."""
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

    def forget(self, sha256: str) -> None:
        """Drop what was derived from a picture that was not kept after all."""
        shutil.rmtree(self._place(sha256), ignore_errors=True)

    def _place(self, sha256: str) -> Path:
        return self._folder / "pyramids" / sha256[:2] / sha256


@dataclass(frozen=True)
class Studio:
    """What all visits to this process share."""

    sessions: sessionmaker[Session]
    shelf: PixelShelf
    is_waited_for: bool = False
    """Whether somebody looks on: what takes long may be rough at first."""
    states: Recent[uuid.UUID, Composite] = field(
        default_factory=lambda: Recent(STATES_KEPT)
    )
    frames: FrameCache = field(default_factory=lambda: FrameCache(FRAME_BYTES_KEPT))
    # What never changes once it is there: frame after frame need not ask for it again.
    projects: Recent[uuid.UUID, uuid.UUID] = field(
        default_factory=lambda: Recent(STATES_KEPT)
    )
    """The project of a revision."""
    paintings: Recent[str, Painting] = field(
        default_factory=lambda: Recent(PAINTED_BYTES_KEPT, lambda one: one.nbytes)
    )
    """What strokes leave, by the id of the last one."""
    drafts: Recent[str, Painting] = field(default_factory=lambda: Recent(DRAFTS_KEPT))
    """The same for strokes that are under way."""
    underway: Recent[str, Underway] = field(default_factory=lambda: Recent(DRAFTS_KEPT))
    """Strokes that are under way, by the part that they are painted in."""
    rasters: Recent[str, Raster] = field(
        default_factory=lambda: Recent(RASTER_BYTES_KEPT, lambda one: 2 * one.nbytes)
    )
    """Parts of masks that are pixels; counted with the smaller sizes to come."""
    mended: Recent[str, Pyramid] = field(default_factory=lambda: Recent(MENDED_KEPT))
    """Photos with places mended, which share with their files what is not changed."""
    patched: Recent[str, Laid] = field(
        default_factory=lambda: Recent(PATCHED_BYTES_KEPT, lambda one: one.nbytes)
    )
    """What fills places that layers mend of what lies beneath them."""
    rough_patches: Recent[str, Laid] = field(
        default_factory=lambda: Recent(STATES_KEPT)
    )
    """The same for those that are filled roughly as yet."""
    rough_fills: Recent[str, Patch] = field(default_factory=lambda: Recent(STATES_KEPT))
    """The same for places of a photo itself."""
    rough: Recent[str, bool] = field(default_factory=lambda: Recent(STATES_KEPT))
    """Whether some places of a mended photo are filled roughly as yet."""
    own_colors: Recent[Hashable, Pyramid] = field(
        default_factory=lambda: Recent(OWN_COLORS_SHOWN)
    )
    """Photos with own colours as they were shown last, whatever was painted since."""
    quick_rasters: Recent[str, Raster] = field(
        default_factory=lambda: Recent(DRAFTS_KEPT)
    )
    """The same for those that are being changed, made of smaller pictures."""
    evidence: Recent[object, Evidence] = field(
        default_factory=lambda: Recent(EVIDENCE_BYTES_KEPT, lambda one: one.nbytes)
    )
    """What was learned of pictures that something is cut out of."""
    networks: Networks = field(default_factory=lambda: Networks(()))
    library: Library = field(default_factory=lambda: Library(NO_FOLDER))
    digests: Recent[uuid.UUID, str] = field(
        default_factory=lambda: Recent(PYRAMIDS_KEPT)
    )
    """The SHA-256 of a picture's file, by the picture's id."""
    activity: Activity = field(default_factory=Activity)

    def let_go(self) -> None:
        """Keep nothing in memory that can be found or made again."""
        self.shelf.let_go()
        self.frames.clear()
        self.networks.let_go()
        for one in fields(self):
            kept = getattr(self, one.name)
            if isinstance(kept, Recent):
                kept.clear()

    @contextmanager
    def looking(self, who: str = OWNER) -> Iterator[Visit]:
        """Open a visit that changes nothing."""
        with self.activity.going_on(), self.sessions() as session:
            yield Visit(who=who, session=session, studio=self)

    @contextmanager
    def changing(self, who: str = OWNER) -> Iterator[Visit]:
        """Open a visit whose changes are kept at its end, all of them or none."""
        with self.activity.going_on(), self.sessions.begin() as session:
            yield Visit(who=who, session=session, studio=self)


@dataclass(frozen=True)
class Visit:
    """One thing that one person asks for, handed to every service: one transaction."""

    who: str
    session: Session
    studio: Studio


def stream_file(studio: Studio, sha256: str) -> Iterator[bytes]:
    """Yield a stored file piece by piece, in a session of its own."""
    with studio.sessions() as session:
        yield from blob_pieces(session, sha256)


def open_studio(
    sessions: sessionmaker[Session],
    cache_folder: Path,
    models: Iterable[Path] = (),
    library: Path = NO_FOLDER,
    *,
    is_waited_for: bool = False,
) -> Studio:
    """Set up what services share; derived pictures are kept below the cache's folder.

    Of networks with one name in several folders of `models`, the first counts; the
    pictures of the library lie in its folder.
    """
    return Studio(
        sessions=sessions,
        shelf=PixelShelf(cache_folder),
        is_waited_for=is_waited_for,
        networks=Networks(models),
        library=Library(library),
    )
