"""Spreads opinions between pixels that are alike and near one another."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.cutout.values import f32, lab_of, resized, shrunk

if TYPE_CHECKING:
    from collections.abc import Iterator

    from numpy.typing import NDArray
    from scipy.sparse import csr_array

    from glyphaneme.core.cutout.values import ColorsU8, MatteF32

    ValuesF32 = NDArray[np.float32]
    ValuesF64 = NDArray[np.float64]

LONGEST = 288
NEIGHBOURS = 8
"""How many of the pixels most like each one it is linked to."""
NEARNESS = 12.0
"""How much the whole length of the picture counts, beside its colours' `VARIED`."""
BESIDE = ((0, 1), (1, -1), (1, 0), (1, 1))
"""Rows and columns to four of the eight pixels round each one; it is theirs, too."""
VARIED = 60.0
"""Standard deviation of all colours, after they are stretched to it."""
LEAST_VARIED = 0.5
"""In L*a*b*: what varies less is of one colour."""
AROUND = 2.0
"""Standard deviation of what is averaged round about, in pixels."""
ALIKE = 6.0
LEAST_LINK = 1e-4
MOST_STEPS = 80
NEAR_ENOUGH = 2e-4


class Graph(NamedTuple):
    """Which pixels of a small copy are alike; `links` is scaled from both sides."""

    shape: tuple[int, int]
    links: csr_array
    roots: ValuesF64
    """Square roots of what each pixel's links sum up to."""


def graph_of(rgb: ColorsU8) -> Graph:
    """Link each pixel of a small copy to those most like it, and to those beside it.

    Colours are stretched until they vary alike in every picture, so that what differs
    little in a pale or a dark one counts as much as what differs more in another.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        The picture, of any size.

    Returns
    -------
    Graph
        Of a copy with its longer side `LONGEST`, or smaller.

    References
    ----------
    .. [1] Q. Chen, D. Li, C.-K. Tang, "KNN Matting", IEEE TPAMI 35(9), 2013, section 3.
    .. [2] L. Grady, "Random Walks for Image Segmentation", IEEE TPAMI 28(11), 2006,
       section 3.1: links of pixels that lie side by side.
    """
    from scipy.sparse import coo_array, diags_array

    looks = _looks(shrunk(rgb, LONGEST))
    shape = looks.shape[:2]
    count = looks[..., 0].size
    found = [*_most_alike(looks), *_side_by_side(looks)]
    if count == 1:
        itself = np.zeros(1, np.int32)
        found.append(Links(itself, itself, np.ones(1)))
    ends, others, weights = (np.concatenate(each) for each in zip(*found, strict=True))
    one_way = coo_array((weights, (ends, others)), shape=(count, count)).tocsr()
    links = one_way + one_way.T
    roots = np.sqrt(np.asarray(links.sum(axis=1)).ravel())
    scaled = diags_array(1 / roots)
    return Graph((shape[0], shape[1]), (scaled @ links @ scaled).tocsr(), roots)


class Links(NamedTuple):
    """Pairs of pixels, each by its place in reading order, and what they are worth."""

    ends: NDArray[np.int32]
    others: NDArray[np.int32]
    weights: ValuesF64


def _looks(rgb: ColorsU8) -> ValuesF32:
    """Return what pixels look like, (h, w, 6): their colour, and that round about."""
    lab = lab_of(rgb)
    varied = float(np.sqrt(lab.var((0, 1)).sum()))
    lab = f32(lab * (VARIED / max(varied, LEAST_VARIED)))
    return f32(np.dstack([lab, cv2.GaussianBlur(lab, (0, 0), AROUND) / 2]))


def _most_alike(looks: ValuesF32) -> Iterator[Links]:
    """Link each pixel to those that look most like it, the nearer the rather."""
    from scipy.spatial import cKDTree

    rows, columns, _ = looks.shape
    count = rows * columns
    number = min(NEIGHBOURS, count - 1)
    if number < 1:
        return
    places = np.indices((rows, columns), np.float32).reshape(2, -1).T / LONGEST
    features = np.hstack([looks.reshape(count, -1), NEARNESS * places])
    tree = cKDTree(features, leafsize=24, balanced_tree=False, compact_nodes=False)
    # Also the nearest, which is the pixel itself, as a rule.
    distances, found = tree.query(features, number + 1, eps=1.0, workers=-1)
    ends = np.repeat(np.arange(count, dtype=np.int32), number)
    others = found[:, 1:].ravel().astype(np.int32)
    yield Links(ends, others, _likeness(np.square(distances[:, 1:].ravel())))


def _side_by_side(looks: ValuesF32) -> Iterator[Links]:
    """Link each pixel to the eight round it, each as firmly as two that find another.

    Among those that look most like a pixel there need be none beside it.
    """
    rows, columns, _ = looks.shape
    numbers = np.arange(rows * columns, dtype=np.int32).reshape(rows, columns)
    for down, aside in BESIDE:
        here = (slice(rows - down), slice(max(-aside, 0), columns - max(aside, 0)))
        there = (slice(down, rows), slice(max(aside, 0), columns - max(-aside, 0)))
        apart = np.square(looks[here] - looks[there]).sum(-1).ravel()
        weights = 2 * _likeness(apart.astype(np.float64))
        yield Links(numbers[here].ravel(), numbers[there].ravel(), weights)


def _likeness(squares: ValuesF64) -> ValuesF64:
    """Return what a link is worth, by the square of how far two pixels differ."""
    return np.asarray(np.exp(-squares / ALIKE**2) + LEAST_LINK)


def spread(graph: Graph, opinion: MatteF32, belief: MatteF32) -> MatteF32:
    """Return an opinion, evened out between pixels that are linked.

    It minimises a'(I - N)a + sum of belief (a - opinion)², with N the scaled links.

    Parameters
    ----------
    graph : Graph
        Which pixels are linked.
    opinion : (H, W) float32, 0..1
        Of any size.
    belief : (H, W) float32, >= 0
        How firmly the opinion is held at each pixel.

    Returns
    -------
    (h, w) float32, 0..1
        Of the graph's size.

    References
    ----------
    .. [1] D. Zhou et al., "Learning with Local and Global Consistency", NIPS 2003.
    """
    from scipy.sparse import diags_array
    from scipy.sparse.linalg import LinearOperator, cg

    held = np.maximum(resized(belief, graph.shape).ravel().astype(np.float64), 1e-5)
    start = resized(opinion, graph.shape).ravel().astype(np.float64) * graph.roots
    wanted = held * start
    diagonal = 1 + held
    count = len(start)
    system = LinearOperator(
        (count, count), matvec=lambda one: diagonal * one - graph.links @ one
    )
    found, _ = cg(
        system,
        wanted,
        x0=start,
        rtol=NEAR_ENOUGH,
        maxiter=MOST_STEPS,
        M=diags_array(1 / diagonal),
    )
    even = np.asarray(found / graph.roots).reshape(graph.shape)
    return f32(np.clip(even, 0, 1))
