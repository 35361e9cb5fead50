"""Makes the database ready; apart, so that the launcher need load nothing else."""

from __future__ import annotations

from glyphaneme.store.upgrading import prepare_database


def bring_up_to_date(url: str) -> None:
    """Make or migrate the tables."""
    prepare_database(url)
