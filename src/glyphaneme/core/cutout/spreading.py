"""Spreads opinions between pixels that are alike and near one another."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.cutout.values import f32, lab_of, resized, shrunk

if TYPE_CHECKING:
    from numpy.typing import NDArray
    from scipy.sparse import csr_array

    from glyphaneme.core.cutout.values import ColorsU8, MatteF32

    ValuesF64 = NDArray[np.float64]

LONGEST = 224
NEIGHBOURS = ((12, 6.0), (6, 40.0))
"""How many neighbours are looked for, and how much nearness in the picture counts."""
ALIKE = 6.0
MOST_STEPS = 80
NEAR_ENOUGH = 2e-4


class Graph(NamedTuple):
    """Which pixels of a small copy are alike; `links` is scaled from both sides."""

    shape: tuple[int, int]
    links: csr_array
    roots: ValuesF64
    """Square roots of what each pixel's links sum up to."""


def graph_of(rgb: ColorsU8) -> Graph:
    """Link each pixel of a small copy to those most like it, near by and further off.

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
    """
    from scipy.sparse import coo_array, diags_array
    from scipy.spatial import cKDTree

    small = shrunk(rgb, LONGEST)
    rows, columns = small.shape[:2]
    count = rows * columns
    lab = lab_of(small)
    around = cv2.GaussianBlur(lab, (0, 0), 2.0)
    places = np.indices((rows, columns), np.float32).reshape(2, -1).T / LONGEST
    ends: list[NDArray[np.int64]] = []
    others: list[NDArray[np.int64]] = []
    weights: list[ValuesF64] = []
    for wanted, nearness in NEIGHBOURS:
        number = min(wanted, count - 1)
        if number < 1:
            continue
        features = np.hstack(
            [lab.reshape(-1, 3), 0.5 * around.reshape(-1, 3), nearness * places]
        )
        tree = cKDTree(features, leafsize=24, balanced_tree=False, compact_nodes=False)
        # Also the nearest, which is the pixel itself, as a rule.
        distances, found = tree.query(features, number + 1, eps=0.5, workers=-1)
        ends.append(np.repeat(np.arange(count), number))
        others.append(found[:, 1:].ravel())
        weights.append(np.exp(-((distances[:, 1:].ravel() / ALIKE) ** 2)) + 1e-4)
    if not ends:
        ends, others = [np.zeros(1, np.int64)], [np.zeros(1, np.int64)]
        weights = [np.ones(1)]
    one_way = coo_array(
        (np.concatenate(weights), (np.concatenate(ends), np.concatenate(others))),
        shape=(count, count),
    ).tocsr()
    links = one_way + one_way.T
    roots = np.sqrt(np.asarray(links.sum(axis=1)).ravel())
    scaled = diags_array(1 / roots)
    return Graph((rows, columns), (scaled @ links @ scaled).tocsr(), roots)


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
