"""What a hand says of where the subject is, as marks on a small copy."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.cutout.priors import Prior
from glyphaneme.core.cutout.spreading import spread
from glyphaneme.core.cutout.values import f32, resized
from glyphaneme.core.cutout.ways import harder

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.cutout.spreading import Graph
    from glyphaneme.core.cutout.values import Mark, MatteF32
    from glyphaneme.core.mask.matte import Hints
    from glyphaneme.core.place import Rect

HELD = 50.0
SEEN_BEYOND = 1e-5
"""How much less a ring's outside is held to be no subject where one is seen there."""
SEEN_ROUND = 0.03
"""How wide an area counts with what is seen in it there, as a share of the picture."""
SETTLED = 0.014
"""How firmly what a ring alone gives is believed where no stroke is near."""
REACH = 0.08
"""How far a stroke counts as near, as a share of the picture's longer side."""
SHARPENED = 5.0
THRESHOLDS = np.linspace(0.1, 0.9, 41)
STEEP = 20.0
"""How fast a value counts as beyond a threshold."""
HALF_KEPT = 8.0
"""How many strokes it takes to move the threshold from a half to an end."""
BINS = 64
LOOSE = 0.04
FEWEST_PIXELS = 20
NO_SUBJECT = 9.0
SHIFT = 4
"""Positions are drawn in sixteenths of a pixel."""


class Marks(NamedTuple):
    """Strokes and a ring in a box of a picture; positions are 0..1 of the box."""

    keep: tuple[tuple[float, np.ndarray], ...]
    """Thickness, as a share of the box's width, and points of each stroke."""
    drop: tuple[tuple[float, np.ndarray], ...]
    ring: np.ndarray | None

    @property
    def any_said(self) -> bool:
        """Whether anything is kept, dropped or ringed."""
        return bool(self.keep or self.drop) or self.ring is not None

    def outside(self, shape: tuple[int, ...]) -> Mark:
        """Return what lies outside the ring, as pixels.

        Parameters
        ----------
        shape : tuple of int
            Rows and columns, first.

        Returns
        -------
        (H, W) bool
            Nothing where there is no ring.
        """
        inside = np.ones(shape[:2], np.uint8)
        if self.ring is not None:
            inside[:] = 0
            corners = _scaled(self.ring, *shape[:2])
            cv2.fillPoly(inside, [corners], 1, shift=SHIFT)
        return np.asarray(inside == 0)

    def at(self, shape: tuple[int, ...]) -> tuple[Mark, Mark]:
        """Return what is kept and what is dropped, as pixels.

        Parameters
        ----------
        shape : tuple of int
            Rows and columns, first.

        Returns
        -------
        (H, W) bool, (H, W) bool
            Where strokes of both lie, neither counts; outside a ring all is dropped.
        """
        rows, columns = shape[:2]
        keep = _drawn(self.keep, rows, columns)
        drop = _drawn(self.drop, rows, columns)
        both = keep & drop
        keep, drop = keep & ~both, drop & ~both
        outside = self.outside(shape)
        return keep & ~outside, drop | outside


def marks_of(hints: Hints, box: Rect[int], share: float) -> Marks:
    """Return what was said, as positions in a box.

    Parameters
    ----------
    hints : Hints
        In the picture's own pixels.
    box : Rect
        Of a smaller copy of it.
    share : float
        How many of the copy's pixels lie on one of the picture, along a side.

    Returns
    -------
    Marks
        Nothing for a ring that would leave nothing over.
    """
    origin, size = np.array(box[:2]), np.array([box.width, box.height])

    def _placed(points: Sequence[tuple[float, float]]) -> np.ndarray:
        at = np.array(points, np.float64) * share
        return np.asarray((at - origin) / size)

    strokes = [
        (one.keeps, (one.size * share / box.width, _placed(one.points)))
        for one in hints.strokes
    ]
    ring = None if hints.around is None else _placed(hints.around)
    if ring is not None and (ring.max(0) <= 0).any() | (ring.min(0) >= 1).any():
        ring = None
    return Marks(
        keep=tuple(stroke for keeps, stroke in strokes if keeps),
        drop=tuple(stroke for keeps, stroke in strokes if not keeps),
        ring=ring,
    )


def gap_round(matte: MatteF32, marks: Marks) -> float:
    """Return how far a subject stays within the bounds of a ring.

    Parameters
    ----------
    matte : (h, w) float32, 0..1
        Of the box that the marks lie in.
    marks : Marks
        Where they have a ring, what lies outside does not count.

    Returns
    -------
    float
        The gaps at all four sides as shares of the bounds' sides, as far as they are
        larger than a loose ring leaves; large where there is no subject.
    """
    rows, columns = matte.shape
    inside = matte > 0.5
    low, high = np.zeros(2), np.array([columns, rows], np.float64)
    if marks.ring is not None:
        inside = inside & ~marks.outside(matte.shape)
        size = high.copy()
        low = np.clip(marks.ring.min(0), 0, 1) * size
        high = np.clip(marks.ring.max(0), 0, 1) * size
    if inside.sum() < FEWEST_PIXELS:
        return NO_SUBJECT
    y, x = np.nonzero(inside)
    first = np.array([x.min(), y.min()])
    last = np.array([x.max(), y.max()]) + 1
    gaps = np.concatenate([first - low, high - last])
    shares = gaps / np.maximum(np.tile(high - low, 2), 1)
    return float(np.maximum(shares - LOOSE, 0).sum())


