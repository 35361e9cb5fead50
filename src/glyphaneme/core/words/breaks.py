"""Where a text may be broken into lines: UAX 14, by a library, asked of what needs it.

The library looks at each character for about a quarter of a millisecond. So what is
plain is told without it, and what it says of a piece is kept.
"""

from __future__ import annotations

import re
from functools import lru_cache

from uniseg.linebreak import line_break_boundaries

IDEOGRAPH = "\u3400-\u4dbf\u4e00-\u9fff"
ALONE = re.compile(
    rf"(?<=[A-Za-z,.;:!?]) (?=[A-Za-z])|(?<=[{IDEOGRAPH}])(?=[{IDEOGRAPH}])"
)
"""Where a line may break whatever stands further off: LB18 between letters or what ends
a clause and letters, and LB31 between ideographs."""
WHOLE = re.compile(rf"[A-Za-z]+[,.;:!?]*|[{IDEOGRAPH}]")
"""Words that do not break inside: LB28, LB13."""
LONGEST_ASKED = 400
"""Characters of a piece up to which the library is asked: a tenth of a second."""
MOST_ASKED = 4000
"""And of a text in all, where each piece counts once."""
SPACES = re.compile(r"\s+")


def break_places(text: str) -> list[int]:
    """Return where lines may end.

    Parameters
    ----------
    text : str
        A paragraph.

    Returns
    -------
    list of int
        Places between characters, the end among them; none of no text. In pieces
        without letters that are longer than `LONGEST_ASKED`, after spaces alone.

    Examples
    --------
    >>> break_places("Opening night!")
    [8, 14]
    """
    found: list[int] = []
    begin = 0
    known: set[str] = set()
    asked = 0
    splits = [one.end() for one in ALONE.finditer(text)]
    for end in [*splits, len(text)]:
        piece = text[begin:end]
        bare = piece.removesuffix(" ") if end < len(text) else piece
        if WHOLE.fullmatch(bare):
            found.append(end)
        else:
            asked += 0 if piece in known else len(piece)
            known.add(piece)
            is_short = len(piece) <= LONGEST_ASKED and asked <= MOST_ASKED
            inside = _asked(piece) if is_short else _after_spaces(piece)
            found += [begin + place for place in inside]
        begin = end
    return found if text else []


@lru_cache(4096)
def _asked(piece: str) -> tuple[int, ...]:
    return tuple(line_break_boundaries(piece))


def _after_spaces(piece: str) -> list[int]:
    places = [one.end() for one in SPACES.finditer(piece)]
    return places if places and places[-1] == len(piece) else [*places, len(piece)]
