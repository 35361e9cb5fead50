"""The work of reading a picture in: its pyramid and its thumbnail."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.store.pictures import find_picture

if TYPE_CHECKING:
    from glyphaneme.services.studio import Studio
    from glyphaneme.services.working import Progress
    from glyphaneme.store.rows import JobRow


def read_in(studio: Studio, job: JobRow, progress: Progress) -> None:
    """Make everything that the screen needs of a picture."""
    with studio.sessions() as session:
        picture = job.picture_id and find_picture(session, job.picture_id)
        if not picture:
            return
        progress.report(0.1)
        studio.shelf.pyramid(session, picture.sha256)
        progress.report(0.8)
        studio.shelf.thumbnail(session, picture.sha256)
    progress.finish()