class Start(NamedTuple):
    """What strokes begin with, in a ring or without one."""

    prior: Prior
    settled: MatteF32
    """The prior spread to what is alike, not yet hardened."""


def start_of(graph: Graph, prior: Prior, marks: Marks) -> Start:
    """Return what strokes begin with; it is the same for all of them.

    Outside a ring there is no subject. What was taken for one there is another one: it
    says little of what is inside.

    Parameters
    ----------
    graph : Graph
        Of the picture.
    prior : Prior
        What was found without a hand.
    marks : Marks
        Their strokes do not count yet.

    Returns
    -------
    Start
        Of the graph's size.
    """
    matte, belief = (resized(one, graph.shape) for one in prior)
    outside = marks.outside(graph.shape)
    # A network's edges are soft: what lies along them there belongs to a subject, too.
    side = 2 * max(1, round(SEEN_ROUND / 2 * max(graph.shape))) + 1
    disk = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    held = HELD * np.power(SEEN_BEYOND, cv2.dilate(matte, disk))
    bounded = Prior(
        f32(np.where(outside, 0, matte)), f32(np.where(outside, held, belief))
    )
    return Start(bounded, spread(graph, *bounded))


def corrected(graph: Graph, start: Start, marks: Marks) -> MatteF32:
    """Return a matte with what was said in it, spread to what is alike.

    It always begins with the same start and all that was said, so that the order of
    strokes changes nothing. Far from strokes it stays near what the ring alone gives.

    Parameters
    ----------
    graph : Graph
        Of the picture.
    start : Start
        Of the same ring.
    marks : Marks
        All that was said.

    Returns
    -------
    (h, w) float32, 0..1
        Of the graph's size.
    """
    keep, drop = marks.at(graph.shape)
    outside = marks.outside(graph.shape)
    (matte, belief), settled = start
    found = settled
    strokes = (keep | drop) & ~outside
    if strokes.any():
        threshold = _threshold(settled, marks, outside)
        matte, settled = (_parted(one, threshold) for one in (matte, settled))
        # What lies outside is held to as before, near strokes or far.
        near = np.maximum(_nearness(strokes), outside)
        opinion = f32(settled + near * (matte - settled))
        held = f32(SETTLED + near * (belief - SETTLED))
        opinion[strokes] = keep[strokes]
        held[strokes] = HELD
        found = spread(graph, opinion, held)
    found = harder(found, SHARPENED)
    found[keep], found[drop] = 1, 0
    return found


def _threshold(settled: MatteF32, marks: Marks, outside: Mark) -> float:
    """Return above which value pixels are subject, by most of the strokes.

    All strokes count alike, large or small. It stays a half where they contradict one
    another, or where they are few.
    """
    middles = (np.arange(BINS) + 0.5) / BINS
    beyond = 1 / (1 + np.exp(STEEP * (THRESHOLDS - middles[:, None])))
    wrong = HALF_KEPT * np.square(2 * THRESHOLDS - 1)
    bins = np.minimum((settled * BINS).astype(np.int64), BINS - 1)
    inside = ~outside
    for keeps, strokes in ((True, marks.keep), (False, marks.drop)):
        for stroke in strokes:
            under = bins[_drawn((stroke,), *bins.shape) & inside]
            if under.size:
                above = np.bincount(under, minlength=BINS) @ beyond / under.size
                wrong = wrong + (1 - above if keeps else above)
    return float(THRESHOLDS[np.argmin(wrong)])


def _parted(matte: MatteF32, threshold: float) -> MatteF32:
    """Return a matte with a threshold at a half, stretched evenly on both sides."""
    return f32(np.interp(matte, (0, threshold, 1), (0, 0.5, 1)))


def _nearness(strokes: Mark) -> MatteF32:
    """Return how near each pixel is to a stroke: 1 on it, falling to 0."""
    away = cv2.distanceTransform((~strokes).astype(np.uint8), cv2.DIST_L2, 3)
    return f32(np.exp(-np.square(away / (REACH * max(strokes.shape)))))


def _drawn(
    strokes: tuple[tuple[float, np.ndarray], ...], rows: int, columns: int
) -> Mark:
    drawn = np.zeros((rows, columns), np.uint8)
    for thickness, points in strokes:
        wide = min(max(round(thickness * columns), 1), 255)
        placed = _scaled(points, rows, columns)
        if len(placed) == 1:
            placed = np.repeat(placed, 2, 0)
        cv2.polylines(
            drawn, [placed], isClosed=False, color=1, thickness=wide, shift=SHIFT
        )
    return np.asarray(drawn > 0)


def _scaled(points: np.ndarray, rows: int, columns: int) -> np.ndarray:
    """Return positions in sixteenths of pixels, as drawing takes them."""
    size = np.array([columns, rows])
    placed = (points * size - 0.5) * (1 << SHIFT)
    limit = float(2**24)
    return np.asarray(np.clip(placed, -limit, limit).round(), np.int32)
