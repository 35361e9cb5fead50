"""Different mattes of one picture, to pick from by eye."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.cutout.backdrop import backdrop_of
from glyphaneme.core.cutout.spreading import spread
from glyphaneme.core.cutout.values import f32, resized

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.cutout.backdrop import Backdrop
    from glyphaneme.core.cutout.spreading import Graph
    from glyphaneme.core.cutout.values import ColorsU8, MatteF32

BLOCK_LONGEST = 320
BLOCK_BAND = 9
BLOCK_ROUNDS = 3
FEWEST_PIXELS = 60
KEPT_BELIEF = 0.01
SEED = 1


class Opinions(NamedTuple):
    """What networks see in a small copy; (H, W) float32, 0..1 each."""

    plain: MatteF32
    large: MatteF32
    """The same network, at a larger size."""
    light: MatteF32
    """A smaller network."""

    @property
    def average(self) -> MatteF32:
        """Their average."""
        return f32(np.mean(np.stack(self), axis=0))


def harder(values: MatteF32, factor: float) -> MatteF32:
    """Push a matte away from a half.

    Parameters
    ----------
    values : (H, W) float32, 0..1
        It stays unchanged.
    factor : float
        The slope at a half.

    Returns
    -------
    (H, W) float32, 0..1
        A new array.

    Examples
    --------
    >>> harder(np.array([[0.4, 0.5, 0.9]], np.float32), 2).round(1).tolist()
    [[0.30000001192092896, 0.5, 1.0]]
    """
    return f32(np.clip((values - 0.5) * factor + 0.5, 0, 1))


def with_gaps(rgb: ColorsU8, opinions: Opinions, graph: Graph) -> MatteF32:
    """Return a matte that the backdrop's own colours calibrate.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        A small copy.
    opinions : Opinions
        Of the same size.
    graph : Graph
        Of the same picture.

    Returns
    -------
    (h, w) float32, 0..1
        Of the graph's size.
    """
    backdrop = backdrop_of(
        rgb,
        np.minimum(opinions.plain, opinions.large),
        np.maximum(opinions.plain, opinions.large),
    )
    mean = opinions.average
    middle = np.median(np.stack(opinions), axis=0)
    outside = (np.maximum(mean, middle) < 0.3).astype(np.uint8)
    longest = max(mean.shape)
    # Where all is outside there is no distance to anything.
    away = np.minimum(cv2.distanceTransform(outside, cv2.DIST_L2, 3), longest) / longest
    far = (away > 0.08) & (mean < 0.15)
    if far.mean() < 0.05:
        far = mean <= np.quantile(mean, 0.15)
    evidence = _evidence(backdrop, far)
    base = harder(mean, 2)
    inside = base > 0.5
    share = float((evidence[inside] > 0.6).mean()) if inside.any() else 0.0
    in_trust = np.clip((share - 0.2) / 0.3, 0, 1)
    out_trust = np.clip(1 - float((evidence[far] > 0.5).mean()) / 0.06, 0, 1)
    beyond = evidence * np.exp(-((away / 0.10) ** 2)) * out_trust
    opened = base * (1 - in_trust) + in_trust * base * evidence
    found = np.where(inside, opened, np.maximum(base, beyond)).astype(np.float32)
    belief = np.full(found.shape, KEPT_BELIEF, np.float32)
    return harder(spread(graph, found, belief), 3)


def _evidence(backdrop: Backdrop, far: np.ndarray) -> MatteF32:
    """Return how little each pixel looks like the far backdrop, 0..1.

    The zero of each log distance is what 97 % of the far backdrop stay below.
    """
    logs = []
    for distance, least in ((backdrop.surface, 2.0), (np.sqrt(backdrop.wide), 1.5)):
        smooth = cv2.blur(distance, (3, 3))
        usual = max(float(np.quantile(smooth[far], 0.97)), least)
        logs.append(np.log((smooth + 0.3) / (usual + 0.3)))
    return f32(1 / (1 + np.exp(-4 * np.mean(logs, 0))))


def in_one_block(rgb: ColorsU8, opinion: MatteF32) -> MatteF32:
    """Return a hard matte: colour mixtures of inside and outside, cut where cheapest.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        A small copy.
    opinion : (H, W) float32, 0..1
        What it begins with; far outside it nothing is found.

    Returns
    -------
    (H, W) float32, 0..1
        The opinion itself where there is too little inside or outside.

    References
    ----------
    .. [1] C. Rother, V. Kolmogorov, A. Blake, "GrabCut: Interactive Foreground
       Extraction using Iterated Graph Cuts", SIGGRAPH 2004.
    """
    rows, columns = opinion.shape
    scale = min(1.0, BLOCK_LONGEST / max(rows, columns))
    shape = (max(round(rows * scale), 1), max(round(columns * scale), 1))
    small = resized(opinion, shape)
    image = cv2.resize(rgb, shape[::-1], interpolation=cv2.INTER_AREA)
    marks = np.where(small > 0.5, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
    square = np.ones((BLOCK_BAND, BLOCK_BAND), np.uint8)
    marks[cv2.dilate((small > 0.1).astype(np.uint8), square) == 0] = cv2.GC_BGD
    inside = int((marks == cv2.GC_PR_FGD).sum())
    if inside < FEWEST_PIXELS or marks.size - inside < FEWEST_PIXELS:
        return opinion
    cv2.setRNGSeed(SEED)
    model = np.zeros((1, 65))
    unused = (0, 0, 1, 1)
    begun = cv2.GC_INIT_WITH_MASK
    cv2.grabCut(image, marks, unused, model, model.copy(), BLOCK_ROUNDS, begun)
    return resized((marks & 1).astype(np.float32), opinion.shape)


def all_but_color(rgb: ColorsU8) -> MatteF32:
    """Return what does not have the colours that the picture's frame has.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        A small copy.

    Returns
    -------
    (H, W) float32, 0..1
        The frame counts as backdrop, wherever a subject does not cross it.
    """
    rows, columns = rgb.shape[:2]
    edge = max(1, round(0.02 * max(rows, columns)))
    frame = np.ones((rows, columns), np.float32)
    frame[edge : rows - edge, edge : columns - edge] = 0
    backdrop = backdrop_of(rgb, 1 - frame, 1 - frame)
    smooth = cv2.blur(backdrop.surface, (3, 3))
    usual = max(float(np.quantile(smooth[frame > 0], 0.9)), 2.0)
    found = 1 / (1 + np.exp(-4 * np.log((smooth + 0.3) / (1.5 * usual + 0.3))))
    return harder(found.astype(np.float32), 2)


def separate_subjects(matte: MatteF32, most: int = 4) -> Sequence[MatteF32]:
    """Return the subjects of a matte, each for itself, largest first.

    Parameters
    ----------
    matte : (H, W) float32, 0..1
        Subjects that touch are one.
    most : int
        How many are told apart.

    Returns
    -------
    sequence of (H, W) float32
        None where there is one subject alone. What is soft belongs to the nearest.
    """
    body = (matte > 0.5).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(body, connectivity=8)
    sizes = stats[1:, cv2.CC_STAT_AREA]
    if count < 2:
        return ()
    order = np.argsort(-sizes)[:most]
    chosen = [int(at) + 1 for at in order if sizes[at] >= 0.05 * sizes.max()]
    if len(chosen) < 2:
        return ()
    distances = np.stack(
        [
            cv2.distanceTransform((labels != label).astype(np.uint8), cv2.DIST_L2, 3)
            for label in chosen
        ]
    )
    nearest = distances.argmin(0)
    return [np.where(nearest == at, matte, 0) for at in range(len(chosen))]
