"""Opens the database for those who may not reach into the store."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glyphaneme.services.studio import Studio, open_studio
from glyphaneme.store.database import (
    DATABASE_AWAY,
    ask_database,
    open_database,
    session_factory,
)
from glyphaneme.store.notices import listen

if TYPE_CHECKING:
    from collections.abc import Iterator
    from pathlib import Path

__all__ = [
    "DATABASE_AWAY",
    "ask_database",
    "listen_for_notices",
    "open_database_studio",
]


def open_database_studio(url: str, cache_folder: Path) -> Studio:
    """Return a studio over a database; connections are made on first use."""
    return open_studio(session_factory(open_database(url)), cache_folder)


def listen_for_notices(url: str) -> Iterator[dict[str, Any]]:
    """Yield notices as they come; OSError when the server is gone."""
    return listen(url)
