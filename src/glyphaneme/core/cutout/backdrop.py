"""What a picture says about its own backdrop, where opinions are sure of it."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.cutout.values import f32, lab_of, resized

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.cutout.values import ColorsU8, LabF32, Mark, MatteF32

    ValuesF32 = NDArray[np.float32]

SURE = (0.08, 0.85)
LEAST_BACKDROP = 0.02
LEAST_SUBJECT = 0.004
REACH = 0.006
CLOUD = 0.035
"""Standard deviations of neighbourhoods, as shares of the longer side."""
FAR_COUNTS = 0.02
DEGREE = 3
ROUNDS = 4
LEAST_KNOWN = 1e-3
MOST_SAMPLES = 6000
FEWEST_SAMPLES = 200
MOST_SIGMAS = 80.0


class Backdrop(NamedTuple):
    """How far each pixel's colour is from the backdrop's; (H, W) float32 each."""

    near: ValuesF32
    """Log of 1 plus the squared Mahalanobis distance to the colours round about."""
    wide: ValuesF32
    """The squared distance itself, to those of a three times wider neighbourhood."""
    surface: ValuesF32
    """Distance to a smooth surface of colour, in robust standard deviations."""


def backdrop_of(rgb: ColorsU8, least: MatteF32, most: MatteF32) -> Backdrop:
    """Learn the backdrop from where it is for sure, and compare every pixel to it.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
        A small copy of the picture.
    least, most : (H, W) float32, 0..1
        The lowest and the highest of several opinions.

    Returns
    -------
    Backdrop
        0 and more.

    References
    ----------
    .. [1] P. C. Mahalanobis, "On the generalised distance in statistics", 1936.
    """
    rows, columns = least.shape
    longest = max(rows, columns)
    lab = lab_of(rgb)
    sure, _ = sure_areas(least, most)
    half = (max(columns // 2, 1), max(rows // 2, 1))
    small = f32(cv2.resize(lab, half, interpolation=cv2.INTER_AREA))
    known = resized(f32(sure), half[::-1])
    sigma = max(CLOUD * longest / 2, 0.5)
    usual = _distance(small, *_cloud(small, known, sigma), 4.0)
    trimmed = f32(known / (1 + (usual / 9) ** 2))

    def _away(reach: float) -> ValuesF32:
        size = (columns, rows)
        mean, spread = _cloud(small, trimmed, reach)
        grown = [f32(cv2.resize(one, size)) for one in (mean, spread)]
        return _distance(lab, grown[0], grown[1], 3.0)

    near = cv2.GaussianBlur(np.log1p(_away(sigma)), (0, 0), REACH * longest)
    return Backdrop(
        near=f32(near),
        wide=_away(3 * sigma),
        surface=np.minimum(_surface_distance(_calmed(lab), sure), MOST_SIGMAS),
    )


def sure_areas(least: MatteF32, most: MatteF32) -> tuple[Mark, Mark]:
    """Return where all opinions agree on the backdrop, and where on the subject.

    Parameters
    ----------
    least, most : (H, W) float32, 0..1
        The lowest and the highest of several opinions.

    Returns
    -------
    (H, W) bool, (H, W) bool
        Never empty.
    """
    radius = max(1, round(REACH * max(least.shape)))
    side = 2 * radius + 1
    disk = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    behind = cv2.erode((most < SURE[0]).astype(np.uint8), disk) > 0
    inside = cv2.erode((least > SURE[1]).astype(np.uint8), disk) > 0
    if inside.mean() < LEAST_SUBJECT:
        inside = least >= min(SURE[1], float(np.quantile(least, 0.985)))
    if behind.mean() < LEAST_BACKDROP:
        behind = most <= float(np.quantile(most, 0.1))
    return np.asarray(behind), np.asarray(inside)


def _cloud(lab: LabF32, known: ValuesF32, sigma: float) -> tuple[ValuesF32, ValuesF32]:
    """Return mean and covariance of the known colours round each pixel.

    Where few are known near by, those further off count, and at last all.
    """
    if float(known.max()) < LEAST_KNOWN:
        known = np.ones_like(known)
    moments = np.dstack([lab, _products(lab), np.ones_like(lab[..., :1])])
    weighed = f32(moments * known[..., None])
    total = weighed.reshape(-1, 10).sum(0)
    everywhere = total / max(float(total[9]), 1e-6)
    near = _blurred(weighed, sigma)
    rows, columns = known.shape
    quarter = (max(columns // 4, 1), max(rows // 4, 1))
    smaller = [
        cv2.resize(one, quarter, interpolation=cv2.INTER_AREA)
        for one in cv2.split(weighed)
    ]
    blurred = _blurred(f32(cv2.merge(smaller)), sigma)
    far = f32(
        cv2.merge([cv2.resize(one, (columns, rows)) for one in cv2.split(blurred)])
    )
    summed = near + FAR_COUNTS * far + 1e-4 * everywhere
    means = f32(summed[..., :9] / summed[..., 9:])
    mean = means[..., :3]
    return mean, f32(means[..., 3:] - _products(mean))


def _products(colors: ValuesF32) -> ValuesF32:
    """Return the squares of three channels, and the products of each two."""
    one, two, three = (colors[..., at] for at in range(3))
    pairs = [one * one, two * two, three * three, one * two, one * three, two * three]
    return np.stack(pairs, -1)


def _blurred(planes: ValuesF32, sigma: float) -> ValuesF32:
    blurred = [
        cv2.GaussianBlur(one, (0, 0), sigma, borderType=cv2.BORDER_REFLECT)
        for one in cv2.split(planes)
    ]
    return f32(cv2.merge(blurred))


def _distance(
    lab: LabF32, mean: ValuesF32, spread: ValuesF32, regular: float
) -> ValuesF32:
    """Return the squared Mahalanobis distance, `regular` added to the variances."""
    ll, aa, bb = (spread[..., at] + regular for at in range(3))
    la, lb, ab = (spread[..., at] for at in range(3, 6))
    minors = (aa * bb - ab * ab, lb * ab - la * bb, la * ab - lb * aa)
    whole = np.maximum(ll * minors[0] + la * minors[1] + lb * minors[2], 1e-3)
    squares = _products(lab - mean)
    inverse = (minors[0], ll * bb - lb * lb, ll * aa - la * la)
    beside = (minors[1], minors[2], la * lb - ll * ab)
    found = sum(squares[..., at] * inverse[at] for at in range(3))
    found = found + 2 * sum(squares[..., 3 + at] * beside[at] for at in range(3))
    return f32(np.maximum(found / whole, 0))


def _calmed(lab: LabF32) -> LabF32:
    """Smooth colours, edges kept: a guided filter of the picture by itself."""
    side = (7, 7)
    mean = cv2.blur(lab, side)
    varied = np.maximum(cv2.blur(lab * lab, side) - mean * mean, 0)
    kept = varied.sum(-1, keepdims=True)
    kept = np.repeat(kept / (kept + 6.0), 3, 2)
    return f32(cv2.blur(kept, side) * lab + cv2.blur(mean * (1 - kept), side))


def _surface_distance(lab: LabF32, sure: Mark) -> ValuesF32:
    """Return how far colours are from a cubic surface through the sure backdrop.

    Fitted by least squares, weighed anew `ROUNDS` times so that what is not backdrop
    counts little.
    """
    rows, columns = sure.shape
    terms = _terms(rows, columns)
    places = np.flatnonzero(sure)
    if len(places) < FEWEST_SAMPLES:
        return np.zeros((rows, columns), np.float32)
    if len(places) > MOST_SAMPLES:
        picks = np.linspace(0, len(places) - 1, MOST_SAMPLES).astype(np.int64)
        places = places[picks]
    known = terms.reshape(-1, terms.shape[-1])[places]
    wanted = lab.reshape(-1, 3)[places]
    weights = np.ones(len(places), np.float32)
    steady = 1e-6 * len(places) * np.eye(known.shape[1])
    factors: NDArray[np.floating] = np.zeros((known.shape[1], 3))
    scale: NDArray[np.floating] = np.ones(3)
    for _ in range(ROUNDS):
        weighed = known * weights[:, None]
        factors = np.linalg.solve(weighed.T @ known + steady, weighed.T @ wanted)
        rest = wanted - known @ factors
        scale = 1.4826 * np.median(np.abs(rest), 0) + 0.25
        spread = ((rest / scale) ** 2).sum(1) / 3
        weights = (1 / (1 + (spread / 4) ** 2)).astype(np.float32)
    away = (lab - (terms @ factors).astype(np.float32)) / scale.astype(np.float32)
    return f32(np.sqrt((away * away).sum(-1)))


def _terms(rows: int, columns: int) -> ValuesF32:
    """Return x^i y^j up to the third degree, for x and y from -1 to 1."""
    x = np.linspace(-1, 1, columns, dtype=np.float32)[None, :]
    y = np.linspace(-1, 1, rows, dtype=np.float32)[:, None]
    powers = [x**i * y**j for i in range(DEGREE + 1) for j in range(DEGREE + 1 - i)]
    return np.stack(powers, -1)
