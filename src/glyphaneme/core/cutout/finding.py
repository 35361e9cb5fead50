"""Finds the subject of a picture: what networks see, what colours say, what hands say.

All of it happens in a box of the picture: the whole of it, or what a ring reaches.
"""

from __future__ import annotations

from enum import StrEnum
from typing import TYPE_CHECKING

import cv2
import numpy as np

from glyphaneme.core.cutout.carrying import Guides, carried_up
from glyphaneme.core.cutout.hints import NO_SUBJECT, corrected, gap_round, start_of
from glyphaneme.core.cutout.matting import refined
from glyphaneme.core.cutout.priors import agreed, sole
from glyphaneme.core.cutout.spreading import Graph, graph_of
from glyphaneme.core.cutout.values import f32, resized, shrunk
from glyphaneme.core.cutout.ways import (
    Opinions,
    all_but_color,
    in_one_block,
    separate_subjects,
    with_gaps,
)
from glyphaneme.core.errors import NoSubjectError
from glyphaneme.core.mask.matte import CutWay
from glyphaneme.core.place import Rect

if TYPE_CHECKING:
    from collections.abc import Callable, Hashable, Mapping

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.cutout.hints import Marks, Start
    from glyphaneme.core.cutout.priors import Prior
    from glyphaneme.core.cutout.values import ColorsU8, MatteF32, MatteU8
    from glyphaneme.core.mask.matte import Hints

SEEN_LONGEST = 960
WORK_LONGEST = 512
FINE_LONGEST = 768
GRAPH_BYTES = 40_000_000
GUIDES_BYTES = 40_000_000
"""Of a working copy and of a fine one; they are made when they are first needed."""
LEAST_SALIENCY = 0.5
MARGIN = 0.1
"""How much wider than a ring the box is in which it is looked, on each side."""
BEHIND = 128
CLEARLY = 0.01


class Look(StrEnum):
    """Which network looks, and how closely."""

    PLAIN = "plain"
    LARGE = "large"
    LIGHT = "light"


