"""The sweep: from time to time, what nobody needs any more is let go of."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import TYPE_CHECKING

from glyphaneme.store import sweeping

if TYPE_CHECKING:
    from glyphaneme.services.studio import Studio

DAYS_KEPT = 14
"""How long finished files, and the records of work, can be fetched."""

MOST_ROUNDS = 1000


def sweep(studio: Studio) -> None:
    """Drop old finished files, bytes that nothing refers to, and what was left behind.

    In small transactions, so that no one waits for it; it may run at any time and in
    several processes at once.
    """
    studio.shelf.drop_drafts()
    before = datetime.now(UTC) - timedelta(days=DAYS_KEPT)
    with studio.sessions.begin() as session:
        sweeping.drop_ended_jobs(session, before=before)
        sweeping.drop_standings(session, before=before)
    for _ in range(MOST_ROUNDS):
        with studio.sessions.begin() as session:
            if not sweeping.drop_unneeded_blobs(session):
                return
