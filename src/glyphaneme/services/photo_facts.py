"""What photos tell a plan: measured of small copies of them, and of their mattes."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.plans import FoundCut, PhotoFacts
from glyphaneme.core.plans.measuring import (
    BLANK_LONGEST,
    LONGEST,
    blank_place,
    looked_at,
    subject_of,
)
from glyphaneme.core.values import with_fields
from glyphaneme.core.weighed import WeighedCache

if TYPE_CHECKING:
    from collections.abc import Callable

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.cutout import MatteU8
    from glyphaneme.core.place import Pyramid
    from glyphaneme.core.plans import Subject
    from glyphaneme.core.plans.completing import AskedPhoto
    from glyphaneme.core.plans.facts import Spot
    from glyphaneme.core.plans.measuring import Look

    Blank = tuple[Spot, Spot, Spot, Spot] | None

KEPT = 2048
"""Of each; none takes a kilobyte."""


class Photo(NamedTuple):
    """A photo that is put into a plan."""

    picture: str
    sha256: str
    name: str
    pyramid: Pyramid


class Glances:
    """What was measured of photos, by their files; one is measured once."""

    def __init__(self) -> None:
        self._looks: WeighedCache[str, Look] = WeighedCache(KEPT)
        self._blanks: WeighedCache[str, tuple[Blank]] = WeighedCache(KEPT)
        self._subjects: WeighedCache[tuple[str, str, int], tuple[Subject | None]] = (
            WeighedCache(KEPT)
        )

    def look(self, photo: Photo) -> Look:
        """Return what a glance at a photo tells."""
        found = self._looks.get(photo.sha256)
        return found or self._looks.put(photo.sha256, _glance_at(photo.pyramid))

    def blank(self, photo: Photo) -> Blank:
        """Return the corners of a photo's blank place."""
        key = photo.sha256
        known = self._blanks.get(key)
        return (known or self._blanks.put(key, (_blank_in(photo.pyramid),)))[0]

    def subject(
        self, photo: Photo, cut: FoundCut, read: Callable[[], MatteU8]
    ) -> Subject | None:
        """Return the subject that a photo's matte shows; `read` reads that."""
        key = (photo.sha256, cut.matte, cut.level)
        known = self._subjects.get(key)
        if known is None:
            known = self._subjects.put(key, (_subject_in(read(), photo.pyramid),))
        return known[0]

    def let_go(self) -> None:
        """Keep nothing."""
        for kept in (self._looks, self._blanks, self._subjects):
            kept.clear()


def facts_of(
    photo: Photo,
    asked: AskedPhoto,
    glances: Glances,
    cut: tuple[FoundCut, Callable[[], MatteU8]] | None,
) -> PhotoFacts:
    """Return what a plan asks of a photo.

    `cut` is the matte that was found of it, and what reads that.
    """
    wide, high = photo.pyramid.width, photo.pyramid.height
    look = glances.look(photo)
    facts = PhotoFacts(
        picture=photo.picture,
        sha256=photo.sha256,
        name=photo.name,
        width=wide,
        height=high,
        subject=look.subject,
        is_cut=look.is_cut,
        tilt=look.tilt,
        colors=look.colors,
        blank=glances.blank(photo) if asked.blank else None,
    )
    if cut is None or look.is_cut:
        return facts
    found, read = cut
    subject = glances.subject(photo, found, read) or look.subject
    is_found = subject and with_fields(subject, is_found=True)
    return with_fields(facts, subject=is_found, cut=found)


def _glance_at(pyramid: Pyramid) -> Look:
    """Return what a glance at a photo tells."""
    small = _level(pyramid, LONGEST)
    return looked_at(small, width=pyramid.width, height=pyramid.height)


def _blank_in(pyramid: Pyramid) -> Blank:
    """Return the corners of a photo's blank four-sided place."""
    small = _level(pyramid, BLANK_LONGEST)
    return blank_place(small, width=pyramid.width, height=pyramid.height)


def _subject_in(matte: MatteU8, pyramid: Pyramid) -> Subject | None:
    """Return the subject that a matte shows."""
    return subject_of(matte, pyramid.width, pyramid.height)


def _level(pyramid: Pyramid, longest: int) -> PixelsU8:
    """Return the smallest copy that is at least so long."""
    large = [one for one in pyramid.levels if max(one.shape[:2]) >= longest]
    return large[-1] if large else pyramid.levels[0]