class Evidence:
    """All that is learned of a picture, or of a box of it, before a hand says more.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        The picture or the box.
    look : callable
        Takes (h, w, 3) uint8 and a Look; returns what a network sees, (s, s) float32,
        0..1, with no large value where there is no subject.
    wider : callable, optional
        For a box: returns what the plain look sees there in the whole picture,
        (h, w) float32, 0..1, of any size.
    """

    def __init__(
        self,
        pixels: PixelsU8,
        look: Callable[[ColorsU8, Look], MatteF32],
        wider: Callable[[], MatteF32] | None = None,
    ) -> None:
        self._seen = _colors(pixels, SEEN_LONGEST)
        self._look = look
        self._wider = wider
        self.fine = Guides(shrunk(self._seen, FINE_LONGEST))
        self.work = shrunk(self._seen, WORK_LONGEST)
        self._opinions: dict[Look, MatteF32] = {}
        self._graph: Graph | None = None
        self._coarse: dict[CutWay, MatteF32] = {}
        self._saliency = 0.0
        self._start: tuple[Hashable, Start] | None = None

    def start(self, begun: Hashable, prior: Callable[[], Prior], marks: Marks) -> Start:
        """Return what strokes begin with; the last is kept for the strokes to come.

        Parameters
        ----------
        begun : hashable
            All that it hangs on: the way, the subject and the ring.
        prior : callable
            Returns what was found without a hand.
        marks : Marks
            With the ring.

        Returns
        -------
        Start
            Of the graph's size.
        """
        if self._start is None or self._start[0] != begun:
            self._start = (begun, start_of(self.graph, prior(), marks))
        return self._start[1]

    def in_ring(self, marks: Marks) -> Prior:
        """Return what all looks and the backdrop's colours come to in a ring.

        The plain look counts twice; an opinion that sees nothing there does not.

        Parameters
        ----------
        marks : Marks
            With a ring.

        Returns
        -------
        Prior
            As large as the working copy.
        """
        first = self._fitting(marks)
        gaps = resized(self.coarse(CutWay.GAPS), first.shape)
        others = (self.opinion(Look.LARGE), self.opinion(Look.LIGHT), gaps)
        seen = [one for one in others if gap_round(one, marks) < NO_SUBJECT]
        return agreed([first, first, *seen])

    def _fitting(self, marks: Marks) -> MatteF32:
        """Return what the plain look sees in a ring: close up, or in the whole picture.

        The one is taken that fills the ring's bounds better; the whole picture's unless
        the other does so clearly.
        """
        close = self.opinion(Look.PLAIN)
        if self._wider is None:
            return close
        wide = resized(self._wider(), close.shape)
        gaps = [gap_round(one, marks) for one in (close, wide)]
        return close if gaps[0] < gaps[1] - CLEARLY else wide

    @property
    def nbytes(self) -> int:
        """About how much memory it takes at most, graph and guides and all."""
        return 6 * self._seen.nbytes + GRAPH_BYTES + GUIDES_BYTES

    @property
    def graph(self) -> Graph:
        """Which pixels are alike."""
        if self._graph is None:
            self._graph = graph_of(self.work)
        return self._graph

    def opinion(self, look: Look) -> MatteF32:
        """Return what a network sees, stretched to 0..1.

        Parameters
        ----------
        look : Look
            Which one.

        Returns
        -------
        (h, w) float32, 0..1
            As large as the working copy.
        """
        if look not in self._opinions:
            answer = self._look(self._seen, look)
            low, high = float(answer.min()), float(answer.max())
            if look is Look.PLAIN:
                self._saliency = high
            stretched = (answer - low) / max(high - low, 1e-6)
            shape = self.work.shape[:2]
            self._opinions[look] = f32(cv2.resize(stretched, shape[::-1]))
        return self._opinions[look]

    @property
    def saliency(self) -> float:
        """The most that the plain look finds: little where nothing stands out."""
        self.opinion(Look.PLAIN)
        return self._saliency

    @property
    def stands_out(self) -> bool:
        """Whether the plain look finds anything that may be a subject."""
        return self.saliency >= LEAST_SALIENCY

    @property
    def opinions(self) -> Opinions:
        """All of them."""
        return Opinions(*(self.opinion(look) for look in Look))

    def coarse(self, way: CutWay) -> MatteF32:
        """Return a small matte.

        Parameters
        ----------
        way : CutWay
            How the subject is told from its backdrop.

        Returns
        -------
        (h, w) float32, 0..1
            Of some size up to the working copy's.
        """
        if way not in self._coarse:
            self._coarse[way] = WAYS[way](self)
        return self._coarse[way]


def _itself(evidence: Evidence) -> MatteF32:
    return evidence.opinion(Look.PLAIN)


def _finer(evidence: Evidence) -> MatteF32:
    return evidence.opinion(Look.LARGE)


def _gaps(evidence: Evidence) -> MatteF32:
    return with_gaps(evidence.work, evidence.opinions, evidence.graph)


def _block(evidence: Evidence) -> MatteF32:
    gaps = resized(evidence.coarse(CutWay.GAPS), evidence.work.shape)
    return in_one_block(evidence.work, gaps)


def _color(evidence: Evidence) -> MatteF32:
    return all_but_color(evidence.work)


WAYS: Mapping[CutWay, Callable[[Evidence], MatteF32]] = {
    CutWay.ITSELF: _itself,
    CutWay.FINER: _finer,
    CutWay.GAPS: _gaps,
    CutWay.BLOCK: _block,
    CutWay.COLOR: _color,
}
"""The table of ways: a new one is a function of its own, a name and a line here."""


