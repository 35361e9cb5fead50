"""Databases for tests, all on one server: an empty one takes a tenth of a second."""

from __future__ import annotations

import uuid

import psycopg

from glyphaneme.store.upgrading import prepare_database

PATTERN = "pattern"


class Databases:
    """The databases of one server."""

    def __init__(self, url: str) -> None:
        self._url = url
        self._has_pattern = False

    def empty(self, pattern: str = "template1") -> str:
        """Make a database, and return its address."""
        name = f"made_{uuid.uuid4().hex}"
        self._make(name, pattern)
        return self._named(name)

    def prepared(self) -> str:
        """Make a database with all tables, and return its address."""
        if not self._has_pattern:
            self._make(PATTERN, "template1")
            prepare_database(self._named(PATTERN))
            self._has_pattern = True
        return self.empty(PATTERN)

    def drop(self, url: str) -> None:
        """Remove a database, whoever still uses it."""
        name = url.rpartition("/")[2]
        with psycopg.connect(self._url, autocommit=True) as connection:
            connection.execute(f"DROP DATABASE {name} WITH (FORCE)")

    def _make(self, name: str, pattern: str) -> None:
        with psycopg.connect(self._url, autocommit=True) as connection:
            connection.execute(f"CREATE DATABASE {name} TEMPLATE {pattern}")

    def _named(self, name: str) -> str:
        return f"{self._url.rpartition('/')[0]}/{name}"
