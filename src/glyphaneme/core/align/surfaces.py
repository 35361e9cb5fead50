"""Finds what a picture may be set into: corner-like points, blank four-sided areas."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import cv2
import numpy as np

from glyphaneme.core.cutout.values import f32
from glyphaneme.core.errors import NoSurfaceError

if TYPE_CHECKING:
    from collections.abc import Sequence

    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8

    PointsF64 = NDArray[np.float64]
    Mark = NDArray[np.uint8]

UNTIL = cv2.TERM_CRITERIA_EPS | cv2.TERM_CRITERIA_MAX_ITER
MOST_CORNERS = 300
CORNER_QUALITY = 0.02
"""Of the best corner's strength: weaker ones are none."""
APART = 6
REFINED_WITHIN = 4
CALM = 1.0
STEEPEST = 4.0
"""Of what is usual under the brush: what is steeper is an edge."""
LEAST_STEEP = 24.0
FARTHEST = 3.5
"""How many deviations from the colours under the brush still belong to the area."""
LEAST_DEVIATION = 4.0
SHADES = 3
"""How many colours an area may have: parts of it may lie in shade."""
LEAST_UNDER = 0.04
"""Of the stroke: a colour or part that it hardly touches is not meant."""
LEAST_AREA = 0.002
"""Of the picture: what is smaller is no area to set something into."""
LARGEST_AREA = 0.95
"""What fills the picture is its ground, and nothing that stands in it."""
LEAST_FILLED = 0.88
"""How much of a found quadrilateral the area fills, and the other way round."""
EDGE_REACH = 7
ENDS = 0.12
"""Of a side at either end: the next side is too near there to tell whose edge it is."""
SAMPLES = 80
LEAST_SIDE = 32
"""Pictures that are smaller have no room for edges to be told."""
FARTHEST_AWAY = 20_000
THICKEST = 10_000


def corner_points(pixels: PixelsU8) -> PointsF64:
    """Return corner-like points of a picture, the clearest first.

    Shi and Tomasi, "Good features to track" (1994), refined below a pixel.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        What is looked at; see-through places count as they show over grey.

    Returns
    -------
    (N, 2) float64
        x and y in pixels, from the picture's left and top; N is 300 at most.
    """
    if min(pixels.shape[:2]) < LEAST_SIDE:
        return np.empty((0, 2))
    grey = _grey(pixels)
    # Its types say that it is never None; it is where there are no corners.
    found: Any = cv2.goodFeaturesToTrack(grey, MOST_CORNERS, CORNER_QUALITY, APART)
    if found is None:
        return np.empty((0, 2))
    until = (UNTIL, 30, 0.01)
    window = (REFINED_WITHIN, REFINED_WITHIN)
    points = cv2.cornerSubPix(grey, found, window, (-1, -1), until)
    # A pixel's middle lies half a pixel from its edge.
    return np.asarray(points, np.float64).reshape(-1, 2) + 0.5


def blank_corners(
    pixels: PixelsU8, stroke: Sequence[tuple[float, float]], radius: float
) -> PointsF64:
    """Return the four corners of the even area that a rough stroke goes over.

    The area grows from the stroke as far as neither its colours end nor an edge
    stands in between; straight lines are laid along its four sides, to fractions of a
    pixel, and meet in its corners.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        What is looked at.
    stroke : sequence of (x, y)
        Points of the stroke, in pixels.
    radius : float
        Of the brush, in pixels.

    Returns
    -------
    (4, 2) float64
        x and y of the top left, top right, bottom right and bottom left corner.

    Raises
    ------
    NoSurfaceError
        There is no area with four sides.
    """
    if min(pixels.shape[:2]) < LEAST_SIDE:
        raise NoSurfaceError
    grown = _grown(pixels, _painted(pixels.shape, stroke, radius))
    if not LEAST_AREA < grown.mean() < LARGEST_AREA:
        raise NoSurfaceError
    rough = _four_sides(grown)
    fine = _on_edges(_grey(pixels), rough)
    for corners in (fine, rough):
        if corners is not None and _fits(grown, corners):
            return _from_top_left(corners) + 0.5
    raise NoSurfaceError


