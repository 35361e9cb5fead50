"""What all services share: sessions, pixels on disk, and states in memory."""

from __future__ import annotations

from contextlib import contextmanager
from dataclasses import dataclass, field, fields
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple, Protocol

from glyphaneme.core.render import FrameCache
from glyphaneme.core.values import memory_of
from glyphaneme.core.weighed import ENTRY, WeighedCache
from glyphaneme.services.font_folder import FontFolder
from glyphaneme.services.library import Library
from glyphaneme.services.networks import Networks
from glyphaneme.services.photo_facts import Glances
from glyphaneme.services.plan_folder import PlanFolder
from glyphaneme.services.resting import Activity
from glyphaneme.services.shelf import PYRAMIDS_KEPT, PixelShelf, weight_of_pyramid
from glyphaneme.store.blobs import blob_pieces

if TYPE_CHECKING:
    import uuid
    from collections.abc import Hashable, Iterable, Iterator

    from glyphaneme.core.cutout import Evidence
    from glyphaneme.core.document import Composite
    from glyphaneme.core.mask import Raster
    from glyphaneme.core.mask.paintings import Painting, Underway
    from glyphaneme.core.mend import Patch
    from glyphaneme.core.place import Pyramid, Rect
    from glyphaneme.core.render import Laid
    from glyphaneme.store.database import Session, Sessions

MIB = 2**20
FRAME_BYTES_KEPT = 256 * MIB
STATES_KEPT = 512
STATE_BYTES_KEPT = 96 * MIB
EVIDENCE_BYTES_KEPT = 192 * MIB
PAINTED_BYTES_KEPT = 512 * MIB
"""Paintings that come of one another share most of it, and are counted each whole."""
DRAFT_BYTES_KEPT = 192 * MIB
"""The same holds for strokes that are under way."""
OWN_COLOR_BYTES_KEPT = 192 * MIB
MENDED_BYTES_KEPT = 256 * MIB
PATCHED_BYTES_KEPT = 96 * MIB
ROUGH_BYTES_KEPT = 48 * MIB
RASTER_BYTES_KEPT = 256 * MIB
QUICK_BYTES_KEPT = 48 * MIB
NO_FOLDER = Path("no-folder")
"""Where nothing lies."""
OWNER = "owner"
"""Who works at it, as long as there are no accounts."""


class Shipped(NamedTuple):
    """Folders of what ships with the product."""

    library: Path = NO_FOLDER
    fonts: Path = NO_FOLDER
    plans: Path = NO_FOLDER


NOTHING_SHIPPED = Shipped()


class Sized(Protocol):
    """Whatever knows how much memory it takes."""

    @property
    def nbytes(self) -> int:
        """How many bytes."""


def _bytes_of(value: Sized) -> int:
    return value.nbytes + ENTRY


class MendedPhoto(NamedTuple):
    """A photo's pixels with places mended, and how much memory these take.

    It shares with its file what is not changed.
    """

    pyramid: Pyramid
    nbytes: int


