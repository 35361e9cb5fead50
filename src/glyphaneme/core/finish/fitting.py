"""Making a file fit: first its quality gives way, and then its size."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, NamedTuple

if TYPE_CHECKING:
    from collections.abc import Callable

LEAST_QUALITY: Final = 35
"""Below, a smaller picture looks better than a worse one."""
LEAST_SHARE: Final = 0.02
SHRINKS: Final = 12
SPARED: Final = 0.96
"""How much of what fits is aimed at: bytes do not follow pixels exactly."""
NEAR: Final = 0.92
"""What reaches so much of the limit is near enough."""


class Given(NamedTuple):
    """What a file is made with: its quality, and how much of its width is left."""

    quality: int
    share: float


def fitted(
    attempt: Callable[[Given], int], most: int, *, quality: int | None
) -> Given | None:
    """Find what a file has to give up so that it is not larger than it may be.

    Parameters
    ----------
    attempt : function of Given
        Makes the file, and returns how many bytes it has. The last one that is made
        is the one that is found.
    most : int, bytes
        How many it may have.
    quality : int, optional
        Which it shall have; None where it has none, and only its size can give way.

    Returns
    -------
    Given, or None
        None where it never fits.

    Examples
    --------
    >>> fitted(lambda given: given.quality * 1000, 60_400, quality=90)
    Given(quality=60, share=1.0)
    >>> fitted(lambda given: int(1e6 * given.share**2), 250_000, quality=None).share
    0.48
    """
    best = Given(100 if quality is None else quality, 1.0)
    size = attempt(best)
    if size <= most:
        return best
    if quality is not None:
        least = min(LEAST_QUALITY, quality)
        found = _best_quality(attempt, most, least, quality)
        if found is not None:
            return found
        best = Given(least, 1.0)
        size = attempt(best)
    return _smaller(attempt, most, best, size)


def _best_quality(
    attempt: Callable[[Given], int], most: int, least: int, quality: int
) -> Given | None:
    fits, fails, last = least - 1, quality, quality
    while fails - fits > 1:
        last = (fits + fails) // 2
        if attempt(Given(last, 1.0)) <= most:
            fits = last
        else:
            fails = last
    if fits < least:
        return None
    found = Given(fits, 1.0)
    if last != fits:
        attempt(found)
    return found


def _smaller(
    attempt: Callable[[Given], int], most: int, tried: Given, size: int
) -> Given | None:
    """Shrink until it fits, and grow again where that was too much."""
    fits, fails = 0.0, tried.share
    fitting: Given | None = None
    given = tried
    for _ in range(SHRINKS):
        guess = given.share * SPARED * (most / size) ** 0.5
        share = guess if fits < guess < fails else (fits + fails) / 2
        if share < LEAST_SHARE:
            return None
        given = Given(tried.quality, share)
        size = attempt(given)
        if size > most:
            fails = share
            continue
        fits, fitting = share, given
        if size >= NEAR * most or fails - fits < LEAST_SHARE / 4:
            return fitting
    if fitting is not None and fitting != given:
        attempt(fitting)
    return fitting
