"""Measures of photos, worked out from small copies of their pixels."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, NamedTuple

import cv2
import numpy as np

from glyphaneme.core.align.surfaces import blank_corners
from glyphaneme.core.color import levels_of, palette_of
from glyphaneme.core.errors import NoSurfaceError
from glyphaneme.core.plans.facts import ColorMeasure, Side, Subject

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.cutout.values import MatteU8
    from glyphaneme.core.plans.facts import Spot

    Floats = NDArray[np.float32]
    Levels = NDArray[np.uint8]

LONGEST = 256
"""Pixels along the longer side of the copy that colours and the like are of."""
MATTE_LONGEST = 512
SHOWN = 0.5
"""What of a matte counts as subject."""
SPECK = 0.02
"""Of the largest piece: smaller ones are no part of the subject."""
TOUCHING = 0.02
"""Of a side: so much of it the subject runs into, at least, to be cut off by it."""
LEAST_SUBJECT, GREATEST_SUBJECT = 0.01, 0.85
"""Of the picture, what a glance may take for its subject."""
RIM = 0.06
STANDS_OUT = 2.2
"""How many spreads of the rim's colours something differs by that stands out."""
LEAST_SPREAD = 4.0
SEE_THROUGH = 0.03
"""Of the picture: with so much see-through it was cut out before."""
LEVEL_COLUMNS = 0.8
"""Of all columns, those in which a horizon is found on one line."""
LEVEL_OFF = 0.012
"""Of the height, how far off that line it may be found."""
LEAST_STEP = 10.0
"""Levels by which what lies above a horizon differs from what lies beneath."""
BLANK_LONGEST = 480
SEEDS = 5
LEAST_BLANK, GREATEST_BLANK = 0.01, 0.8
AT_THE_EDGE = 0.015


class Look(NamedTuple):
    """What a glance at a photo tells."""

    subject: Subject | None
    is_cut: bool
    tilt: float
    colors: dict[ColorMeasure, str]


def looked_at(pixels: PixelsU8, *, width: int, height: int) -> Look:
    """Measure what a glance at a small copy of a photo tells.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        Straight RGBA; some hundred pixels a side are enough.
    width, height : int, pixels
        Size of the photo itself, which positions are told in.

    Returns
    -------
    Look
        Of a see-through picture the subject is what shows; else what differs from the
        colours of its rim, if that is one thing.
    """
    small = _small(pixels, LONGEST)
    lab = _lab(small)
    alpha = small[..., 3].astype(np.float32) / 255
    is_cut = bool((alpha < SHOWN).mean() > SEE_THROUGH and (alpha > SHOWN).any())
    shown: NDArray[Any] | None = alpha if is_cut else _standing_out(lab)
    subject = None if shown is None else subject_of(_as_matte(shown), width, height)
    if subject is not None and is_cut:
        subject = subject.model_copy(update={"is_found": True})
    return Look(
        subject=subject,
        is_cut=is_cut,
        tilt=_tilt(lab[..., 0]),
        colors=_colors(small),
    )


