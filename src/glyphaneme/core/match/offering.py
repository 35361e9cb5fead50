"""Matches to choose from by eye: no one can know the right one from pixels alone."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, NamedTuple

import numpy as np

from glyphaneme.core.match.learned import MEANS, SPREADS, START, WEIGHTS
from glyphaneme.core.match.statistics import differences, features
from glyphaneme.core.tone.match import MatchTone

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glyphaneme.core.match.statistics import Sides

    Floats = NDArray[np.float64]

LIMITS: Final = np.array([1.5, 0.5, 0.25, 1.0, 1.0])
"""How far each of the five may be off: as far as what was learned from went."""
FIELDS: Final = ("light", "warmth", "tint", "contrast", "color")
SHADES = slice(16, 18)
"""Where in the features the cast by means of the fifth power stands."""
CAST = slice(14, 16)
LOG_LIGHT = 7
HALF = 0.5
BEHIND: Final = "what lies behind"
"""What a layer is matched to where no other one is named."""


class Offer(NamedTuple):
    """One way to match, at half or at full strength."""

    title: str
    strength: float
    tone: MatchTone


class _Way(NamedTuple):
    title: str
    change: Floats


def offers(sides: Sides, to: str, off: Floats | None = None) -> tuple[Offer, ...]:
    """Return the ways in which a subject may be matched to its backdrop.

    Parameters
    ----------
    sides : Sides
        The subject as it shows, and what it shall resemble.
    to : str
        What that is called.
    off : (5,) float64, optional
        By how much the subject is off, in doublings; as was learned unless said.

    Returns
    -------
    tuple of Offer
        Each at half strength first; the first of all is the safest.
    """
    ways = _ways(sides, guessed(differences(sides)) if off is None else off)
    return tuple(
        Offer(way.title, strength, tone_of(way.change * strength, to))
        for strength in (HALF, 1.0)
        for way in ways
    )


def by_itself(sides: Sides, to: str, strength: float) -> MatchTone:
    """Return the match that is offered first, at some strength.

    Parameters
    ----------
    sides : Sides
        The subject as it shows, and what it shall resemble.
    to : str
        What that is called.
    strength : float
        0..1: 1 matches in full.

    Returns
    -------
    MatchTone
        Of all the five.
    """
    return tone_of(-guessed(differences(sides)) * strength, to)


def tone_of(change: Floats, to: str) -> MatchTone:
    """Return the tone that changes the five by so much, within their limits.

    Parameters
    ----------
    change : (5,) float64
        Doublings of light, warmth, tint, contrast and colour.
    to : str
        What it is matched to.

    Returns
    -------
    MatchTone
        Rounded to thousandths.
    """
    held = np.round(np.clip(change, -LIMITS, LIMITS), 3).tolist()
    return MatchTone(to=to, **dict(zip(FIELDS, held, strict=True)))


def guessed(difference: Floats) -> Floats:
    """Return by how much a subject seems to be off, as was learned.

    Parameters
    ----------
    difference : (N,) float64
        As `differences` returns it.

    Returns
    -------
    (5,) float64
        Doublings of light, warmth, tint, contrast and colour.

    References
    ----------
    .. [1] A. E. Hoerl, R. W. Kennard, "Ridge Regression: Biased Estimation for
       Nonorthogonal Problems", 1970; fitted by `tools/fit_matching.py`.
    """
    found = ((difference - MEANS) / SPREADS) @ WEIGHTS + START
    return np.asarray(np.clip(found, -LIMITS, LIMITS))


def _ways(sides: Sides, off: Floats) -> tuple[_Way, ...]:
    only = np.eye(5)
    light, cast = only[0], only[1] + only[2]
    subject, behind = features(sides.subject), features(sides.behind)
    rim, beyond = features(sides.rim), features(sides.rim_behind)
    red_blue, green = (rim[CAST] - beyond[CAST]).tolist()
    by_border = np.array(
        [rim[LOG_LIGHT] - beyond[LOG_LIGHT], red_blue / 2, green, 0, 0]
    )
    red_blue, green = (subject[SHADES] - behind[SHADES]).tolist()
    by_whole = np.array(
        [subject[LOG_LIGHT] - behind[LOG_LIGHT], red_blue / 2, green, 0, 0]
    )
    return (
        _Way("All of it", -off),
        _Way("Light only", -off * light),
        _Way("Cast only", -off * cast),
        _Way("Light and cast", -off * (light + cast)),
        _Way("Light and contrast", -off * (light + only[3])),
        _Way("By the border", -by_border),
        _Way("By the whole", -by_whole),
    )