@dataclass(frozen=True)
class Studio:
    """What all visits to this process share."""

    sessions: Sessions
    shelf: PixelShelf
    is_waited_for: bool = False
    """Whether somebody looks on: what takes long may be rough at first."""
    states: WeighedCache[uuid.UUID, Composite] = field(
        default_factory=lambda: WeighedCache(STATE_BYTES_KEPT, memory_of)
    )
    """The composite of a revision."""
    frames: FrameCache = field(default_factory=lambda: FrameCache(FRAME_BYTES_KEPT))
    # What never changes once it is there: frame after frame need not ask for it again.
    projects: WeighedCache[uuid.UUID, uuid.UUID] = field(
        default_factory=lambda: WeighedCache(STATES_KEPT)
    )
    """The project of a revision."""
    paintings: WeighedCache[str, Painting] = field(
        default_factory=lambda: WeighedCache(PAINTED_BYTES_KEPT, _bytes_of)
    )
    """What strokes leave, by the id of the last one."""
    drafts: WeighedCache[str, Painting] = field(
        default_factory=lambda: WeighedCache(DRAFT_BYTES_KEPT, _bytes_of)
    )
    """The same for strokes that are under way."""
    underway: WeighedCache[str, Underway] = field(
        default_factory=lambda: WeighedCache(DRAFT_BYTES_KEPT, _bytes_of)
    )
    """Strokes that are under way, by the part that they are painted in."""
    rasters: WeighedCache[str, Raster] = field(
        default_factory=lambda: WeighedCache(RASTER_BYTES_KEPT, _bytes_of)
    )
    """Parts of masks that are pixels, by name."""
    quick_rasters: WeighedCache[str, Raster] = field(
        default_factory=lambda: WeighedCache(QUICK_BYTES_KEPT, _bytes_of)
    )
    """The same for those that are being changed, made of smaller pictures."""
    mended: WeighedCache[str, MendedPhoto] = field(
        default_factory=lambda: WeighedCache(MENDED_BYTES_KEPT, _bytes_of)
    )
    """Photos with places mended, by name."""
    filled_places: WeighedCache[str, Laid] = field(
        default_factory=lambda: WeighedCache(PATCHED_BYTES_KEPT, _bytes_of)
    )
    """What fills places that layers mend of what lies beneath them, by name."""
    rough_patches: WeighedCache[str, Laid] = field(
        default_factory=lambda: WeighedCache(ROUGH_BYTES_KEPT, _bytes_of)
    )
    """The same for those that are filled roughly as yet."""
    rough_fills: WeighedCache[str, Patch] = field(
        default_factory=lambda: WeighedCache(ROUGH_BYTES_KEPT, _bytes_of)
    )
    """The same for places of a photo itself."""
    rough: WeighedCache[str, bool] = field(
        default_factory=lambda: WeighedCache(STATES_KEPT)
    )
    """Whether some places of a mended photo are filled roughly as yet."""
    own_colors: WeighedCache[Hashable, Pyramid] = field(
        default_factory=lambda: WeighedCache(OWN_COLOR_BYTES_KEPT, weight_of_pyramid)
    )
    """Photos with own colours as they were shown last, whatever was painted since."""
    evidence: WeighedCache[object, Evidence] = field(
        default_factory=lambda: WeighedCache(EVIDENCE_BYTES_KEPT, _bytes_of)
    )
    """What was learned of pictures that something is cut out of."""
    networks: Networks = field(default_factory=lambda: Networks(()))
    library: Library = field(default_factory=lambda: Library(NO_FOLDER))
    fonts: FontFolder = field(default_factory=lambda: FontFolder(NO_FOLDER))
    plans: PlanFolder = field(default_factory=lambda: PlanFolder(NO_FOLDER))
    glances: Glances = field(default_factory=Glances)
    """What was measured of photos that plans place."""
    digests: WeighedCache[uuid.UUID, str] = field(
        default_factory=lambda: WeighedCache(PYRAMIDS_KEPT)
    )
    """The SHA-256 of a picture's file, by the picture's id."""
    trims: WeighedCache[object, tuple[Rect[float] | None]] = field(
        default_factory=lambda: WeighedCache(STATES_KEPT)
    )
    """What of the sheet a layer shows on, by its revision and all that was at hand."""
    activity: Activity = field(default_factory=Activity)

    def let_go(self) -> None:
        """Keep nothing in memory that can be found or made again."""
        self.shelf.let_go()
        self.frames.clear()
        self.networks.let_go()
        self.fonts.let_go()
        self.glances.let_go()
        for one in fields(self):
            kept = getattr(self, one.name)
            if isinstance(kept, WeighedCache):
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
    painted: dict[str, Painting] = field(default_factory=dict)
    """What unsaved strokes leave: what a visit made, it finds again."""


def stream_file(studio: Studio, sha256: str) -> Iterator[bytes]:
    """Yield a stored file piece by piece, in a session of its own."""
    with studio.sessions() as session:
        yield from blob_pieces(session, sha256)


def open_studio(
    sessions: Sessions,
    cache_folder: Path,
    models: Iterable[Path] = (),
    shipped: Shipped = NOTHING_SHIPPED,
    *,
    is_waited_for: bool = False,
) -> Studio:
    """Set up what services share; derived pictures are kept below the cache's folder.

    Of networks with one name in several folders of `models`, the first counts.
    """
    return Studio(
        sessions=sessions,
        shelf=PixelShelf(cache_folder),
        is_waited_for=is_waited_for,
        networks=Networks(models),
        library=Library(shipped.library),
        fonts=FontFolder(shipped.fonts),
        plans=PlanFolder(shipped.plans),
    )
