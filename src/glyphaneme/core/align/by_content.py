"""Lining up by what pictures show: features, then patches, below a pixel."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import cv2
import numpy as np

from glyphaneme.core.align.fitting import Aligned, MapKind, fitted, mapped
from glyphaneme.core.errors import NotAlikeError

if TYPE_CHECKING:
    from collections.abc import Callable

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import MatrixF64, PixelsU8, PointsF64

    Light = NDArray[np.float32]

LOOK_LONGEST = 1000
"""Pixels of the longer side at which features are looked for."""
FINE_LONGEST = 2400
"""And at which patches are compared."""
MOST_FEATURES = 4000
DISTINCT = 0.8
"""A feature's nearest likeness must be nearer than this share of the second's (D. G.
Lowe, "Distinctive image features from scale-invariant keypoints", IJCV 60(2), 2004)."""
NEAR = 3.0
FEWEST_ALIKE = 12
PATCH = 64
MOST_PATCHES = 400
FEWEST_PATCHES = 12
WIDEST_SHIFT = 8.0
LEAST_RESPONSE = 0.12
ROUNDS = 3
SURE_SHARE = 0.25
LEAST_CERTAINTY = 0.35
SMALLEST_SCALE, LARGEST_SCALE = 0.1, 10.0


def aligned_by_content(
    moving: PixelsU8,
    fixed: PixelsU8,
    kind: MapKind = MapKind.SIMILAR,
    *,
    report: Callable[[float], None] = lambda _: None,
) -> Aligned:
    """Return how one picture lies over another that shows the same place.

    Features are matched in both, and the map on which most of them agree is taken.
    Then patches all over are compared by phase correlation of their local contrast,
    which a season or an exposure hardly changes, and the map is fitted to where they
    fit best, to a fraction of a pixel.

    Parameters
    ----------
    moving, fixed : (H, W, 4) uint8
        Straight RGBA.
    kind : MapKind
        What the map may do.
    report : callable
        Hears how much is done, 0..1.

    Returns
    -------
    Aligned
        Certain by the share of patches that agree.

    Raises
    ------
    NotAlikeError
        Too little agrees: they show different places.

    References
    ----------
    .. [1] D. Barath et al., "MAGSAC++, a fast, reliable and accurate robust estimator",
       CVPR 2020.
    .. [2] H. Foroosh, J. Zerubia, M. Berthod, "Extension of phase correlation to
       subpixel registration", IEEE Transactions on Image Processing 11(3), 2002.
    """
    first = _by_features(moving, fixed, kind)
    report(0.5)
    matrix, share, error = _refined(moving, fixed, first, kind, report)
    certainty = min(share / SURE_SHARE, 1.0)
    if certainty < LEAST_CERTAINTY:
        raise NotAlikeError("pictures")
    return Aligned(matrix, certainty=float(certainty), error=error)


def _by_features(moving: PixelsU8, fixed: PixelsU8, kind: MapKind) -> MatrixF64:
    """Return a map on which features agree, in the pictures' own pixels."""
    seen = [_seen(one, LOOK_LONGEST) for one in (moving, fixed)]
    finder = cv2.SIFT.create(MOST_FEATURES, contrastThreshold=0.02)
    found = [finder.detectAndCompute(_evened(light), None) for light, _ in seen]
    (points, marks), (others, other_marks) = found
    _require_enough(min(len(points), len(others)), FEWEST_ALIKE)
    # Square roots of shares compare better than the marks do (R. Arandjelović,
    # A. Zisserman, "Three things everyone should know to improve object retrieval",
    # CVPR 2012).
    roots = [
        np.sqrt(one / np.maximum(one.sum(axis=1, keepdims=True), 1e-6))
        for one in (marks, other_marks)
    ]
    pairs = cv2.BFMatcher(cv2.NORM_L2).knnMatch(roots[0], roots[1], k=2)
    alike = [
        one
        for one, second in (pair for pair in pairs if len(pair) == 2)
        if one.distance < DISTINCT * second.distance
    ]
    _require_enough(len(alike), FEWEST_ALIKE)
    scales = [scale for _, scale in seen]
    source = np.array([points[one.queryIdx].pt for one in alike]) / scales[0]
    target = np.array([others[one.trainIdx].pt for one in alike]) / scales[1]
    return _agreed(source, target, kind, NEAR / scales[1])