def box_of(hints: Hints, width: int, height: int) -> Rect[int]:
    """Return in which box of a picture it is looked.

    Parameters
    ----------
    hints : Hints
        Their ring bounds it.
    width, height : int
        Of the picture, in pixels.

    Returns
    -------
    Rect
        The whole picture where there is no ring, or one that lies outside.
    """
    whole = Rect(0, 0, width, height)
    if hints.around is None:
        return whole
    ring = np.array(hints.around)
    low, high = ring.min(0), ring.max(0)
    margin = MARGIN * (high - low) + 1
    left, top = np.clip(np.floor(low - margin), 0, (width, height)).astype(int)
    right, bottom = np.clip(np.ceil(high + margin), 0, (width, height)).astype(int)
    if right <= left or bottom <= top:
        return whole
    return Rect(int(left), int(top), int(right), int(bottom))


def rough_matte(evidence: Evidence, pixels: PixelsU8, marks: Marks) -> MatteU8:
    """Return what the plain look gives, quickly.

    Parameters
    ----------
    evidence : Evidence
        Of the same box of the picture.
    pixels : (H, W, 4) uint8
        The box at the size that is wanted.
    marks : Marks
        What is kept and dropped is so, but spreads nowhere.

    Returns
    -------
    (H, W) uint8, 0..255
        Edges follow colours, roughly.
    """
    plain = evidence.opinion(Look.PLAIN).copy()
    keep, drop = marks.at(plain.shape)
    plain[keep], plain[drop] = 1, 0
    return carried_up(pixels, evidence.fine.at(plain), plain)


def matte_found(
    evidence: Evidence, pixels: PixelsU8, *, way: CutWay, hints: Hints, marks: Marks
) -> MatteU8:
    """Return how much of each pixel is subject.

    Parameters
    ----------
    evidence : Evidence
        Of the same box of the picture.
    pixels : (H, W, 4) uint8
        The box at the size that is wanted.
    way : CutWay
        How the subject is told from its backdrop.
    hints : Hints
        What a person said.
    marks : Marks
        Their strokes and ring in the box; see `marks_of`.

    Returns
    -------
    (H, W) uint8, 0..255
        A new array.

    Raises
    ------
    NoSubjectError
        Nothing stands out, and nobody said where to look.
    """
    coarse = evidence.coarse(way)
    said = hints.around is not None or any(one.keeps for one in hints.strokes)
    looks = way is not CutWay.COLOR and not said
    if looks and not evidence.stands_out:
        raise NoSubjectError
    if hints.subject is not None:
        subjects = separate_subjects(coarse)
        if hints.subject >= max(len(subjects), 1):
            raise NoSubjectError
        coarse = subjects[hints.subject] if subjects else coarse
    if marks.any_said:
        in_ring = marks.ring is not None and hints.subject is None
        all_count = in_ring and way is CutWay.ITSELF
        begun = (way, hints.subject, hints.around)
        start = evidence.start(
            begun, lambda: evidence.in_ring(marks) if all_count else sole(coarse), marks
        )
        coarse = corrected(evidence.graph, start, marks)
    keep, drop = marks.at(evidence.fine.rgb.shape)
    fine = refined(evidence.fine, coarse, keep=keep, drop=drop)
    return carried_up(pixels, evidence.fine.at(fine), fine)


def subjects_in(evidence: Evidence) -> int:
    """Return how many subjects can be told apart.

    Parameters
    ----------
    evidence : Evidence
        Of a picture.

    Returns
    -------
    int
        0 where there is one, or none.
    """
    return len(separate_subjects(evidence.opinion(Look.PLAIN)))


def _colors(pixels: PixelsU8, longest: int) -> ColorsU8:
    """Return a small copy without alpha, see-through places on mid-grey."""
    rgb = pixels[..., :3]
    if int(pixels[..., 3].min()) == 255:
        return shrunk(np.ascontiguousarray(rgb), longest)
    alpha = pixels[..., 3:].astype(np.float32) / 255
    laid = (rgb * alpha + BEHIND * (1 - alpha) + 0.5).astype(np.uint8)
    return shrunk(laid, longest)
