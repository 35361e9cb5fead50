"""Says what shadows and outlines a layer has."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glyphaneme.core.effect import Effect


def effects_words(effects: tuple[Effect, ...]) -> str:
    """Say which effects a layer has.

    Parameters
    ----------
    effects : tuple of Effect
        From back to front.

    Returns
    -------
    str
        Such as "with a soft shadow and a white outline"; nothing where none works.

    Examples
    --------
    >>> from glyphaneme.core.effect import Outline, SoftShadow
    >>> effects_words((SoftShadow(), Outline()))
    'with a soft shadow and a white outline'
    """
    *first, last = [one.words for one in effects if one.works] or [""]
    if not last:
        return ""
    return f"with {', '.join(first)} and {last}" if first else f"with {last}"