def _agreed(
    source: PointsF64, target: PointsF64, kind: MapKind, near: float
) -> MatrixF64:
    """Return the map on which most pairs agree."""
    # Neither is there where nothing agrees, whatever the types say.
    inside: Any
    if kind is MapKind.PROJECTIVE:
        _, inside = cv2.findHomography(source, target, cv2.USAC_MAGSAC, near)
    else:
        _, inside = cv2.estimateAffinePartial2D(
            source,
            target,
            method=cv2.RANSAC,
            ransacReprojThreshold=near,
            maxIters=10_000,
            confidence=0.999,
        )
    chosen = np.zeros(len(source), bool) if inside is None else inside.ravel() > 0
    _require_enough(chosen.sum(), FEWEST_ALIKE)
    fit = fitted(source[chosen], target[chosen], kind)
    scale = np.sqrt(abs(np.linalg.det(fit[:2, :2])))
    within = SMALLEST_SCALE < scale < LARGEST_SCALE
    _require_enough(int(within), 1)
    return fit


def _require_enough(count: int, least: int) -> None:
    """Require that so many agree.

    Raises
    ------
    NotAlikeError
        Fewer do.
    """
    if count < least:
        raise NotAlikeError("pictures")


def _refined(
    moving: PixelsU8,
    fixed: PixelsU8,
    first: MatrixF64,
    kind: MapKind,
    report: Callable[[float], None],
) -> tuple[MatrixF64, float, float]:
    """Return the map that patches agree on, their share, and what is left between."""
    (light, scale), (other, other_scale) = (
        _seen(one, FINE_LONGEST) for one in (moving, fixed)
    )
    near = _local(other)
    grid = _patches(near)
    matrix = first
    share, error = 0.0, 0.0
    for step in range(ROUNDS):
        to_other = _in_pixels(matrix, scale, other_scale)
        laid = cv2.warpPerspective(
            light,
            to_other,
            (other.shape[1], other.shape[0]),
            flags=cv2.INTER_AREA,
            borderMode=cv2.BORDER_REPLICATE,
        )
        inside = cv2.warpPerspective(
            np.full(light.shape, 255, np.uint8), to_other,
            (other.shape[1], other.shape[0]),
        )  # fmt: skip
        places = [at for at in grid if inside[_window(at)].min() == 255]
        _require_enough(len(places), FEWEST_PATCHES)
        moves, sure = _moved(_local(np.asarray(laid, np.float32)), near, places)
        agreeing, matrix, error = _settled(
            np.array(places, np.float64) + PATCH / 2,
            moves,
            sure,
            to_other,
            kind,
        )
        matrix = _in_own(matrix, scale, other_scale)
        share = agreeing / len(places)
        report(0.5 + 0.5 * (step + 1) / ROUNDS)
    return matrix, share, error / other_scale


def _settled(
    places: PointsF64,
    moves: PointsF64,
    sure: NDArray[np.bool_],
    to_other: MatrixF64,
    kind: MapKind,
) -> tuple[int, MatrixF64, float]:
    """Fit a map to patches that agree; return how many do, it, and what is left."""
    _require_enough(sure.sum(), FEWEST_PATCHES)
    target = places[sure] + moves[sure]
    source = mapped(np.asarray(np.linalg.inv(to_other), np.float64), places[sure])
    keep = np.ones(len(source), bool)
    matrix, left, limit = to_other, np.zeros(len(source)), 0.0
    for _ in range(6):
        matrix = fitted(source[keep], target[keep], kind)
        left = np.hypot(*(mapped(matrix, source) - target).T)
        limit = max(2.5 * float(np.median(left)), 0.3)
        keep = left < limit
        _require_enough(keep.sum(), FEWEST_PATCHES)
    error = float(np.sqrt(np.mean(left[keep] ** 2)))
    agreeing = int((left < max(limit, 1.0)).sum()) if error < WIDEST_SHIFT / 4 else 0
    return agreeing, matrix, error