def subject_of(matte: MatteU8, width: int, height: int) -> Subject | None:
    """Measure a subject by its matte.

    Parameters
    ----------
    matte : (H, W) uint8
        255 where it is subject.
    width, height : int, pixels
        Size of the photo itself, which positions are told in.

    Returns
    -------
    Subject, or None
        None where nothing shows. `is_found` is left to whoever knows.

    Examples
    --------
    >>> matte = np.zeros((40, 20), np.uint8)
    >>> matte[10:, 5:15] = 255
    >>> found = subject_of(matte, 200, 400)
    >>> found.left, found.top, [str(side) for side in found.touches]
    (50.0, 100.0, ['bottom'])
    """
    small = _small(matte, MATTE_LONGEST)
    alpha = small.astype(np.float32) / 255
    solid = _pieces(alpha > SHOWN)
    if not solid.any():
        return None
    rows, columns = solid.shape
    down, across = np.flatnonzero(solid.any(axis=1)), np.flatnonzero(solid.any(axis=0))
    weight = alpha * solid
    total = float(weight.sum())
    middle_x = float((weight.sum(axis=0) * (np.arange(columns) + 0.5)).sum()) / total
    middle_y = float((weight.sum(axis=1) * (np.arange(rows) + 0.5)).sum()) / total
    by_x, by_y = width / columns, height / rows
    unsure = float((4 * alpha * (1 - alpha)).sum()) / total
    edges = {
        Side.LEFT: solid[:, 0],
        Side.TOP: solid[0],
        Side.RIGHT: solid[:, -1],
        Side.BOTTOM: solid[-1],
    }
    return Subject(
        left=across[0] * by_x,
        top=down[0] * by_y,
        right=(across[-1] + 1) * by_x,
        bottom=(down[-1] + 1) * by_y,
        x=middle_x * by_x,
        y=middle_y * by_y,
        touches=tuple(side for side, edge in edges.items() if edge.mean() > TOUCHING),
        certainty=min(max(1 - 2 * unsure, 0.0), 1.0),
    )


def blank_place(
    pixels: PixelsU8, *, width: int, height: int
) -> tuple[Spot, Spot, Spot, Spot] | None:
    """Find the largest blank four-sided place that stands in a photo.

    Areas grow from points all over the photo, as from a rough stroke; what reaches
    the photo's own edge is its ground, and no place.

    Parameters
    ----------
    pixels : (H, W, 4) uint8
        A small copy.
    width, height : int, pixels
        Size of the photo itself, which corners are told in.

    Returns
    -------
    four pairs of float, or None
        Clockwise from the top left; None where there is no such place.
    """
    small = _small(pixels, BLANK_LONGEST)
    rows, columns = small.shape[:2]
    best: NDArray[np.float64] | None = None
    largest, seen = 0.0, np.zeros((rows, columns), np.uint8)
    for row in np.linspace(0.15, 0.85, SEEDS):
        for column in np.linspace(0.15, 0.85, SEEDS):
            x, y = column * columns, row * rows
            if seen[int(y), int(x)]:
                continue
            corners = _blank_about(small, x, y)
            if corners is None:
                continue
            cv2.fillConvexPoly(seen, np.round(corners).astype(np.int32), 1)
            area = cv2.contourArea(corners.astype(np.float32)) / (rows * columns)
            if area > largest and LEAST_BLANK < area < GREATEST_BLANK:
                best, largest = corners, area
    if best is None:
        return None
    scaled = best * (width / columns, height / rows)
    first, second, third, fourth = ((float(x), float(y)) for x, y in scaled)
    return first, second, third, fourth


def _blank_about(small: PixelsU8, x: float, y: float) -> NDArray[np.float64] | None:
    rows, columns = small.shape[:2]
    reach = 0.03 * min(rows, columns)
    try:
        corners = blank_corners(small, [(x - reach, y), (x + reach, y)], reach)
    except NoSurfaceError:
        return None
    near = AT_THE_EDGE * np.array([columns, rows])
    inside = (corners > near).all() and (corners < (columns, rows) - near).all()
    return corners if inside else None


def _small(pixels: Levels, longest: int) -> Levels:
    """Return a copy that is at most so long."""
    rows, columns = pixels.shape[:2]
    share = longest / max(rows, columns)
    if share >= 1:
        return np.ascontiguousarray(pixels)
    size = (max(round(columns * share), 1), max(round(rows * share), 1))
    found = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA)
    return np.asarray(found, np.uint8)


def _rim(pixels: NDArray[Any], sides: str = "ltrb") -> NDArray[Any]:
    """Return what lies along some sides of a picture, as one row of pixels."""
    thick = max(round(RIM * min(pixels.shape[:2])), 1)
    strips = {
        "l": pixels[:, :thick],
        "t": pixels[:thick],
        "r": pixels[:, -thick:],
        "b": pixels[-thick:],
    }
    channels = pixels.shape[2]
    return np.concatenate([strips[side].reshape(-1, channels) for side in sides])