def _grey(pixels: PixelsU8) -> NDArray[np.uint8]:
    over = cv2.cvtColor(pixels[..., :3], cv2.COLOR_RGB2GRAY).astype(np.float32)
    alpha = pixels[..., 3].astype(np.float32) / 255
    return np.round(over * alpha + 128 * (1 - alpha)).astype(np.uint8)


def _painted(
    shape: tuple[int, ...], stroke: Sequence[tuple[float, float]], radius: float
) -> Mark:
    """Return where a stroke goes over a picture.

    Raises
    ------
    NoSurfaceError
        Nowhere.
    """
    marked = np.zeros(shape[:2], np.uint8)
    # What lies farther away is outside all the same, and OpenCV counts no farther.
    line = np.clip(np.asarray(stroke, np.float64) - 0.5, -FARTHEST_AWAY, FARTHEST_AWAY)
    line = np.round(line).astype(np.int32)
    thick = round(min(max(2 * radius, 1), THICKEST))
    # A single point is a line to itself.
    line = np.concatenate([line, line[-1:]]).reshape(-1, 1, 2)
    cv2.polylines(marked, [line], isClosed=False, color=1, thickness=thick)
    if not marked.any():
        raise NoSurfaceError
    return marked


def _grown(pixels: PixelsU8, marked: Mark) -> Mark:
    """Return the area about a stroke, its holes filled.

    Raises
    ------
    NoSurfaceError
        Nothing even lies under the stroke.
    """
    lab = cv2.medianBlur(cv2.cvtColor(pixels[..., :3], cv2.COLOR_RGB2LAB), 5)
    calm = f32(cv2.GaussianBlur(lab.astype(np.float32), (0, 0), CALM))
    steep = np.hypot(
        cv2.Sobel(calm, cv2.CV_32F, 1, 0, ksize=3), cv2.Sobel(calm, cv2.CV_32F, 0, 1)
    ).max(axis=2)
    usual = float(np.median(steep[marked > 0]))
    even = steep < max(STEEPEST * usual, LEAST_STEEP)
    whole = (even & _alike(calm, marked)).astype(np.uint8)
    _, labels = cv2.connectedComponents(whole, connectivity=4)
    under = np.bincount(labels[(marked > 0) & (whole > 0)], minlength=1)
    parts = np.flatnonzero(under > LEAST_UNDER * max(1, under.sum()))
    area = np.isin(labels, parts[parts > 0]).astype(np.uint8)
    # What is thin ran out by a gap; what the edges' own width kept away comes back,
    # and so does what lies between a part in the light and one in the shade.
    inside = cv2.morphologyEx(area, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8))
    inside = cv2.dilate(inside, np.ones((5, 5), np.uint8))
    inside = cv2.morphologyEx(inside, cv2.MORPH_CLOSE, np.ones((7, 7), np.uint8))
    outlines, _ = cv2.findContours(inside, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not outlines:
        raise NoSurfaceError
    filled = np.zeros_like(area)
    cv2.drawContours(filled, [max(outlines, key=cv2.contourArea)], 0, 1, cv2.FILLED)
    return filled


def _alike(calm: NDArray[np.float32], marked: Mark) -> NDArray[np.bool_]:
    """Tell which pixels have one of the colours under a stroke, in light or shade."""
    under = calm[marked > 0]
    # One pixel alone would be taken for three of one value each.
    under = np.repeat(under, SHADES, axis=0) if len(under) < SHADES else under
    until = (UNTIL, 20, 0.2)
    cv2.setRNGSeed(1)
    begun = np.zeros(len(under), np.int32)
    tries, way = 3, cv2.KMEANS_PP_CENTERS
    _, which, _ = cv2.kmeans(under, SHADES, begun, until, tries, way)
    near = np.zeros(calm.shape[:2], bool)
    for group in range(SHADES):
        colors = under[which.ravel() == group]
        if len(colors) < LEAST_UNDER * len(under):
            continue
        middle = np.median(colors, axis=0)
        spread = np.median(np.abs(colors - middle), axis=0) * 1.4826
        away = (calm - middle) / np.maximum(spread, LEAST_DEVIATION)
        near |= np.linalg.norm(away, axis=2) < FARTHEST * np.sqrt(3)
    return near


def _four_sides(area: Mark) -> PointsF64:
    """Return a quadrilateral that encloses an area closely.

    Raises
    ------
    NoSurfaceError
        The area has fewer or more sides.
    """
    outlines, _ = cv2.findContours(area, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    hull = cv2.convexHull(outlines[0], clockwise=True)
    around = cv2.arcLength(hull, closed=True)
    for share in np.linspace(0.005, 0.12, 47):
        corners = cv2.approxPolyDP(hull, share * around, closed=True)
        if len(corners) == 4:
            return corners.reshape(4, 2).astype(np.float64)
        if len(corners) < 4:
            break
    raise NoSurfaceError


def _on_edges(grey: NDArray[np.uint8], corners: PointsF64) -> PointsF64 | None:
    """Move each side to the edge in the picture that it lies along."""
    calm = cv2.GaussianBlur(grey.astype(np.float32), (0, 0), 1.0)
    lines = []
    for start, end in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        shares = np.linspace(ENDS, 1 - ENDS, SAMPLES)[:, None]
        along = start + (end - start) * shares
        way = (end - start) / np.linalg.norm(end - start)
        normal = np.array((-way[1], way[0]))
        offsets = np.arange(-EDGE_REACH, EDGE_REACH + 0.5, 0.5)
        at = along[:, None, :] + normal * offsets[None, :, None]
        seen = cv2.remap(
            calm,
            at[..., 0].astype(np.float32),
            at[..., 1].astype(np.float32),
            cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        )
        steep = np.abs(np.gradient(seen, axis=1))
        # Edges near where the area ends count more than others beside them.
        weight = steep**2 * np.exp(-((offsets / EDGE_REACH) ** 2))
        total = weight.sum(axis=1)
        keep = total > 0.1 * np.median(total) + 1e-6
        if keep.sum() < SAMPLES // 3:
            return None
        moved = (weight * offsets).sum(axis=1)[keep] / total[keep]
        points = (along[keep] + normal * moved[:, None]).astype(np.float32)
        lines.append(cv2.fitLine(points, cv2.DIST_HUBER, 0, 0.01, 0.01).ravel())
    meet = [_crossing(lines[side - 1], lines[side]) for side in range(4)]
    return None if any(one is None for one in meet) else np.array(meet, np.float64)


def _crossing(
    one: NDArray[np.float32], other: NDArray[np.float32]
) -> NDArray[np.float64] | None:
    """Return where two lines cross, each a direction and a point."""
    ways = np.array([[one[0], -other[0]], [one[1], -other[1]]], np.float64)
    if abs(np.linalg.det(ways)) < 0.05:
        return None
    step = np.linalg.solve(ways, (other[2:] - one[2:]).astype(np.float64))
    crossing: NDArray[np.float64] = one[2:] + one[:2] * step[0]
    return crossing


def _fits(area: Mark, corners: PointsF64) -> bool:
    """Tell whether a quadrilateral and an area are much the same."""
    drawn = np.zeros_like(area)
    cv2.fillConvexPoly(drawn, np.round(corners).astype(np.int32), 1)
    both = float((drawn & area).sum())
    return both > LEAST_FILLED * max(float(drawn.sum()), float(area.sum()))


def _from_top_left(corners: PointsF64) -> PointsF64:
    """Let corners run clockwise, from the one that is nearest to the top left."""
    across, down = (corners - np.roll(corners, 1, axis=0)).T
    if float(across @ np.roll(down, -1) - down @ np.roll(across, -1)) < 0:
        corners = corners[::-1]
    first = int(np.argmin(corners.sum(axis=1)))
    return np.roll(corners, -first, axis=0)
