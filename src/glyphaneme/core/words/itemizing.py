"""Divides a text into runs that are shaped by themselves: direction, script, font.

Directions follow the Unicode bidirectional algorithm (UAX 9), scripts UAX 24.
"""

from __future__ import annotations

import unicodedata
from typing import TYPE_CHECKING, NamedTuple

from bidi import algorithm as bidi
from fontTools.unicodedata import script
from uniseg.graphemecluster import grapheme_cluster_boundaries

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glyphaneme.core.words.faces import Face

COMMON = ("Zyyy", "Zinh", "Zzzz")
"""Scripts of characters that take that of those round them."""
BEYOND_LATIN = "\u0250"
"""Letters before it are Latin; all else there belongs to any script."""
FIRST_RIGHT_TO_LEFT = "\u0590"
"""No character before it runs from right to left, or makes others do so."""
MOST_RIGHT_TO_LEFT = 4000
"""Characters of a paragraph for which directions are worked out one by one."""


class Run(NamedTuple):
    """Some characters of a paragraph that are shaped as one."""

    first: int
    last: int
    """Beyond it."""
    level: int
    """Odd ones run from right to left."""
    script: str
    """As ISO 15924 has it, such as "Latn"."""
    font: int
    """Which of the fonts."""


def runs_of(text: str, fonts: Sequence[Face | None]) -> list[Run]:
    """Divide a paragraph into runs.

    Parameters
    ----------
    text : str
        Without line ends.
    fonts : sequence of Face or None
        The chosen one first; of those that are there, the first that has all letters of
        a grapheme cluster sets it, or else the first.

    Returns
    -------
    list of Run
        In the order of the text; none of no text.
    """
    if text and max(text) < BEYOND_LATIN:
        first = next((at for at, one in enumerate(fonts) if one is not None), 0)
        face = fonts[first] if fonts else None
        if face is None or face.has(text):
            return [Run(0, len(text), 0, "Latn", first)]
    levels, scripts = _levels(text), _scripts(text)
    chosen = _chosen(text, fonts)
    found: list[Run] = []
    for at, kind in enumerate(zip(levels, scripts, chosen, strict=True)):
        if found and found[-1][2:] == kind:
            found[-1] = found[-1]._replace(last=at + 1)
        else:
            found.append(Run(at, at + 1, *kind))
    return found


def base_level(text: str) -> int:
    """Tell where a paragraph begins: 0 at the left, 1 at the right.

    Parameters
    ----------
    text : str
        Its first letter with a direction decides (UAX 9, P2 and P3).

    Returns
    -------
    int
        0 where none has one.
    """
    if max(text, default="") < FIRST_RIGHT_TO_LEFT:
        return 0
    return int(bidi.get_base_level(text))


def in_sight_order(levels: Sequence[int]) -> list[int]:
    """Bring the runs of a line into the order in which they stand (UAX 9, L2).

    Parameters
    ----------
    levels : sequence of int
        Of its runs, in the order of the text.

    Returns
    -------
    list of int
        Their places, from left to right.

    Examples
    --------
    >>> in_sight_order([1, 2, 1])
    [2, 1, 0]
    """
    order = list(range(len(levels)))
    for level in range(max(levels, default=0), 0, -1):
        at = 0
        while at < len(order):
            end = at
            while end < len(order) and levels[order[end]] >= level:
                end += 1
            order[at:end] = order[at:end][::-1]
            at = end + 1
    return order


def _levels(text: str) -> list[int]:
    """Return each character's level; those that are taken out keep the one before."""
    base = base_level(text)
    if max(text, default="") < FIRST_RIGHT_TO_LEFT or len(text) > MOST_RIGHT_TO_LEFT:
        return [base] * len(text)
    storage = bidi.get_empty_storage()
    storage["base_level"], storage["base_dir"] = base, "LR"[base]
    bidi.get_embedding_levels(text, storage)
    for at, one in enumerate(storage["chars"]):
        one["at"] = at
    bidi.explicit_embed_and_overrides(storage)
    bidi.resolve_weak_types(storage)
    bidi.resolve_neutral_types(storage, debug=False)
    bidi.resolve_implicit_levels(storage, debug=False)
    known = {one["at"]: one["level"] for one in storage["chars"]}
    found: list[int] = []
    for at in range(len(text)):
        found.append(known.get(at, found[-1] if found else base))
    # Spaces at the end lie as the paragraph does (L1).
    for at in range(len(text) - 1, -1, -1):
        if not text[at].isspace():
            break
        found[at] = base
    return found


def _scripts(text: str) -> list[str]:
    """Return each character's script; common ones take that before, or the first."""
    own = [script(one) for one in text]
    first = next((one for one in own if one not in COMMON), "Latn")
    found: list[str] = []
    for one in own:
        found.append((found[-1] if found else first) if one in COMMON else one)
    return found


def _chosen(text: str, fonts: Sequence[Face | None]) -> list[int]:
    there = [(at, one) for at, one in enumerate(fonts) if one is not None]
    if not there:
        return [0] * len(text)
    first, face = there[0]
    if face.has(text):
        return [first] * len(text)
    found: list[int] = []
    begin = 0
    # In this form a mark that a font has joined with its letter is one.
    for end in grapheme_cluster_boundaries(text):
        cluster = text[begin:end]
        joined = unicodedata.normalize("NFC", cluster)
        font = next(
            (at for at, one in there if one.has(cluster) or one.has(joined)), first
        )
        found += [font] * (end - begin)
        begin = end
    return found
