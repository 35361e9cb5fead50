"""Whether everything that the service needs answers."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.store.database import ask_database

if TYPE_CHECKING:
    from glyphaneme.services.studio import Studio


def check_health(studio: Studio) -> None:
    """Ask the database; raises one of `DATABASE_AWAY` where it does not answer."""
    with studio.sessions() as session:
        ask_database(session)