def _moved(
    laid: Light, near: Light, places: list[tuple[int, int]]
) -> tuple[PointsF64, NDArray[np.bool_]]:
    """Return by how much each patch must move to fit, and whether that is plain."""
    window = cv2.createHanningWindow((PATCH, PATCH), cv2.CV_32F)
    moves, sure = [], []
    for at in places:
        there = _window(at)
        (x, y), response = cv2.phaseCorrelate(
            np.ascontiguousarray(laid[there]),
            np.ascontiguousarray(near[there]),
            window,
        )
        moves.append((x, y))
        sure.append(response > LEAST_RESPONSE and np.hypot(x, y) < WIDEST_SHIFT)
    return np.array(moves), np.array(sure)


def _patches(light: Light) -> list[tuple[int, int]]:
    """Return the upper left corners of patches that hold detail, spread all over."""
    rows, columns = light.shape
    step = max(int(np.sqrt(rows * columns / MOST_PATCHES)), PATCH // 2)
    grid = [
        (x, y)
        for y in range(0, rows - PATCH + 1, step)
        for x in range(0, columns - PATCH + 1, step)
    ]
    return [at for at in grid if float(light[_window(at)].std()) > 0.3]


def _window(at: tuple[int, int]) -> tuple[slice, slice]:
    x, y = at
    return slice(y, y + PATCH), slice(x, x + PATCH)


def _seen(pixels: PixelsU8, longest: int) -> tuple[Light, float]:
    """Return how light a picture is, at most so large, and its scale."""
    scale = min(1.0, longest / max(pixels.shape[:2]))
    light = cv2.cvtColor(pixels, cv2.COLOR_RGBA2GRAY)
    if scale < 1:
        size = [max(round(side * scale), 1) for side in light.shape[::-1]]
        light = cv2.resize(light, size, interpolation=cv2.INTER_AREA)
    return np.asarray(light, np.float32), scale


def _evened(light: Light) -> NDArray[np.uint8]:
    """Return levels 0..255 whose local contrast is even: exposures look alike."""
    even = cv2.createCLAHE(3.0, (8, 8)).apply(np.clip(light, 0, 255).astype(np.uint8))
    return np.asarray(even, np.uint8)


def _local(light: Light) -> Light:
    """Return how light each place is against those round it, in their spread."""
    wide = 8.0
    mean = cv2.GaussianBlur(light, (0, 0), wide)
    spread = cv2.GaussianBlur((light - mean) ** 2, (0, 0), wide)
    fine = cv2.GaussianBlur(light, (0, 0), 0.7)
    return np.asarray((fine - mean) / np.sqrt(spread + 4.0), np.float32)


def _in_pixels(matrix: MatrixF64, scale: float, other: float) -> MatrixF64:
    """Return a map between own positions as one between scaled pixels' middles."""
    before = np.array(
        [[1 / scale, 0, 0.5 / scale], [0, 1 / scale, 0.5 / scale], [0, 0, 1]]
    )
    after = np.array([[other, 0, -0.5], [0, other, -0.5], [0, 0, 1]])
    return np.asarray(after @ matrix @ before)


def _in_own(matrix: MatrixF64, scale: float, other: float) -> MatrixF64:
    """Undo `_in_pixels`."""
    before = np.array([[scale, 0, -0.5], [0, scale, -0.5], [0, 0, 1]])
    after = np.array(
        [[1 / other, 0, 0.5 / other], [0, 1 / other, 0.5 / other], [0, 0, 1]]
    )
    whole = after @ matrix @ before
    return np.asarray(whole / whole[2, 2])
