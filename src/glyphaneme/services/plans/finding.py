"""Finding all that a plan wants on the spot, where somebody works in the background."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.services.cutting import found_now
from glyphaneme.services.errors import (
    NetworkMissingError,
    NoSubjectFoundError,
    NotAlignedError,
    NotThereError,
    ServiceError,
)
from glyphaneme.services.matting import CutRequest
from glyphaneme.services.plans.filling import Result, fill
from glyphaneme.services.plans.pairing import paired_now
from glyphaneme.services.reporting import PartOf

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.plans import Filling, Plan
    from glyphaneme.core.plans.making import Wanted
    from glyphaneme.services.plans.pairing import Pair
    from glyphaneme.services.reporting import Reporting
    from glyphaneme.services.studio import Studio

MOST_ROUNDS = 3
"""What was found may want more: once cut out, photos are matched."""


class FoundWhole(NamedTuple):
    """What came of a plan with all found that could be, and what could not."""

    result: Result
    in_vain: tuple[str, ...]
    """Sentences of what was sought in vain."""


def found_whole(
    studio: Studio, plan: Plan, filling: Filling, progress: Reporting
) -> FoundWhole:
    """Fill a plan, and find all that it wants.

    Raises
    ------
    PlanUnfitError
        What would come of it is beyond what a composite may hold.
    """
    sought = _Sought(studio, plan, filling, progress)
    result = sought.fill()
    for _ in range(MOST_ROUNDS):
        if not sought.find(result.filled.wanted):
            break
        result = sought.fill()
    return FoundWhole(result, tuple(sought.in_vain.values()))


class _Sought:
    """Finds what is wanted, and remembers what was sought in vain."""

    def __init__(
        self, studio: Studio, plan: Plan, filling: Filling, progress: Reporting
    ) -> None:
        self._studio = studio
        self._plan = plan
        self._filling = filling
        self._progress = progress
        self._pairs: dict[Pair, MatrixF64] = {}
        self.in_vain: dict[object, str] = {}

    def fill(self) -> Result:
        """Fill the plan with all that is found by now."""
        with self._studio.looking() as visit:
            return fill(visit, self._plan, self._filling, pairs=self._pairs)

    def find(self, wanted: Wanted) -> bool:
        """Find what is wanted; returns whether any of it was found."""
        cuts = [one for one in wanted.cuts if one not in self.in_vain]
        known = {*self.in_vain, *self._pairs}
        pairs = [one for one in wanted.pairs if one not in known]
        count, found = len(cuts) + len(pairs), 0
        for place, cut in enumerate(cuts):
            self._progress.report(place / count)
            try:
                request = CutRequest(way=cut.way)
                found_now(self._studio, uuid.UUID(cut.picture), request)
                found += 1
            except VAIN as cause:
                self.in_vain[cut] = str(cause)
        for place, pair in enumerate(pairs, len(cuts)):
            part = PartOf(self._progress, place / count, 1 / count)
            try:
                self._pairs[pair] = paired_now(self._studio, pair, part)
                found += 1
            except VAIN as cause:
                self.in_vain[pair] = str(cause)
        return found > 0


VAIN: tuple[type[ServiceError], ...] = (
    NoSubjectFoundError,
    NetworkMissingError,
    NotThereError,
    NotAlignedError,
)
