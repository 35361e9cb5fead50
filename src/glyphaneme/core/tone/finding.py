"""Levels that are found: by what is said to be black, grey or white, or by the ends."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Literal

import numpy as np

from glyphaneme.core.tone.levels import LEAST_RANGE, Ends, LevelsTone
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from numpy.typing import NDArray

Role = Literal["black", "grey", "white"]

CHANNELS = ("red", "green", "blue")
TAIL = 0.002
"""How much of a picture may become wholly black, and as much wholly white."""
NEAR_ENDS = 0.02
"""What lies closer to an end says nothing of the middle."""


def levels_by(
    levels: LevelsTone, color: tuple[float, float, float], role: Role
) -> LevelsTone:
    """Return levels that make a colour neutral: black, grey or white.

    Parameters
    ----------
    levels : LevelsTone
        As they are; those of all channels together stay.
    color : tuple of three floats, 0..1
        R, G, B of what is pointed at, before the levels.
    role : "black", "grey" or "white"
        What it shall become. Grey moves the middles: each channel's, where it lies
        between its ends, comes to the mean of all three.

    Returns
    -------
    LevelsTone
        With other levels of red, green and blue.

    Examples
    --------
    >>> found = levels_by(LevelsTone(), (0.2, 0.1, 0.15), "black")
    >>> found.red.darkest, found.green.darkest
    (0.2, 0.1)
    """
    before: dict[str, Ends] = {name: getattr(levels, name) for name in CHANNELS}
    if role == "grey":
        return _greyed(levels, before, color)
    found = {}
    for name, value in zip(CHANNELS, color, strict=True):
        ends = before[name]
        if role == "black":
            at = min(max(value, 0.0), ends.lightest - LEAST_RANGE)
            found[name] = with_fields(ends, darkest=max(at, 0.0))
        else:
            at = max(min(value, 1.0), ends.darkest + LEAST_RANGE)
            found[name] = with_fields(ends, lightest=min(at, 1.0))
    return with_fields(levels, **found)


def levels_of(
    levels: LevelsTone, counts: NDArray[np.float64], *, each: bool
) -> LevelsTone:
    """Return levels whose ends are where a picture's tones end.

    Parameters
    ----------
    levels : LevelsTone
        As they are.
    counts : (4, 256) float64
        How often each level occurs: of all components, of red, green and blue.
    each : bool
        Whether each channel has ends of its own, which takes a cast away; otherwise
        all have the same.

    Returns
    -------
    LevelsTone
        A five-hundredth of the picture lies beyond either end. Unchanged where nothing
        shows.
    """
    names = CHANNELS if each else ("all",)
    rows = counts[1:] if each else counts[:1]
    found = {}
    for name, row in zip(names, rows, strict=True):
        if not row.any():
            continue
        share = np.cumsum(row) / row.sum()
        darkest = int(np.searchsorted(share, TAIL)) / 255
        lightest = int(np.searchsorted(share, 1 - TAIL)) / 255
        if lightest - darkest >= LEAST_RANGE:
            ends: Ends = getattr(levels, name)
            found[name] = with_fields(ends, darkest=darkest, lightest=lightest)
    return with_fields(levels, **found)


def _greyed(
    levels: LevelsTone, before: dict[str, Ends], color: tuple[float, float, float]
) -> LevelsTone:
    held = [
        (value - ends.darkest) / (ends.lightest - ends.darkest)
        for value, ends in zip(color, before.values(), strict=True)
    ]
    within = [min(max(one, NEAR_ENDS), 1 - NEAR_ENDS) for one in held]
    goal = sum(within) / len(within)
    return with_fields(
        levels,
        **{
            name: with_fields(
                ends, middle=min(max(math.log(one) / math.log(goal), 0.1), 10)
            )
            for (name, ends), one in zip(before.items(), within, strict=True)
        },
    )
