"""Finding a matte of a picture: what networks see in it, and what is made of that."""

from __future__ import annotations

import hashlib
import json
from typing import TYPE_CHECKING, NamedTuple

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import encode_matte
from glyphaneme.core.cutout import (
    Evidence,
    Look,
    marks_of,
    matte_found,
    rough_matte,
    subjects_in,
)
from glyphaneme.core.cutout.boxes import (
    box_at,
    laid_in,
    opinion_in,
    pixels_in,
    seen_level,
)
from glyphaneme.core.errors import NoSubjectError
from glyphaneme.core.mask import CutWay, Hints, PartId
from glyphaneme.core.mask.matte import NO_HINTS
from glyphaneme.core.mask.rasters import MOST_PIXELS, size_within
from glyphaneme.services.errors import NetworkMissingError, NoSubjectFoundError
from glyphaneme.services.networks import LARGE, LIGHT

if TYPE_CHECKING:
    from collections.abc import Callable

    from glyphaneme.core.cutout import ColorsU8, Marks, MatteF32, MatteU8
    from glyphaneme.core.place import Pyramid, Rect
    from glyphaneme.services.networks import Networks
    from glyphaneme.services.studio import Studio

    Looking = Callable[[ColorsU8, Look], MatteF32]

VERSION = "4"
"""Of the way in which mattes are found; it is part of what names them."""
ROUGH_PIXELS = 1_000_000


class CutRequest(BaseModel):
    """How the backdrop is to be taken away, and by which network."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    way: CutWay = CutWay.ITSELF
    hints: Hints = NO_HINTS
    network: PartId | None = None
    """By its manifest's name; the best one where it is not said."""

    @property
    def begins(self) -> bool:
        """Whether nothing is said yet but where to look: a rough matte comes first."""
        said = self.hints.strokes or self.hints.subject is not None
        return self.way is CutWay.ITSELF and not said


class MatteMade(NamedTuple):
    """A matte that was just found, and its file."""

    file: bytes
    matte: MatteU8
    level: int
    subjects: int
    """How many can be told apart; 0 where there is one."""


def made_matte(cut: Cut, name: str) -> MatteMade:
    """Find a matte.

    Raises
    ------
    NoSubjectFoundError
        Nothing stands out, and nobody said where to look.
    """
    try:
        matte, level = cut.matte()
    except NoSubjectError as cause:
        raise NoSubjectFoundError(name) from cause
    request = cut.request
    by_itself = request.hints == NO_HINTS and request.way is CutWay.ITSELF
    subjects = subjects_in(cut.evidence) if by_itself else 0
    return MatteMade(encode_matte(matte), matte, level, subjects)


class Cut(NamedTuple):
    """What a matte is found from."""

    pyramid: Pyramid
    level: int
    box: Rect[int]
    """In that level's pixels."""
    evidence: Evidence
    request: CutRequest

    @classmethod
    def of(
        cls, studio: Studio, sha256: str, pyramid: Pyramid, request: CutRequest
    ) -> Cut:
        """Take what was learned of the picture before, or begin to learn it."""
        networks = asked_for(studio.networks, request)
        level = size_within(pyramid, MOST_PIXELS)
        key = (sha256, networks, box_at(pyramid, level, request.hints))
        known = studio.evidence.get(key)
        whole = (sha256, networks, box_at(pyramid, level, NO_HINTS))
        cut = cls.begun(
            *(studio.networks, pyramid, request, known),
            whole=studio.evidence.get(whole),
        )
        studio.evidence.put(key, cut.evidence)
        return cut

    @classmethod
    def begun(
        cls,
        networks: Networks,
        pyramid: Pyramid,
        request: CutRequest,
        evidence: Evidence | None = None,
        *,
        whole: Evidence | None = None,
    ) -> Cut:
        """Begin to learn what networks see, unless that is known.

        What they see in the whole picture may be known where hints bound a box.

        Raises
        ------
        NetworkMissingError
            There is no network to ask.
        """
        hints = request.hints
        level = size_within(pyramid, MOST_PIXELS)
        if evidence is None:
            seen = seen_level(pyramid, level, hints)
            part = pixels_in(pyramid.levels[seen], box_at(pyramid, seen, hints))
            look = _look(networks, asked_for(networks, request))
            wider = _wider(whole, pyramid, level, hints, look)
            evidence = Evidence(part, look, wider)
        return cls(pyramid, level, box_at(pyramid, level, hints), evidence, request)

    def rough(self) -> tuple[MatteU8, int]:
        """Return a first matte, and at which level of the picture it lies."""
        level = size_within(self.pyramid, ROUGH_PIXELS)
        box = box_at(self.pyramid, level, self.request.hints)
        pixels = self.pyramid.levels[level]
        found = rough_matte(self.evidence, pixels_in(pixels, box), self._marks)
        return laid_in(found, box, pixels.shape), level

    def matte(self) -> tuple[MatteU8, int]:
        """Return the matte, and at which level of the picture it lies.

        Raises
        ------
        NoSubjectError
            Nothing stands out, and nobody said where to look.
        """
        pixels = self.pyramid.levels[self.level]
        found = matte_found(
            self.evidence,
            pixels_in(pixels, self.box),
            way=self.request.way,
            hints=self.request.hints,
            marks=self._marks,
        )
        return laid_in(found, self.box, pixels.shape), self.level

    @property
    def _marks(self) -> Marks:
        return marks_of(self.request.hints, self.box, 0.5**self.level)


def asked_for(networks: Networks, request: CutRequest) -> tuple[str, str]:
    """Return the names of the network that looks, and of the one that looks too.

    Raises
    ------
    NetworkMissingError
        There is none.
    """
    manifests = networks.manifests
    wanted = request.network or (LARGE if LARGE in manifests else LIGHT)
    if wanted not in manifests:
        raise NetworkMissingError(wanted)
    return wanted, LIGHT if LIGHT in manifests else wanted


def key_of(sha256: str, request: CutRequest, networks: Networks) -> str:
    """Return what a matte is found again by: all that it follows from.

    Raises
    ------
    NetworkMissingError
        There is no network to ask.
    """
    manifests = networks.manifests
    used = [manifests[name].sha256 for name in asked_for(networks, request)]
    stored = request.model_dump(mode="json", exclude={"network"})
    said = json.dumps([VERSION, sha256, used, stored], sort_keys=True)
    return hashlib.sha256(said.encode()).hexdigest()


def _look(networks: Networks, names: tuple[str, str]) -> Looking:
    """Return what looks at a picture; networks are loaded when they are needed."""
    main, light = names

    def look(rgb: ColorsU8, how: Look) -> MatteF32:
        network = networks.network(light if how is Look.LIGHT else main)
        manifest = network.manifest
        larger = manifest.larger_side if how is Look.LARGE else None
        return network.saliency(rgb, larger or manifest.side)

    return look


def _wider(
    whole: Evidence | None, pyramid: Pyramid, level: int, hints: Hints, look: Looking
) -> Callable[[], MatteF32] | None:
    """Return what gives the whole picture's opinion of a box; None where it is all."""
    if hints.around is None:
        return None
    box = box_at(pyramid, level, hints)

    def opinion() -> MatteF32:
        seen = seen_level(pyramid, level, NO_HINTS)
        known = whole or Evidence(pyramid.levels[seen], look)
        return opinion_in(known.opinion(Look.PLAIN), box, pyramid.levels[level].shape)

    return opinion
