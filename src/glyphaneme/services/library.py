"""The library: made-up pictures that ship with the product and that nobody owns.

They lie in a folder with their catalogue.
"""

from __future__ import annotations

import json
from functools import cached_property
from typing import TYPE_CHECKING
from uuid import UUID

from pydantic import BaseModel, ConfigDict, TypeAdapter

from glyphaneme.services.errors import NotThereError

if TYPE_CHECKING:
    from pathlib import Path

CATALOGUE = "catalogue.json"
THUMBNAILS = "thumbnails"


class LibraryEntry(BaseModel):
    """A picture of the library, as its catalogue describes it."""

    model_config = ConfigDict(frozen=True)

    name: str
    title: str
    kind: str
    words: str
    """What it is found by, besides its title and kind."""
    width: int
    height: int


class LibraryPicture(LibraryEntry):
    """A picture of the library, and the ordinary picture that it has become."""

    picture: UUID | None


class _Filed(LibraryEntry):
    file: str


class Library:
    """The folder with the library's pictures; where there is none, it is empty."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    @cached_property
    def entries(self) -> dict[str, LibraryEntry]:
        """All pictures by their names, in the order of the catalogue."""
        return dict(self._filed)

    @cached_property
    def _filed(self) -> dict[str, _Filed]:
        catalogue = self._folder / CATALOGUE
        if not catalogue.exists():
            return {}
        pictures = json.loads(catalogue.read_text())["pictures"]
        entries = TypeAdapter(list[_Filed]).validate_python(pictures)
        return {entry.name: entry for entry in entries}

    def file(self, name: str) -> Path:
        """Return where a picture's file lies.

        Raises
        ------
        NotThereError
            The library has no such picture.
        """
        return self._folder / self._require(name).file

    def thumbnail(self, name: str) -> bytes:
        """Return a small copy of a picture, as a WebP file.

        Raises
        ------
        NotThereError
            The library has no such picture.
        """
        self._require(name)
        return (self._folder / THUMBNAILS / f"{name}.webp").read_bytes()

    def _require(self, name: str) -> _Filed:
        entry = self._filed.get(name)
        if entry is None:
            raise NotThereError("picture in the library")
        return entry
