"""The table of all kinds of long work: a new kind is a line here and in `JobKind`."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.services.aligning import line_up
from glyphaneme.services.cutting import cut_out
from glyphaneme.services.file_making import make_file
from glyphaneme.services.many import make_many
from glyphaneme.services.plans.batching import make_batch
from glyphaneme.services.plans.beginning import refine
from glyphaneme.services.plans.pairing import pair_pictures
from glyphaneme.services.reading_in import read_in
from glyphaneme.store.rows import JobKind

if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from glyphaneme.services.studio import Studio
    from glyphaneme.services.working import Progress
    from glyphaneme.store.rows import JobRow

    Work = Callable[[Studio, JobRow, Progress], None]

WORK: Mapping[JobKind, Work] = {
    JobKind.READ_PICTURE: read_in,
    JobKind.EXPORT: make_file,
    JobKind.CUT_OUT: cut_out,
    JobKind.LINE_UP: line_up,
    JobKind.EXPORT_MANY: make_many,
    JobKind.PAIR: pair_pictures,
    JobKind.REFINE: refine,
    JobKind.BATCH: make_batch,
}
