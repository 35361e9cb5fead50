"""Words in an area: as large as they are set, or as fits."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glyphaneme.core.place import Placement, kept_position
from glyphaneme.core.values import with_fields
from glyphaneme.core.words.values import GREATEST_SIZE, LEAST_SIZE

if TYPE_CHECKING:
    from glyphaneme.core.plans.facts import Measuring
    from glyphaneme.core.plans.places import Sheet
    from glyphaneme.core.plans.placing import Lines
    from glyphaneme.core.words import Measure, Words

MOST_TRIES = 24
NEARLY = 1.002


def standing_words(
    words: Words, lines: Lines, sheet: Sheet, *, factor: float, measure: Measuring
) -> tuple[Words, Placement] | None:
    """Set words so that they fit an area, and place them there.

    Parameters
    ----------
    words : Words
        As the plan sets them; lines break where the area ends.
    lines : Lines
        Which area, and where in it.
    sheet : Sheet
        Whose area.
    factor : float
        How much larger the sheet is than the plan's own.
    measure : Measuring
        Tells what words measure.

    Returns
    -------
    (Words, Placement), or None
        At most as large as they were set; smaller until their block fits. None where
        no font is at hand to set them in.
    """
    area = sheet.box(lines.area)
    wide, high = max(area.width, 1.0), max(area.height, 1.0)
    size = min(max(words.setting.size * factor, LEAST_SIZE), GREATEST_SIZE)
    words, found = _set(words, size, wide, measure)
    if found is None:
        return None
    for _ in range(MOST_TRIES):
        left, top, right, bottom = found.block
        down, across = (bottom - top) / high, (right - left) / wide
        if max(down, across) <= NEARLY or size <= LEAST_SIZE:
            break
        # Half as large takes a quarter of the room, where lines break.
        size = max(size / min(max(math.sqrt(down), across, 1.02), 16.0), LEAST_SIZE)
        words, smaller = _set(words, size, wide, measure)
        found = smaller or found
    left, top, right, bottom = found.block
    slack_x, slack_y = wide - (right - left), high - (bottom - top)
    x = area.left + slack_x * lines.aim.x - left + found.width / 2
    y = area.top + slack_y * lines.aim.y - top + found.height / 2
    placement = Placement(x=kept_position(x), y=kept_position(y), scale_x=1, scale_y=1)
    return words, placement


def _set(
    words: Words, size: float, width: float, measure: Measuring
) -> tuple[Words, Measure | None]:
    setting = with_fields(words.setting, size=size, width=width)
    words = with_fields(words, setting=setting)
    return words, measure(words)
