"""Says what tones make of a layer."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.core.tone import MatchTone

if TYPE_CHECKING:
    from glyphaneme.core.tone import Tone

MOST_SAID = 3


def toning_words(tones: tuple[Tone, ...]) -> str:
    """Say what all tones together make of a layer.

    Parameters
    ----------
    tones : tuple of Tone
        In their order.

    Returns
    -------
    str
        Such as "warmer, darker and with more contrast"; nothing where they do nothing.

    Examples
    --------
    >>> from glyphaneme.core.tone import LightTone, WarmthTone
    >>> toning_words((WarmthTone(warmth=40), LightTone(brightness=-0.4)))
    'warmer and darker'
    """
    # A match says most, and is never among what is left out.
    first = sorted(tones, key=lambda tone: not isinstance(tone, MatchTone))
    words = [one for tone in first if tone.works for one in tone.words]
    if len(words) > MOST_SAID:
        words = [*words[: MOST_SAID - 1], "with other changes"]
    *others, last = words or [""]
    return f"{', '.join(others)} and {last}" if others else last


def tone_words(tone: Tone) -> str:
    """Say what one tone does, or is for while it does nothing.

    Parameters
    ----------
    tone : Tone
        Whichever.

    Returns
    -------
    str
        As it stands in a layer's list of tones.

    Examples
    --------
    >>> from glyphaneme.core.tone import LightTone
    >>> tone_words(LightTone())
    'light as it is'
    """
    words = [one.removeprefix("with ") for one in tone.words]
    return ", ".join(words) or tone.at_rest
