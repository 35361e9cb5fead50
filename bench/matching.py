"""Matches: how much of a known change of tones is undone, by what is offered.

Segments of pictures that are each taken under one light had their own tones changed.
What was learned for the offers is learned anew here without the picture at hand. Ratios
are mean CIEDE2000 left by mean CIEDE2000 before.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from bench.figures import Figure
from glyphaneme.core.color.spaces import decoded, encoded, from_oklab, oklab
from glyphaneme.core.match import by_pairs, offers
from glyphaneme.core.match.offering import FIELDS, LIMITS
from tools import fit_matching as fitting

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.tone import MatchTone
    from tools.fit_matching import Case

MISMATCH = np.array([0.02, 0.008, 0.008])
"""Of pairs: what is just visible, in Oklab."""
PAIRED_EVERY = 3
BEHIND = "what lies behind"


def figures() -> Iterator[Figure]:
    """Yield how much is left of what was changed."""
    found = list(fitting.cases(fitting.pictures()))
    guesses = np.clip(fitting.left_out(found), -LIMITS, LIMITS)
    before = np.array([fitting.difference(one.changed, one.true) for one in found])
    some = np.array([one.kind != "n" for one in found])
    first, best = np.zeros(len(found)), before.copy()
    for place, (case, guess) in enumerate(zip(found, guesses, strict=True)):
        left = [_left(case, one.tone) for one in offers(case.sides, BEHIND, guess)]
        first[place] = left[0]
        best[place] = min(before[place], *left)
    worse = float(np.mean(first[some] > before[some] + fitting.WORSE))
    before_all = before[some].sum()
    yield Figure("match: best way offered", best[some].sum() / before_all, 0.75, 0.65)
    yield Figure("match: first way offered", first[some].sum() / before_all, 0.92, 0.85)
    yield Figure("match: first way worse by 0.5", 100 * worse, 15, 8, " %")
    random = np.random.default_rng(3)
    pointed = [one for one in found[::PAIRED_EVERY] if one.kind != "n"]
    left_over = sum(_left(one, _paired(one, random)) for one in pointed)
    was = sum(fitting.difference(one.changed, one.true) for one in pointed)
    yield Figure("match: three pointed pairs", left_over / was, 0.4, 0.33)


def _left(case: Case, tone: MatchTone) -> float:
    change = np.array([getattr(tone, field) for field in FIELDS])
    return fitting.difference(fitting.matched(case.changed, change), case.true)


def _paired(case: Case, random: np.random.Generator) -> MatchTone:
    """Point at a dark, a middling and a light spot, and at what each should be."""
    order = np.argsort(oklab(decoded(case.true))[:, 0])
    shares = (
        random.uniform(0.05, 0.25),
        random.uniform(0.4, 0.6),
        random.uniform(0.75, 0.95),
    )
    at = [order[int(len(order) * share)] for share in shares]
    should = oklab(decoded(case.true[at])) + random.normal(0, 1, (3, 3)) * MISMATCH
    those = encoded(np.clip(from_oklab(should), 0, 1))
    return by_pairs(case.changed[at], those, BEHIND)
