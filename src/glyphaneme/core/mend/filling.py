"""Fills small holes in a photo from what lies around them, structure and grain."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

import cv2
import numpy as np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Image = NDArray[np.float32]
    Marks = NDArray[np.bool_]
    Places = tuple[NDArray[np.intp], NDArray[np.intp]]

REACH = 48
"""How far away, in pixels, a copy is looked for."""
FARTHEST = 144
"""How far where nothing nearer is whole."""
RIM = 7
"""How wide a ring of known pixels tells how well a copy fits."""
TILE = 32
"""So much of a hole is filled at once, along a side."""
KEPT = 24
"""Of so many fitting copies the mean is taken."""
NEAREST = 3
"""Pixels: what lies nearer is the hole's own surroundings."""
HEAT = 1.4
FAR_AWAY = 0.002
"""How much worse a copy counts for each pixel of its distance."""
QUIET = 120.0
"""Squared levels: rings with less variance are flat, and need no copies."""
FINE_SIGMA = 0.6
GRAIN_SIGMA = 1.2
GRAIN_LIMIT = 3.0
MOST_GRAIN = 3.0
FROM_MEDIAN = 2.2
"""A Gaussian's variance over its squared median deviation: edges do not count."""
WORST = np.float32(1e30)
NOT_ASKED = np.float32(-1)
EVERYWHERE = (slice(None), slice(None))


