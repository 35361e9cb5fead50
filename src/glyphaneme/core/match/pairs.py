"""A match from pairs that are pointed at: this should look like that."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING, Final

import numpy as np

from glyphaneme.core.color.spaces import decoded, encoded, from_oklab, oklab
from glyphaneme.core.match.offering import FIELDS
from glyphaneme.core.tone.match import MOST_CAST, MOST_DOUBLINGS, MOST_STOPS, MatchTone

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]

MOST_PAIRS = 5
USUAL: Final = np.array([0.7, 0.3, 0.15, 0.5, 0.4])
"""How much photos usually differ: what is not said stays near to none."""
ALIKE: Final = np.array([0.02, 0.008, 0.008])
"""How much two spots of the same stuff differ, in Oklab: just visibly."""
WIDEST: Final = np.array(
    [MOST_STOPS, MOST_CAST, MOST_CAST, MOST_DOUBLINGS, MOST_DOUBLINGS]
)
"""Who points at spots may go as far as a match goes."""
FREE: Final = {1: np.array([1, 1, 1, 0, 0])}
"""Of one pair, contrast and colour say nothing."""


def by_pairs(these: Floats, those: Floats, to: str) -> MatchTone:
    """Return the match that makes some colours resemble others best.

    Parameters
    ----------
    these : (N, 3) float64, 0..1
        Colours of the subject as the match finds them, encoded sRGB, one at least.
    those : (N, 3) float64, 0..1
        What each of them should look like.
    to : str
        What it is matched to.

    Returns
    -------
    MatchTone
        The most likely one, where pairs differ by what is just visible and changes are
        as large as usual: a least-squares fit with a prior, within a match's limits.
    """
    # Here, not above: loading it takes a fifth of a second at every start.
    from scipy.optimize import least_squares

    wanted = oklab(decoded(those))
    free = np.flatnonzero(FREE.get(len(these), np.ones(5)))

    pull = partial(_misses, these, wanted, free)
    found = np.zeros(5)
    bounds = (-WIDEST[free], WIDEST[free])
    found[free] = least_squares(pull, np.zeros(len(free)), bounds=bounds).x
    held = np.round(found, 3).tolist()
    return MatchTone(to=to, **dict(zip(FIELDS, held, strict=True)))


def _misses(
    these: Floats, wanted: Floats, free: NDArray[np.intp], some: Floats
) -> Floats:
    """Return by how much colours miss what is wanted, and changes what is usual."""
    change = np.zeros(5)
    change[free] = some
    apart = (oklab(decoded(matched(these, change))) - wanted) / ALIKE
    return np.concatenate([apart.ravel(), some / USUAL[free]])


def matched(colors: Floats, change: Floats) -> Floats:
    """Return colours as `MatchTone` makes them, but for how it keeps the gamut.

    Parameters
    ----------
    colors : (N, 3) float64, 0..1
        Encoded sRGB.
    change : (5,) float64
        Doublings of light, warmth, tint, contrast and colour.

    Returns
    -------
    (N, 3) float64, 0..1
        Encoded sRGB; components are held where they leave the gamut.
    """
    light, warm, tint, contrast, color = change.tolist()
    lab = oklab(decoded(colors)) * (1, 2**color, 2**color)
    plain = encoded(np.clip(from_oklab(lab), 0, 1))
    spread = np.clip(0.5 + (plain - 0.5) * 2**contrast, 0, 1)
    casts = np.array([warm - tint / 3, 2 * tint / 3, -warm - tint / 3])
    return encoded(np.clip(decoded(spread) * 2.0 ** (light + casts), 0, 1))
