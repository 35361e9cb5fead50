"""How many examples a property is tried with: few by day, many by night."""

from __future__ import annotations

import os
from typing import TYPE_CHECKING

from hypothesis import HealthCheck, settings

if TYPE_CHECKING:
    from collections.abc import Iterable

NIGHTLY = "GLYPHANEME_NIGHTLY"
"""Set in the surroundings by `pytest --nightly`, for all processes of a run."""
USUAL = 40
TIMES_BY_NIGHT = 25


def times(by_day: int, *, unchecked: Iterable[HealthCheck] = ()) -> settings:
    """Return settings for a property that is tried so often by day.

    Nothing has a deadline: a machine that others share may be slow. Examples that
    failed are kept, and tried first the next time.
    """
    examples = by_day * TIMES_BY_NIGHT if NIGHTLY in os.environ else by_day
    return settings(
        max_examples=examples, deadline=None, suppress_health_check=tuple(unchecked)
    )