def filled(image: Image, hole: Marks, wanted: Marks | None = None) -> Image:
    """Fill a hole from what lies around it.

    Tile by tile, that with most known surroundings first, the places nearby are found
    whose rings fit best. Their pixels are shifted to meet the ring all around, each
    by the ring's differences, weighted with the inverse cube of their distance, and
    averaged. Where no copy explains the ring, the smooth solution of Laplace's
    equation stands instead, mixed by how much is explained. Last, the best copy's
    finest detail is added until its variance is that of the surroundings.

    Parameters
    ----------
    image : (H, W, 3) float32, 0..255
        Encoded sRGB; what it holds in the hole does not count.
    hole : (H, W) bool
        What is to be filled, with some known pixels around.
    wanted : (H, W) bool, optional
        What of the hole is asked for; the rest is filled smoothly.

    Returns
    -------
    (H, W, 3) float32, 0..255
        The same outside of the hole.

    References
    ----------
    .. [1] P. Pérez, M. Gangnet, A. Blake, "Poisson Image Editing", 2003; by mean
       values as in Z. Farbman et al., "Coordinates for Instant Image Cloning", 2009.
    .. [2] A. Criminisi, P. Pérez, K. Toyama, "Region Filling and Object Removal by
       Exemplar-Based Image Inpainting", 2004.
    """
    flat = smoothed_over(image, hole)
    if not (~hole).any():
        return flat
    guide = np.where(hole[..., None], flat, image).astype(np.float32)
    fine = np.zeros_like(image)
    detail = guide - cv2.GaussianBlur(guide, (0, 0), FINE_SIGMA)
    gap = hole.copy()
    asked = hole if wanted is None else hole & wanted
    surroundings = np.where(asked, _known_around(gap), NOT_ASKED)
    while surroundings.max() >= 0:
        row, column = np.unravel_index(int(surroundings.argmax()), gap.shape)
        tile = _part(gap, (int(row), int(column)), TILE // 2)
        _fill_tile(_Patch(guide, hole, gap, tile), flat, detail, fine)
        gap[tile] = False
        around = _window((int(row), int(column)), TILE + RIM)
        near = _known_around(gap, around)
        surroundings[around] = np.where(asked[around], near, NOT_ASKED)
    return _grained(guide, image, asked, fine)


def smoothed_over(image: Image, hole: Marks) -> Image:
    """Fill a hole with the solution of Laplace's equation: as smoothly as can be.

    Parameters
    ----------
    image : (H, W, 3) float32
        What it holds in the hole does not count.
    hole : (H, W) bool
        What is to be filled.

    Returns
    -------
    (H, W, 3) float32
        The same outside of the hole.
    """
    # Here, not above: loading it takes a fifth of a second at every start.
    from scipy.sparse import coo_array
    from scipy.sparse.linalg import splu

    rows, columns = np.nonzero(hole)
    count = len(rows)
    out = image.copy()
    if not count or count == hole.size:
        return out
    place = np.full(hole.shape, -1)
    place[rows, columns] = np.arange(count)
    sums = np.zeros((count, 3))
    entries: list[tuple[NDArray[np.intp], NDArray[np.intp], float]] = []
    whole = np.arange(count)
    for down, across in ((0, 1), (1, 0), (0, -1), (-1, 0)):
        near = (
            np.clip(rows + down, 0, hole.shape[0] - 1),
            np.clip(columns + across, 0, hole.shape[1] - 1),
        )
        at = place[near]
        inner = at >= 0
        entries.append((whole[inner], at[inner], -1.0))
        sums[~inner] += image[near][~inner]
    # A hair more than four: what touches nothing known is still solved.
    entries.append((whole, whole, 4.0 + 1e-9))
    matrix = coo_array(
        (
            np.concatenate([np.full(len(one), value) for one, _, value in entries]),
            (
                np.concatenate([one for one, _, _ in entries]),
                np.concatenate([other for _, other, _ in entries]),
            ),
        ),
        shape=(count, count),
    )
    out[rows, columns] = splu(matrix.tocsc()).solve(sums)
    return out


class _Patch(NamedTuple):
    """A tile of a hole, in an image that is filled up to it."""

    guide: Image
    hole: Marks
    """All that was unknown: copies come from true pixels alone."""
    gap: Marks
    """What is still unknown."""
    tile: Places


class _Copies(NamedTuple):
    """The offsets (down, across) whose rings fit best, and how well: 0 is perfect."""

    offsets: NDArray[np.intp]
    costs: Image


def _window(at: tuple[int, int], reach: int) -> tuple[slice, slice]:
    """Return the part of an image round a pixel."""
    across, down = (slice(max(one - reach, 0), one + reach) for one in at)
    return across, down


def _part(marks: Marks, at: tuple[int, int], reach: int) -> Places:
    """Return what is marked round a pixel."""
    window = _window(at, reach)
    rows, columns = np.nonzero(marks[window])
    return rows + window[0].start, columns + window[1].start


def _known_around(gap: Marks, part: tuple[slice, slice] = EVERYWHERE) -> Image:
    """Return how much round each pixel of a gap is known; below 0 beside it."""
    rows, columns = (_widened(one) for one in part)
    wide = gap[rows, columns]
    size = (2 * RIM + 1, 2 * RIM + 1)
    near = cv2.boxFilter(
        np.asarray(~wide, np.float32), -1, size, borderType=cv2.BORDER_CONSTANT
    )
    near = np.where(wide, near, NOT_ASKED)
    top, left = (part[0].start or 0) - rows.start, (part[1].start or 0) - columns.start
    height, width = gap[part].shape
    return np.asarray(near[top : top + height, left : left + width], np.float32)


def _widened(part: slice) -> slice:
    """Return a part of a side with a ring's width more."""
    end = None if part.stop is None else part.stop + RIM
    return slice(max((part.start or 0) - RIM, 0), end)


def _fill_tile(patch: _Patch, flat: Image, detail: Image, fine: Image) -> None:
    """Fill a tile of the guide, and note its fine detail."""
    rows, columns = patch.tile
    ring, weights = _ring(patch)
    if ring is None:
        return
    copies = _best_copies(patch, ring, weights)
    if copies is None:
        return
    around = patch.guide[ring]
    spread = float(((around - around.mean(axis=0)) ** 2).sum(axis=1).mean())
    trust = np.float32(np.clip(1 - copies.costs[0] / (spread + QUIET), 0, 1))
    mean = _mean_of_copies(patch, ring, copies)
    smooth = flat[rows, columns]
    patch.guide[rows, columns] = trust * mean + (1 - trust) * smooth
    down, across = copies.offsets[0]
    fine[rows, columns] = detail[rows + down, columns + across]


def _ring(patch: _Patch) -> tuple[Places | None, Image]:
    """Return known pixels round a tile, and how much each counts."""
    rows, columns = patch.tile
    reach = 4 * RIM
    top, left = max(int(rows.min()) - reach, 0), max(int(columns.min()) - reach, 0)
    window = (
        slice(top, int(rows.max()) + reach + 1),
        slice(left, int(columns.max()) + reach + 1),
    )
    known = ~patch.gap[window]
    outside = np.ones(known.shape, np.uint8)
    outside[rows - top, columns - left] = 0
    far = np.asarray(
        cv2.distanceTransform(outside, cv2.DIST_L2, cv2.DIST_MASK_PRECISE), np.float32
    )
    for wide in (RIM, reach):
        found = known & (far > 0) & (far <= wide)
        if found.any():
            down, across = np.nonzero(found)
            return (down + top, across + left), np.float32(1) / (1 + far[found])
    return None, np.empty(0, np.float32)


def _best_copies(
    patch: _Patch,
    ring: Places,
    weights: Image,
) -> _Copies | None:
    """Return the copies that fit best; None where none is whole."""
    reach = REACH
    while reach <= FARTHEST:
        found = _copies_within(patch, ring, weights, reach)
        if found is not None:
            return found
        reach *= 3
    return None


def _copies_within(
    patch: _Patch,
    ring: Places,
    weights: Image,
    reach: int,
) -> _Copies | None:
    """Compare a tile's ring with all places so near, as correlations do."""
    rows, columns = patch.tile
    top, bottom = (
        min(rows.min(), ring[0].min()),
        max(rows.max(), ring[0].max()) + 1,
    )
    left, right = (
        min(columns.min(), ring[1].min()),
        max(columns.max(), ring[1].max()) + 1,
    )
    height, width = patch.hole.shape
    # Beyond the picture nothing is known.
    first_row, first_column = max(top - reach, 0), max(left - reach, 0)
    area = (
        slice(first_row, min(bottom + reach, height)),
        slice(first_column, min(right + reach, width)),
    )
    known = np.asarray(~patch.hole[area], np.float32)
    middle = patch.guide[ring].mean(axis=0)
    image = (patch.guide[area] - middle) * known[..., None]
    shape = (bottom - top, right - left)
    weight = np.zeros(shape, np.float32)
    weight[ring[0] - top, ring[1] - left] = weights
    wanted = np.zeros((*shape, 3), np.float32)
    wanted[ring[0] - top, ring[1] - left] = patch.guide[ring] - middle
    tile = np.zeros(shape, np.float32)
    tile[rows - top, columns - left] = 1
    squares = np.asarray((image**2).sum(axis=2), np.float32)
    own = np.asarray((wanted**2).sum(axis=2), np.float32)
    used = _correlated(known, weight)
    total = (
        _correlated(squares, weight)
        - 2 * _correlated(image, wanted * weight[..., None])
        + _correlated(known, own * weight)
    )
    whole = _correlated(1 - known, tile) < 0.5
    down = np.arange(total.shape[0])[:, None] + first_row - top
    across = np.arange(total.shape[1])[None] + first_column - left
    far = np.sqrt(down**2 + across**2)
    fits = whole & (used > 0.3 * weight.sum()) & (far >= NEAREST)
    if not fits.any():
        return None
    cost = np.maximum(total, 0) / np.maximum(used, 1e-3) * (1 + FAR_AWAY * far)
    cost = np.where(fits, cost, WORST).astype(np.float32).ravel()
    count = min(KEPT, int(fits.sum()))
    best = np.argpartition(cost, count - 1)[:count]
    best = best[np.argsort(cost[best], kind="stable")]
    row, column = np.unravel_index(best, total.shape)
    offsets = np.column_stack(
        [row + first_row - top, column + first_column - left]
    ).astype(np.intp)
    return _Copies(offsets, cost[best])


def _correlated(image: Image, pattern: Image) -> Image:
    return np.asarray(cv2.matchTemplate(image, pattern, cv2.TM_CCORR), np.float32)


def _mean_of_copies(
    patch: _Patch,
    ring: Places,
    copies: _Copies,
) -> Image:
    """Return the copies' mean, each shifted so that it meets the ring."""
    tile = patch.tile
    height, width = patch.hole.shape
    costs = copies.costs
    share = np.exp(-(costs - costs[0]) / (HEAT * costs[0] + 1))
    share /= share.sum()
    down, across = copies.offsets[:, 0], copies.offsets[:, 1]
    rows = ring[0][:, None] + down
    columns = ring[1][:, None] + across
    inside = (rows >= 0) & (rows < height) & (columns >= 0) & (columns < width)
    rows, columns = np.clip(rows, 0, height - 1), np.clip(columns, 0, width - 1)
    known = np.asarray(inside & ~patch.hole[rows, columns], np.float32)
    missing = patch.guide[ring][:, None] - patch.guide[rows, columns]
    apart = (
        (tile[0][:, None] - ring[0]) ** 2 + (tile[1][:, None] - ring[1]) ** 2
    ).astype(np.float32)
    near = 1 / (apart * np.sqrt(apart))
    count = len(costs)
    shifts = near @ (missing * known[..., None]).reshape(len(ring[0]), 3 * count)
    totals = np.maximum(near @ known, 1e-12)
    shifts = shifts.reshape(-1, count, 3) / totals[..., None]
    pixels = patch.guide[tile[0][:, None] + down, tile[1][:, None] + across]
    return np.asarray(np.einsum("ikc,k->ic", pixels + shifts, share), np.float32)


def _grained(guide: Image, image: Image, hole: Marks, fine: Image) -> Image:
    """Add fine detail until its variance is that of the quiet surroundings."""
    size = 2 * RIM + 1
    marks = np.asarray(hole, np.uint8)
    wide = cv2.dilate(marks, np.ones((size, size), np.uint8)) > 0
    around = wide & ~(cv2.dilate(marks, np.ones((3, 3), np.uint8)) > 0)
    if not around.any():
        return guide
    wanted = _variance(_high(image)[around])
    there = _variance(_high(guide)[hole])
    limit = GRAIN_LIMIT * np.sqrt(wanted + 1)
    # Edges that were copied along are no grain.
    grain = np.clip(fine, -limit, limit) * hole[..., None]
    made = float((_high(grain)[hole] ** 2).mean()) + 1e-6
    scale = np.sqrt(np.clip((wanted - there) / made, 0, MOST_GRAIN))
    return np.clip(guide + np.float32(scale) * grain, 0, 255).astype(np.float32)


def _high(image: Image) -> Image:
    return np.asarray(image - cv2.GaussianBlur(image, (0, 0), GRAIN_SIGMA), np.float32)


def _variance(values: Image) -> float:
    return float(FROM_MEDIAN * np.median(np.abs(values)) ** 2)