def _lab(small: PixelsU8) -> Floats:
    """Return CIE L*a*b*, over mid-grey where it is see-through."""
    alpha = small[..., 3:].astype(np.float32) / 255
    over = small[..., :3].astype(np.float32) / 255 * alpha + 0.5 * (1 - alpha)
    return np.asarray(cv2.cvtColor(over, cv2.COLOR_RGB2LAB), np.float32)


def _as_matte(shown: Floats) -> MatteU8:
    return np.asarray(np.clip(shown, 0, 1) * 255, np.uint8)


def _standing_out(lab: Floats) -> Floats | None:
    """Return what differs from the colours of the rim; None where nothing does."""
    # The lower edge is left out: subjects stand there.
    rim = _rim(lab, "ltr")
    middle = np.median(rim, axis=0)
    spread = np.maximum(np.median(np.abs(rim - middle), axis=0) * 1.4826, LEAST_SPREAD)
    away = np.linalg.norm((lab - middle) / spread, axis=2) / np.sqrt(3)
    out = (away > STANDS_OUT).astype(np.uint8)
    out = cv2.morphologyEx(out, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    out = cv2.morphologyEx(out, cv2.MORPH_CLOSE, np.ones((7, 7), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(out.astype(np.uint8))
    if count < 2:
        return None
    largest = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
    found = (labels == largest).astype(np.float32)
    return found if LEAST_SUBJECT < found.mean() < GREATEST_SUBJECT else None


def _pieces(solid: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return what is left without specks."""
    count, labels, stats, _ = cv2.connectedComponentsWithStats(solid.astype(np.uint8))
    if count < 2:
        return solid
    areas = stats[:, cv2.CC_STAT_AREA]
    large = areas >= SPECK * areas[1:].max()
    large[0] = False
    return np.asarray(large[labels])


def _colors(small: PixelsU8) -> dict[ColorMeasure, str]:
    """Return the named colours that a photo offers."""
    palette = palette_of(small)
    if not palette:
        return {}
    rows, columns = small.shape[:2]
    found = {
        ColorMeasure.DARK: palette[0],
        ColorMeasure.LIGHT: palette[-1],
        ColorMeasure.STRONG: max(palette, key=_chroma),
    }
    inner = small[rows // 4 : rows - rows // 4, columns // 4 : columns - columns // 4]
    for name, part in (
        (ColorMeasure.EDGE, _rim(small)[None]),
        (ColorMeasure.MIDDLE, inner),
    ):
        shown = part[part[..., 3] > 127]
        if len(shown):
            level = np.median(shown[:, :3], axis=0).round().astype(int)
            found[name] = "#{:02x}{:02x}{:02x}".format(*level)
    return found


def _chroma(color: str) -> int:
    levels = levels_of(color)
    return int(max(levels)) - int(min(levels))


def _tilt(lightness: Floats) -> float:
    """Return by how many degrees clockwise a horizon leans; 0 where none is sure.

    In each column the strongest step from light to dark is found; where most of them
    lie on one line, that is the horizon.
    """
    rows, columns = lightness.shape
    if min(rows, columns) < 16:
        return 0.0
    calm = cv2.GaussianBlur(lightness, (0, 0), max(rows / 64, 1.0))
    reach = max(rows // 24, 1)
    step = calm[: -2 * reach] - calm[2 * reach :]
    found = np.argmax(step, axis=0).astype(np.float64) + reach
    clear = step.max(axis=0) > LEAST_STEP
    if clear.mean() < LEVEL_COLUMNS:
        return 0.0
    x = np.flatnonzero(clear).astype(np.float64)
    y = found[clear]
    slope = np.median(
        (y[len(y) // 2 :] - y[: len(y) - len(y) // 2])
        / (x[len(x) // 2 :] - x[: len(x) - len(x) // 2])
    )
    off = np.abs(y - slope * x - np.median(y - slope * x))
    if (off < max(LEVEL_OFF * rows, 1.0)).sum() < LEVEL_COLUMNS * columns:
        return 0.0
    return float(np.clip(np.degrees(np.arctan(slope)), -45, 45))
